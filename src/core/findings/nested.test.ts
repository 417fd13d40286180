import { describe, expect, it } from 'vitest';
import { type Nest, NO_LEVEL } from '../trial/index.ts';
import { fitModel, type Observation } from './linear-model.ts';

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
const row = (m: number, medium: number, hours: number, value: number): Observation => ({
  levels: [m, medium, hours],
  value,
});
const FIRST = [71, 83, 64, 79, 75, 86, 61, 80].map((y, i) => row(0, (i >> 1) & 1, i & 1, y));
const DATA = [
  ...FIRST,
  ...[52, 57, 49].map(y => row(1, NO_LEVEL, NO_LEVEL, y)),
  ...[88, 93, 85, 95, 90].map((y, i) => row(2, i & 1, NO_LEVEL, y)),
];

const near = (found: { value: number; standardError: number }, value: number, standardError: number) => {
  expect(found.value).toBeCloseTo(value, 8);
  expect(found.standardError).toBeCloseTo(standardError, 8);
};

describe('a fit of settings nested in methods', () => {
  it('has R’s level means, differences and scatter where every kind was made again', () => {
    const fit = fitModel(COUNTS, DATA, [], undefined, NEST)!;
    expect(fit.model).toBe('combinations');
    expect(fit.residualSd).toBeCloseTo(2.683972, 5);
    expect(fit.degreesOfFreedom).toBe(9);
    near(fit.mean(0, 0), 74.875, 0.948927269585);
    near(fit.mean(0, 2), 90.8333333333, 1.225059837289);
    // Over the methods that have the medium, each counting the same.
    near(fit.mean(1, 1), 82.5, 1.162193806748);
    expect(fit.combination([1, NO_LEVEL, NO_LEVEL]).value).toBeCloseTo(158 / 3, 10);
  });

  it('has R’s main effects where one kind was never read', () => {
    const fit = fitModel(
      COUNTS,
      DATA.filter(d => d.levels.join() !== '0,1,1'),
      [],
      undefined,
      NEST,
    )!;
    expect(fit.model).toBe('main effects');
    expect(fit.residualSd).toBeCloseTo(4.931688, 5);
    expect(fit.degreesOfFreedom).toBe(9);
    near(fit.mean(0, 0), 75.79545454545, 2.29155918439);
    near(fit.mean(0, 1), 52.66666666667, 2.84731152853);
    near(fit.mean(0, 2), 90.06818181818, 2.23043992498);
    near(fit.mean(1, 0), 83.59090909091, 1.87719491976);
    near(fit.difference(1, 1, 0), -1.31818181818, 3.32494352799);
  });

  it('counts a factor for nothing where its method does not have it', () => {
    const fit = fitModel(COUNTS, DATA, [], undefined, NEST)!;
    const shifted = DATA.map(d => (d.levels[0] === 1 ? { ...d, value: d.value + 30 } : d));
    const moved = fitModel(COUNTS, shifted, [], undefined, NEST)!;
    expect(moved.mean(1, 0).value).toBeCloseTo(fit.mean(1, 0).value, 10);
    expect(moved.difference(2, 0, 1).value).toBeCloseTo(fit.difference(2, 0, 1).value, 10);
    expect(moved.mean(0, 1).value).toBeCloseTo(fit.mean(0, 1).value + 30, 10);
  });
});
