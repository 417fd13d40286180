import { RESPONSES } from '../measures/index.ts';
import type { Trialled } from '../progress/index.ts';
import { type Words, within, write } from '../say/index.ts';
import { WEAR } from '../steps/index.ts';
import { factorIn, levelName, NO_LEVEL, namesOf, readingsOf, sizeOf, verdictOf } from '../trial/index.ts';

/** One reading of a patch as it hangs on the wall. */
export interface WallPatch {
  readonly trial: string;
  readonly trialName: string;
  readonly code: string;
  /** Its reading’s record, and the straightened photo’s file. */
  readonly record: string;
  readonly straight: string;
  /** How large it is, mm: all hang at one scale. */
  readonly size: { readonly w: number; readonly h: number };
  /** ISO time of the reading. */
  readonly at: string;
  readonly order: number;
  /** Wet, dry, after which round, after which wear. */
  readonly stage: string;
  readonly isSimulated: boolean;
  /** What was changed from patch to patch, by factor: the factor's name and the level's. */
  readonly levels: Readonly<Record<string, { readonly factor: string; readonly level: Words }>>;
  readonly values: Readonly<Record<string, number | null>>;
  readonly verdict: string | undefined;
}

/** What the wall is put in groups by: a factor, the stage, the trial, the verdict, or nothing. */
export type GroupBy = string;
/** What each group is put in order by: a measure, the time, or the order of work. */
export type OrderBy = string;

export interface Ordering {
  readonly group: GroupBy;
  readonly order: OrderBy;
  /** Only the last reading of every patch. */
  readonly lastOnly: boolean;
}

export interface Group {
  readonly name: Words;
  readonly patches: readonly WallPatch[];
}

const NAMES: Readonly<Record<string, string>> = { keep: 'Keep', fix: 'Fix', scrap: 'Scrap' };

/**
 * Every reading of these trials that has a straightened photo, the oldest first. `only`: of some trials none but certain
 * patches, by the trial's id.
 *
 * @example wallOf([{ plan, records: [] }]); // => []
 */
export function wallOf(
  trials: readonly Trialled[],
  only: ReadonlyMap<string, ReadonlySet<string>> = new Map(),
): WallPatch[] {
  return trials
    .flatMap(({ plan, records }) => {
      const names = namesOf(plan);
      return plan.patches.flatMap(patch => {
        if (only.get(plan.id)?.has(patch.code) === false) return [];
        const levels = Object.fromEntries(
          plan.factors.flatMap(({ key, levels: all }, f) => {
            const level = patch.levels[f];
            if (level === undefined || level === NO_LEVEL) return [];
            return [[key, { factor: factorIn(plan, key), level: levelName(names, key, all[level]) }]];
          }),
        );
        const verdict = verdictOf(records, patch.code)?.verdict;
        return readingsOf(records, patch.code).flatMap(({ reading, photo }): WallPatch[] =>
          reading.straight
            ? [
                {
                  ...{ trial: plan.id, trialName: plan.name, code: patch.code, record: reading.id },
                  ...{ straight: reading.straight, size: sizeOf(plan), at: reading.at, order: patch.order },
                  stage: stageWords(photo),
                  isSimulated: photo.simulated,
                  levels,
                  values: Object.fromEntries(RESPONSES.map(m => [m.id, reading.reading[m.id] ?? null])),
                  verdict: verdict && NAMES[verdict],
                },
              ]
            : [],
        );
      });
    })
    .sort((a, b) => a.at.localeCompare(b.at));
}

const stageWords = (photo: {
  stage: 'wet' | 'dry' | 'bare';
  round: number;
  worn?: keyof typeof WEAR;
}): string =>
  photo.worn
    ? `Dry, after: ${within(WEAR[photo.worn].name)}`
    : `${photo.stage === 'wet' ? 'Wet' : 'Dry'}, after round ${photo.round}`;

const ALL = 'All';

/**
 * The wall in groups, each in order: the best first by a measure (those without it last), else the oldest or the first
 * made first. Groups come in the order of their names; those of a number by the number.
 *
 * @example arranged([], { group: '', order: 'landed', lastOnly: true }); // => []
 */
export function arranged(patches: readonly WallPatch[], { group, order, lastOnly }: Ordering): Group[] {
  const shown = lastOnly
    ? patches.filter((p, i) => !patches.slice(i + 1).some(q => q.trial === p.trial && q.code === p.code))
    : patches;
  const nameOf = (p: WallPatch): Words => {
    if (group === 'trial') return p.trialName;
    if (group === 'stage') return p.stage;
    if (group === 'verdict') return p.verdict ?? 'Not judged';
    return group ? (p.levels[group]?.level ?? 'Without') : ALL;
  };
  const groups = new Map<string, { name: Words; patches: WallPatch[] }>();
  for (const p of shown) {
    const name = nameOf(p);
    const key = write(name);
    groups.set(key, { name, patches: [...(groups.get(key)?.patches ?? []), p] });
  }
  const measure = RESPONSES.find(m => m.id === order);
  const sign = measure?.goal === 'less' ? 1 : -1;
  const compare = (a: WallPatch, b: WallPatch) => {
    if (order === 'order') return a.order - b.order;
    if (!measure) return a.at.localeCompare(b.at);
    const [x, y] = [a.values[measure.id], b.values[measure.id]];
    if (x == null || y == null) return Number(x == null) - Number(y == null);
    return sign * (x - y);
  };
  return [...groups]
    .sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }))
    .map(([, { name, patches: own }]) => ({ name, patches: [...own].sort(compare) }));
}
