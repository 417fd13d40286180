import { describe, expect, it } from 'vitest';
import { callsBetween, dryingLine } from '../drying/index.ts';
import { METHODS } from '../methods/index.ts';
import { awayOf, deviationsOf, patchStatus, progressOf } from '../progress/index.ts';
import { planOf } from '../questions/example.ts';
import { dueElsewhere, USUAL_WORKING } from '../schedule/index.ts';
import { chainOf, laterIsFine, waitAfter } from '../steps/index.ts';
import { settingsOf, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import { whatNext } from './index.ts';

const T0 = Date.parse('2026-05-02T09:00:00.000Z');
const DAY = 86_400_000;
const LATER = T0 + 400 * DAY;

/** A patch of a plan with the first `count` steps of its chain done, minute by minute. */
const doneTo = (plan: TrialPlan, count: number): TrialRecord[] =>
  chainOf(plan, plan.patches[0])
    .slice(0, count)
    .map((l, i) => ({
      ...{ id: `s${i}`, at: new Date(T0 + i * 60_000).toISOString(), kind: 'step' },
      ...{ patch: plan.patches[0].code, step: l.step.id, round: l.round },
    }));

const CASES = METHODS.flatMap(({ id }) => {
  const plan = { ...planOf(id), patches: planOf(id).patches.slice(0, 1) };
  const settings = settingsOf(plan, plan.patches[0]);
  const chain = chainOf(plan, plan.patches[0]);
  return chain.slice(0, -1).flatMap(({ step }, i) => {
    const wait = waitAfter(step, settings, plan.air, settings.dryHours * 60);
    const isFine = laterIsFine(step, settings);
    return wait ? [[`${id}, ${step.action}`, plan, i, isFine] as const] : [];
  });
});

describe('who comes more than a year late is told one and the same by every page', () => {
  it('of waits of both kinds', () => {
    expect(new Set(CASES.map(c => c[3])).size).toBe(2);
  });

  it.each(CASES)('%s', (_, plan, i, isFine) => {
    const records = doneTo(plan, i + 1);
    const { lines, airs } = progressOf(plan, records);
    expect(patchStatus(lines[0], airs, LATER).phase).toBe(isFine ? 'ready' : 'overdue');
    const away = awayOf(plan, records, LATER)!;
    expect([away.patient.length, away.lost.length]).toEqual(isFine ? [1, 0] : [0, 1]);
    const next = whatNext([{ plan, records }], USUAL_WORKING, LATER, { hereUntil: LATER + DAY });
    expect(next.action.kind).toBe('do');
    if (next.action.kind === 'do') expect(next.action.why.startsWith('It is late')).toBe(!isFine);
    expect(next.losses.length).toBe(isFine ? 0 : next.losses.length);
    expect(dueElsewhere([{ plan, records }], 'another', LATER).every(d => !Number.isFinite(d.closes))).toBe(
      isFine,
    );
    for (const bar of dryingLine([{ plan, records }], LATER)) expect(bar.patient).toBe(isFine);
    const calls = callsBetween([{ plan, records }], T0, LATER).map(c => c.words);
    expect(calls.some(words => words.startsWith('Last moment'))).toBe(calls.length > 0 && !isFine);
    const { step, round } = chainOf(plan, plan.patches[0])[i + 1];
    const done: TrialRecord = {
      ...{ id: 'late', at: new Date(LATER).toISOString(), kind: 'step', round, step: step.id },
      patch: plan.patches[0].code,
    };
    const off = deviationsOf(plan, [...records, done]).filter(d => d.at === LATER);
    expect(off.length).toBe(isFine ? 0 : 1);
  });
});
