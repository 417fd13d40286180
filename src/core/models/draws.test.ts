import { describe, expect, it } from 'vitest';
import { chanceFrom } from '../random/index.ts';
import { decide, type More } from './index.ts';

const model = { counts: [3, 2], pairs: [], nest: undefined };
const options = [0, 1, 2].flatMap(m => [0, 1].map(w => [m, w]));

/** Patches of every option on two boards, some of which failed. */
function madeWith(seed: number, fails: number) {
  const chance = chanceFrom(seed);
  const shift = [2, -2];
  return [0, 1].flatMap(board =>
    options.map(levels => ({
      ...{ levels, shares: [`${board}`] },
      value: 70 - 6 * levels[0] + 4 * levels[1] + shift[board] + 4 * chance.normal(),
      failed: chance.next() < fails,
    })),
  );
}
const decided = (all: ReturnType<typeof madeWith>, draws: number, worlds?: number) =>
  decide({
    ...{ model, options, better: 'high', bounds: [0, 100], draws },
    cases: all.filter(p => !p.failed),
    failure: { cases: all, worth: 0 },
    ...(worlds ? { worlds } : {}),
  });

describe('what a decision would be with some patches more', () => {
  it('is what it is with nothing more', () => {
    const now = decided(madeWith(1, 0.2), 2000, 20);
    const later = now.after!([]);
    expect(later.draws).toBe(2000);
    for (const [f, levels] of now.levels.entries())
      for (const [l, { best, loss }] of levels.entries()) {
        expect(later.levels[f][l].best).toBeCloseTo(best, 9);
        expect(later.levels[f][l].loss).toBeCloseTo(loss, 6);
      }
    expect(later.matters[0]).toBeCloseTo(now.matters[0], 9);
    for (const [i, o] of now.options.entries()) expect(later.values[i]).toBeCloseTo(o.value, 6);
  });

  // The same patches judged in one go by the sampler itself.
  for (const [name, seed, more] of [
    ['that speak for another', 2, [62, 61, 82, 84]],
    ['that say what was said', 3, [80, 78, 64, 60]],
    ['one of which failed', 4, [75, undefined, 70, 69]],
  ] as const)
    it(`is what it is when they are there: ${name}`, () => {
      const made = madeWith(seed, 0.25);
      const list: More[] = more.map((value, i) => ({ option: i < 2 ? 1 : 3, value }));
      const weighed = decided(made, 6000, 20).after!(list);
      const whole = decided(
        [
          ...made,
          ...list.map(({ option, value }) => ({
            ...{ levels: options[option], shares: ['more'] },
            ...{ value: value ?? 0, failed: value === undefined },
          })),
        ],
        6000,
      );
      for (const [f, levels] of whole.levels.entries())
        for (const [l, { best, loss }] of levels.entries()) {
          expect(Math.abs(weighed.levels[f][l].best - best)).toBeLessThan(0.1);
          expect(Math.abs(weighed.levels[f][l].loss - loss)).toBeLessThan(2);
        }
      for (const [i, o] of whole.options.entries())
        expect(Math.abs(weighed.values[i] - o.value)).toBeLessThan(4);
      for (const [f, m] of whole.matters.entries())
        expect(Math.abs(weighed.matters[f] - m)).toBeLessThan(0.06);
    });
});
