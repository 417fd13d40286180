import { type PlanRequest, planTrial, STARTING_REQUEST } from '../src/core/design/index.ts';
import {
  analyse,
  choicesOf,
  isEither,
  rehearse,
  type Seen,
  sharedIn,
  whatNext,
} from '../src/core/findings/index.ts';
import { trapezoidsOf } from '../src/core/models/index.ts';
import { type Chance, chanceFrom } from '../src/core/random/index.ts';
import { STARTER_SHELF } from '../src/core/shelf/index.ts';

type Tell = (line: string) => void;

/** A plan as its patches: levels, board, strip; the kinds that the planner makes. */
interface Plan {
  readonly name: string;
  readonly counts: readonly number[];
  readonly random: readonly string[];
  readonly patches: readonly { readonly levels: readonly number[]; readonly shares: readonly string[] }[];
}

const crossed = (counts: readonly number[]): number[][] =>
  counts.reduce<number[][]>(
    (all, k) => all.flatMap(l => Array.from({ length: k }, (_, i) => [...l, i])),
    [[]],
  );

function plans(): Plan[] {
  const boards = (counts: readonly number[], count: number) =>
    Array.from({ length: count }, (_, b) =>
      crossed(counts).map(levels => ({ levels, shares: [`${b}`] })),
    ).flat();
  const half = crossed([2, 2, 2, 2]).filter(l => l.reduce((a, b) => a + b, 0) % 2 === 0);
  return [
    { name: 'two by two, four boards', counts: [2, 2], random: ['board'], patches: boards([2, 2], 4) },
    { name: 'three by two, two boards', counts: [3, 2], random: ['board'], patches: boards([3, 2], 2) },
    { name: 'five levels, three boards', counts: [5], random: ['board'], patches: boards([5], 3) },
    {
      name: 'half of four factors, two boards',
      counts: [2, 2, 2, 2],
      random: ['board'],
      patches: ['0', '1'].flatMap(b => half.map(levels => ({ levels, shares: [b] }))),
    },
    {
      name: 'three primers in strips',
      counts: [3, 2],
      random: ['board', 'strip'],
      patches: [0, 1, 2].flatMap(b =>
        [0, 1, 2].flatMap(p => [0, 1, 0, 1].map(w => ({ levels: [p, w], shares: [`${b}`, `${b} ${p}`] }))),
      ),
    },
    {
      name: 'eight of sixteen, one board',
      counts: [2, 2, 2, 2],
      random: ['board'],
      patches: half.map(levels => ({ levels, shares: ['0'] })),
    },
    {
      name: 'a primer a board, three boards each',
      counts: [2, 2],
      random: ['board'],
      patches: [0, 1, 2, 3, 4, 5].flatMap(b =>
        [0, 1, 0, 1].map(w => ({ levels: [b % 2, w], shares: [`${b}`] })),
      ),
    },
    {
      name: 'a ladder of six, thrice',
      counts: [6],
      random: [],
      patches: [0, 1, 2].flatMap(() => crossed([6]).map(levels => ({ levels, shares: [] }))),
    },
  ];
}

interface World {
  readonly name: string;
  /** Points that a patch is worth from the sum of all that moves it. */
  readonly worth: (sum: number) => number;
  readonly fails: number;
  /** By how much the first level of the first factor fails less than its others, on the logit. */
  readonly differs?: number;
  /** What moves patches that are made alike; without it normal. */
  readonly noise?: (chance: Chance) => number;
}
const chanceToFail = ({ fails, differs = 0 }: World, levels: readonly number[]): number =>
  fails && 1 / (1 + Math.exp(-Math.log(fails / (1 - fails)) - differs * (Math.min(1, levels[0]) - 0.5)));
const WORLDS: readonly World[] = [
  { name: 'Gaussian', worth: sum => 70 + sum, fails: 0 },
  // Most patches near the top, a few that did not work at all.
  { name: 'real-looking', worth: sum => 100 / (1 + Math.exp(-(2.4 + sum / 9))), fails: 0.08 },
  { name: 'one fails more', worth: sum => 100 / (1 + Math.exp(-(2.4 + sum / 9))), fails: 0.15, differs: 2.5 },
  // Most alike, a few much worse (an exponential tail of the same standard deviation).
  { name: 'skewed', worth: sum => 70 + sum, fails: 0, noise: c => 1 + Math.log(1 - c.next()) },
];
const LOSSES = ['complete', '15 % missing', 'missing because failed'] as const;

