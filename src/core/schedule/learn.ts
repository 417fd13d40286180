import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import type { Step } from '../methods/index.ts';
import type { Medium, Shelf } from '../shelf/index.ts';
import {
  type PatchSettings,
  settingsOf,
  standing,
  type TrialPlan,
  type TrialRecord,
} from '../trial/index.ts';
import { type Air, coatFactor, dryingFactor, REFERENCE_AIR, REFERENCE_COAT_MM } from '../units/index.ts';
import { benchOf } from './status.ts';

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

/** Spread of the jar's estimate and of single pieces about it, as standard deviations of the logarithm of hours. */
const PRIOR_SD = 0.3;
const PIECE_SD = 0.2;
/** Standard deviations to either side within which nine in ten lie. */
export const SURE = 1.645;

/** An answer as what it tells: it was dry after between so many hours, in the reference air. */
interface Seen {
  readonly from: number;
  readonly to: number;
}

/**
 * Drying time of a medium in an air, from the jar and the maker's own answers to "is it ready?". Each piece is an
 * interval-censored observation (not ready at a, ready at b: dry in between) of a log-normal time; the jar is the
 * prior; the posterior is summed on a grid. Times are brought to the reference air and a coat of 0.3 mm, for which jars
 * state them, by their factors.
 */
export function learntDrying(
  medium: { readonly id: string; readonly dryHours: number },
  trials: readonly Trialled[],
  air: Air,
  coatMm = REFERENCE_COAT_MM,
): Drying {
  const seen = trials.flatMap(t => answersOf(t, medium.id));
  const factor = dryingFactor(air) * coatFactor(coatMm);
  const centre = Math.log(medium.dryHours);
  let mass = 0;
  let mean = 0;
  let square = 0;
  for (let step = -80; step <= 80; step++) {
    const mu = centre + (step / 80) * 5 * PRIOR_SD;
    let log = -0.5 * ((mu - centre) / PRIOR_SD) ** 2;
    for (const { from, to } of seen) {
      const below = from > 0 ? normalCdf(Math.log(from), mu, PIECE_SD) : 0;
      const above = Number.isFinite(to) ? normalCdf(Math.log(to), mu, PIECE_SD) : 1;
      log += Math.log(Math.max(1e-9, above - below));
    }
    const weight = Math.exp(log);
    mass += weight;
    mean += weight * mu;
    square += weight * mu * mu;
  }
  mean /= mass;
  const spread = Math.sqrt(Math.max(0, square / mass - mean * mean) + (seen.length ? PIECE_SD ** 2 : 0));
  return {
    lo: Math.exp(mean - SURE * spread) * factor,
    mid: Math.exp(mean) * factor,
    hi: Math.exp(mean + SURE * spread) * factor,
    answers: seen.length,
  };
}

/** How long each medium takes to dry in the reference air, by its id; {@link learntDrying} for a whole shelf. */
export const learntMediums = (
  mediums: readonly Medium[],
  trials: readonly Trialled[],
): ReadonlyMap<string, Drying> =>
  new Map(mediums.flatMap(m => (m.kind === 'none' ? [] : [[m.id, learntDrying(m, trials, REFERENCE_AIR)]])));

/** The shelf with the drying times that the maker's own answers tell; the jar's where there are none. */
export function shelfAsLearnt(shelf: Shelf, learnt: ReadonlyMap<string, Drying>): Shelf {
  const mediums = shelf.mediums.map(medium => {
    const drying = learnt.get(medium.id);
    return drying?.answers ? { ...medium, dryHours: drying.mid } : medium;
  });
  return { ...shelf, mediums };
}

/** Whether the wait after a step is the medium's drying: planned, and with no sign of its own to wait for. */
export const driesMedium = (step: Step, { medium }: PatchSettings): boolean =>
  step.wait.kind === 'planned' && !step.ready && medium.kind !== 'none';

/** What each piece with this medium told, in hours of the reference air and coat. */
function answersOf({ plan, records }: Trialled, medium: string): Seen[] {
  const kept = standing(records);
  const bench = benchOf(plan, records);
  return plan.patches.flatMap(patch => {
    const settings = settingsOf(plan, patch);
    if (settings.medium.id !== medium) return [];
    const line = bench.lines.find(l => l.patch.code === patch.code)!;
    // Only what was answered while the medium dried tells of it: a base, a finish or water dries in its own time.
    const at = line.chain.findIndex(l => driesMedium(l.step, settings));
    const start = line.doneAt[at];
    const next = line.chain[at + 1];
    if (start === undefined || !next) return [];
    const factor = dryingFactor(bench.air) * coatFactor(settings.coatMm);
    const hours = (r: { at: string }) => (Date.parse(r.at) - start) / 3_600_000 / factor;
    const same = kept.flatMap(r =>
      r.kind === 'ready' && r.patch === patch.code && r.step === next.step.id && r.round === next.round
        ? [r]
        : [],
    );
    if (!same.length) return [];
    const not = same.filter(r => !r.ready).map(hours);
    const ready = same.filter(r => r.ready).map(hours);
    return [{ from: Math.max(0, ...not), to: ready.length ? Math.min(...ready) : Number.POSITIVE_INFINITY }];
  });
}
