import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { type Chance, chanceFrom } from '../random/index.ts';
import { write } from '../say/index.ts';
import { readingFor } from '../trial/example.ts';
import type { Patch, TrialRecord } from '../trial/index.ts';
import { commonCause } from './index.ts';

const plan = examplePlan({
  factors: [
    { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
    { key: 'dryHours', levels: [8, 24] },
  ],
  repeats: 4,
  board: { w: 180, h: 130, outline: 'rectangle', onePiece: false },
});
const boards = new Set(plan.patches.map(p => p.board));

const read = (of: (p: Patch, chance: Chance) => number, seed: number): TrialRecord[] => {
  const chance = chanceFrom(seed);
  return plan.patches.flatMap((p, i) =>
    readingFor(p.code, i, { landed: Math.max(0, Math.min(100, of(p, chance))) }),
  );
};
const day = (p: Patch) => (p.order < 6 ? '2026-05-02' : '2026-05-04');
const placed = plan.patches.map(
  (p): TrialRecord => ({
    ...{
      id: `pl${p.code}`,
      at: `${day(p)}T08:00:00.000Z`,
      kind: 'step',
      patch: p.code,
      step: 'place',
      round: 1,
    },
  }),
);
const base = (p: Patch, chance: Chance) => 90 - 6 * p.levels[0] + 3 * p.levels[1] + 4 * chance.normal();

describe('what patches that went wrong have in common', () => {
  it('is a board where all on it lie lower, whatever their levels, and it says what to look at', () => {
    expect(boards.size).toBeGreaterThan(1);
    const found = commonCause(
      plan,
      read((p, c) => base(p, c) - (p.board === 1 ? 30 : 0), 1),
    )!;
    expect(found).toMatchObject({ kind: 'board', name: 'Board 2' });
    expect(found.likely).toBeGreaterThan(0.95);
    expect(Math.abs(found.less - 30)).toBeLessThan(6);
    expect(write(found.sentence)).toMatch(
      /^All on Board 2 went wrong together: \d\d points less landed there than elsewhere\./,
    );
    expect(found.patches.every(code => plan.patches.find(p => p.code === code)!.board === 1)).toBe(true);
  });

  it('is a level where that is it, a sitting where that is it, and nothing where nothing is', () => {
    const level = commonCause(
      plan,
      read((p, c) => 92 + 4 * c.normal() - (p.levels[0] === 1 ? 35 : 0), 2),
    )!;
    expect(level).toMatchObject({ kind: 'level', name: 'Soft gel medium' });
    const sitting = commonCause(plan, [
      ...placed,
      ...read((p, c) => base(p, c) - (day(p).endsWith('04') ? 30 : 0), 3),
    ])!;
    expect(sitting.kind === 'sitting' || sitting.kind === 'order').toBe(true);
    expect(commonCause(plan, read(base, 4))).toBeUndefined();
    // Better than the others is no trouble.
    expect(
      commonCause(
        plan,
        read((p, c) => base(p, c) - (p.board === 1 ? 0 : 1), 5),
      ),
    ).toBeUndefined();
  });

  it('is named with what else the same patches share, which cannot be told apart', () => {
    const inOrder = {
      ...plan,
      patches: [...plan.patches].sort((a, b) => a.board - b.board).map((p, i) => ({ ...p, order: i })),
    };
    const two = { ...inOrder, patches: inOrder.patches.map((p, i) => ({ ...p, board: i < 8 ? 0 : 1 })) };
    const chance = chanceFrom(9);
    const records = two.patches.flatMap((p, i) =>
      readingFor(p.code, i, { landed: base(p, chance) - (p.board === 1 ? 30 : 0) }),
    );
    const found = commonCause(two, records)!;
    expect(found).toMatchObject({ kind: 'board', name: 'Board 2' });
    expect(write(found.sentence)).toContain(
      'They are also the later half: the two cannot be told apart here.',
    );
  });

  it('is not said of five patches, nor of what was spoilt by a slip', () => {
    const records = read((p, c) => base(p, c) - (p.board === 1 ? 30 : 0), 6);
    const five = new Set(plan.patches.slice(0, 5).map(p => p.code));
    expect(
      commonCause(
        plan,
        records.filter(r => r.patch && five.has(r.patch)),
      ),
    ).toBeUndefined();
    const spoilt = plan.patches.map(
      (p): TrialRecord => ({
        id: `sp${p.code}`,
        at: '2026-06-01T08:00:00.000Z',
        kind: 'spoilt',
        patch: p.code,
        why: 'x',
      }),
    );
    expect(commonCause(plan, [...records, ...spoilt])).toBeUndefined();
  });

  it('is named right nine times in ten, and falsely not once in twenty', () => {
    const runs = 60;
    let [right, falsely] = [0, 0];
    for (let seed = 0; seed < runs; seed++) {
      const bad = seed % boards.size;
      const found = commonCause(
        plan,
        read((p, c) => base(p, c) - (p.board === bad ? 22 : 0), 100 + seed),
      );
      if (found?.kind === 'board' && found.name === `Board ${bad + 1}`) right++;
      if (commonCause(plan, read(base, 500 + seed))) falsely++;
    }
    expect(right / runs).toBeGreaterThanOrEqual(0.9);
    expect(falsely / runs).toBeLessThanOrEqual(0.05);
  });
});
