import { deedOf } from '../methods/index.ts';
import { many, points, say, type Words, within } from '../say/index.ts';
import { type FactorKey, factorIn, methodsOf, type Patch, type TrialPlan } from '../trial/index.ts';
import { type Mixing, mixingOf } from './mixing.ts';
import { contrasts, effectCount, informationOf, inverseOf, modelRows } from './model.ts';
import { noticeable } from './power.ts';

/** What a plan can tell about one factor. */
export interface Noticed {
  readonly key: FactorKey;
  readonly name: string;
  /** Smallest difference between two levels, in points landed, that it would notice 8 times in 10; infinite when none. */
  readonly points: number;
  /** The same if the factor were neither grouped nor given to strips. */
  readonly apart: number;
}

/** One point of the curve of certainty against effort. */
export interface Effort {
  readonly patches: number;
  readonly points: number;
  /** Times the patches of the plan itself. */
  readonly times: number;
}

export interface PlanTells {
  readonly runs: number;
  readonly effects: number;
  /** Degrees of freedom left to judge chance by. */
  readonly spare: number;
  readonly efficiency: number;
  readonly noticed: readonly Noticed[];
  readonly mixed: readonly Mixing[];
  readonly can: readonly Words[];
  /** What a two-sided test at 5 % would notice, factor by factor: figures beside the promise, which is the rehearsal's. */
  readonly byTest: readonly Words[];
  readonly cannot: readonly Words[];
  readonly curve: readonly Effort[];
  /** How often something costly is changed in the order of work, and how often it would be without grouping. */
  readonly changes?: { readonly grouped: number; readonly shuffled: number };
  /** How many loads are made, where a load has a size. */
  readonly loads?: number;
}

/** Share of the scatter that pieces made together have in common; a stated guess until records say otherwise. */
export const SHARED = 0.3;

/**
 * What a plan can and cannot tell, before anything is made. Noise is the plan's stated standard deviation between
 * patches made alike. Standard errors come from (X'X)⁻¹ with board differences in the model; strips are judged
 * against strips (split-plot), grouped factors with the design effect 1 + (m − 1)·ρ (Kish 1965).
 *
 * @example tellsOf(plan).runs; // => 12
 */
export function tellsOf(plan: TrialPlan): PlanTells {
  const counts = plan.factors.map(f => f.levels.length);
  const pairs = plan.design.interactions;
  const patches = plan.patches.filter(p => p.levels.length);
  const runs = patches.map(p => p.levels);
  const effects = effectCount(counts, pairs);
  const row = modelRows(counts, pairs);
  const blockOf = (p: Patch) => (plan.board.onePiece ? (p.batch ?? 0) : p.board);
  const boards = new Set(patches.map(blockOf)).size - 1;
  const main = runs.map(row);
  const plain = inverseOf(informationOf(main));
  const onBoards = inverseWith(main, patches.map(blockOf)) ?? plain;
  const loads = plan.design.loadSize ? new Set(patches.map(p => p.group)).size : 0;
  const asBlocks = loads > 1 && !plan.design.groupKey;
  const inLoads = asBlocks
    ? inverseWith(
        main,
        patches.map(p => p.group!),
      )
    : undefined;
  const blocks = inLoads ? loads - 1 : boards;
  const inverse = inLoads ?? onBoards;
  const cells = new Set(runs.map(r => r.join())).size;
  const everyCell = plan.design.kind !== 'best fraction' && plan.repeats > 1;
  const spareWith = (columns: number) =>
    Math.max(0, runs.length - (everyCell ? Math.max(cells, effects) : effects) - columns);
  const spare = spareWith(inverse && inverse.length > main[0].length ? blocks : 0);
  const spareOnBoards = spareWith(onBoards && onBoards.length > main[0].length ? boards : 0);
  const noticed = plan.factors.map((factor, f): Noticed => {
    const noticedWith = (known: Inverse | undefined, left: number) =>
      known ? plan.noise * worstError(known, counts, f) * noticeable(left) : Number.POSITIVE_INFINITY;
    const apart = noticedWith(onBoards, spareOnBoards);
    const shared = Math.sqrt(1 + (groupSize(plan) - 1) * SHARED);
    const points =
      factor.key === plan.design.stripKey
        ? stripPoints(plan, counts[f])
        : factor.key === plan.design.groupKey
          ? apart * shared
          : inLoads
            ? noticedWith(inLoads, spare)
            : asBlocks
              ? apart * shared
              : apart;
    return { key: factor.key, name: factorIn(plan, factor.key), points, apart };
  });
  const mixed = mixingOf(runs, counts);
  return {
    runs: runs.length,
    effects,
    spare,
    efficiency: plan.design.efficiency ?? 0,
    noticed,
    mixed,
    ...inWords(plan, noticed, mixed, spare, asBlocks ? { count: loads, told: Boolean(inLoads) } : undefined),
    curve: curveOf(plan, {
      worst: Math.max(...noticed.map(n => (inLoads ? n.points : n.apart)).filter(Number.isFinite), 0),
      runs: runs.length,
      effects: effects + (inLoads ? 0 : boards),
      cells: everyCell ? cells : 0,
      loadSize: inLoads ? runs.length / loads : 0,
    }),
    changes: changesOf(plan),
    ...(loads ? { loads } : {}),
  };
}

