import { describe, expect, it } from 'vitest';
import { type Case, fitCases, type ModelFit } from '../models/index.ts';
import { type Nest, NO_LEVEL } from '../trial/index.ts';

/** Method; medium in the first and third, hours in the first alone: the data of docs/reference/nested.R. */
const NEST: Nest = {
  by: 0,
  has: [
    [true, true, true],
    [true, false, true],
    [true, false, false],
  ],
};
const COUNTS = [3, 2, 2];
const row = (m: number, medium: number, hours: number, value: number): Case => ({
  levels: [m, medium, hours],
  value,
});
const FIRST = [71, 83, 64, 79, 75, 86, 61, 80].map((y, i) => row(0, (i >> 1) & 1, i & 1, y));
const DATA = [
  ...FIRST,
  ...[52, 57, 49].map(y => row(1, NO_LEVEL, NO_LEVEL, y)),
  ...[88, 93, 85, 95, 90].map((y, i) => row(2, i & 1, NO_LEVEL, y)),
];

const near = (found: { value: number; se: number } | undefined, value: number, se: number) => {
  expect(found!.value).toBeCloseTo(value, 8);
  expect(found!.se).toBeCloseTo(se, 8);
};
const MODEL = { counts: COUNTS, pairs: [], nest: NEST };
const mean = (fit: ModelFit, f: number, l: number) => fit.mean(new Map([[f, l]]));

describe('a fit of settings nested in methods', () => {
  it('has R’s main effects where one kind was never read', () => {
    const fit = fitCases(
      MODEL,
      DATA.filter(d => d.levels.join() !== '0,1,1'),
    )!;
    expect(Math.sqrt(fit.residualVariance)).toBeCloseTo(4.931688, 5);
    expect(mean(fit, 0, 0)!.df).toBe(9);
    near(mean(fit, 0, 0), 75.79545454545, 2.29155918439);
    near(mean(fit, 0, 1), 52.66666666667, 2.84731152853);
    near(mean(fit, 0, 2), 90.06818181818, 2.23043992498);
    // Over the methods that have the medium, each counting the same.
    near(mean(fit, 1, 0), 83.59090909091, 1.87719491976);
    near(fit.difference(1, 1, 0), -1.31818181818, 3.32494352799);
  });

  it('counts a factor for nothing where its method does not have it', () => {
    const fit = fitCases(MODEL, DATA)!;
    const shifted = DATA.map(d => (d.levels[0] === 1 ? { ...d, value: d.value + 30 } : d));
    const moved = fitCases(MODEL, shifted)!;
    expect(mean(moved, 1, 0)!.value).toBeCloseTo(mean(fit, 1, 0)!.value, 10);
    expect(moved.difference(2, 0, 1)!.value).toBeCloseTo(fit.difference(2, 0, 1)!.value, 10);
    expect(mean(moved, 0, 1)!.value).toBeCloseTo(mean(fit, 0, 1)!.value + 30, 10);
    expect(fit.combination([1, NO_LEVEL, NO_LEVEL])!.value).toBeCloseTo(158 / 3, 10);
  });
});