/** What a further board shifts; where there is but one, that one: nothing tells of others. */
const alone = (own: ReadonlyMap<string, number>, chance: Chance): number =>
  own.size === 1 ? [...own.values()][0] : 3 * chance.normal();

const SIMS = Number(process.env.SIMS ?? 150);
const SCATTER = 5;

/** How often intervals hold, how often nothing is called something, and whether “so sure” is right as often. */
export function benchFindings(tell: Tell): void {
  const right = new Map<string, { n: number; said: number; right: number }>();
  let hold = { differences: 0, of: 0, means: 0, ofMeans: 0, outside: 0 };
  tell(
    'plan                               world, lost                          differences hold  means hold   firm where nothing differs',
  );
  for (const plan of plans())
    for (const world of WORLDS)
      for (const loss of LOSSES) {
        const noise = world.noise ?? ((chance: Chance) => chance.normal());
        let [held, of, meansHeld, ofMeans, firm, nulls] = [0, 0, 0, 0, 0, 0];
        for (let sim = 0; sim < SIMS; sim++) {
          const c = chanceFrom(9000 + sim * 7 + plan.name.length);
          const isNull = sim % 3 === 0;
          const effects = plan.counts.map(k =>
            Array.from({ length: k }, () => (isNull ? 0 : 5 * c.normal())),
          );
          const shifts = plan.random.map(() => new Map<string, number>());
          const shiftOf = (shares: readonly string[]) =>
            shares.reduce((sum, s, k) => {
              if (!shifts[k].has(s)) shifts[k].set(s, 3 * c.normal());
              return sum + shifts[k].get(s)!;
            }, 0);
          const seen = plan.patches.map((p, i): Seen => {
            const sum = p.levels.reduce((t, l, f) => t + effects[f][l], 0) + shiftOf(p.shares);
            const failed =
              c.next() <
              chanceToFail(
                loss === 'missing because failed' ? { ...world, fails: Math.max(world.fails, 0.12) } : world,
                p.levels,
              );
            const missing = loss === '15 % missing' && c.next() < 0.15;
            const value = world.worth(sum + SCATTER * noise(c));
            return {
              ...{ code: `P${i}`, levels: p.levels, shares: p.shares, failed },
              value: failed || missing ? undefined : value,
            };
          });
          const bounds = world.fails ? ([0, 100] as const) : undefined;
          const found = analyse({
            factors: plan.counts.map((k, f) => ({
              name: `f${f}`,
              levels: Array.from({ length: k }, (_, l) => `${l}`),
            })),
            ...{ pairs: [], random: plan.random, patches: seen, better: 'high', bounds, draws: 800 },
          });
          if (!found.fit) continue;
          // What is true of a level: its mean over the others, boards and scatter, as a patch that works.
          const draws = Array.from(
            { length: 60 },
            () => SCATTER * noise(c) + shifts.reduce((t, own) => t + alone(own, c), 0),
          );
          const all = crossed(plan.counts);
          const truth = (f: number, l: number) => {
            const own = all.filter(x => x[f] === l);
            let sum = 0;
            for (const x of own)
              for (const d of draws) sum += world.worth(x.reduce((t, y, g) => t + effects[g][y], 0) + d);
            return sum / own.length / draws.length;
          };
          // What it is worth with what fails.
          const worth = (f: number, l: number) => {
            const own = all.filter(x => x[f] === l);
            const fails = own.reduce((t, x) => t + chanceToFail(world, x), 0) / own.length;
            return truth(f, l) * (1 - fails);
          };
          const true_ = plan.counts.map((k, f) => Array.from({ length: k }, (_, l) => truth(f, l)));
          for (const d of found.differences) {
            const t = true_[d.factor][d.a] - true_[d.factor][d.b];
            of++;
            if (t >= d.lo && t <= d.hi) held++;
          }
          for (const m of found.means) {
            const [[f, l]] = [...m.at];
            ofMeans++;
            if (true_[f][l] >= m.estimate.lo && true_[f][l] <= m.estimate.hi) meansHeld++;
            if (bounds && (m.estimate.lo < 0 || m.estimate.hi > 100))
              hold = { ...hold, outside: hold.outside + 1 };
          }
          const choices = choicesOf(found);
          if (isNull && !world.fails) {
            nulls++;
            if (choices.some(x => x.firm)) firm++;
          } else if (!isNull || world.differs)
            for (const x of choices) {
              const bin =
                x.sure >= 0.925 && x.sure < 0.975
                  ? '95 %'
                  : x.sure >= 0.75 && x.sure < 0.85
                    ? '80 %'
                    : undefined;
              if (!bin) continue;
              const cell = `${bin}, ${world.name}${plan.patches.length === 8 ? ', eight patches' : ''}`;
              const b = right.get(cell) ?? { n: 0, said: 0, right: 0 };
              b.n++;
              b.said += x.sure;
              const own = plan.counts[x.factor];
              const mine = worth(x.factor, x.level);
              b.right += Number(
                Array.from({ length: own }, (_, l) => worth(x.factor, l)).every(w => w <= mine + 1e-9),
              );
              right.set(cell, b);
            }
        }
        hold = {
          ...hold,
          differences: hold.differences + held,
          of: hold.of + of,
          means: hold.means + meansHeld,
          ofMeans: hold.ofMeans + ofMeans,
        };
        const pct = (a: number, b: number) => (b ? `${((100 * a) / b).toFixed(1)} %` : '–').padStart(10);
        tell(
          `${plan.name.padEnd(34)} ${`${world.name}, ${loss}`.padEnd(36)} ${pct(held, of)} ${pct(meansHeld, ofMeans)} ${pct(firm, nulls)}`,
        );
      }
  tell(
    `\nall: differences ${((100 * hold.differences) / hold.of).toFixed(1)} %, means ${((100 * hold.means) / hold.ofMeans).toFixed(1)} % (asked: 86 to 94); intervals beyond the scale: ${hold.outside}`,
  );
  for (const [bin, { n, said, right: yes }] of right)
    tell(
      `said about ${bin}: said ${((100 * said) / n).toFixed(0)} %, right ${((100 * yes) / n).toFixed(0)} % of ${n}`,
    );
  benchPromises(tell);
  benchLooks(tell);
  benchCurves(tell);
  benchNext(tell);
  speed(tell);
}

