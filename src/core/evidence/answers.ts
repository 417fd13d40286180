import studentCdf from '@stdlib/stats-base-dists-t-cdf';
import { surePercent } from '../findings/index.ts';
import { fisher } from '../models/index.ts';
import { DISAGREEMENTS } from '../questions/index.ts';
import { joined, many, percent, say, sure, type Words, within, write } from '../say/index.ts';
import { foresee, type Made, type Pool, unsureOf } from './pool.ts';
import { type EvidenceRow, THINGS, type Thing } from './row.ts';
import { thingName } from './rows.ts';

/** A number with nine in ten of what is known. */
export interface Range {
  readonly value: number;
  readonly lo: number;
  readonly hi: number;
}

/** What is to be expected of something, and what that rests on. */
export interface Answer {
  /** Chance that it works, 0 to 1. */
  readonly works: Range;
  /** What lands where it works, %. */
  readonly lands: Range;
  /** Patches and trials of exactly this, and of each thing in it. */
  readonly exactly: Count;
  readonly things: readonly { readonly thing: Thing; readonly name: string; readonly count: Count }[];
  /** What is least known of it, and would teach most: a thing, or two together. */
  readonly teaches: { readonly things: readonly Thing[]; readonly words: string };
  readonly sentence: Words;
}

export interface Count {
  readonly patches: number;
  readonly trials: number;
}

const patchesOf = (r: EvidenceRow): number => r.landed.length + r.failed;

function countOf(rows: readonly EvidenceRow[]): Count {
  const own = rows.filter(r => patchesOf(r) > 0);
  return {
    patches: own.reduce((sum, r) => sum + patchesOf(r), 0),
    trials: new Set(own.map(r => r.trial)).size,
  };
}

function rangeOf(values: readonly number[]): Range {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
  return {
    value: values.reduce((a, b) => a + b, 0) / (values.length || 1),
    lo: at(0.05) ?? 0,
    hi: at(0.95) ?? 0,
  };
}

const inTen = (share: number): string => {
  const times = Math.round(10 * share);
  return times === 10 ? 'nearly always' : times === 0 ? 'hardly ever' : `${times} times in 10`;
};

/**
 * What is to be expected of a way of making that may never have been tried. Nothing where the workshop has no evidence at
 * all.
 */
export function answer(pool: Pool, made: Made): Answer | undefined {
  if (!pool.works.length) return undefined;
  const seen = foresee(pool, made);
  const works = rangeOf(seen.works);
  const lands = rangeOf(seen.lands);
  const is = (row: EvidenceRow, thing: Thing) => row.used[thing].id === made.used[thing].id;
  const things = THINGS.map(thing => ({
    thing,
    name: made.used[thing].name,
    count: countOf(pool.rows.filter(r => is(r, thing))),
  }));
  const exactly = countOf(pool.rows.filter(r => THINGS.every(t => is(r, t))));
  const [least] = [...unsureOf(pool, made)]
    .filter(([block]) => block !== 'trial' && !block.startsWith('varied'))
    .sort((a, b) => b[1] - a[1]);
  const names = (least?.[0] ?? 'method').split(' ') as Thing[];
  const said = names.map(t => within(made.used[t].name));
  const words = `Least is known of ${said.join(' with ')}: a trial that compares ${names.length > 1 ? 'them with another pair' : 'it with what you know'} would teach most.`;
  const range = pool.good.length
    ? say` Where it works, ${percent(lands.value, { places: 0 })} lands, give or take (${lands.lo.toFixed(0)} to ${percent(lands.hi, { places: 0 })}).`
    : '';
  return {
    ...{ works, lands, exactly, things },
    teaches: { things: names, words },
    sentence: say`It works about ${inTen(works.value)} (anything from ${surePercent(works.lo)} to ${sure(works.hi)}).${range}`,
  };
}

/** What is known of two things together. */
export interface Known {
  readonly medium: string;
  readonly substrate: string;
  readonly method: string;
  readonly worked: number;
  readonly tried: number;
  readonly kept: number;
  readonly judged: number;
  readonly trials: readonly string[];
  /** The mean of what landed, %; what failed landed nothing. */
  readonly landed?: number;
  readonly last: string;
  readonly sentence: Words;
}

