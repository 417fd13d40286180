import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chanceFrom } from '../random/index.ts';
import { checkSign, codeIn, freshId, isPatchCode, patchCode, SIGNS, trialCode } from './index.ts';

const sign = fc.constantFrom(...SIGNS);

describe('codes that a pencil can write', () => {
  it('leave out the signs that look alike', () => {
    expect(SIGNS).toHaveLength(23);
    for (const twin of '01OQILBSGZUV5') expect(SIGNS).not.toContain(twin);
  });

  it('catch every single wrong sign', () => {
    fc.assert(
      fc.property(fc.tuple(sign, sign, sign, sign), fc.nat(3), sign, (body, at, wrong) => {
        fc.pre(body[at] !== wrong);
        const changed = [...body];
        changed[at] = wrong;
        expect(checkSign(changed.join(''))).not.toBe(checkSign(body.join('')));
      }),
    );
  });

  it('catch two neighbours that were swapped', () => {
    fc.assert(
      fc.property(fc.tuple(sign, sign, sign, sign), fc.nat(2), (body, at) => {
        fc.pre(body[at] !== body[at + 1]);
        const swapped = [...body];
        [swapped[at], swapped[at + 1]] = [swapped[at + 1], swapped[at]];
        expect(checkSign(swapped.join(''))).not.toBe(checkSign(body.join('')));
      }),
    );
  });

  it('are read back in lower case and without the dash', () => {
    const code = patchCode(trialCode(chanceFrom(3)), 17);
    expect(isPatchCode(code)).toBe(true);
    expect(isPatchCode(code.toLowerCase().replace('-', ''))).toBe(true);
    expect(isPatchCode('K7-000')).toBe(false);
  });

  it('are found in file names', () => {
    const codes = [patchCode('K7', 0), patchCode('K7', 1)];
    expect(codeIn(`${codes[1].toLowerCase()} dry.jpg`, codes)).toBe(codes[1]);
    expect(codeIn('IMG_2041.jpg', codes)).toBeUndefined();
  });

  it('differ for all patches of a trial', () => {
    expect(new Set(Array.from({ length: 400 }, (_, i) => patchCode('K7', i))).size).toBe(400);
    expect(freshId(() => 0.5)).toHaveLength(12);
  });
});
