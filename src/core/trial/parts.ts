import * as v from 'valibot';

const EARLIEST = Date.parse('2000-01-01T00:00:00Z');
const LATEST = Date.parse('2100-01-01T00:00:00Z');
/** A moment that a calendar knows, in a century in which somebody can have stood at a bench. */
export const iso = v.pipe(
  v.string(),
  v.maxLength(40),
  v.isoTimestamp(),
  v.check(text => Date.parse(text) >= EARLIEST && Date.parse(text) < LATEST, 'No such time.'),
);
export const patchCode = v.pipe(v.string(), v.regex(/^[0-9A-Z]{2}-[0-9A-Z]{3}$/));
export const idText = v.pipe(v.string(), v.regex(/^[0-9A-Za-z-]{1,40}$/));
export const words = (most: number) => v.pipe(v.string(), v.maxLength(most));

export const Air = v.object({
  tempC: v.pipe(v.number(), v.minValue(-10), v.maxValue(50)),
  rh: v.pipe(v.number(), v.minValue(0), v.maxValue(99)),
});

const clockTime = v.pipe(v.string(), v.regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'Write a time of day as 19:30.'));

/** Air that is expected between two times of day; on every day where no day is named. */
export const ExpectedAir = v.object({
  day: v.nullable(v.pipe(v.string(), v.isoDate('Write a day as 2026-05-02.'))),
  from: clockTime,
  to: clockTime,
  air: Air,
});
