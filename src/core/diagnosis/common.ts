import { Matrix, SVD } from 'ml-matrix';
import { joined, points, say, type Words, within } from '../say/index.ts';
import {
  carrierName,
  factorIn,
  isSpoilt,
  levelName,
  NO_LEVEL,
  namesOf,
  type Patch,
  readingOf,
  standing,
  type TrialPlan,
  type TrialRecord,
} from '../trial/index.ts';

/** Some patches that have something in common, by which they may all have gone wrong. */
export interface Common {
  /** What they share: `Board 2`, `made on 3 May`, `Soft gel medium`. */
  readonly name: Words;
  readonly kind: 'board' | 'strip' | 'group' | 'batch' | 'sitting' | 'order' | 'level';
  readonly patches: readonly string[];
  /** Chance that they went wrong by what they share, and not one by one, nor by anything else that patches share. */
  readonly likely: number;
  /** How many points less landed on them than on the others. */
  readonly less: number;
  readonly sentence: Words;
}

/** With fewer patches than this nothing is said of what they have in common. */
const LEAST_PATCHES = 6;
/** … and a group has at least so many of them. */
const LEAST_GROUP = 2;
/** Chance beforehand that nothing is wrong in common. */
const NOTHING = 0.75;
/** As likely as this it is said. */
const SAID = 0.8;
/** A group that lies lower by less than this did not go wrong, points. */
const LEAST_LESS = 8;
/** Levels are there to differ: only one that is worse by this much went wrong. */
const LEAST_LEVEL = 15;
/** Patches differ by at least this much though made alike, points. */
const LEAST_SCATTER = 2;

interface Seen {
  readonly patch: Patch;
  readonly y: number;
}

/**
 * A cause common to one board, strip, sitting, batch, stretch of the work or level, where there is one: what landed is
 * explained by the levels alone, or by the levels and one group that lies lower; the models are compared by their
 * Bayesian information criterion (Schwarz 1978), each group as likely beforehand. Nothing where no group is likely.
 *
 * @example commonCause(plan, records); // => undefined
 */
export function commonCause(plan: TrialPlan, records: readonly TrialRecord[]): Common | undefined {
  const seen = plan.patches.flatMap((patch): Seen[] => {
    const landed = readingOf(records, patch.code)?.reading.reading.landed;
    if (landed == null || isSpoilt(records, patch.code)) return [];
    return [{ patch, y: landed }];
  });
  if (seen.length < LEAST_PATCHES) return undefined;
  const groups = groupsOf(plan, records, seen).filter(g => {
    const inside = seen.filter(s => g.codes.has(s.patch.code)).length;
    return inside >= LEAST_GROUP && inside <= seen.length - LEAST_GROUP;
  });
  const distinct = merged(groups);
  // First what the levels do not explain; then whether it is one level alone, on every board alike.
  const isLevel = (g: Group) => g.kind === 'level';
  return (
    likeliest(
      seen,
      designOf(plan, seen),
      distinct.filter(g => !isLevel(g)),
    ) ??
    likeliest(
      seen,
      seen.map(() => [1]),
      distinct.filter(isLevel),
    )
  );
}

/** Groups of the same patches as one, which cannot be told from each other: the first, with what else they share. */
function merged(groups: readonly Group[]): Group[] {
  const out = new Map<string, Group>();
  for (const g of groups) {
    const key = [...g.codes].sort().join();
    const known = out.get(key);
    out.set(key, known ? { ...known, also: [...(known.also ?? []), g.name] } : g);
  }
  return [...out.values()];
}

/** The group that lies lower than what `base` explains, if one most likely does. */
function likeliest(
  seen: readonly Seen[],
  base: readonly (readonly number[])[],
  groups: readonly Group[],
): Common | undefined {
  if (!groups.length) return undefined;
  const plain = bic(base, seen).bic;
  const prior = (1 - NOTHING) / groups.length;
  const worlds = groups.map(group => {
    const fit = bic(
      base.map((row, i) => [...row, group.codes.has(seen[i].patch.code) ? 1 : 0]),
      seen,
    );
    const less = -(fit.last ?? 0);
    return { group, less, weight: less > 0 ? prior * Math.exp(Math.min(300, (plain - fit.bic) / 2)) : 0 };
  });
  const total = worlds.reduce((sum, w) => sum + w.weight, NOTHING);
  const best = worlds.reduce((a, b) => (b.weight > a.weight ? b : a));
  const likely = best.weight / total;
  if (likely < SAID || best.less < (best.group.kind === 'level' ? LEAST_LEVEL : LEAST_LESS)) return undefined;
  const { group, less } = best;
  const patches = seen.filter(s => group.codes.has(s.patch.code)).map(s => s.patch.code);
  const also = group.also?.length
    ? say` They are also ${joined(group.also, ' and ')}: the two cannot be told apart here.`
    : '';
  const sentence = say`${group.words} went wrong together: ${points(less)} less landed there than elsewhere. ${group.so}${also}`;
  return { name: group.name, kind: group.kind, patches, likely, less, sentence };
}

