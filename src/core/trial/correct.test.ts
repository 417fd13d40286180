import { describe, expect, it } from 'vitest';
import { base64 } from '../reading/index.ts';
import { corrected } from './correct.ts';
import { EXAMPLE_READING, readingFor } from './example.ts';
import type { TrialRecord } from './index.ts';
import { readingOf } from './state.ts';

/** 10 × 10 mm at 2 px/mm: all inked; a bare square of 4 mm in the upper left corner. */
const W = 20;
const state = Uint8Array.from({ length: W * W }, (_, i) => (i % W < 8 && Math.floor(i / W) < 8 ? 2 : 1));
const maps = { state: { w: W, h: W, pxPerMm: 2, data: base64(state) } };
const square = { x: 2, y: 2, area: 16, shape: 'round', edge: 0, along: 0 } as const;
const reading = { landed: 84, bare: [square] };
const box = (x: number, y: number, w: number, h = w) => [
  { x, y },
  { x: x + w, y },
  { x: x + w, y: y + h },
  { x, y: y + h },
];

describe('a reading that a hand put right', () => {
  it('is as it was with nothing changed', () => {
    expect(corrected(reading, maps, { rejected: [], drawn: [] })).toEqual(reading);
  });

  it('has what was no bare patch back, by its share of what can be seen', () => {
    expect(corrected(reading, maps, { rejected: [0], drawn: [] })).toEqual({ landed: 100, bare: [] });
  });

  it('has what was drawn as bare among its bare patches, with place, area and distance from the edge', () => {
    const { landed, bare } = corrected(reading, maps, {
      rejected: [],
      drawn: [{ isBare: true, outline: box(5, 6, 4, 2) }],
    });
    expect(landed).toBe(76);
    expect(bare).toHaveLength(2);
    expect(bare[1]).toMatchObject({ x: 7, y: 7, area: 8, edge: 1, along: 0 });
    const upright = corrected(reading, maps, {
      rejected: [],
      drawn: [{ isBare: true, outline: box(6, 3, 2, 5) }],
    });
    expect(upright.bare[1].along).toBe(90);
  });

  it('counts a place once: what is bare already is not bare again, what was drawn twice neither', () => {
    const twice = [{ isBare: true, outline: box(0, 0, 6) }];
    expect(corrected(reading, maps, { rejected: [], drawn: twice }).landed).toBe(64);
    expect(corrected(reading, maps, { rejected: [], drawn: [...twice, ...twice] }).landed).toBe(64);
  });

  it('has what was drawn as landed back, and the bare patch in its midst is gone', () => {
    const drawn = [{ isBare: false, outline: box(0, 0, 4) }];
    expect(corrected(reading, maps, { rejected: [], drawn })).toEqual({ landed: 100, bare: [] });
    expect(corrected(reading, maps, { rejected: [0], drawn })).toEqual({ landed: 100, bare: [] });
    // Half of it drawn over: its middle is on the line, half of it comes back.
    const half = corrected(reading, maps, {
      rejected: [],
      drawn: [{ isBare: false, outline: box(0, 0, 1.5, 4) }],
    });
    expect(half.landed).toBe(90);
    expect(half.bare).toHaveLength(1);
  });

  it('stays between nothing and all', () => {
    const all = [{ isBare: true, outline: box(-1, -1, 12) }];
    expect(corrected(reading, maps, { rejected: [], drawn: all }).landed).toBe(0);
    expect(corrected({ ...reading, landed: 99 }, maps, { rejected: [0], drawn: [] }).landed).toBe(100);
  });

  it('counts wherever the patch’s reading does, beside the machine’s own; the last correction that stands', () => {
    const records: TrialRecord[] = readingFor('K7-3AF', 1, { landed: 84, bare: [square] });
    const correction = (id: string, landed: number): TrialRecord => ({
      ...{ id, at: `2026-06-0${id}T08:00:00.000Z`, kind: 'correction', patch: 'K7-3AF', reading: 'rd1' },
      ...{ rejected: [], drawn: [], landed, bare: [] },
    });
    const found = readingOf([...records, correction('1', 91), correction('2', 93)], 'K7-3AF')!;
    expect(found.reading.reading).toMatchObject({ landed: 93, bare: [], veil: EXAMPLE_READING.veil });
    expect(found.machine).toMatchObject({ landed: 84, bare: [square] });
    const undo: TrialRecord = { id: 'u', at: '2026-06-03T08:00:00.000Z', kind: 'undo', patch: null, of: '2' };
    const back = readingOf([...records, correction('1', 91), correction('2', 93), undo], 'K7-3AF')!;
    expect(back.reading.reading.landed).toBe(91);
    expect(readingOf(records, 'K7-3AF')!.machine).toBeUndefined();
  });
});
