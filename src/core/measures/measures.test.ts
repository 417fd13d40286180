import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { write } from '../say/index.ts';
import { EXAMPLE_READING } from '../trial/example.ts';
import {
  MEASURE_COLUMNS,
  MEASURE_FIELDS,
  MEASURES,
  measureCells,
  measureRows,
  measureSignals,
  RESPONSES,
} from './index.ts';

describe('measures', () => {
  it('have ids, columns and names of their own', () => {
    for (const of of [MEASURES.map(m => m.id), MEASURES.map(m => m.name), MEASURE_COLUMNS])
      expect(new Set<string>(of).size).toBe(of.length);
  });

  it('are in a range, and nothing beyond it is taken', () => {
    const ends = {
      landed: [0, 100],
      veil: [0, 1],
      stain: [0, 100],
      smear: [0, 50],
      detail: [0, 50],
      tone: [0, 150],
    } as const;
    for (const { id } of MEASURES) {
      const schema = MEASURE_FIELDS[id];
      const [lo, hi] = ends[id];
      for (const fine of [lo, hi, null]) expect(v.is(schema, fine), `${id} ${fine}`).toBe(true);
      for (const wrong of [lo - 0.01, hi + 0.01, 1e308, Number.NaN, '5'])
        expect(v.is(schema, wrong), `${id} ${wrong}`).toBe(false);
    }
    expect(v.is(MEASURE_FIELDS.veilGive, 1.2)).toBe(false);
    expect(v.is(MEASURE_FIELDS.detail, undefined)).toBe(true);
  });

  it('say what is bare, stained and veiled to the diagnosis, and nothing of what is not given', () => {
    const signals = measureSignals({ ...EXAMPLE_READING, landed: 80, stain: 4, veil: 0.3, tone: 7 });
    expect(signals.bareShare).toBeCloseTo(0.2, 12);
    expect(signals).toMatchObject({ stain: 0.04, veil: 0.3, tone: 7 });
    expect(measureSignals({ landed: null, veil: null })).toEqual({});
  });

  it('stand in tables with a cell for each column', () => {
    const cells = measureCells(EXAMPLE_READING);
    expect(Object.keys(cells)).toEqual(MEASURE_COLUMNS);
    expect(cells).toMatchObject({ landed_pct: 90, landed_give: 1, veil: 0.05, detail_mm: 0.35 });
    expect(measureCells({})).toMatchObject({ landed_pct: null, veil_give: null });
  });

  it('are read with their unit and give, and say when they are not given', () => {
    const rows = new Map(measureRows({ ...EXAMPLE_READING, landed: 88.44 }).map(r => [r.id, r]));
    expect(rows.get('landed')).toMatchObject({ value: '88.4 %', of: '± 1.0' });
    expect(rows.get('veil')).toMatchObject({ value: '0.05', of: '± 0.02' });
    expect(rows.get('detail')).toMatchObject({ value: '0.35 mm', of: 'still separate from the ground' });
    const none = measureRows({ landed: null, veil: null, stain: null, detail: null, tone: null });
    expect(none.map(r => [r.name, r.value])).toEqual([
      ['Landed', 'not given'],
      ['Veil', 'not given: photograph it dry'],
    ]);
    const byHand = measureRows({ ...EXAMPLE_READING, veil: null, byHand: true });
    expect(write(byHand.find(r => r.id === 'veil')?.value ?? '')).toBe(
      'not given: it takes the reading card',
    );
  });

  it('that trials are judged by say which way is better', () => {
    expect(RESPONSES.map(r => [r.id, r.goal, r.response.more])).toEqual([
      ['landed', 'more', 'lands more'],
      ['veil', 'less', 'leaves less veil'],
    ]);
    expect(RESPONSES.map(r => r.response.difference(12.34))).toEqual(['12 points', '12.34']);
  });
});
