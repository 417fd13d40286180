import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import {
  airOf,
  lastUndoable,
  levelNames,
  migrate,
  readingOf,
  standing,
  type TrialRecord,
  verdictOf,
} from './index.ts';

const at = (minute: number) =>
  new Date(Date.parse('2026-05-02T09:00:00.000Z') + minute * 60_000).toISOString();
const plan = examplePlan();
const code = plan.patches[0].code;
const note = (id: string, minute: number): TrialRecord => ({
  id,
  at: at(minute),
  kind: 'note',
  patch: code,
  text: id,
});

describe('records', () => {
  it('stand in order of time, without what was undone', () => {
    const records: TrialRecord[] = [
      note('b', 2),
      note('a', 1),
      { id: 'u', at: at(3), kind: 'undo', patch: code, of: 'b' },
    ];
    expect(standing(records).map(r => r.id)).toEqual(['a']);
    expect(lastUndoable(records)?.id).toBe('a');
  });
  it('give the last air and the last verdict', () => {
    const records: TrialRecord[] = [
      { id: '1', at: at(1), kind: 'air', patch: null, air: { tempC: 12, rh: 70 } },
      { id: '2', at: at(2), kind: 'verdict', patch: code, verdict: 'scrap', grade: 1, symptoms: [] },
      { id: '3', at: at(3), kind: 'verdict', patch: code, verdict: 'fix', grade: 3, symptoms: ['veil'] },
    ];
    expect(airOf(plan, records).tempC).toBe(12);
    expect(airOf(plan, [])).toEqual(plan.air);
    expect(verdictOf(records, code)?.verdict).toBe('fix');
    expect(readingOf(records, code)).toBeUndefined();
  });
  it('call levels by the names the plan keeps', () => {
    const [medium, hours] = levelNames(plan, { levels: [1, 0] });
    expect([medium, hours]).toEqual(['Soft gel medium', '4 h']);
  });
});

describe('old files', () => {
  const steps = {
    1: (d: Record<string, unknown>) => ({ ...d, colour: d.color }),
    2: (d: Record<string, unknown>) => ({ ...d, extra: true }),
  };
  it('are brought up one version at a time', () => {
    const result = migrate({ schema: 1, color: 'red' }, steps, 3);
    expect(result).toEqual({ ok: true, value: { schema: 3, color: 'red', colour: 'red', extra: true } });
  });
  it('are refused with a sentence when newer, nameless, without a path, or no object', () => {
    for (const [data, code] of [
      [{ schema: 9 }, 'newer'],
      [{}, 'no-version'],
      [{ schema: 0 }, 'no-path'],
      [[], 'not-an-object'],
      ['x', 'not-an-object'],
    ] as const) {
      const result = migrate(data, steps, 3);
      expect(!result.ok && result.problem.code).toBe(code);
    }
  });
});
