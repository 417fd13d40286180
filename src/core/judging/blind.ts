import { chanceFrom, seedOf } from '../random/index.ts';

/**
 * Patches in the order in which they are shown to a judge who does not know which is which: a shuffle of its own for each
 * judge, the same again when the page is opened anew (Fisher–Yates).
 *
 * @example blindOrder('trial', 'the bosun', ['a', 'b', 'c']).length; // => 3
 */
export function blindOrder(trial: string, judge: string, codes: readonly string[]): string[] {
  const chance = chanceFrom(seedOf(`${trial} blind ${judge}`));
  const out = [...codes];
  for (let i = out.length - 1; i > 0; i--) {
    const j = chance.whole(0, i);
    [out[i], out[j]] = [out[j], out[i]];
  }
  return out;
}