type Inverse = readonly (readonly number[])[];

/** (X'X)⁻¹ of a model with a column for every block but the first, or nothing when blocks and effects are mixed up. */
function inverseWith(main: readonly (readonly number[])[], blockOf: readonly number[]): Inverse | undefined {
  const blocks = [...new Set(blockOf)].slice(1);
  return inverseOf(
    informationOf(main.map((row, i) => [...row, ...blocks.map(b => (blockOf[i] === b ? 1 : 0))])),
  );
}

/** Largest standard error of a difference between two levels of factor `f`, in units of the noise. */
function worstError(inverse: Inverse, counts: readonly number[], f: number): number {
  const table = contrasts(counts[f]);
  const first = 1 + counts.slice(0, f).reduce((sum, n) => sum + n - 1, 0);
  let worst = 0;
  for (let a = 0; a < counts[f]; a++)
    for (let b = a + 1; b < counts[f]; b++) {
      const c = table[a].map((v, k) => v - table[b][k]);
      let variance = 0;
      for (let i = 0; i < c.length; i++)
        for (let j = 0; j < c.length; j++) variance += c[i] * inverse[first + i][first + j] * c[j];
      worst = Math.max(worst, variance);
    }
  return Math.sqrt(worst);
}

/** Strips against strips: each level has as many strips as there are repeats, each the mean of its patches. */
function stripPoints(plan: TrialPlan, levels: number): number {
  const strips = plan.repeats;
  const inStrip = plan.patches.filter(p => p.levels.length).length / (strips * levels);
  const between = SHARED + (1 - SHARED) / inStrip;
  const df = strips * levels - levels - (plan.board.count - 1);
  return plan.noise * Math.sqrt((2 * between) / strips) * noticeable(Math.max(0, df));
}

function groupSize(plan: TrialPlan): number {
  const real = plan.patches.filter(p => p.levels.length);
  const loads = plan.design.loadSize || plan.board.onePiece;
  const groups = new Set(real.map(p => (loads ? `${p.group}` : `${p.board} ${p.repeat} ${p.group}`))).size;
  return real.length / Math.max(1, groups);
}

function changesOf(plan: TrialPlan): PlanTells['changes'] {
  const f = plan.factors.findIndex(x => x.key === plan.design.groupKey);
  if (f < 0) return undefined;
  const order = [...plan.patches].filter(p => p.levels.length).sort((a, b) => a.order - b.order);
  const grouped = order.filter((p, i) => i > 0 && p.levels[f] !== order[i - 1].levels[f]).length;
  // In a shuffled order neighbours differ with probability 1 − Σ pᵢ².
  const share = plan.factors[f].levels.map(
    (_, l) => order.filter(p => p.levels[f] === l).length / order.length,
  );
  const shuffled = Math.round((order.length - 1) * (1 - share.reduce((sum, p) => sum + p * p, 0)));
  return { grouped, shuffled };
}

const figure = (value: number): Words =>
  Number.isFinite(value) ? points(value, { places: value < 9.5 ? 1 : 0 }) : '';

