import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { howLong } from '../questions/index.ts';
import { write } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import type { TrialPlan } from '../trial/index.ts';
import { EXAMPLE_REQUEST } from './example.ts';
import { noticeable, type PlanRequest, planTrial, tellsOf } from './index.ts';

const TILES: Partial<PlanRequest> = {
  board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
  patchMm: 40,
  marginMm: 8,
  factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
  repeats: 4,
};
const ask = (part: Partial<PlanRequest>) =>
  planTrial({ ...EXAMPLE_REQUEST, ...TILES, ...part }, STARTER_SHELF, {
    createdAt: '2026-05-02T08:00:00.000Z',
    random: () => 0.3,
  });
const plan = (part: Partial<PlanRequest>) => {
  const made = ask(part);
  if (!made.ok) throw new ProblemError(made.problem);
  return made.value;
};
const loadsOf = (made: TrialPlan) => {
  const loads = new Map<number, TrialPlan['patches'][number][]>();
  for (const patch of [...made.patches].sort((a, b) => a.order - b.order))
    loads.set(patch.group!, [...(loads.get(patch.group!) ?? []), patch]);
  return [...loads.values()];
};

describe('an oven load of a given size', () => {
  it('never holds more than it can, follows in one go, and is even, for any plan', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 9 }),
        fc.integer({ min: 1, max: 6 }),
        fc.boolean(),
        fc.boolean(),
        fc.integer({ min: 1, max: 9999 }),
        (loadSize, repeats, onePiece, control, seed) => {
          const board = onePiece ? TILES.board! : { ...EXAMPLE_REQUEST.board };
          const made = plan({ loadSize, repeats, control, seed, board });
          const loads = loadsOf(made);
          expect(loads.flat()).toHaveLength(made.patches.length);
          let last = -1;
          for (const load of loads) {
            expect(load.length).toBeLessThanOrEqual(loadSize);
            expect(load[0].order).toBe(last + 1);
            last = load[load.length - 1].order;
            expect(last - load[0].order).toBe(load.length - 1);
            if (!onePiece) expect(new Set(load.map(p => p.board)).size).toBe(1);
          }
        },
      ),
      { numRuns: 25 },
    );
  });

  it('holds both levels where it can, so that loads do not hide the difference', () => {
    for (const load of loadsOf(plan({ loadSize: 2 })))
      expect(load.map(p => p.levels[0]).sort()).toEqual([0, 1]);
  });

  it('costs a block each: four loads of a pair leave three patches to judge chance by', () => {
    const tells = tellsOf(plan({ loadSize: 2 }));
    expect(tells.loads).toBe(4);
    expect(tells.spare).toBe(3);
    // A paired comparison of four and four: standard error σ·√(2/4).
    expect(tells.noticed[0].points).toBeCloseTo(6 * Math.sqrt(0.5) * noticeable(3), 6);
    expect(tells.noticed[0].apart).toBeCloseTo(6 * Math.sqrt(0.5) * noticeable(6), 6);
    expect(tells.curve.find(e => e.times === 1)!.points).toBeCloseTo(tells.noticed[0].points, 6);
    expect(tells.cannot.map(x => write(x)).join(' ')).toMatch(
      /made in 4 loads of at most 2.* a difference has to be about 1\.\d times as large/,
    );
  });

  it('has one level when what the load shares is varied, and says what that costs', () => {
    const made = plan({ loadSize: 3, groupKey: 'medium' });
    const loads = loadsOf(made);
    expect(loads).toHaveLength(4);
    for (const load of loads) expect(new Set(load.map(p => p.levels[0])).size).toBe(1);
    const { noticed, cannot } = tellsOf(made);
    // Loads of two: design effect 1 + (2 − 1) · 0.3.
    expect(noticed[0].points / noticed[0].apart).toBeCloseTo(Math.sqrt(1.3), 6);
    expect(cannot.map(x => write(x)).join(' ')).toMatch(/made in groups/);
  });

  it('says when loads cannot be told from what is varied', () => {
    const made = plan({ loadSize: 2, repeats: 1, factors: [EXAMPLE_REQUEST.factors[0]] });
    expect(
      tellsOf(made)
        .cannot.map(x => write(x))
        .join(' '),
    ).toMatch(/cannot be told from the loads/);
  });

  it('speaks up where pieces of one load would need different times in the oven', () => {
    const request = howLong(METHODS.find(m => m.id === 'hot-body')!, STARTER_SHELF);
    if (!request.ok) throw new ProblemError(request.problem);
    const tellsWith = (part: Partial<PlanRequest>) => {
      const made = planTrial({ ...request.value, loadSize: 2, repeats: 2, ...part }, STARTER_SHELF, {
        createdAt: '2026-05-02T08:00:00.000Z',
        random: () => 0.3,
      });
      if (!made.ok) throw new ProblemError(made.problem);
      return tellsOf(made.value)
        .cannot.map(x => write(x))
        .join(' ');
    };
    expect(tellsWith({})).toMatch(/different times in the oven/);
    expect(tellsWith({ groupKey: 'dryHours' })).not.toMatch(/different times in the oven/);
  });

  it('keeps single tiles of one kind together in time even without a size', () => {
    const order = [...plan({ groupKey: 'medium', repeats: 3 }).patches].sort((a, b) => a.order - b.order);
    const changes = order.filter((p, i) => i && p.levels[0] !== order[i - 1].levels[0]).length;
    expect(changes).toBeLessThanOrEqual(5);
    expect(new Set(order.map(p => p.board)).size).toBe(6);
  });

  it.each([
    [1, /at least two pieces/],
    [2.5, /whole numbers/],
    [101, /At most 100/],
  ])('refuses a load of %d in words', (loadSize, words) => {
    const made = ask({ loadSize });
    expect(write(made.ok ? '' : made.problem.say)).toMatch(words);
  });
});