/**
 * What a workshop knows, medium by substrate and method: how often it worked and was kept, in how many trials, and when
 * last; the most solid first.
 *
 * @example knownIn([]); // => []
 */
export function knownIn(rows: readonly EvidenceRow[]): Known[] {
  const groups = new Map<string, EvidenceRow[]>();
  for (const row of rows) {
    const key = [row.used.method.id, row.used.medium.id, row.used.substrate.id].join();
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  return [...groups.values()]
    .map((own): Known => {
      const { method, medium, substrate } = own[0].used;
      const landed = own.flatMap(r => r.landed);
      const sum = (of: (r: EvidenceRow) => number) => own.reduce((total, r) => total + of(r), 0);
      const [kept, judged] = [sum(r => r.kept), sum(r => r.judged)];
      const [worked, tried] = [landed.length, sum(patchesOf)];
      const trials = [...new Set(own.map(r => r.code))];
      const what = `${medium.name} on ${within(substrate.name)}, ${within(method.name)}`;
      const often = judged ? `${kept} of ${judged} kept` : `${worked} of ${tried} worked`;
      return {
        ...{ medium: medium.name, substrate: substrate.name, method: method.name },
        ...{ worked, tried, kept, judged, trials },
        ...(tried ? { landed: landed.reduce((a, b) => a + b, 0) / tried } : {}),
        last: own
          .map(r => r.at)
          .sort()
          .at(-1)!,
        sentence: say`${what}: ${often} in ${many(trials.length, 'trial')}.`,
      };
    })
    .sort(
      (a, b) =>
        b.trials.length - a.trials.length ||
        b.tried - a.tried ||
        write(a.sentence).localeCompare(write(b.sentence)),
    );
}

/** How sure it is which level of something is best. */
export interface Compared {
  readonly key: string;
  readonly levels: readonly { readonly id: string; readonly name: Words; readonly best: number }[];
  readonly trials: number;
  readonly patches: number;
}

const LEAST_PATCHES = 2;

/**
 * Which level of something is best in a method, over all trials: what works times what lands, in each draw. Nothing with
 * fewer than two levels that were tried on two patches each.
 */
export function comparedIn(pool: Pool, method: string, key: string): Compared | undefined {
  const inMethod = pool.rows.filter(r => r.used.method.id === method && patchesOf(r) > 0);
  const isThing = (THINGS as readonly string[]).includes(key);
  const levelOf = (row: EvidenceRow) =>
    isThing
      ? { id: row.used[key as Thing].id, name: row.used[key as Thing].name }
      : row.varied.flatMap(v => (v.key === key ? [{ id: v.level, name: v.name }] : []))[0];
  // Only a trial that varied it says anything of it: between trials all else differs too.
  const varied = new Map<string, Set<string>>();
  for (const row of inMethod) {
    const level = levelOf(row);
    if (level) varied.set(row.trial, (varied.get(row.trial) ?? new Set()).add(level.id));
  }
  const own = inMethod.filter(r => (varied.get(r.trial)?.size ?? 0) > 1);
  const levels = new Map<string, { name: Words; rows: EvidenceRow[] }>();
  for (const row of own) {
    const level = levelOf(row);
    if (!level) continue;
    const known = levels.get(level.id) ?? { name: level.name, rows: [] };
    levels.set(level.id, { ...known, rows: [...known.rows, row] });
  }
  const told = [...levels].filter(([, l]) => countOf(l.rows).patches >= LEAST_PATCHES);
  if (told.length < 2) return undefined;
  const rows = told.flatMap(([, l]) => l.rows);
  // All else as it was most often.
  const base = [...rows].sort((a, b) => patchesOf(b) - patchesOf(a))[0];
  const drawn = told.map(([id, { name, rows: mine }]) => {
    const made: Made = isThing
      ? { ...base, used: { ...base.used, [key]: mine[0].used[key as Thing] } }
      : { ...base, varied: [{ key, level: id, name }], ...(key === 'dryHours' ? { dry: mine[0].dry } : {}) };
    const { works, lands } = foresee(pool, made, false);
    const draws = Math.max(works.length, lands.length);
    return Array.from({ length: draws }, (_, d) => (works[d] ?? 1) * (lands[d] ?? 1));
  });
  const draws = drawn[0].length;
  const best = told.map((_, i) =>
    drawn[0].reduce(
      (sum, __, d) => sum + Number(drawn.every((other, j) => j === i || other[d] <= drawn[i][d])),
      0,
    ),
  );
  return {
    key,
    levels: told
      .map(([id, { name }], i) => ({ id, name, best: best[i] / draws }))
      .sort((a, b) => b.best - a.best),
    ...countOf(rows),
  };
}

/** As sure as this it is settled. */
const SETTLED = 0.8;

/** {@link comparedIn} in a sentence. */
export function comparedSentence({ levels, trials, patches }: Compared): Words {
  const [first, ...rest] = levels;
  const from = say`${many(patches, 'patch')} in ${many(trials, 'trial')}`;
  if (first.best >= SETTLED)
    return say`${first.name} rather than ${joined(
      rest.map(l => l.name),
      ' or ',
    )}: ${sure(first.best)} sure, from ${from}.`;
  const open = levels.filter(l => l.best >= 0.1).map(l => say`${l.name} (${sure(l.best)})`);
  return say`Not settled: ${joined(open, ', ')}, from ${from}.`;
}

/** One of the things that makers disagree about, as far as this workshop knows. */
export interface Settled {
  readonly id: string;
  readonly ask: string;
  readonly sentence: Words;
  readonly known: boolean;
}

/**
 * The twelve disagreements, each answered from the evidence or “not yet”.
 *
 * @example disagreementsIn({ rows: [], places: new Map(), good: [], works: [] }).every(d => !d.known); // => true
 */
export function disagreementsIn(pool: Pool): Settled[] {
  return DISAGREEMENTS.map(({ id, ask, method, factors, about = [factors[0].key] }) => {
    const found = about.flatMap(key => comparedIn(pool, method, key) ?? []);
    return {
      ...{ id, ask },
      known: found.length > 0,
      sentence: found.length
        ? joined(
            found.map(c =>
              found.length > 1 ? say`${thingName(c.key)}: ${comparedSentence(c)}` : comparedSentence(c),
            ),
            ' ',
          )
        : 'Not yet: no trial of yours compares it.',
    };
  });
}

/** Two trials that say the opposite of each other. */
export interface Contradiction {
  readonly sentence: Words;
  readonly trials: readonly [string, string];
}

/** A trial speaks clearly where chance alone would have it say so this seldom, each way. */
const CLEAR = 0.01;
/** Over all that a workshop compares, chance alone contradicts itself at most this often. */
const CONTRADICTS = 0.05;

/** What a trial says of two levels: how easily chance alone would put the first, or the second, so far ahead. */
interface Said {
  readonly code: string;
  readonly first: number;
  readonly second: number;
  readonly names: readonly [Words, Words];
}

/**
 * Trials that contradict each other: the same two levels of something in the same method, each clearly better in one of
 * them. What landed of what worked is compared by Student's t with the trial's own scatter of patches made alike, and how
 * often each failed by Fisher's exact test; how clear it has to be follows from how many such pairs of trials there are
 * (so that a workshop in which nothing differs is told of a contradiction at most once in twenty times).
 *
 * @example contradictionsIn([]); // => []
 */
export function contradictionsIn(rows: readonly EvidenceRow[]): Contradiction[] {
  const says = new Map<string, Said[]>();
  for (const trial of new Set(rows.map(r => r.trial))) {
    const own = rows.filter(r => r.trial === trial);
    const scatter = pooledScatter(own);
    for (const { key, of } of sidesIn(own)) {
      const levels = [...new Set(own.flatMap(r => of(r)?.id ?? []))].sort();
      for (const [i, a] of levels.entries())
        for (const b of levels.slice(i + 1)) {
          const [x, y] = [a, b].map(id => sideOf(own.filter(r => of(r)?.id === id)));
          if (Math.min(x.of, y.of) < LEAST_PATCHES) continue;
          const name = (id: string) => own.flatMap(r => (of(r)?.id === id ? [of(r)!.name] : []))[0];
          const pair = [own[0].used.method.id, key, a, b].join(' ');
          const said: Said = {
            code: own[0].code,
            first: aheadByChance(x, y, scatter),
            second: aheadByChance(y, x, scatter),
            names: [name(a), name(b)],
          };
          says.set(pair, [...(says.get(pair) ?? []), said]);
        }
    }
  }
  const lists = [...says.values()];
  const pairs = lists.reduce((sum, { length }) => sum + (length * (length - 1)) / 2, 0);
  // Two trials, either way round: each has to be as rare as the root of what both together may be.
  const clear = Math.min(CLEAR, Math.sqrt(CONTRADICTS / (2 * Math.max(1, pairs))));
  return lists.flatMap(list => {
    const up = list.find(s => s.first <= clear);
    const down = list.find(s => s.second <= clear);
    return up && down
      ? [
          {
            trials: [up.code, down.code] as const,
            sentence: say`Trial ${up.code} says ${up.names[0]} rather than ${up.names[1]}, trial ${down.code} the opposite: something else differed between them.`,
          },
        ]
      : [];
  });
}

/** What came of one level in one trial. */
interface Side {
  readonly landed: readonly number[];
  readonly failed: number;
  readonly of: number;
}
const sideOf = (rows: readonly EvidenceRow[]): Side => {
  const landed = rows.flatMap(r => r.landed);
  const failed = rows.reduce((sum, r) => sum + r.failed, 0);
  return { landed, failed, of: landed.length + failed };
};

/** How easily chance alone would put one level so far ahead of another: of two looks at it, the clearer, counted twice. */
function aheadByChance(x: Side, y: Side, { sd, df }: { sd: number; df: number }): number {
  const mean = (v: readonly number[]) => v.reduce((s, n) => s + n, 0) / v.length;
  const [n, m] = [x.landed.length, y.landed.length];
  const byLanded =
    n && m && df
      ? 1 - studentCdf((mean(x.landed) - mean(y.landed)) / (sd * Math.sqrt(1 / n + 1 / m)), df)
      : 1;
  return Math.min(1, 2 * Math.min(byLanded, fisher(y.failed, y.of, x.failed, x.of)));
}

/** What a trial compares: things of which it has more than one, and what else it varied. */
function sidesIn(rows: readonly EvidenceRow[]) {
  const things = THINGS.filter(t => new Set(rows.map(r => r.used[t].id)).size > 1).map(t => ({
    key: t as string,
    of: (r: EvidenceRow): { id: string; name: Words } | undefined => r.used[t],
  }));
  const keys = [...new Set(rows.flatMap(r => r.varied.map(v => v.key)))].map(key => ({
    key,
    of: (r: EvidenceRow) => r.varied.flatMap(v => (v.key === key ? [{ id: v.level, name: v.name }] : []))[0],
  }));
  return [...things, ...keys];
}

/** Scatter of patches made alike in a trial, points, and its degrees of freedom; never taken for less than a photo is off. */
function pooledScatter(rows: readonly EvidenceRow[]): { readonly sd: number; readonly df: number } {
  let [ss, df] = [0, 0];
  for (const { landed } of rows) {
    const mean = landed.reduce((a, b) => a + b, 0) / (landed.length || 1);
    ss += landed.reduce((s, v) => s + (v - mean) ** 2, 0);
    df += Math.max(0, landed.length - 1);
  }
  return { sd: Math.max(1, Math.sqrt(ss / Math.max(1, df))), df };
}

/**
 * Share of patches of a method that failed over all trials, drawn towards one in twenty, which counts as twenty patches.
 *
 * @example failsOf([], 'wet-rub'); // => 0.05
 */
export function failsOf(rows: readonly EvidenceRow[], method: string): number {
  const own = rows.filter(r => r.used.method.id === method);
  const failed = own.reduce((sum, r) => sum + r.failed, 0);
  return (failed + 1) / (own.reduce((sum, r) => sum + patchesOf(r), 0) + 20);
}