function inWords(
  plan: TrialPlan,
  noticed: readonly Noticed[],
  mixed: readonly Mixing[],
  spare: number,
  loads?: { readonly count: number; readonly told: boolean },
) {
  const can: Words[] = [];
  const byTest: Words[] = [];
  const cannot: Words[] = [];
  const name = (f: number) => within(factorIn(plan, plan.factors[f].key));
  const sure = noticed.filter(n => Number.isFinite(n.points));
  for (const n of sure)
    byTest.push(say`${n.name}: a difference of ${figure(n.points)} landed, 8 times in 10.`);
  if (!sure.length)
    cannot.push(
      'It cannot tell an effect from chance: nothing is made twice. Two of each, or a few patches more, would do.',
    );
  else if (spare < 4)
    cannot.push(say`With only ${many(spare, 'patch')} to spare for judging chance, it is easily fooled.`);
  for (const [a, b] of plan.design.interactions)
    can.push(`Whether ${name(a)} works differently with another ${name(b)}.`);
  const pairs = mixed.filter(m => m.others.length === 2 && m.share > 0.1 && !held(plan, m.others));
  const worst = pairs.slice(0, 4);
  for (const m of worst)
    cannot.push(
      `${factorIn(plan, plan.factors[m.factor].key)} is ${m.share > 0.9 ? 'wholly' : 'partly'} mixed up with ${name(m.others[0])} and ${name(m.others[1])} acting together.`,
    );
  if (pairs.length > worst.length)
    cannot.push(`The same is true of ${pairs.length - worst.length} more such pairs.`);
  const seen = new Set<string>();
  for (const m of mixed) {
    if (m.others.length !== 1 || m.share < 0.1) continue;
    const key = [m.factor, m.others[0]].sort().join();
    if (seen.has(key)) continue;
    seen.add(key);
    cannot.push(
      `${factorIn(plan, plan.factors[m.factor].key)} and ${name(m.others[0])} cannot be told well apart: the rules left too little of them crossed.`,
    );
  }
  const strip = noticed.find(n => n.key === plan.design.stripKey);
  if (strip)
    cannot.push(
      `${strip.name} is given to whole strips, so it is judged from ${plan.repeats} strips of each and less surely than what changes inside them.`,
    );
  const group = noticed.find(n => n.key === plan.design.groupKey);
  if (group && Number.isFinite(group.points))
    cannot.push(
      `${group.name} is made in groups: what happens to a group happens to one level, so a difference has to be about ${(group.points / group.apart).toFixed(1)} times as large to be told.`,
    );
  if (loads) cannot.push(loadsInWords(loads, sure, plan.design.loadSize!));
  const steps = methodsOf(plan).flatMap(m => m.steps);
  const inOven = steps.some(s => deedOf(s.does).puts === 'oven' && s.wait.kind === 'planned');
  if (loads && inOven && plan.factors.some(f => f.key === 'dryHours'))
    cannot.push(
      'Pieces of one load need different times in the oven: take the early ones out first, or make what has the same time together.',
    );
  if (plan.factors.length > 1 && plan.design.kind === 'best fraction' && !plan.design.interactions.length)
    cannot.push('Whether two of these things work differently together. Choose such a pair to have it told.');
  return { can, cannot, byTest };
}

function loadsInWords(
  loads: { readonly count: number; readonly told: boolean },
  noticed: readonly Noticed[],
  size: number,
): string {
  const start = `It is made in ${loads.count} loads of at most ${size}, and loads differ.`;
  if (!loads.told)
    return `${start} Some of what you vary cannot be told from the loads: take larger loads or more patches.`;
  const worst = noticed.reduce<Noticed | undefined>((a, b) => (a && a.points >= b.points ? a : b), undefined);
  return worst
    ? `${start} That costs certainty: for ${within(worst.name)} a difference has to be about ${(worst.points / worst.apart).toFixed(1)} times as large to be told.`
    : start;
}

const held = (plan: TrialPlan, others: readonly number[]) =>
  plan.design.interactions.some(([a, b]) => others.includes(a) && others.includes(b));

/** How the smallest noticeable difference shrinks with more patches; standard errors go with 1/√n. */
function curveOf(
  plan: TrialPlan,
  {
    worst,
    runs,
    effects,
    cells,
    loadSize,
  }: { worst: number; runs: number; effects: number; cells: number; loadSize: number },
): Effort[] {
  const loadsOf = (n: number) => (loadSize ? Math.round(n / loadSize) - 1 : 0);
  const spareOf = (n: number) => n - (cells && n > cells ? Math.max(cells, effects) : effects) - loadsOf(n);
  const now = noticeable(Math.max(0, spareOf(runs)));
  const unit =
    Number.isFinite(now) && worst
      ? worst / now
      : plan.noise * Math.sqrt((4 * Math.max(...plan.factors.map(f => f.levels.length))) / 2 / runs);
  const base = plan.design.kind === 'best fraction' ? effects : cells || runs / plan.repeats;
  const sizes =
    plan.design.kind === 'best fraction'
      ? [1.15, 1.5, 2, 2.75, 3.5, 5].map(t => Math.ceil(effects * t))
      : [2, 3, 4, 5, 6, 8].map(r => Math.round(base * r));
  const all = [...new Set([...sizes, runs])].filter(n => n <= 400).sort((a, b) => a - b);
  return all.flatMap(n => {
    const points = unit * Math.sqrt(runs / n) * noticeable(Math.max(0, spareOf(n)));
    return Number.isFinite(points) ? [{ patches: n, points, times: n / runs }] : [];
  });
}

/**
 * Pooled standard deviation between patches made alike over earlier trials: √(Σ ν·s² / Σ ν).
 *
 * @example pooledNoise([{ residualSd: 3, degreesOfFreedom: 1 }, { residualSd: 5, degreesOfFreedom: 1 }]).toFixed(3); // => '4.123'
 */
export function pooledNoise(
  fits: readonly { readonly residualSd: number; readonly degreesOfFreedom: number }[],
): number | undefined {
  const df = fits.reduce((sum, f) => sum + f.degreesOfFreedom, 0);
  if (!df) return undefined;
  return Math.sqrt(fits.reduce((sum, f) => sum + f.degreesOfFreedom * f.residualSd ** 2, 0) / df);
}
