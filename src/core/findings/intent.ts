import type { MeasureId } from '../measures/index.ts';
import type { Intent } from '../trial/index.ts';

/**
 * How much a measure is wanted: nothing below `none` and beyond `end`, all from `full` on (to `to`, where more is not
 * better); between them by a power. `weight` among the others.
 */
export interface Desired {
  readonly none: number;
  readonly full: number;
  readonly to?: number;
  readonly end?: number;
  readonly power: number;
  readonly weight: number;
}

/** What is wanted of each measure. */
export type Wanted = Partial<Record<MeasureId, Desired>>;

/** What each intent asks of the measures; docs/MATHS.md says why. */
export const DESIRED: Record<Intent, Wanted> = {
  crisp: {
    landed: { none: 30, full: 100, power: 1.5, weight: 1 },
    veil: { none: 0.6, full: 0, power: 1, weight: 0.8 },
  },
  worn: {
    landed: { none: 20, full: 75, to: 92, end: 120, power: 1, weight: 1 },
    veil: { none: 0.9, full: 0.1, power: 1, weight: 0.3 },
  },
  painterly: {
    landed: { none: 25, full: 95, power: 1, weight: 1 },
    veil: { none: 0.8, full: 0.05, power: 1, weight: 0.4 },
  },
};

/**
 * How desirable a value is, 0 to 1 (Derringer & Suich 1980, J. Qual. Technol. 12:214).
 *
 * @example desirability({ none: 20, full: 60, power: 1, weight: 1 }, 40); // => 0.5
 */
export function desirability({ none, full, to, end, power }: Desired, value: number): number {
  const rise = Math.min(1, Math.max(0, (value - none) / (full - none)));
  const fall =
    to !== undefined && end !== undefined ? Math.min(1, Math.max(0, (end - value) / (end - to))) : 1;
  return Math.min(rise, fall) ** power;
}

/**
 * How well a reading is what was wanted, 0 to 100: the weighted geometric mean of the desirability of each measure that
 * it has; nothing without landed.
 *
 * @example worthOf('crisp', { landed: 100, veil: 0 }); // => 100
 */
export function worthOf(
  wanted: Intent | Wanted,
  reading: Readonly<Partial<Record<MeasureId, number | null>>>,
): number | undefined {
  if (reading.landed == null) return undefined;
  let sum = 0;
  let weights = 0;
  for (const [id, desired] of Object.entries(typeof wanted === 'string' ? DESIRED[wanted] : wanted) as [
    MeasureId,
    Desired,
  ][]) {
    const value = reading[id];
    if (value == null) continue;
    sum += desired.weight * Math.log(Math.max(1e-9, desirability(desired, value)));
    weights += desired.weight;
  }
  return weights > 0 ? 100 * Math.exp(sum / weights) : undefined;
}
