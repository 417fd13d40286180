import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { Cancelled } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { rehearsalWords, rehearse, rehearseOthers, scatterWords } from './index.ts';

const plan = examplePlan();
const ask = { lead: 8, scatter: 5, shared: 2, fails: 0, runs: 24 };

describe('the rehearsal of a plan', () => {
  it('names the really best more often the more it is better, and the less patches differ', () => {
    const named = (part: object) => rehearse(plan, { ...ask, ...part }).factors.map(f => f.named!);
    const [small, large, even] = [named({ lead: 2 }), named({ lead: 25 }), named({ lead: 8, scatter: 1 })];
    for (const f of plan.factors.keys()) {
      expect(large[f]).toBeGreaterThan(small[f] + 0.3);
      expect(large[f]).toBeGreaterThan(0.9);
      expect(even[f]).toBeGreaterThan(0.9);
    }
  });

  it('names little where nothing differs, and is the same again from the same seed', () => {
    const once = rehearse(plan, ask);
    expect(once.falsely).toBeLessThan(0.5);
    expect(once.firmly).toBeLessThanOrEqual(1 / 24);
    expect(rehearse(plan, ask)).toEqual(once);
    expect(rehearse(plan, { ...ask, seed: 3 })).not.toEqual(once);
  });

  it('is less sure where patches fail', () => {
    const of = (fails: number) => rehearse(plan, { ...ask, lead: 12, scatter: 3, fails }).factors[1].named!;
    expect(of(0.3)).toBeLessThan(of(0));
  });

  it('says before it is made what will never be judged', () => {
    const together = examplePlan({ groupKey: 'medium', repeats: 1 });
    const found = rehearse(together, ask);
    expect(found.factors[0].named).toBeUndefined();
    expect(write(rehearsalWords(together, found)[0])).toBe(
      'Medium: this plan can never tell its levels apart, whatever comes out.',
    );
  });

  it('is shown with half and twice the scatter, which promise more and less, with its progress over both', () => {
    const heard: number[] = [];
    const [half, twice] = rehearseOthers(plan, { ...ask, runs: 20 }, share => heard.push(share));
    expect([half.scatter, twice.scatter]).toEqual([2.5, 10]);
    expect(half.found).toEqual(rehearse(plan, { ...ask, scatter: 2.5, shared: 1, runs: 20 }));
    const sum = ({ found }: typeof half) => found.factors.reduce((all, f) => all + f.named!, 0);
    expect(sum(half)).toBeGreaterThan(sum(twice) + 0.3);
    expect(heard).toEqual([...heard].sort((a, b) => a - b));
    expect(heard.at(-1)).toBeCloseTo(1, 10);
  });

  it('says of other scatters what they would do, and nothing where the plan tells nothing', () => {
    const found = (share?: number) => ({
      ...{ lead: 8, runs: 20, falsely: 0, firmly: 0 },
      factors: [{ factor: 0, name: 'Medium', ...(share === undefined ? {} : { named: share }) }],
    });
    const both = [
      { scatter: 2.5, found: found(0.9) },
      { scatter: 10, found: found(0.31) },
    ];
    expect(write(scatterWords(plan, both) ?? '')).toBe(
      'Were patches made alike to differ by 2.5 points, it names medium 9 times in 10; by 10 points, it names medium 3 times in 10.',
    );
    expect(scatterWords(plan, [{ scatter: 1, found: found() }])).toBeUndefined();
  });

  it('speaks of times in ten', () => {
    const words = (named: number, wrong: number, falsely: number) =>
      rehearsalWords(plan, {
        ...{ lead: 8, runs: 60, falsely, firmly: 0 },
        factors: [{ factor: 0, name: 'Medium', named, wrong }],
      });
    expect(words(0.72, 0.02, 0.14)).toEqual([
      'Medium: if one (say Matte acrylic medium) is really 8 points better, this trial will name it, at least 80 % sure, 7 times in 10.',
      'If nothing makes a difference, it will still lean to something once in 10, and call it firm hardly ever.',
    ]);
    expect(write(words(0.97, 0.1, 0.01)[0])).toMatch(
      /name it, at least 80 % sure, almost always, and another instead once in 10\.$/,
    );
    expect(write(words(0.97, 0.1, 0.01)[1])).toMatch(
      /still lean to something hardly ever, and call it firm hardly ever\.$/,
    );
  });

  it('tells how far it is, and stops when it is told to', () => {
    const shares: number[] = [];
    rehearse(plan, { ...ask, runs: 3 }, share => shares.push(share));
    expect(shares).toHaveLength(9);
    expect(shares.at(-1)).toBe(1);
    const stop = () => {
      throw new Cancelled();
    };
    expect(() => rehearse(plan, ask, stop)).toThrow(Cancelled);
  });
});
