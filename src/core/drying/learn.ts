import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import { progressOf } from '../progress/index.ts';
import { isOne, MEDIUMS, type Medium, type Shelf } from '../shelf/index.ts';
import { standing, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import {
  type Air,
  coatFactor,
  driedBetween,
  dryingFactor,
  REFERENCE_AIR,
  REFERENCE_COAT_MM,
} from '../units/index.ts';
import { driesMedium } from './dries.ts';
import type { DryingSeen } from './seen.ts';

export interface Trialled {
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
}

/** How long a medium takes to dry, hours, in the air and at the thickness asked for: a range that nine in ten lie in. */
export interface Drying {
  readonly lo: number;
  readonly mid: number;
  readonly hi: number;
  /** How many answers to "is it ready?" it rests on; without any it is the jar's estimate. */
  readonly answers: number;
}

/** Spread of the jar's estimate, as a standard deviation of the logarithm of hours. */
const PRIOR_SD = 0.3;
/** Spread of single pieces about their mean, in the same measure: about this, and learnt from how far answers lie apart. */
const PIECE_SD = 0.2;
const PIECE_SD_SD = 0.6;
/** The spreads that are weighed, in standard deviations of the logarithm about the usual one. */
const SPREADS = [-2, -1.33, -0.67, 0, 0.67, 1.33, 2, 2.67];
/** Places of the mean that are weighed, over five standard deviations to either side of the jar's. */
const PLACES = 101;
/** Share of answers that are about something else, or wrong, and how widely those scatter about the jar's time. */
const WRONG = 0.05;
const ANYTHING_SD = 1;
/** Standard deviations to either side within which nine in ten lie. */
export const SURE = 1.645;

/** Lessons of a trial as far as they are about drying. */
interface Taught {
  readonly drying: readonly DryingSeen[];
}

/**
 * Drying time of a medium in an air, from the jar and the maker's own answers to "is it ready?". Each piece is an
 * interval-censored observation (not ready at a, ready at b: dry in between) of a log-normal time whose mean and spread are
 * both learnt; the jar is the prior of the one, a usual spread that of the other; the posterior is summed on a grid, and the
 * range is of a further piece (Gelman et al., Bayesian Data Analysis, 3rd ed., ch. 3). Times are brought to the reference
 * air and a coat of 0.3 mm, for which jars state them, by their factors. One answer in twenty is taken for wrong, so that a
 * slip moves little.
 *
 * @example learntDrying(shelf.mediums[1], [], { tempC: 21, rh: 45 }).answers; // => 0
 */
export function learntDrying(
  medium: { readonly id: string; readonly dryHours: number },
  lessons: readonly Taught[],
  air: Air,
  coatMm = REFERENCE_COAT_MM,
): Drying {
  const seen = lessons.flatMap(l => l.drying).filter(d => d.medium === medium.id);
  const factor = dryingFactor(air) * coatFactor(coatMm);
  const centre = Math.log(medium.dryHours);
  if (!seen.length)
    return {
      lo: Math.exp(centre - SURE * PRIOR_SD) * factor,
      mid: medium.dryHours * factor,
      hi: Math.exp(centre + SURE * PRIOR_SD) * factor,
      answers: 0,
    };
  const wrong = seen.map(look => WRONG * chanceOf(look, centre, ANYTHING_SD));
  const grid = SPREADS.flatMap(z => {
    const sd = PIECE_SD * Math.exp(z * PIECE_SD_SD);
    return Array.from({ length: PLACES }, (_, k) => {
      const away = (k / (PLACES - 1) - 0.5) * 10;
      const mu = centre + away * PRIOR_SD;
      let log = -0.5 * (away * away + z * z);
      for (const [i, look] of seen.entries())
        log += Math.log((1 - WRONG) * chanceOf(look, mu, sd) + wrong[i]);
      return { mu, sd, log };
    });
  });
  // Many answers that no time explains well make every weight too small to write: what counts is how they compare.
  const top = Math.max(...grid.map(g => g.log));
  const kept = grid.map(g => ({ ...g, weight: Math.exp(g.log - top) })).filter(g => g.weight > 1e-6);
  const mass = kept.reduce((sum, g) => sum + g.weight, 0);
  const below = (x: number) => kept.reduce((sum, g) => sum + g.weight * normalCdf(x, g.mu, g.sd), 0) / mass;
  const at = (share: number): number => {
    let [low, high] = [centre - 8 * PRIOR_SD, centre + 8 * PRIOR_SD];
    for (let i = 0; i < 40; i++) {
      const x = (low + high) / 2;
      if (below(x) < share) low = x;
      else high = x;
    }
    return (low + high) / 2;
  };
  const mean = kept.reduce((sum, g) => sum + g.weight * g.mu, 0) / mass;
  return {
    lo: Math.exp(at(0.05)) * factor,
    mid: Math.exp(mean) * factor,
    hi: Math.exp(at(0.95)) * factor,
    answers: seen.length,
  };
}

/** How likely a look is where the logarithm of hours lies about `mu` with `sd`. */
function chanceOf({ from, to }: DryingSeen, mu: number, sd: number): number {
  const below = from > 0 ? normalCdf(Math.log(from), mu, sd) : 0;
  const above = to === null ? 1 : to > 0 ? normalCdf(Math.log(to), mu, sd) : 0;
  return Math.max(1e-9, above - below);
}

/**
 * How long each medium takes to dry in the reference air, by its id; {@link learntDrying} for a whole shelf.
 *
 * @example learntMediums(shelf.mediums, []).has('none'); // => false
 */
export const learntMediums = (
  mediums: readonly Medium[],
  lessons: readonly Taught[],
): ReadonlyMap<string, Drying> =>
  new Map(
    mediums.flatMap(m =>
      isOne(MEDIUMS.nothing, m.kind) ? [] : [[m.id, learntDrying(m, lessons, REFERENCE_AIR)]],
    ),
  );

/**
 * The shelf with the drying times that the maker's own answers tell; the jar's where there are none.
 *
 * @example shelfAsLearnt(shelf, new Map()).mediums.length === shelf.mediums.length; // => true
 */
export function shelfAsLearnt(shelf: Shelf, learnt: ReadonlyMap<string, Drying>): Shelf {
  const mediums = shelf.mediums.map(medium => {
    const drying = learnt.get(medium.id);
    return drying?.answers ? { ...medium, dryHours: drying.mid } : medium;
  });
  return { ...shelf, mediums };
}

/** What the looks at a trial's pieces told of their mediums, by the answers to "is it ready?" given while it dried. */
export function dryingSeen({ plan, records }: Trialled): DryingSeen[] {
  const answers = standing(records).flatMap(r => (r.kind === 'ready' ? [r] : []));
  if (!answers.length) return [];
  const progress = progressOf(plan, records);
  const pieces = progress.lines.flatMap(line => {
    const { settings, chain } = line;
    // Only what was answered while the medium dried tells of it: a base, a finish or water dries in its own time.
    const at = chain.findIndex(l => driesMedium(l.step, settings));
    const start = line.doneAt[at];
    const next = chain[at + 1];
    if (start === undefined || !next) return [];
    // Each hour counts by its own air, so that a note of another air does not change what was.
    const hours = (r: { at: string }) =>
      driedBetween(progress.airs, start, Date.parse(r.at)) / 3_600_000 / coatFactor(settings.coatMm);
    const same = answers.filter(
      r => r.patch === line.patch.code && r.step === next.step.id && r.round === next.round,
    );
    if (!same.length) return [];
    const ready = same.filter(r => r.ready).map(hours);
    const to = ready.length ? Math.max(0, Math.min(...ready)) : null;
    // "Not yet" after "it is ready" is about something else, or was pressed twice.
    const not = same
      .filter(r => !r.ready)
      .map(hours)
      .filter(h => to === null || h < to);
    const looks = same.map(r => `${Math.round(Date.parse(r.at) / TOGETHER_MS)} ${r.ready}`).join();
    return [{ looks, seen: { medium: settings.medium.id, from: Math.max(0, ...not), to } }];
  });
  // One answer for a bar of ten pieces is one look, not ten.
  const together = new Map<string, typeof pieces>();
  for (const piece of pieces) {
    const key = `${piece.seen.medium} ${piece.looks}`;
    together.set(key, [...(together.get(key) ?? []), piece]);
  }
  return [...together.values()].map(same => ({
    medium: same[0].seen.medium,
    from: mean(same.map(p => p.seen.from)),
    to: same[0].seen.to === null ? null : mean(same.map(p => p.seen.to ?? 0)),
  }));
}

/** Pieces that were answered for within the same minute were looked at together. */
const TOGETHER_MS = 60_000;
const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;
