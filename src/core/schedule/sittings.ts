import * as v from 'valibot';
import { isOne, TOOLS, type Tool } from '../shelf/index.ts';
import { ALWAYS, type Span, type Spans, tidySpans } from './solver/index.ts';

const clockTime = v.pipe(v.string(), v.regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'Write a time of day as 19:30.'));

/** A time of day at which the maker is there, on some days of the week (0 is Sunday). */
export const Sitting = v.object({
  days: v.pipe(
    v.array(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(6))),
    v.minLength(1, 'Choose at least one day.'),
  ),
  from: clockTime,
  to: clockTime,
});
export type Sitting = v.InferOutput<typeof Sitting>;

/** How a maker works: when they are there, who helps, what holds how much. */
export const Working = v.object({
  /** None: whenever something is due, day or night. */
  sittings: v.optional(v.pipe(v.array(Sitting), v.maxLength(20)), []),
  helpers: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(5)), 0),
  /** Pieces an oven takes at once; null for what the shelf says of the oven. */
  ovenHolds: v.optional(v.nullable(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(100))), null),
  /** Single pieces that can lie and dry at once; null for as many as there are. */
  rackHolds: v.optional(v.nullable(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(400))), null),
  /** Patches that a tray of water takes at once; null for as many as there are. */
  trayHolds: v.optional(v.nullable(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(400))), null),
  /** Minutes to wash a brush between mediums; null for what the shelf says of the brushes. */
  washMin: v.optional(v.nullable(v.pipe(v.number(), v.minValue(0), v.maxValue(60))), null),
  /** In the plan's shuffled order, or free within a board. */
  order: v.optional(v.picklist(['plan', 'free']), 'plan'),
});
export type Working = v.InferOutput<typeof Working>;
export const USUAL_WORKING: Working = v.parse(Working, {});

/** How much holds what a maker has only so much of: a rack, a tray of water. */
export const placesOf = ({ rackHolds, trayHolds }: Working): Record<string, number> => ({
  ...(rackHolds === null ? {} : { rack: rackHolds }),
  ...(trayHolds === null ? {} : { tray: trayHolds }),
});

/** Where neither the maker nor the shelf says it: a foam brush under the tap, an oven of a craft room. */
const WASH_MIN = 2;
const OVEN_HOLDS = 3;

/**
 * How a maker works, with what they left open taken from their tools: the brush that is washed quickest, the largest
 * oven.
 *
 * @example workingWith({ sittings: [], helpers: 0, ovenHolds: null, rackHolds: null, trayHolds: null, washMin: null, order: 'plan' }, []).washMin; // => 2
 */
export function workingWith(
  working: Working,
  tools: readonly Tool[],
): Working & { washMin: number; ovenHolds: number } {
  const brushes = tools.filter(t => isOne(TOOLS.brushes, t.kind)).map(t => t.washMin);
  const ovens = tools.filter(t => isOne(TOOLS.ovens, t.kind)).map(t => t.holds);
  return {
    ...working,
    washMin: working.washMin ?? (brushes.length ? Math.min(...brushes) : WASH_MIN),
    ovenHolds: working.ovenHolds ?? (ovens.length ? Math.min(100, Math.max(...ovens)) : OVEN_HOLDS),
  };
}

const WEEKDAYS = [1, 2, 3, 4, 5];
/** Ready-made times at which people are there. */
export const SITTINGS: readonly {
  readonly id: string;
  readonly name: string;
  readonly sittings: Working['sittings'];
}[] = [
  { id: 'always', name: 'Whenever something is due', sittings: [] },
  {
    id: 'days',
    name: 'Every day, eight to ten',
    sittings: [{ days: [0, 1, 2, 3, 4, 5, 6], from: '08:00', to: '22:00' }],
  },
  {
    id: 'evenings',
    name: 'Evenings, and days at the weekend',
    sittings: [
      { days: WEEKDAYS, from: '18:30', to: '22:00' },
      { days: [0, 6], from: '09:00', to: '21:00' },
    ],
  },
  {
    id: 'weekend',
    name: 'This weekend and the next',
    sittings: [{ days: [0, 6], from: '09:00', to: '21:00' }],
  },
];

/** The last stretch goes on for good, so that a long wait is never without an end. */
const DAYS_AHEAD = 120;

/**
 * The stretches (ms) at which someone is there, from the day before `now` on, in the time of the place where this
 * runs: a sitting over a change of the clocks is an hour longer or shorter, one that ends before it begins goes past midnight.
 *
 * @example sittingsFrom([], start).length; // => 1
 */
export function sittingsFrom(sittings: readonly Sitting[], now: number): Spans {
  if (!sittings.length) return ALWAYS;
  const start = new Date(now);
  const spans: Span[] = [];
  for (let d = -1; d <= DAYS_AHEAD; d++)
    for (const sitting of sittings) {
      const day = new Date(start.getFullYear(), start.getMonth(), start.getDate() + d);
      if (!sitting.days.includes(day.getDay())) continue;
      const at = (time: string, later: number) => {
        const [h, m] = time.split(':').map(Number);
        return new Date(day.getFullYear(), day.getMonth(), day.getDate() + later, h, m).getTime();
      };
      spans.push([at(sitting.from, 0), at(sitting.to, sitting.to <= sitting.from ? 1 : 0)]);
    }
  return tidySpans(spans);
}
