import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { planOf } from '../questions/example.ts';
import type { TrialPlan, TrialRecord } from '../trial/index.ts';
import { mostRounds, progressOf, roundNow } from './index.ts';

const done = (plan: TrialPlan, count: number) => {
  const [line] = progressOf(plan, []).lines;
  const records = line.chain.slice(0, count).map(
    ({ step, round }, i): TrialRecord => ({
      ...{ id: `r${i}`, at: new Date(1e12 + i * 1e6).toISOString(), kind: 'step' as const },
      ...{ patch: line.patch.code, step: step.id, round },
    }),
  );
  return progressOf(plan, records).lines.find(l => l.patch.code === line.patch.code)!;
};

describe('the round a photo is taken after', () => {
  it('is the last one of which anything was done, else the last of the plan', () => {
    const plan = examplePlan();
    const { chain } = done(plan, 0);
    const second = chain.findIndex(l => l.round === 2);
    expect(mostRounds(progressOf(plan, []).lines)).toBe(2);
    expect(roundNow(done(plan, 0))).toBe(2);
    expect(roundNow(done(plan, second))).toBe(1);
    expect(roundNow(done(plan, second + 1))).toBe(2);
  });

  it('is the only one where there are none, or one', () => {
    const film = planOf('film-pull');
    expect(mostRounds(progressOf({ ...film, usual: { ...film.usual, rounds: 1 } }, []).lines)).toBe(1);
    expect(mostRounds(progressOf(planOf('backing-print'), []).lines)).toBeLessThan(2);
    expect(roundNow(done(planOf('backing-print'), 0))).toBe(1);
    expect(mostRounds([])).toBe(0);
  });

  it('goes as far as the patch with the most rounds', () => {
    const plan = examplePlan({ factors: [{ key: 'rounds', levels: [1, 4] }] });
    expect(mostRounds(progressOf(plan, []).lines)).toBe(4);
  });
});
