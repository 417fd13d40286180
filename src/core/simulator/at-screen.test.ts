import { describe, expect, it } from 'vitest';
import { METHODS } from '../methods/index.ts';
import { deviationsOf, progressOf } from '../progress/index.ts';
import { planOf } from '../questions/example.ts';
import { USUAL_WORKING } from '../schedule/index.ts';
import { DISTRACTED, type Distraction, watched } from './at-screen.ts';

const T0 = new Date(2026, 4, 2, 9, 0).getTime();
const NOTHING: Distraction = {
  ...{ sd: 0, away: 0, awayMin: 0, gone: 0, doubled: 0, elbow: 0, undone: 0 },
  ...{ notNow: 0, chosen: 0, reloaded: 0, spoilt: 0 },
};
const OFTEN: Distraction = {
  ...DISTRACTED,
  gone: 0.15,
  doubled: 0.3,
  elbow: 0.15,
  reloaded: 0.2,
  undone: 0.15,
};

describe('a maker before the screen of the bench', () => {
  it.each(METHODS.map(m => m.id))(
    'who does what it says of %s, when it says so, ends on time with one press for each step',
    method => {
      const whole = planOf(method);
      const plan = { ...whole, patches: whole.patches.slice(0, 2) };
      const { presses, records, wrong, asked, trials } = watched([plan], USUAL_WORKING, NOTHING, {
        ...{ seed: 1, start: T0 },
      });
      expect([presses, wrong, asked]).toEqual([records, [], 0]);
      expect(deviationsOf(plan, trials[0].records)).toEqual([]);
      for (const { doneAt } of progressOf(plan, trials[0].records).lines)
        expect(doneAt).not.toContain(undefined);
    },
  );

  it.each([['tape-lift']])(
    'who is called away, doubles presses, leans on it and reloads never has another patch of %s recorded',
    method => {
      const { wrong, asked, presses, records } = watched([planOf(method)], USUAL_WORKING, OFTEN, {
        ...{ seed: 3, start: T0 },
      });
      expect(wrong).toEqual([]);
      expect(asked).toBeGreaterThan(3);
      expect(records).toBeLessThan(presses);
    },
  );

  it('of two trials has every step recorded in its own', () => {
    const plans = [planOf('hot-body'), planOf('solvent-bloom', 0.7)];
    expect(plans[0].id).not.toBe(plans[1].id);
    const { wrong, trials } = watched(plans, USUAL_WORKING, OFTEN, { seed: 5, start: T0 });
    expect(wrong).toEqual([]);
    trials.forEach(({ plan, records }, i) => {
      const codes = new Set(plans[i].patches.map(p => p.code));
      expect(records.every(r => r.patch !== null && codes.has(r.patch))).toBe(true);
      expect(progressOf(plan, records).lines.every(l => l.spoilt || !l.doneAt.includes(undefined))).toBe(
        true,
      );
    });
  });
});