function speed(tell: Tell): void {
  const c = chanceFrom(5);
  const patches = (n: number, counts: readonly number[]) =>
    Array.from({ length: n }, (_, i): Seen => {
      const levels = counts.map(k => c.whole(0, k - 1));
      return {
        code: `P${i}`,
        levels,
        shares: [`${i % 12}`],
        failed: false,
        value: 70 + 3 * levels[0] + 5 * c.normal(),
      };
    });
  const timed = (n: number, counts: readonly number[], draws: number) => {
    const asked = {
      factors: counts.map((k, f) => ({ name: `f${f}`, levels: Array.from({ length: k }, (_, l) => `${l}`) })),
      ...{ pairs: [], random: ['board'], patches: patches(n, counts), better: 'high' as const, draws },
    };
    analyse(asked);
    const start = performance.now();
    analyse(asked);
    return (performance.now() - start).toFixed(0);
  };
  tell(`64 patches, 8 factors, 20 000 draws: ${timed(64, [2, 2, 3, 2, 4, 2, 3, 2], 20_000)} ms`);
  tell(`360 patches, almost without draws: ${timed(360, [4, 3, 3, 2], 1)} ms`);
}

/** A plan of the planner's own, by what is asked of it. */
const asked: readonly (readonly [name: string, part: Partial<PlanRequest>])[] = [
  [
    'two levels, four boards',
    { factors: [{ key: 'dryHours', levels: [6, 20] }], repeats: 8, board: board(150, 140) },
  ],
  [
    'three by two',
    {
      factors: [
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel', 'white-pva'] },
        { key: 'dryHours', levels: [6, 20] },
      ],
      repeats: 3,
    },
  ],
  [
    'a ladder of five',
    { factors: [{ key: 'dryHours', levels: [2, 4, 8, 16, 32] }], repeats: 4, design: 'ladder' },
  ],
  [
    'a fraction of four',
    {
      factors: [
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
        { key: 'dryHours', levels: [6, 20] },
        { key: 'rounds', levels: [1, 3] },
        { key: 'coatMm', levels: [0.2, 0.5] },
      ],
      design: 'best fraction',
      budget: 12,
    },
  ],
  [
    'strips',
    {
      factors: [
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
        { key: 'dryHours', levels: [6, 20] },
      ],
      repeats: 3,
      design: 'strips',
      stripKey: 'medium',
      board: board(400, 300),
    },
  ],
  [
    'loads of four',
    {
      factors: [
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
        { key: 'dryHours', levels: [6, 20] },
      ],
      repeats: 4,
      loadSize: 4,
    },
  ],
  [
    'groups',
    {
      factors: [
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
        { key: 'dryHours', levels: [6, 20] },
      ],
      repeats: 3,
      groupKey: 'medium',
    },
  ],
];

