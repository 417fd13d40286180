import { describe, expect, it } from 'vitest';
import { said } from '../say/testing.ts';
import { type CuttingAsk, cuttingFor } from './index.ts';

const ASK: CuttingAsk = {
  picture: { w: 100, h: 80 },
  margin: 10,
  tapeWidth: 48,
  overlap: 3,
  pieces: 6,
  stock: { w: 400, h: 300 },
  kerf: 0,
};

describe('cutting', () => {
  it('adds the margin all round and counts strips with their overlap', () => {
    const cut = cuttingFor(ASK);
    // ceil((100 − 3) / (48 − 3)) = 3 strips; 120 × 100 mm pieces, 3 × 3 of them from 400 × 300.
    expect(cut.ok && cut.value).toMatchObject({
      substrate: { w: 120, h: 100 },
      strips: 3,
      perBoard: 9,
      boards: 1,
    });
    expect(cut.ok && cut.value.waste).toBeCloseTo(1 - (6 * 12_000) / 120_000, 9);
  });

  it('turns the pieces when more come out of the stock, and minds the saw', () => {
    const turned = cuttingFor({ ...ASK, stock: { w: 250, h: 125 } });
    expect(turned.ok && turned.value.perBoard).toBe(2);
    const sawn = cuttingFor({ ...ASK, stock: { w: 360, h: 300 }, kerf: 3 });
    expect(sawn.ok && sawn.value.perBoard).toBe(6);
    const narrow = cuttingFor({ ...ASK, picture: { w: 40, h: 40 } });
    expect(narrow.ok && narrow.value.strips).toBe(1);
  });

  it.each([
    ['tape narrower than its overlap', { tapeWidth: 3, overlap: 3 }, /wider than its overlap/],
    ['stock that is too small', { stock: { w: 50, h: 50 } }, /does not come out of/],
    ['no pieces', { pieces: 0 }, /At least one/],
    ['a size that is missing', { picture: { w: Number.NaN, h: 10 } }, /sizes as numbers/],
  ])('%s has its sentence', (_, part, words) => {
    const cut = cuttingFor({ ...ASK, ...part });
    expect(said(!cut.ok && cut.problem.say)).toMatch(words);
  });
});
