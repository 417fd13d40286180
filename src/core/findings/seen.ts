import type { MeasureId } from '../measures/index.ts';
import { type Waited, waitsOf } from '../progress/index.ts';
import { minutes, say, type Words } from '../say/index.ts';
import {
  about,
  factorIn,
  isSpoilt,
  levelName,
  methodsOf,
  NO_LEVEL,
  namesOf,
  nestOf,
  readingOf,
  type TrialPlan,
  type TrialRecord,
  verdictOf,
} from '../trial/index.ts';
import { type Analysis, analyse, type Seen } from './analyse.ts';
import { sharedIn } from './shared.ts';

/** With less of the picture there than this, %, a patch did not work, whatever was said of it. */
const WORKS_FROM = 30;

/**
 * Whether a patch failed for what was tried on it: scrapped, given up because it failed, or with hardly anything landed.
 * One that the maker's own slip spoilt did not; nothing where it was written off and nobody said why.
 *
 * @example hasFailed([], patch.code); // => false
 */
export function hasFailed(records: readonly TrialRecord[], patch: string): boolean {
  if (about(records, patch, 'spoilt').some(r => r.slip === false)) return true;
  if (isSpoilt(records, patch)) return false;
  if (verdictOf(records, patch)?.verdict === 'scrap') return true;
  const read = readingOf(records, patch);
  const landed = read?.photo.stage === 'dry' ? read.reading.reading.landed : null;
  return landed !== null && landed < WORKS_FROM;
}

/** A patch's value of a measure. */
export interface Observed {
  readonly code: string;
  readonly levels: readonly number[];
  readonly value: number;
}

/**
 * Values of one measure by patch: from the reading that counts; spoilt and wet-only patches left out, and those that
 * only a practice photo speaks of where there are real ones: what is made up never mixes with what is measured.
 *
 * @example observations(plan, records, 'landed').map(o => o.value); // => [80]
 */
export const observations = (
  plan: TrialPlan,
  records: readonly TrialRecord[],
  measure: MeasureId,
): Observed[] => observing(plan, records)(measure);

/**
 * {@link observations} of one measure after another: what is the same for all of them is looked up once.
 *
 * @example observing(plan, records)('landed').length; // => 1
 */
export function observing(
  plan: TrialPlan,
  records: readonly TrialRecord[],
): (measure: MeasureId) => Observed[] {
  const astray = new Set(strayedIn(plan, records).map(w => w.patch));
  const dry = plan.patches.flatMap(({ code, levels }) => {
    if (isSpoilt(records, code) || astray.has(code)) return [];
    const found = readingOf(records, code);
    if (found?.photo.stage !== 'dry') return [];
    return [{ code, levels, reading: found.reading.reading, isPractice: found.photo.simulated }];
  });
  return measure => {
    const found = dry.flatMap(({ reading, ...o }) => {
      const value = reading[measure];
      return value == null ? [] : [{ ...o, value }];
    });
    const isReal = found.some(o => !o.isPractice);
    return found.flatMap(({ isPractice, ...o }) => (isReal && isPractice ? [] : [o]));
  };
}

/** Patches whose wait strayed from their level, where waits are compared. */
export const strayedIn = (plan: TrialPlan, records: readonly TrialRecord[]): Waited[] =>
  plan.factors.some(f => f.key === 'dryHours') ? waitsOf(plan, records).filter(w => w.strayed) : [];

/** Draws of a decision: enough for a chance to a few percent, quick enough for every look. */
const DRAWS = 1500;

export interface Valued {
  readonly by: { readonly goal: 'more' | 'less' };
  readonly bounds: readonly [number, number];
  readonly value: (code: string) => number | undefined;
  /** What failed, where that is not what failed altogether. */
  readonly failed?: (code: string) => boolean;
  readonly worlds?: number;
}

/** One response of a trial, looked at by its plan. */
export function analysed(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  { by, bounds, value, failed: fails = code => hasFailed(records, code), worlds }: Valued,
): Analysis {
  const astray = new Set(strayedIn(plan, records).map(w => w.patch));
  const shared = sharedIn(plan);
  const seen = plan.patches.flatMap((p): Seen[] => {
    if (astray.has(p.code)) return [];
    const failed = fails(p.code);
    return [
      {
        code: p.code,
        levels: p.levels,
        value: failed || isSpoilt(records, p.code) ? undefined : value(p.code),
        failed,
        shares: shared.of(p),
        order: p.order,
      },
    ];
  });
  return analyse({
    factors: plan.factors.map(f => ({
      name: factorIn(plan, f.key),
      levels: f.levels.map(l => levelName(namesOf(plan), f.key, l)),
    })),
    pairs: plan.design.interactions,
    nest: nestOf(plan.factors, methodsOf(plan)),
    random: shared.random,
    patches: seen,
    better: by.goal === 'more' ? 'high' : 'low',
    bounds,
    draws: DRAWS,
    ...(worlds ? { worlds } : {}),
  });
}

/** Waits that differ by more than this share from what was planned are said as they were. */
const AS_PLANNED = 0.1;

/**
 * Levels by name as they were done: of a wait that came out otherwise than planned, what it really was in the middle of
 * its patches.
 */
export function levelsAsDone(
  plan: TrialPlan,
  records: readonly TrialRecord[],
): (f: number, level: number) => Words {
  const waits = new Map(waitsOf(plan, records).map(w => [w.patch, w]));
  return (f, level) => {
    const factor = plan.factors[f];
    if (level === NO_LEVEL) return '';
    const name = levelName(namesOf(plan), factor.key, factor.levels[level]);
    if (factor.key !== 'dryHours') return name;
    const own = plan.patches.flatMap(p => {
      const waited = p.levels[f] === level ? waits.get(p.code) : undefined;
      return waited && !waited.strayed ? [waited.waitedMin] : [];
    });
    if (!own.length) return name;
    const real = median(own);
    const planned = Number(factor.levels[level]) * 60;
    return Math.abs(real / planned - 1) > AS_PLANNED ? say`${name} (really ${minutes(real)})` : name;
  };
}

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const mid = sorted.length >> 1;
  return sorted.length % 2 ? sorted[mid] : (sorted[mid - 1] + sorted[mid]) / 2;
};
