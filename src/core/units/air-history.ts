import { type Air, dryingFactor } from './air.ts';

/** Air that is expected between two times of day, as hours on the wall: on one day (2026-05-02), or on every day where it is null. */
export interface ExpectedAir {
  readonly day: string | null;
  readonly from: string;
  readonly to: string;
  readonly air: Air;
}

/** The air of a room over time: what was noted holds until the next note; before the first the one that was planned for. */
export interface AirHistory {
  readonly planned: Air;
  /** In order of time, ms. */
  readonly notes: readonly { readonly at: number; readonly air: Air }[];
  /** What was expected, in order of the moments (ms) at which it was said; each takes the place of the one before. */
  readonly forecasts?: readonly { readonly at: number; readonly expected: readonly ExpectedAir[] }[];
}

/**
 * The air at a moment (ms). Within expected hours it is the expected one until another is noted; after them again what
 * was noted last outside of them.
 *
 * @example airAt({ planned: { tempC: 20, rh: 50 }, notes: [{ at: 5, air: { tempC: 15, rh: 70 } }] }, 4).tempC; // => 20
 */
export const airAt = (history: AirHistory, at: number): Air =>
  changesOf(history).findLast(n => n.at <= at)?.air ?? history.planned;

/**
 * The history as it was known at a moment (ms): later notes and forecasts left out.
 *
 * @example knownAt({ planned: { tempC: 20, rh: 50 }, notes: [{ at: 5, air: { tempC: 15, rh: 70 } }] }, 4).notes; // => []
 */
export function knownAt(history: AirHistory, at: number): AirHistory {
  const { notes, forecasts = [] } = history;
  if (!notes.some(n => n.at > at) && !forecasts.some(f => f.at > at)) return history;
  const then = {
    ...history,
    notes: notes.filter(n => n.at <= at),
    forecasts: forecasts.filter(f => f.at <= at),
  };
  // The same object for the same knowledge, so that it is worked out once.
  const known = earlier.get(history) ?? new Map<string, AirHistory>();
  earlier.set(history, known);
  const key = `${then.notes.length} ${then.forecasts.length}`;
  if (!known.has(key)) known.set(key, then);
  return known.get(key)!;
}

const earlier = new WeakMap<AirHistory, Map<string, AirHistory>>();

const DAY = 86_400_000;
/** So far ahead of the last thing that was said does a forecast for every day go. */
const DAYS_AHEAD = 120;

/** Every moment at which the air becomes another, in order of time: notes, and the beginnings and ends of what was expected. */
function changesOf(history: AirHistory): AirHistory['notes'] {
  const { notes, forecasts = [], planned } = history;
  if (!forecasts.length) return notes;
  const known = worked.get(history);
  if (known) return known;
  const ends = Math.max(...forecasts.map(f => f.at), ...notes.map(n => n.at)) + DAYS_AHEAD * DAY;
  const stretches = forecasts.flatMap((f, i) => stretchesOf(f, forecasts[i + 1]?.at ?? ends));
  const within = (at: number) => stretches.findLast(s => s.from <= at && at < s.to);
  const outside = notes.filter(n => !within(n.at));
  const at = (moment: number): Air => {
    const expected = within(moment);
    const noted = (expected ? notes : outside).findLast(n => n.at <= moment);
    return expected && !(noted && noted.at >= expected.from) ? expected.air : (noted?.air ?? planned);
  };
  const moments = [...notes.map(n => n.at), ...stretches.flatMap(s => [s.from, s.to])];
  const changes = [...new Set(moments)].sort((a, b) => a - b).map(m => ({ at: m, air: at(m) }));
  worked.set(history, changes);
  return changes;
}

/** What was worked out once: a history never changes. */
const worked = new WeakMap<AirHistory, AirHistory['notes']>();

/** The stretches (ms) of a forecast from the moment it was said until it no longer holds; later ones of the list go before. */
function stretchesOf({ at, expected }: NonNullable<AirHistory['forecasts']>[number], until: number) {
  const first = new Date(at);
  const days = Math.ceil((until - at) / DAY) + 1;
  return expected.flatMap(({ day, from, to, air }) =>
    (day === null ? Array.from({ length: days + 1 }, (_, d) => d - 1) : [0]).flatMap(d => {
      const [y, m, dd] =
        day === null ? [first.getFullYear(), first.getMonth(), first.getDate() + d] : dateOf(day);
      const clock = (time: string, later: number) => {
        const [hours, minutes] = time.split(':').map(Number);
        return new Date(y, m, dd + later, hours, minutes).getTime();
      };
      const begins = Math.max(at, clock(from, 0));
      const stops = Math.min(until, clock(to, to <= from ? 1 : 0));
      return stops > begins ? [{ from: begins, to: stops, air }] : [];
    }),
  );
}

function dateOf(day: string): [number, number, number] {
  const [y, m, d] = day.split('-').map(Number);
  return [y, m - 1, d];
}

/** Stretches of one air from a moment on: how many times as long drying takes in each, and when it ends. */
function* stretches(history: AirHistory, from: number, power: number) {
  let air = history.planned;
  let at = from;
  for (const note of changesOf(history)) {
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
