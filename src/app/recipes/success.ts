import { successOf } from '../../core/recipe-book/index.ts';

/** How often it comes out good, in words, with what that rests on. */
export function successWords(seen: { readonly good: number; readonly of: number }): string {
  if (!seen.of) return 'Nothing made by it was judged yet.';
  const { value, lo, hi } = successOf(seen);
  const pct = (v: number) => Math.round(100 * v);
  return `${seen.good} of ${seen.of} came out good: of the next ones about ${pct(value)} in 100 will (${pct(lo)} to ${pct(hi)}, nine times in ten).`;
}