function board(w: number, h: number): PlanRequest['board'] {
  return { w, h, outline: 'rectangle', onePiece: false };
}

/** Whether what a rehearsal promises is what comes of it: by a maker made up here, judged by the whole analysis. */
export function benchPromises(tell: Tell): void {
  tell(
    '\nrehearsed promises                promised   came   (named, at least 80 % sure, where one is 10 points better)',
  );
  let worst = 0;
  for (const [name, part] of asked) {
    const made = planTrial({ ...STARTING_REQUEST, name, seed: 3, ...part }, STARTER_SHELF, {
      createdAt: '2026-03-01T09:00:00.000Z',
      random: () => 0.4,
    });
    if (!made.ok) {
      tell(`${name}: ${made.problem.say}`);
      continue;
    }
    const plan = made.value;
    const ask = { lead: 10, scatter: 5, shared: 3, fails: 0.05, runs: 300 };
    const promised = rehearse(plan, ask);
    const shared = sharedIn(plan);
    const patches = plan.patches.filter(p => p.levels.length);
    for (const f of promised.factors) {
      if (f.named === undefined) {
        tell(`${`${name}: ${f.name}`.padEnd(34)}never judged, as said`);
        continue;
      }
      let came = 0;
      const runs = 300;
      for (let run = 0; run < runs; run++) {
        const c = chanceFrom(77_000 + 31 * run + f.factor);
        const better = c.whole(0, plan.factors[f.factor].levels.length - 1);
        const shifts = new Map<string, number>();
        const seen = patches.map((p): Seen => {
          const shares = shared.of(p);
          const together = shares.reduce((sum, s, k) => {
            const key = `${k} ${s}`;
            if (!shifts.has(key)) shifts.set(key, 3 * c.normal());
            return sum + shifts.get(key)!;
          }, 0);
          const failed = c.next() < 0.05;
          const value = 80 + (p.levels[f.factor] === better ? 10 : 0) + together + 5 * c.normal();
          return { code: p.code, levels: p.levels, shares, failed, value: failed ? undefined : value };
        });
        const found = analyse({
          factors: plan.factors.map(x => ({ name: x.key, levels: x.levels.map(String) })),
          ...{ pairs: plan.design.interactions, random: shared.random, patches: seen },
          ...{ better: 'high' as const, worth: 0, draws: 500 },
        });
        const choice = choicesOf(found).find(x => x.factor === f.factor);
        if (choice && choice.sure >= 0.8 && choice.level === better) came++;
      }
      worst = Math.max(worst, Math.abs(came / runs - f.named));
      tell(
        `${`${name}: ${f.name}`.padEnd(34)}${(100 * f.named).toFixed(0).padStart(6)} %${((100 * came) / runs).toFixed(0).padStart(7)} %`,
      );
    }
  }
  tell(`farthest off: ${(100 * worst).toFixed(0)} points (asked: 6; each figure is itself sure to about 5)`);
}

/** How often anything is called firm in a trial where nothing differs, looked at after every patch. */
export function benchLooks(tell: Tell): void {
  let [firm, settled] = [0, 0];
  const runs = 120;
  for (let run = 0; run < runs; run++) {
    const c = chanceFrom(51_000 + run);
    const patches = crossed([3, 2])
      .flatMap(levels => [levels, levels, levels])
      .map(
        (levels, i): Seen => ({
          ...{ code: `P${i}`, levels, shares: [`${i % 2}`], failed: false },
          value: 80 + 5 * c.normal(),
        }),
      );
    const order = c.shuffle(patches);
    let [isFirm, isSettled] = [false, false];
    for (let n = 5; n <= order.length; n++) {
      const choices = choicesOf(
        analyse({
          factors: [
            { name: 'a', levels: ['0', '1', '2'] },
            { name: 'b', levels: ['0', '1'] },
          ],
          ...{ pairs: [], random: ['board'], patches: order.slice(0, n), better: 'high', draws: 500 },
        }),
      );
      isFirm ||= choices.some(x => x.firm);
      isSettled ||= choices.some(x => x.sure >= 0.95);
    }
    if (isFirm) firm++;
    if (isSettled) settled++;
  }
  tell(
    `\nnothing differs, looked at after every one of 18 patches: ever called firm ${((100 * firm) / runs).toFixed(0)} % (asked: at most 10), ever 95 % sure ${((100 * settled) / runs).toFixed(0)} %`,
  );
}

