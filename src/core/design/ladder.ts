/**
 * Times for a ladder around a best guess: `count` values in equal ratios from a third of it to three times it,
 * rounded to what a clock or a ruler shows. Units are those of the guess.
 *
 * @example ladder(30, 3).length; // => 3
 */
export function ladder(guess: number, count: number, reach = 3): number[] {
  const ratio = reach ** (2 / (count - 1));
  const rungs = Array.from({ length: count }, (_, i) => tidy((guess / reach) * ratio ** i));
  return [...new Set(rungs)];
}

/** Two significant figures. */
function tidy(value: number): number {
  const digits = 10 ** (Math.floor(Math.log10(value)) - 1);
  return Number((Math.round(value / digits) * digits).toPrecision(3));
}
