import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chanceFrom, seedOf } from './index.ts';

const many = <T>(count: number, draw: () => T): T[] => Array.from({ length: count }, draw);
const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;
const variance = (values: readonly number[]) => {
  const m = mean(values);
  return values.reduce((sum, v) => sum + (v - m) ** 2, 0) / (values.length - 1);
};

describe('a source of chance', () => {
  it('gives the same from the same seed and something else from another', () => {
    const draw = (seed: number) => many(20, chanceFrom(seed).next);
    expect(draw(7)).toEqual(draw(7));
    expect(draw(7)).not.toEqual(draw(8));
  });

  it('is uniform: mean 1/2, variance 1/12, and every tenth equally often (chi-square, 9 degrees, 0.1 %)', () => {
    const values = many(20_000, chanceFrom(3).next);
    expect(mean(values)).toBeCloseTo(0.5, 2);
    expect(variance(values)).toBeCloseTo(1 / 12, 2);
    const tenths = new Array<number>(10).fill(0);
    for (const v of values) tenths[Math.floor(v * 10)]++;
    const chi2 = tenths.reduce((sum, n) => sum + (n - 2000) ** 2 / 2000, 0);
    expect(chi2).toBeLessThan(27.88);
  });

  it('has whole numbers with both ends, and numbers between that leave the upper end out', () => {
    const chance = chanceFrom(5);
    const dice = many(600, () => chance.whole(1, 6));
    expect(new Set(dice)).toEqual(new Set([1, 2, 3, 4, 5, 6]));
    for (const v of many(600, () => chance.between(-2, 3))) {
      expect(v).toBeGreaterThanOrEqual(-2);
      expect(v).toBeLessThan(3);
    }
  });

  it('is gamma where asked: mean and variance are the shape, below one too, and nothing is below nought', () => {
    for (const shape of [0.4, 1, 3.5, 20]) {
      const chance = chanceFrom(19);
      const values = many(20_000, () => chance.gamma(shape));
      expect(Math.min(...values)).toBeGreaterThan(0);
      expect(Math.abs(mean(values) / shape - 1)).toBeLessThan(0.04);
      expect(Math.abs(variance(values) / shape - 1)).toBeLessThan(0.08);
    }
  });

  it('is normal where asked: mean, spread, and 68 and 95 in a hundred inside one and two spreads', () => {
    const chance = chanceFrom(11);
    const values = many(20_000, () => chance.normal(4, 2));
    expect(mean(values)).toBeCloseTo(4, 1);
    expect(Math.sqrt(variance(values))).toBeCloseTo(2, 1);
    const inside = (k: number) => values.filter(v => Math.abs(v - 4) < k * 2).length / values.length;
    expect(inside(1)).toBeCloseTo(0.683, 1.7);
    expect(inside(2)).toBeCloseTo(0.954, 2);
  });

  it('counts as Poisson does: mean and variance are the same', () => {
    const chance = chanceFrom(13);
    for (const lambda of [0.4, 3, 11]) {
      const counts = many(8000, () => chance.poisson(lambda));
      expect(mean(counts) / lambda).toBeCloseTo(1, 1);
      expect(variance(counts) / lambda).toBeCloseTo(1, 1);
    }
    expect(chance.poisson(0)).toBe(0);
  });

  it('shuffles without losing anything and without favour', () => {
    fc.assert(
      fc.property(fc.array(fc.integer(), { maxLength: 30 }), fc.integer(), (items, seed) => {
        const before = [...items];
        const after = chanceFrom(seed).shuffle(items);
        expect(items).toEqual(before);
        expect([...after].sort((a, b) => a - b)).toEqual([...before].sort((a, b) => a - b));
      }),
    );
    const chance = chanceFrom(17);
    const orders = new Map<string, number>();
    for (let i = 0; i < 6000; i++) {
      const key = chance.shuffle(['a', 'b', 'c']).join('');
      orders.set(key, (orders.get(key) ?? 0) + 1);
    }
    // Chi-square with 5 degrees of freedom, 0.1 %.
    const chi2 = [...orders.values()].reduce((sum, n) => sum + (n - 1000) ** 2 / 1000, 0);
    expect(orders.size).toBe(6);
    expect(chi2).toBeLessThan(20.52);
  });

  it('picks every item', () => {
    const chance = chanceFrom(19);
    expect(new Set(many(100, () => chance.pick(['a', 'b', 'c'])))).toEqual(new Set(['a', 'b', 'c']));
  });
});

describe('a seed from words', () => {
  it('is the published FNV-1a hash', () => {
    expect(seedOf('')).toBe(0x811c9dc5);
    expect(seedOf('a')).toBe(0xe40c292c);
    expect(seedOf('foobar')).toBe(0xbf9cf968);
  });
});
