import type { Chance } from '../random/index.ts';

/**
 * The 23 signs a code is written with. Left out because a pencil confuses them:
 * 0/O/Q, 1/I/L, 5/S, 8/B, 6/G, 2/Z and U/V. 23 is prime, which the check sign needs.
 */
export const SIGNS = '234679ACDEFHJKMNPRTWXY8'.split('').sort().join('');

const N = SIGNS.length;

/**
 * The check sign for a body of signs: weighted sum modulo the prime 23 with weights 2, 3, 4…
 * Any single wrong sign and any swap of two neighbours changes it (as in ISO 7064's pure systems).
 *
 * @example checkSign('K73A'); // => 'E'
 */
export function checkSign(body: string): string {
  let sum = 0;
  for (let i = 0; i < body.length; i++) sum += (i + 2) * SIGNS.indexOf(body[i]);
  return SIGNS[sum % N];
}

/**
 * A trial's two-sign code, e.g. `K7`.
 *
 * @example trialCode(chance).length; // => 2
 */
export const trialCode = (chance: Chance): string =>
  SIGNS[chance.whole(0, N - 1)] + SIGNS[chance.whole(0, N - 1)];

/**
 * A patch's code, e.g. `K7-3AF`: trial, running number in two signs, check sign. Number from 0 to 528.
 *
 * @example patchCode('K7', 0); // => 'K7-22P'
 */
export function patchCode(trial: string, number: number): string {
  const running = SIGNS[Math.floor(number / N)] + SIGNS[number % N];
  return `${trial}-${running}${checkSign(trial + running)}`;
}

/**
 * Whether a pencilled code is a real one; accepts lower case and a missing dash.
 *
 * @example isPatchCode(patch.code.toLowerCase().replace('-', '')); // => true
 */
export function isPatchCode(text: string): boolean {
  const signs = text.toUpperCase().replace(/[^0-9A-Z]/g, '');
  return (
    signs.length === 5 &&
    [...signs].every(sign => SIGNS.includes(sign)) &&
    checkSign(signs.slice(0, 4)) === signs[4]
  );
}

/**
 * The codes from `known` that stand in a piece of text such as a file name.
 *
 * @example codeIn('IMG k7-3af.jpg', ['K7-3AF']); // => 'K7-3AF'
 */
export function codeIn(text: string, known: readonly string[]): string | undefined {
  const bare = text.toUpperCase().replace(/[^0-9A-Z]/g, '');
  return known.find(code => bare.includes(code.replace('-', '')));
}

/**
 * A random identifier of 12 signs for things nobody writes by hand.
 *
 * @example freshId(() => 0); // => '222222222222'
 */
export function freshId(random: () => number): string {
  let id = '';
  for (let i = 0; i < 12; i++) id += SIGNS[Math.floor(random() * N)];
  return id;
}
