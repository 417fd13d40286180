import { waitsForDrying } from '../methods/index.ts';
import { settingsOf, type TrialPlan } from '../trial/index.ts';
import { coatFactor, dryingFactor } from '../units/index.ts';
import type { Drying } from './learn.ts';

/** When the coats of one medium are likely dry, as they lie in a trial. */
export interface DryingHint {
  readonly medium: string;
  /** Thinnest and thickest coat, mm. */
  readonly coatMm: readonly [number, number];
  /** Nine in ten, in the air of the plan: the thinnest coat at the soonest, the thickest at the latest, hours. */
  readonly hours: readonly [number, number];
  /** How many answers of the maker's own it rests on. */
  readonly answers: number;
}

/**
 * When the mediums of a trial are likely dry in its air, each by the coats it really lies in: that of the method it is
 * used with, or those that are compared. `learnt`: in the reference air, by the medium's id. Only of methods that wait
 * for a coat to dry.
 *
 * @example dryingHints(plan, new Map()); // => []
 */
export function dryingHints(plan: TrialPlan, learnt: ReadonlyMap<string, Drying>): DryingHint[] {
  const coats = new Map<string, { name: string; mm: number[] }>();
  for (const patch of plan.patches) {
    const { method, medium, coatMm } = settingsOf(plan, patch);
    if (!waitsForDrying(method) || !learnt.has(medium.id)) continue;
    const seen = coats.get(medium.id) ?? { name: medium.name, mm: [] };
    seen.mm.push(coatMm);
    coats.set(medium.id, seen);
  }
  const air = dryingFactor(plan.air);
  return [...coats].map(([id, { name, mm }]) => {
    const { lo, hi, answers } = learnt.get(id)!;
    const coatMm = [Math.min(...mm), Math.max(...mm)] as const;
    const hours = [lo * air * coatFactor(coatMm[0]), hi * air * coatFactor(coatMm[1])] as const;
    return { medium: name, coatMm, hours, answers };
  });
}