/** How often the ends of a curve lie in their ranges, for four shapes. */
export function benchCurves(tell: Tell): void {
  const good = 2;
  const shapes: Record<string, readonly [(h: number) => number, number, number]> = {
    plateau: [h => (h < 10 ? 88 - 40 * Math.log(10 / h) : 88), 10 * Math.exp(-good / 40), 48],
    peak: [
      h => 88 - 30 * Math.log(h / 14) ** 2,
      14 * Math.exp(-Math.sqrt(good / 30)),
      14 * Math.exp(Math.sqrt(good / 30)),
    ],
    cliff: [h => (h < 9 ? 20 : 88), 9, 48],
    flat: [() => 85, 4, 48],
  };
  tell('\ncurves of a number: how often the range of either end holds it (asked: nine in ten)');
  for (const levels of [
    [4, 8, 16, 32, 48],
    [4, 6, 10, 16, 24, 36, 48],
  ])
    for (const [name, [of, from, to]] of Object.entries(shapes)) {
      let [a, b] = [0, 0];
      const runs = 60;
      for (let run = 0; run < runs; run++) {
        const c = chanceFrom(300 + 17 * run + levels.length);
        const seen = levels.flatMap(h =>
          [0, 1, 2, 3].map(() => ({ x: Math.log(h), y: Math.min(100, of(h) + 4 * c.normal()) })),
        );
        const draws = trapezoidsOf(seen, good)!;
        const range = (end: (t: (typeof draws)[number]) => number) => {
          const sorted = draws.map(end).sort((x, y) => x - y);
          const at = (s: number) => sorted[Math.floor(s * sorted.length)];
          return [Math.exp(at(0.05)) / 1.0001, Math.exp(at(0.95)) * 1.0001];
        };
        const [fl, fh] = range(t => t.from);
        const [tl, th] = range(t => t.to);
        if (fl <= from && from <= fh) a++;
        if (tl <= to && to <= th) b++;
      }
      tell(
        `${levels.length} levels, ${name.padEnd(8)} from ${((100 * a) / runs).toFixed(0)} %, to ${((100 * b) / runs).toFixed(0)} %`,
      );
    }
}

/** Whether the patches that are asked for settle it as often as is said. */
export function benchNext(tell: Tell): void {
  let [said, settled, of, size] = [0, 0, 0, 0];
  const counts = [3, 2];
  const factors = counts.map((k, f) => ({
    name: `f${f}`,
    levels: Array.from({ length: k }, (_, l) => `${l}`),
  }));
  for (let run = 0; run < 120; run++) {
    const c = chanceFrom(88_000 + run);
    const effects = counts.map(k => Array.from({ length: k }, () => 5 * c.normal()));
    const value = (levels: readonly number[], shift: number) =>
      Math.min(
        100,
        Math.max(0, 75 + shift + levels.reduce((s, l, f) => s + effects[f][l], 0) + 5 * c.normal()),
      );
    const patches = crossed(counts)
      .flatMap(levels => [levels, levels])
      .map(
        (levels, i): Seen => ({
          ...{ code: `P${i}`, levels, shares: ['0'], failed: false },
          value: value(levels, 0),
        }),
      );
    const ask = { factors, pairs: [], random: ['board'], better: 'high' as const, bounds: [0, 100] as const };
    const first = analyse({ ...ask, patches, draws: 800, worlds: 120 });
    const next = whatNext(first);
    if (!next) continue;
    const shift = 3 * c.normal();
    const more = next.combinations.map(
      (levels, i): Seen => ({
        ...{ code: `N${i}`, levels, shares: ['more'], failed: false },
        value: value(levels, shift),
      }),
    );
    const then = analyse({ ...ask, patches: [...patches, ...more], draws: 800 });
    of++;
    said += next.settles;
    size += next.combinations.length;
    if (choicesOf(then).every(x => x.sure >= 0.8 || isEither(then, x))) settled++;
  }
  tell(
    `\nwhat next: of ${of} proposals of ${(size / of).toFixed(1)} patches in the mean, said to settle it ${((100 * said) / of).toFixed(0)} %, settled it ${((100 * settled) / of).toFixed(0)} %`,
  );
}
