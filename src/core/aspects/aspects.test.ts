import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { csvFiles } from '../bundle/csv.ts';
import { examplePlan } from '../design/example.ts';
import { KINDS, kindOf } from '../findings/kinds/index.ts';
import { aspectsOf, recordWords, TrialRecord, undoWords } from '../trial/index.ts';
import { ASPECT_IDS, ASPECTS, aspectsBy } from './index.ts';

const plan = examplePlan();
const [a, b, c] = plan.patches.map(p => p.code);
const look = (id: string, patch: string, aspects: object, n = 0) =>
  v.parse(TrialRecord, { id, at: `2026-05-03T10:00:0${n}.000Z`, kind: 'look', patch, aspects });

describe('aspects of a patch', () => {
  it('have five different steps each, and ids and names of their own', () => {
    for (const { id, steps } of ASPECTS) expect(new Set(steps).size, id).toBe(5);
    expect(new Set(ASPECT_IDS).size).toBe(ASPECTS.length);
    expect([...aspectsBy('eye'), ...aspectsBy('hand')].map(x => x.id).sort()).toEqual([...ASPECT_IDS].sort());
    expect(new Set(KINDS.map(k => k.id)).size).toBe(KINDS.length);
  });

  it('are as last graded, each by itself', () => {
    const records = [
      look('l1', a, { tack: 2, hold: 5 }),
      look('l2', a, { tack: 4 }, 1),
      look('l3', b, { tack: 1 }, 2),
    ];
    expect(aspectsOf(records, a)).toEqual({ tack: 4, hold: 5 });
    expect(aspectsOf(records, c)).toEqual({});
    expect(recordWords(records[0])).toBe('tack 2, hold 5');
    expect(undoWords(records[0])).toBe('what you felt');
  });

  it('are refused where nothing is graded, outside 1 to 5, or of no such name', () => {
    for (const aspects of [{}, { tack: 0 }, { tack: 6 }, { tack: 2.5 }, { shine: 3 }])
      expect(() => look('l1', a, aspects), JSON.stringify(aspects)).toThrow();
  });

  it('are responses of their own: how often a patch is graded higher than one at random', () => {
    const records = [
      look('l1', a, { hold: 5 }),
      look('l2', b, { hold: 3 }),
      look('l3', c, { hold: 3, tack: 1 }),
    ];
    // Above two and level with itself: 2.5 of 3; level with two of three: 1 of 3.
    const values = kindOf('hold').values(plan, records);
    expect(values.get(a)).toBeCloseTo((10 * 2.5) / 3, 9);
    expect(values.get(b)).toBeCloseTo(10 / 3, 9);
    expect(values.size).toBe(3);
    expect([...kindOf('tack').values(plan, records)]).toEqual([[c, 5]]);
    const spoilt = v.parse(TrialRecord, {
      ...{ id: 's', at: '2026-05-03T11:00:00.000Z', kind: 'spoilt', patch: a, why: 'It tore' },
    });
    expect(
      kindOf('hold')
        .values(plan, [...records, spoilt])
        .has(a),
    ).toBe(false);
  });

  it('are columns of the table of patches', () => {
    const table = csvFiles(plan, [look('l1', a, { hold: 4, coverage: 2 })])['patches.csv'];
    const [head, ...rows] = table.split(/\r?\n/);
    const names = head.split(',');
    const row = rows.find(r => r.startsWith(a))!.split(',');
    expect(row[names.indexOf('hold')]).toBe('4');
    expect(row[names.indexOf('coverage')]).toBe('2');
    expect(row[names.indexOf('tack')]).toBe('');
  });
});
