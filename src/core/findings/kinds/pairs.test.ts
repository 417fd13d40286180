import { describe, expect, it } from 'vitest';
import { examplePlan } from '../../design/example.ts';
import type { RecordOf } from '../../trial/index.ts';
import { PAIRS } from './pairs.ts';

const plan = examplePlan({ factors: [{ key: 'coatMm', levels: [0.2, 0.6] }], repeats: 2 });
const [a, b, c] = plan.patches.map(p => p.code);
const pair = (patch: string, other: string, better: 'this' | 'other', n: number): RecordOf<'pair'> => ({
  ...{ id: `p${n}`, at: '2026-03-01T10:00:00Z', kind: 'pair', patch, other, better, judge: 'me' },
});

describe('pairs as a measure', () => {
  // Each beaten once too, so that worths stay finite.
  const told = [
    ...[pair(a, b, 'this', 1), pair(a, b, 'this', 2), pair(a, b, 'other', 3)],
    ...[pair(b, c, 'this', 4), pair(b, c, 'this', 5), pair(b, c, 'other', 6)],
    ...[pair(a, c, 'this', 7), pair(a, c, 'this', 8), pair(a, c, 'other', 9)],
  ];

  it('are how often a patch beats another of these: half of all on the whole, the best the most', () => {
    const values = PAIRS.values(plan, told);
    const [x, y, z] = [a, b, c].map(code => values.get(code)!);
    expect(x + y + z).toBeCloseTo(15, 6);
    expect(x).toBeGreaterThan(y);
    expect(y).toBeGreaterThan(z);
    expect(y).toBeCloseTo(5, 6);
    for (const v of [x, y, z]) expect(v > 0 && v < 10).toBe(true);
    // Two wins in three against each: by Bradley and Terry a little more than that against the last.
    expect(x).toBeGreaterThan(6);
    expect(x).toBeLessThan(7.5);
  });

  it('say nothing of fewer than three patches, or of too few pairs', () => {
    expect(PAIRS.values(plan, told.slice(0, 3)).size).toBe(0);
    // Three patches want four and a half.
    expect(PAIRS.values(plan, [told[0], told[3], told[6], told[2]]).size).toBe(0);
    expect(PAIRS.values(plan, [told[0], told[3], told[6], told[2], told[5]]).size).toBe(3);
  });
});
