import { describe, expect, it } from 'vitest';
import { said } from '../say/testing.ts';
import { chanceOf, fPower, ladder, noticeable, piecesFor, tPower } from './index.ts';

// Reference values: R, power.t.test(strict = TRUE) and power.anova.test; docs/reference/design-reference.R.
describe('power', () => {
  it.each([
    [3, 5, 0.125292],
    [3, 10, 0.347139],
    [6, 5, 0.257401],
    [6, 10, 0.739668],
    [12, 5, 0.496807],
    [12, 10, 0.973725],
  ])('of two groups of %i, %i apart with a scatter of 6, is that of R', (n, apart, reference) => {
    expect(tPower(apart / (6 * Math.sqrt(2 / n)), 2 * n - 2)).toBeCloseTo(reference, 5);
  });

  it.each([
    [3, 18.42535],
    [6, 10.77326],
    [12, 7.18087],
    [20, 5.45478],
  ])('notices 8 times in 10, with groups of %i, the difference R gives', (n, reference) => {
    expect(noticeable(2 * n - 2) * 6 * Math.sqrt(2 / n)).toBeCloseTo(reference, 3);
  });

  it.each([
    [2, 3, 0.170961],
    [2, 6, 0.378906],
    [3, 3, 0.229957],
    [3, 6, 0.540413],
    [4, 3, 0.287381],
    [4, 6, 0.667753],
  ])('of %i groups of %i in an analysis of variance is that of R', (groups, n, reference) => {
    const noncentrality = ((groups - 1) * n * 20) / 36;
    expect(fPower(noncentrality, groups - 1, groups * (n - 1))).toBeCloseTo(reference, 5);
  });

  it('is nothing when nothing is left to judge chance by', () => {
    expect(noticeable(0)).toBe(Number.POSITIVE_INFINITY);
  });
});

describe('pieces for two good ones', () => {
  it.each([
    [2, 4, 3, 5, 0.73809524],
    [2, 3, 1, 4, 0.28571429],
    [3, 8, 7, 10, 0.94510598],
  ])('%i of %i after %i good of %i has the chance R gives', (wanted, made, seenGood, seen, reference) => {
    expect(chanceOf(wanted, made, seenGood, seen)).toBeCloseTo(reference, 7);
  });

  it('is certain of none, and never gets more out than was made', () => {
    expect(chanceOf(0, 5, 1, 9)).toBe(1);
    expect(chanceOf(6, 5, 9, 9)).toBe(0);
    // With a uniform prior and nothing seen, every count of good ones is as likely as any other.
    for (const k of [1, 2, 3, 4]) expect(chanceOf(k, 4, 0, 0)).toBeCloseTo((5 - k) / 5, 10);
  });

  it('is more than k over p, and more when less has been seen', () => {
    const sure = piecesFor(2, 50, 100);
    const guess = piecesFor(2, 1, 2);
    expect(sure.ok && sure.value.pieces).toBe(7);
    expect(guess.ok && guess.value.pieces).toBeGreaterThan(10);
  });

  it.each([
    ['no good one wanted', 0, 1, 2, /at least one/],
    ['more good than seen', 2, 3, 2, /more good/],
    ['half pieces', 2, 0.5, 2, /whole numbers/],
    ['hopeless odds', 20, 0, 40, /would not be enough/],
  ])('%s has its sentence', (_, wanted, good, seen, words) => {
    const result = piecesFor(wanted, good, seen);
    expect(said(!result.ok && result.problem.say)).toMatch(words);
  });
});

describe('a ladder', () => {
  it('goes in equal ratios round the guess', () => {
    expect(ladder(45, 5)).toEqual([15, 26, 45, 78, 130]);
    expect(new Set(ladder(0.0125, 8)).size).toBe(8);
  });

  it('asks for no piece more where the last one is exactly enough', () => {
    // With a uniform prior the next piece is good with (good + 1) / (seen + 2).
    for (const [good, seen] of [
      [2, 2],
      [5, 6],
      [8, 10],
      [8, 8],
      [18, 18],
      [0, 0],
      [3, 5],
    ]) {
      const certainty = (good + 1) / (seen + 2);
      const exact = piecesFor(1, good, seen, certainty);
      expect(exact.ok && exact.value.pieces, `${good} of ${seen}`).toBe(1);
      const more = piecesFor(1, good, seen, certainty + 1e-6);
      expect(more.ok && more.value.pieces, `${good} of ${seen}`).toBe(2);
    }
  });
});