interface Group {
  readonly kind: Common['kind'];
  readonly name: Words;
  readonly words: Words;
  readonly so: Words;
  readonly codes: ReadonlySet<string>;
  /** What else just these patches share. */
  readonly also?: readonly Words[];
}

/** All that patches of a trial may share. */
function groupsOf(plan: TrialPlan, records: readonly TrialRecord[], seen: readonly Seen[]): Group[] {
  const out: Group[] = [];
  const by = <K>(of: (p: Patch) => K | undefined, make: (key: K) => Omit<Group, 'codes'>) => {
    const found = new Map<K, Set<string>>();
    for (const { patch } of seen) {
      const key = of(patch);
      if (key !== undefined) found.set(key, (found.get(key) ?? new Set()).add(patch.code));
    }
    if (found.size > 1) for (const [key, codes] of found) out.push({ ...make(key), codes });
  };
  by(
    p => p.board,
    board => ({
      ...{ kind: 'board', name: carrierName(plan, board), words: `All on ${carrierName(plan, board)}` },
      so: 'Look at that ground and at how it was prepared, not at what was changed from patch to patch.',
    }),
  );
  by(
    p => (plan.design.stripKey ? undefined : p.strip),
    strip => ({
      ...{ kind: 'strip', name: `strip ${strip + 1}`, words: `All in strip ${strip + 1}` },
      so: 'Look at what was done to that strip as a whole.',
    }),
  );
  by(
    p => (plan.design.groupKey ? undefined : p.group),
    group => ({
      ...{ kind: 'group', name: `load ${group + 1}`, words: `All of load ${group + 1}` },
      so: 'Look at that load: its heat, its time, who made it.',
    }),
  );
  by(
    p => p.batch ?? 0,
    batch => ({
      kind: 'batch',
      name: batch ? `batch ${batch}` : 'the first patches',
      words: batch ? `All that were added as batch ${batch}` : 'All of the first patches',
      so: 'Look at what was another one then: the jar, the print, the weather.',
    }),
  );
  const days = placedOn(plan, records);
  by(
    p => days.get(p.code),
    day => ({
      ...{ kind: 'sitting', name: `made on ${day}`, words: `All that were made on ${day}` },
      so: 'Look at that day: its air, its print, its jar.',
    }),
  );
  const order = [...seen].sort((a, b) => a.patch.order - b.patch.order).map(s => s.patch.code);
  const half = new Set(order.slice(order.length >> 1));
  by(
    p => half.has(p.code),
    late => ({
      kind: 'order',
      name: late ? 'the later half' : 'the earlier half',
      words: late ? 'All of the later half of the work' : 'All of the earlier half of the work',
      so: 'Look at what changes as the work goes on: a drying jar, a tired hand, cooling.',
    }),
  );
  plan.factors.forEach((factor, f) => {
    by(
      p => (p.levels[f] === undefined || p.levels[f] === NO_LEVEL ? undefined : p.levels[f]),
      level => {
        const name = levelName(namesOf(plan), factor.key, factor.levels[level]);
        return {
          ...{ kind: 'level', name, words: say`All with ${name}` },
          so: say`That is ${within(factorIn(plan, factor.key))} itself, on every board alike.`,
        };
      },
    );
  });
  return out;
}

/** On which day each patch was placed, or begun with where nothing is placed. */
function placedOn(plan: TrialPlan, records: readonly TrialRecord[]): ReadonlyMap<string, string> {
  const days = new Map<string, string>();
  for (const r of standing(records))
    if (r.kind === 'step')
      for (const code of [r.patch, ...(r.also ?? [])])
        if (code && !days.has(code) && plan.patches.some(p => p.code === code))
          days.set(code, r.at.slice(0, 10));
  return days;
}

/** A column of ones and one for each level but the first of every factor. */
const designOf = (plan: TrialPlan, seen: readonly Seen[]): number[][] =>
  seen.map(({ patch }) => [
    1,
    ...plan.factors.flatMap((factor, f) =>
      factor.levels.slice(1).map((_, l) => (patch.levels[f] === l + 1 ? 1 : 0)),
    ),
  ]);

/** The Bayesian information criterion of a least-squares fit, and its last coefficient. */
function bic(rows: readonly (readonly number[])[], seen: readonly Seen[]) {
  const n = seen.length;
  const design = new Matrix(rows.map(r => [...r]));
  const svd = new SVD(design, { autoTranspose: true });
  const rank = svd.rank;
  const beta = svd.solve(Matrix.columnVector(seen.map(s => s.y))).to1DArray();
  const rest = seen.reduce(
    (sum, s, i) => sum + (s.y - rows[i].reduce((a, v, k) => a + v * beta[k], 0)) ** 2,
    0,
  );
  const variance = Math.max(LEAST_SCATTER ** 2, rest / n);
  return { bic: n * Math.log(variance) + rest / variance + rank * Math.log(n), last: beta.at(-1) };
}
