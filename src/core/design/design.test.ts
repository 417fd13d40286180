import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ProblemError } from '../outcome/index.ts';
import { compareMethods } from '../questions/index.ts';
import { chanceFrom } from '../random/index.ts';
import { write } from '../say/index.ts';
import { donorSets } from '../sheets/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { EXAMPLE_REQUEST, examplePlan } from './example.ts';
import {
  allCombinations,
  boardGrid,
  coatMl,
  type PlanRequest,
  placeRuns,
  planCost,
  planTrial,
  smallestBoard,
} from './index.ts';

const identity = { createdAt: '2026-05-02T08:00:00.000Z', random: () => 0.3 };
const ask = (part: object) => planTrial({ ...EXAMPLE_REQUEST, ...part }, STARTER_SHELF, identity);

describe('a plan', () => {
  it('makes 12 patches of 3 mediums × 2 cure times × 2 repeats on one board', () => {
    const plan = examplePlan();
    expect(plan.patches).toHaveLength(12);
    expect(plan.board.count).toBe(1);
    expect(new Set(plan.patches.map(p => `${p.levels} ${p.repeat}`)).size).toBe(12);
  });

  it('is the same again from the same seed, another from another', () => {
    expect(examplePlan().patches).toEqual(examplePlan().patches);
    expect(examplePlan({ seed: 1 }).patches.map(p => [p.x, p.y, p.levels])).not.toEqual(
      examplePlan({ seed: 2 }).patches.map(p => [p.x, p.y, p.levels]),
    );
  });

  it('keeps what it used from the shelf', () => {
    const plan = examplePlan();
    expect(plan.used.mediums.map(m => m.id)).toEqual(['matte-acrylic', 'soft-gel', 'white-pva']);
    expect(plan.used.method.id).toBe('wet-rub');
    expect(plan.used.substrates).toHaveLength(1);
  });

  it('holds every combination equally often, apart, and inside the board, for any 1–3 factors of 2–4 levels', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 2, max: 4 }), { minLength: 1, maxLength: 3 }),
        fc.integer({ min: 1, max: 3 }),
        fc.integer(),
        (counts, repeats, seed) => {
          const { places } = boardGrid({ w: 400, h: 320 }, 40, 10, 12);
          const all = Array.from({ length: repeats }, (_, repeat) =>
            allCombinations(counts).map(levels => ({ levels, repeat })),
          ).flat();
          const given = all.map((run, i) => ({ ...run, board: Math.floor(i / places.length) }));
          const runs = placeRuns(given, { counts, places: () => places }, chanceFrom(seed));
          expect(runs).toHaveLength(allCombinations(counts).length * repeats);
          expect(new Set(runs.map(r => `${r.board} ${r.place}`)).size).toBe(runs.length);
          expect(new Set(runs.map(r => r.order)).size).toBe(runs.length);
          for (const levels of allCombinations(counts))
            expect(runs.filter(r => r.levels.join() === levels.join())).toHaveLength(repeats);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('works through one whole set before it begins the repeats', () => {
    const byOrder = [...examplePlan().patches].sort((a, b) => a.order - b.order);
    expect(byOrder.map(p => p.repeat)).toEqual([...Array(6).fill(0), ...Array(6).fill(1)]);
  });

  it('keeps repeats apart in place and shares the edge places out', () => {
    for (let seed = 1; seed < 12; seed++) {
      const plan = examplePlan({ seed });
      for (const a of plan.patches)
        for (const b of plan.patches)
          if (a !== b && a.levels.join() === b.levels.join())
            expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThan(60);
    }
  });

  it('takes a second board when one is full', () => {
    const plan = examplePlan({ repeats: 3 });
    expect(plan.board.count).toBe(2);
    expect(plan.patches.filter(p => p.board === 1)).toHaveLength(9);
  });
});

