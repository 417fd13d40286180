import { describe, expect, it } from 'vitest';
import { METHODS } from '../methods/index.ts';
import { good } from '../outcome/index.ts';
import { deviationsOf, progressOf } from '../progress/index.ts';
import { planned } from '../questions/example.ts';
import { DISAGREEMENTS, doesItLast, howLong, settle } from '../questions/index.ts';
import { sittingsFrom, USUAL_WORKING, type Working } from '../schedule/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { handsOnMin } from '../steps/index.ts';
import type { TrialPlan, TrialRecord } from '../trial/index.ts';
import { whatNext } from './index.ts';

const MIN = 60_000;
const T0 = new Date(2026, 4, 2, 9, 0).getTime();

/**
 * Works a trial through as the bench asks for it: asked anew after every press, every action taking the time it
 * should. Gives the records, and fails when the bench asks for something twice, too soon, or never comes to an end.
 */
function played(
  plan: TrialPlan,
  working: Working = USUAL_WORKING,
  /** Looks at every wait, from `now` until it is over. */
  look: (records: readonly TrialRecord[], now: number, until: number, patch: string) => void = () => {},
): TrialRecord[] {
  const records: TrialRecord[] = [];
  let now = T0;
  const total = progressOf(plan, []).lines.reduce((n, line) => n + line.chain.length, 0);
  for (let presses = 0; presses <= total * 2; presses++) {
    const { action, also } = whatNext([{ plan, records }], working, now);
    if (action.kind === 'finished') return records;
    const wanted = action.kind === 'wait' ? action.until : Math.max(now, action.planned ?? now);
    if (action.kind === 'wait') {
      expect(wanted, 'a wait that is over').toBeGreaterThan(now);
      look(records, now, wanted, action.patch.code);
      now = wanted;
      continue;
    }
    const lines = progressOf(plan, records).lines.filter(l =>
      [action.patch.code, ...also].includes(l.patch.code),
    );
    const work = lines.reduce((sum, line) => sum + handsOnMin(action.link.step, line), 0);
    now = Math.max(now, wanted) + work * MIN;
    records.push({
      id: `p${presses}`,
      at: new Date(now).toISOString(),
      kind: 'step',
      patch: action.patch.code,
      step: action.link.step.id,
      round: action.link.round,
      ...(also.length ? { also: [...also] } : {}),
    });
  }
  throw new Error('the bench does not come to an end');
}

/** Every step of every patch was done once, in the order of its chain. */
function whole(plan: TrialPlan, records: readonly TrialRecord[]) {
  for (const { chain, doneAt } of progressOf(plan, records).lines) {
    expect(doneAt).not.toContain(undefined);
    expect([...doneAt].sort((a, b) => a! - b!)).toEqual(doneAt);
    expect(doneAt).toHaveLength(chain.length);
  }
  const steps = records.flatMap(r =>
    r.kind === 'step' ? [r.patch, ...(r.also ?? [])].map(p => `${p} ${r.step} ${r.round}`) : [],
  );
  expect(new Set(steps).size).toBe(steps.length);
}

describe('a trial worked as the bench asks for it', () => {
  it.each(METHODS.filter((_, i) => i % 3 === 1).map(m => [m.id, m] as const))(
    'of %s comes to its end with no window broken',
    (_, method) => {
      const wait = howLong(method, STARTER_SHELF);
      const plan = planned(wait.ok ? wait : doesItLast(method, STARTER_SHELF, ['dry-rub']));
      const records = played(plan);
      whole(plan, records);
      expect(deviationsOf(plan, records)).toEqual([]);
    },
  );

  it.each(DISAGREEMENTS.map(d => d.id).filter((_, i) => i % 5 === 0))(
    'that settles %s comes to its end',
    id => {
      const plan = planned(settle(id, STARTER_SHELF));
      const records = played(plan);
      whole(plan, records);
      expect(deviationsOf(plan, records).map(d => `${d.patch} ${d.step} ${d.byMin}`)).toEqual([]);
    },
  );

  it('of wear tests ends with every patch worn and looked at', () => {
    const plan = planned(doesItLast(METHODS[0], STARTER_SHELF, ['wash', 'dry-rub', 'tape']));
    const records = played(plan);
    whole(plan, records);
    for (const test of ['wash', 'dry-rub', 'tape'])
      expect(records.filter(r => r.kind === 'step' && r.step === `worn-${test}`)).toHaveLength(
        plan.patches.length,
      );
  });

  it('only in the evenings has every press in one', () => {
    const working: Working = {
      ...USUAL_WORKING,
      sittings: [{ days: [0, 1, 2, 3, 4, 5, 6], from: '17:00', to: '23:00' }],
    };
    // A day's drying ends in an evening again; twelve hours would end in the night.
    const asked = settle('coat-where', STARTER_SHELF);
    const plan = planned(
      asked.ok ? good({ ...asked.value, usual: { ...asked.value.usual, dryHours: 24 } }) : asked,
    );
    const there = sittingsFrom(working.sittings, T0);
    const records = played(plan, working);
    whole(plan, records);
    for (const r of records) {
      const at = Date.parse(r.at);
      expect(
        there.some(([a, b]) => a <= at && at <= b + MIN),
        r.at,
      ).toBe(true);
    }
  });
});

it.each(['wet-rub', 'paint-bed'])('a moment that was said does not slide while one waits for it: %s', id => {
  const plan = planned(howLong(METHODS.find(m => m.id === id)!, STARTER_SHELF));
  let looks = 0;
  played(plan, USUAL_WORKING, (records, now, until, patch) => {
    const at = now + 0.9 * (until - now);
    const { action } = whatNext([{ plan, records }], USUAL_WORKING, at);
    expect(action).toMatchObject({ kind: 'wait', until, patch: { code: patch } });
    looks++;
  });
  expect(looks).toBeGreaterThan(1);
});
