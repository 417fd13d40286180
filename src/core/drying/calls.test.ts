import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { patchStatus, progressOf } from '../progress/index.ts';
import { chainOf } from '../steps/index.ts';
import type { TrialRecord } from '../trial/index.ts';
import { callsBetween } from './index.ts';

const T0 = Date.parse('2026-05-02T09:00:00.000Z');
const HOUR = 3_600_000;
const plan = examplePlan();
/** Two patches of the same wait placed a minute apart, so that they wait together. */
const pair = plan.patches.filter(p => p.levels.join() === plan.patches[0].levels.join()).slice(0, 2);
const done = (patch: string, step: string, at: number): TrialRecord => ({
  id: `${patch}-${step}`,
  at: new Date(at).toISOString(),
  kind: 'step',
  patch,
  step,
  round: 1,
});
const records = pair.flatMap((p, i) => [
  done(p.code, 'mark', T0 - 60_000),
  done(p.code, 'coat', T0 - 30_000 + i * 60_000),
  done(p.code, 'place', T0 + i * 60_000),
]);
const trials = [{ plan, records }];
const progress = progressOf(plan, records);
const window = patchStatus(progress.lines.find(l => l.patch === pair[0])!, progress.airs, T0 + HOUR).window!;

describe('what is told of long waits', () => {
  it('is nothing while they last', () => {
    expect(callsBetween(trials, T0, window.aim - 2 * HOUR)).toEqual([]);
  });

  it('is one call at the best moment, for all that wait together, with what to do and where', () => {
    const calls = callsBetween(trials, window.aim - 15_000, window.aim + 60_000);
    expect(calls).toHaveLength(1);
    expect(calls[0].words).toBe(
      `It is time. Wet the paper: ${pair.map(p => p.code).join(', ')} (Berth plates)`,
    );
    expect(calls[0].trial).toBe(plan.id);
    expect(callsBetween(trials, calls[0].at, calls[0].at + 15_000)).toEqual([]);
  });

  it('is a last word half an hour before the window closes, in place of the first', () => {
    const [aim] = callsBetween(trials, window.aim - 15_000, window.aim);
    const [last] = callsBetween(trials, window.closes - HOUR, window.closes);
    expect(last.words).toMatch(/^Last moment\./);
    expect(last.at).toBe(window.closes - HOUR / 2);
    expect(last.tag).toBe(aim.tag);
  });

  it('of a night slept through is the latest alone', () => {
    const calls = callsBetween(trials, T0, window.closes + 8 * HOUR);
    expect(calls.map(c => c.words.slice(0, 4))).toEqual(['Last']);
  });

  it('is nothing for what has been done meanwhile, or was written off', () => {
    const all = pair.map(p => done(p.code, 'wet', window.aim - HOUR));
    expect(callsBetween([{ plan, records: [...records, ...all] }], T0, window.closes)).toEqual([]);
    const spoilt = pair.map(
      (p, i): TrialRecord => ({
        id: `s${i}`,
        at: new Date(T0 + HOUR).toISOString(),
        kind: 'spoilt',
        patch: p.code,
        why: 'It tore',
      }),
    );
    expect(callsBetween([{ plan, records: [...records, ...spoilt] }], T0, window.closes)).toEqual([]);
  });

  it('holds no short waits: those belong to the bench', () => {
    const coated = [done(pair[0].code, 'mark', T0), done(pair[0].code, 'coat', T0 + 60_000)];
    expect(chainOf(plan, pair[0]).map(l => l.step.id)).toContain('place');
    expect(callsBetween([{ plan, records: coated }], T0, T0 + 24 * HOUR)).toEqual([]);
  });
});