describe('what cannot be planned', () => {
  const cases: [string, object, RegExp][] = [
    ['no name', { name: ' ' }, /name/],
    ['no factor', { factors: [] }, /at least one/],
    [
      'nine factors',
      {
        factors: [
          'medium',
          'donor',
          'preparation',
          'finish',
          'removal',
          'water',
          'trim',
          'coatWhere',
          'printer',
        ].map(key => ({ key, levels: ['a', 'b'] })),
      },
      /at most eight/,
    ],
    ['one level', { factors: [{ key: 'medium', levels: ['soft-gel'] }] }, /two to eight/],
    ['an empty level', { factors: [{ key: 'dryHours', levels: [4, Number.NaN] }] }, /filled in/],
    ['the same level twice', { factors: [{ key: 'dryHours', levels: [4, 4] }] }, /same level twice/],
    [
      'the same factor twice',
      { factors: [EXAMPLE_REQUEST.factors[1], EXAMPLE_REQUEST.factors[1]] },
      /varied twice/,
    ],
    ['a board too small for one patch', { board: { ...EXAMPLE_REQUEST.board, w: 50, h: 50 } }, /too small/],
    ['an absurd size', { patchMm: 5000 }, /at most 100/],
    [
      'inkjet on plain paper',
      { usual: { ...EXAMPLE_REQUEST.usual, printer: 'cabin-inkjet' } },
      /runs with the water/,
    ],
    [
      'an item that is not on the shelf',
      { factors: [{ key: 'medium', levels: ['soft-gel', 'sea-foam'] }] },
      /not on your shelf/,
    ],
    [
      'too many patches',
      {
        factors: [
          { key: 'dryHours', levels: [1, 2, 3, 4] },
          { key: 'coatMm', levels: [0.1, 0.2, 0.3, 0.4] },
          { key: 'rounds', levels: [1, 2, 3, 4] },
        ],
        repeats: 10,
        board: { ...EXAMPLE_REQUEST.board, w: 3000, h: 3000 },
      },
      /640 patches/,
    ],
  ];
  it.each(cases)('%s has its own sentence', (_, part, words) => {
    const result = ask(part);
    expect(result.ok).toBe(false);
    if (!result.ok) expect(write(result.problem.say)).toMatch(words);
  });
  it.each(['rectangle', 'ellipse'] as const)('says which %s would do, and that one does', outline => {
    for (const count of [1, 2, 7, 12, 48]) {
      const size = smallestBoard(count, 40, 10, 12, outline);
      expect(boardGrid({ ...size, outline }, 40, 10, 12).places.length).toBeGreaterThanOrEqual(count);
      // Not much of it is given away: an oval of nine tenths the size holds fewer.
      const less = { w: size.w * 0.9, h: size.h * 0.9, outline };
      expect(boardGrid(less, 40, 10, 12).places.length).toBeLessThan(count);
    }
  });
  it.each([
    ['a board', {}],
    ['an oval board', { outline: 'ellipse' }],
    ['a piece', { onePiece: true }],
    ['a round piece', { onePiece: true, outline: 'ellipse' }],
  ] as const)('gives the size that %s should have, and with that it is planned', (_, part) => {
    const board = { ...EXAMPLE_REQUEST.board, ...part, w: 50, h: 50 };
    const small = ask({ board });
    if (small.ok) throw new Error('was planned');
    expect(write(small.problem.wayOut ?? '')).toContain(
      `${small.problem.board!.w} × ${small.problem.board!.h} mm`,
    );
    const large = ask({ board: { ...board, ...small.problem.board } });
    expect(large.ok && large.value.patches).toHaveLength(12);
    expect(large.ok && large.value.board.count).toBe(part && 'onePiece' in part ? 12 : 1);
  });
});

describe('the bill', () => {
  it('counts 10 mL for 1 mm over 100 cm², plus what stays in the brush', () => {
    expect(coatMl(96, 1)).toBeCloseTo(12.5, 5);
  });
  it('counts the sheets that are printed: what is mirrored and what is not lies on sheets of its own', () => {
    const tape = {
      ...EXAMPLE_REQUEST,
      method: 'wet-rub',
      factors: [{ key: 'method', levels: ['wet-rub', 'tape-lift'] }],
    };
    const asked = compareMethods(tape as PlanRequest, STARTER_SHELF, []);
    if (!asked.ok) throw new ProblemError(asked.problem);
    const plan = examplePlan(asked.value);
    const printed = donorSets(plan).reduce((sum, set) => sum + set.pages.length, 0);
    expect(printed).toBe(2);
    expect(planCost(plan).sheets).toBe(printed);
  });

  it('says whether the shelf says of anything how much there is', () => {
    const plan = examplePlan();
    const none = {
      ...plan.used,
      donors: plan.used.donors.map(d => ({ ...d, onHand: 0 })),
      mediums: plan.used.mediums.map(m => ({ ...m, onHandMl: 0 })),
    };
    expect(planCost({ ...plan, used: none }).isCounted).toBe(false);
    const used = { ...none, mediums: none.mediums.map((m, i) => ({ ...m, onHandMl: i ? 0 : 1 })) };
    expect(planCost({ ...plan, used }).isCounted).toBe(true);
  });

  it('adds up sheets, mediums and board', () => {
    const cost = planCost(examplePlan());
    expect(cost.sheets).toBe(1);
    expect(cost.mediums).toHaveLength(3);
    expect(cost.mediums[0].ml).toBeCloseTo(4 * coatMl(40, 0.4), 6);
    expect(cost.total).toBeCloseTo(
      cost.lines.reduce((s, l) => s + l.price, 0),
      9,
    );
    expect(cost.lines.find(l => l.what === 'Birch plywood')!.price).toBeCloseTo(4.14 * 0.35, 5);
  });
});
