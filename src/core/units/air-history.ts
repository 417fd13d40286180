import { type Air, dryingFactor } from './air.ts';

/** The air of a room over time: what was noted holds until the next note; before the first the one that was planned for. */
export interface AirHistory {
  readonly planned: Air;
  /** In order of time, ms. */
  readonly notes: readonly { readonly at: number; readonly air: Air }[];
}

/**
 * The air at a moment (ms).
 *
 * @example airAt({ planned: { tempC: 20, rh: 50 }, notes: [{ at: 5, air: { tempC: 15, rh: 70 } }] }, 4).tempC; // => 20
 */
export const airAt = ({ planned, notes }: AirHistory, at: number): Air =>
  notes.findLast(n => n.at <= at)?.air ?? planned;

/**
 * The history as it was known at a moment (ms): later notes left out.
 *
 * @example knownAt({ planned: { tempC: 20, rh: 50 }, notes: [{ at: 5, air: { tempC: 15, rh: 70 } }] }, 4).notes; // => []
 */
export const knownAt = (history: AirHistory, at: number): AirHistory =>
  history.notes.some(n => n.at > at) ? { ...history, notes: history.notes.filter(n => n.at <= at) } : history;

/** Stretches of one air from a moment on: how many times as long drying takes in each, and when it ends. */
function* stretches({ planned, notes }: AirHistory, from: number, power: number) {
  let air = planned;
  let at = from;
  for (const note of notes) {
    if (note.at > at) {
      yield { from: at, to: note.at, factor: dryingFactor(air) ** power };
      at = note.at;
    }
    air = note.air;
  }
  yield { from: at, to: Number.POSITIVE_INFINITY, factor: dryingFactor(air) ** power };
}

/**
 * How much drying happened between two moments (ms), in ms of the reference air: each stretch counts by its own air.
 *
 * @example driedBetween({ planned: { tempC: 21, rh: 45 }, notes: [] }, 0, 1000); // => 1000
 */
export function driedBetween(history: AirHistory, from: number, to: number, power = 1): number {
  let dried = 0;
  for (const s of stretches(history, from, power)) {
    if (s.from >= to) break;
    dried += (Math.min(s.to, to) - s.from) / s.factor;
  }
  return dried;
}

/**
 * When so much drying (ms of the reference air) has happened since a moment (ms). `power`: how strongly the wait follows
 * the drying factor; 0 for a wait by the clock.
 *
 * @example driedBy({ planned: { tempC: 21, rh: 45 }, notes: [] }, 500, 1000); // => 1500
 */
export function driedBy(history: AirHistory, from: number, reference: number, power = 1): number {
  let left = reference;
  for (const s of stretches(history, from, power)) {
    const here = (s.to - s.from) / s.factor;
    if (left <= here) return s.from + left * s.factor;
    left -= here;
  }
  return Number.POSITIVE_INFINITY;
}
