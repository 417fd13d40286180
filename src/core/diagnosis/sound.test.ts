import { describe, expect, it } from 'vitest';
import { ProblemError } from '../outcome/index.ts';
import type { Cause } from './causes.ts';
import { isTroubled, soundRatio } from './explain.ts';
import { explainCase } from './index.ts';
import { infer } from './infer.ts';

const cause = (id: string, weight: number, signal: 'roundShare' | 'veil' = 'veil'): Cause => ({
  id,
  name: id,
  prior: -2,
  evidence: [{ signal, above: 0.3, weight, say: 'Seen.' }],
  check: '',
  rescue: '',
  prevent: '',
});
const told = (landed: number, more: object = {}, rest: object = {}) => {
  const found = explainCase({
    ...{ id: 'a', method: 'wet-rub', reading: { landed, veil: 0.03, bareShapes: { round: 1 }, ...more } },
    ...rest,
  });
  if (!found.ok) throw new ProblemError(found.problem);
  return found.value;
};

describe('a piece on which nothing was amiss', () => {
  it('is one explanation among others, with twice the odds of all of them together', () => {
    const [a, b] = [cause('a', 1), cause('b', -1)];
    const { causes, nothingWrong, somethingElse } = infer([a, b], { veil: 0.5 }, [], 0.7);
    // What speaks counts 1.6 times: e^(−2 + 1.6) for one, e^(−2 − 1.6) for the other, half of the product for both.
    const [one, other] = [Math.exp(-0.4), Math.exp(-3.6)];
    const both = 0.5 * one * other;
    const sound = 0.7 * 2 * (2 * Math.exp(-2));
    const all = one + other + both + sound + Math.exp(-0.8);
    expect(nothingWrong).toBeCloseTo(sound / all, 6);
    expect(somethingElse).toBeCloseTo(Math.exp(-0.8) / all, 6);
    expect(causes.map(c => c.likely)).toEqual([
      expect.closeTo((one + both) / all, 6),
      expect.closeTo((other + both) / all, 6),
    ]);
    expect(infer([a, b], { veil: 0.5 }).nothingWrong).toBe(0);
  });

  it('leaves the shapes of its causes, each as often as it comes', () => {
    const causes = [cause('a', 1, 'roundShare'), cause('b', 0.5, 'veil')];
    const sound = (signals: object) => {
      const found = infer(causes, signals, [], 0.7);
      return found.nothingWrong / found.somethingElse;
    };
    const odds = (shapes: number) => (0.7 * 2 * (Math.exp(-2) * shapes + Math.exp(-2))) / Math.exp(-0.8);
    expect(sound({})).toBeCloseTo(odds(1), 6);
    // Round spots are as much likelier of it as half of its causes make them; how much veil there is was asked already.
    expect(sound({ roundShare: 0.5, veil: 0.5 })).toBeCloseTo(odds(Math.exp(1.6)), 6);
  });

  it('is the less likely the more is lost: exponentially, as a usual hand loses', () => {
    // 0.05 lost of which a usual hand loses 0.03 and a failure 0.3: ten times e^(−5/3).
    expect(soundRatio({ bareShare: 0.05 })).toBeCloseTo(10 * Math.exp(-5 / 3), 6);
    expect(soundRatio({ bareShare: 0.04, veil: 0.08, tone: 12, smear: 0.08, edgeLoss: 0.15 })).toBe(1);
    expect(soundRatio({ bareShare: 0.05, veil: 0.1 })).toBeCloseTo(
      10 * Math.exp(-5 / 3) * 7.5 * Math.exp(-2.5),
      6,
    );
    expect(soundRatio({ tone: 14 })).toBeCloseTo((30 / 7) * Math.exp(-2), 6);
    expect(soundRatio({ smear: 0.1 })).toBeCloseTo(15 * Math.exp(-2.5), 6);
    expect(soundRatio({ edgeLoss: 0.2 })).toBeCloseTo(10 * Math.exp(-4), 6);
  });

  it('is none where somebody saw something wrong, or it is backwards', () => {
    expect(soundRatio({ 'symptom:bare-patches': 1 })).toBe(0);
    expect(soundRatio({ bareShare: 0.01, mirrored: 1 })).toBe(0);
    expect(told(96, {}, { symptoms: ['bare-patches'] }).nothingWrong).toBe(0);
  });

  it('is said of little loss, not of much, and less so once the tell-tale was seen', () => {
    expect(isTroubled({ bareShare: 0.05 })).toBe(true);
    const little = told(95.5, { bareShapes: undefined });
    expect(little.nothingWrong).toBeGreaterThan(0.5);
    expect(told(97).nothingWrong).toBeGreaterThan(0.95);
    expect(told(70).nothingWrong).toBeLessThan(0.01);
    const seen = told(95.5, { bareShapes: undefined }, { answers: { 'check:air-bubbles': 'yes' } });
    expect(seen.nothingWrong).toBeLessThan(little.nothingWrong - 0.05);
  });

  it('is not told by the shape of so little that nobody would mind, until somebody does', () => {
    const of = (round: number, rest: object = {}) =>
      told(96.5, { veil: 0.25, bareShapes: { round, speckle: 1 - round } }, rest).causes;
    expect(of(0.9)).toEqual(of(0.1));
    const ticked = { symptoms: ['bare-patches'] };
    expect(of(0.9, ticked)).not.toEqual(of(0.1, ticked));
    const more = (round: number) => told(95.5, { veil: 0.25, bareShapes: { round } }).causes;
    expect(more(0.9)).not.toEqual(more(0.1));
  });
});
