import { describe, expect, it } from 'vitest';
import { chanceFrom } from '../random/index.ts';
import { write } from '../say/index.ts';
import { dealToBoards } from './boards.ts';
import { EXAMPLE_REQUEST, examplePlan } from './example.ts';
import type { PlanRequest } from './index.ts';
import {
  allCombinations,
  boardGrid,
  insideBoard,
  noticeable,
  planCost,
  pooledNoise,
  smallestBoard,
  tellsOf,
} from './index.ts';

const made = (part: Partial<PlanRequest> = {}) => examplePlan(part);
const WIDE = { w: 500, h: 400, outline: 'rectangle', onePiece: false } as const;

describe('what a plan can tell', () => {
  it('is, for two levels, what the t test between two groups would notice', () => {
    const plan = made({ factors: [{ key: 'dryHours', levels: [4, 20] }], repeats: 6, noise: 6 });
    const tells = tellsOf(plan);
    // Two groups of six: R's power.t.test gives 10.77326 (docs/reference/design-reference.R).
    expect(tells.noticed[0].points).toBeCloseTo(10.77326, 2);
    expect(tells.spare).toBe(10);
    expect(tells.efficiency).toBeCloseTo(1, 9);
  });

  it('grows with the scatter and shrinks with repeats', () => {
    const points = (part: Partial<PlanRequest>) => tellsOf(made(part)).noticed[0].points;
    expect(points({ noise: 12 })).toBeCloseTo(2 * points({ noise: 6 }), 6);
    expect(points({ repeats: 4, board: WIDE })).toBeLessThan(points({ repeats: 2 }));
  });

  it('says that a plan without repeats of a single factor tells nothing from chance', () => {
    const tells = tellsOf(made({ factors: [{ key: 'dryHours', levels: [4, 20] }], repeats: 1 }));
    expect(tells.noticed[0].points).toBe(Number.POSITIVE_INFINITY);
    expect(tells.cannot.map(x => write(x)).join(' ')).toMatch(/nothing is made twice/);
  });

  it('shows as a curve that only falls, with the plan itself on it', () => {
    for (const part of [{}, { repeats: 3, board: WIDE }, { design: 'best fraction' as const, budget: 10 }]) {
      const { curve, runs } = tellsOf(made(part));
      expect(curve.map(c => c.patches)).toContain(runs);
      for (let i = 1; i < curve.length; i++) {
        expect(curve[i].patches).toBeGreaterThan(curve[i - 1].patches);
        expect(curve[i].points).toBeLessThan(curve[i - 1].points + 1e-9);
        expect(curve[i].times).toBeCloseTo(curve[i].patches / runs, 9);
      }
      const own = curve.find(c => c.patches === runs)!;
      expect(own.points).toBeCloseTo(Math.max(...tellsOf(made(part)).noticed.map(n => n.apart)), 6);
    }
  });

  it('mentions nothing mixed up where everything is crossed', () => {
    expect(tellsOf(made()).mixed).toEqual([]);
    expect(tellsOf(made()).cannot).toEqual([]);
  });

  it('reckons with the boards: two of them cost a degree of freedom', () => {
    const two = tellsOf(made({ repeats: 4, board: EXAMPLE_REQUEST.board }));
    const one = tellsOf(made({ repeats: 4, board: WIDE }));
    expect(one.spare - two.spare).toBe(1);
  });

  it('pools the scatter of earlier trials by their degrees of freedom', () => {
    expect(
      pooledNoise([
        { residualSd: 3, degreesOfFreedom: 6 },
        { residualSd: 6, degreesOfFreedom: 2 },
      ]),
    ).toBeCloseTo(Math.sqrt((6 * 9 + 2 * 36) / 8), 12);
    expect(pooledNoise([])).toBeUndefined();
    expect(noticeable(4)).toBeGreaterThan(noticeable(40));
  });
});

describe('boards as blocks', () => {
  it('get the sizes that were asked for, and levels as evenly as can be', () => {
    const counts = [2, 3, 2];
    const runs = allCombinations(counts);
    const boards = dealToBoards(runs, [6, 6], counts, [], chanceFrom(5));
    for (const board of [0, 1]) expect(boards.filter(b => b === board)).toHaveLength(6);
    counts.forEach((levels, f) => {
      for (let level = 0; level < levels; level++) {
        const own = runs.map((r, i) => (r[f] === level ? boards[i] : -1)).filter(b => b >= 0);
        expect(Math.abs(own.filter(b => b === 0).length - own.length / 2)).toBeLessThanOrEqual(1);
      }
    });
    expect(dealToBoards(runs, [12], counts, [], chanceFrom(5))).toEqual(Array(12).fill(0));
  });

  it('have places inside their outline, the rim marked as edge', () => {
    const oval = { w: 300, h: 300, outline: 'ellipse' as const };
    const { places } = boardGrid(oval, 40, 10, 12);
    expect(places.length).toBeGreaterThan(8);
    for (const p of places) expect(insideBoard(oval, p.x, p.y, 40, 12)).toBe(true);
    expect(places.some(p => p.edge)).toBe(true);
    expect(places.some(p => !p.edge)).toBe(true);
    expect(insideBoard(oval, 0, 0, 40, 0)).toBe(false);
    expect(boardGrid({ w: 30, h: 30 }, 40, 10, 5).places).toEqual([]);
  });

  it('that are the smallest hold what they should, whatever the count', () => {
    for (let count = 1; count < 60; count += 7) {
      const size = smallestBoard(count, 40, 10, 12);
      expect(boardGrid(size, 40, 10, 12).places.length).toBeGreaterThanOrEqual(count);
    }
  });
});

describe('what to buy', () => {
  it('is what the shelf does not have: packs, jars, nothing that is there', () => {
    const cost = planCost(made());
    expect(cost.buy.map(b => b.what)).toEqual(['White PVA glue']);
    expect(write(cost.buy[0].amount)).toBe('1 jar of 500 mL');
    const thick = planCost(
      made({
        usual: { ...EXAMPLE_REQUEST.usual, coatMm: 5 },
        factors: [{ key: 'medium', levels: ['soft-gel', 'matte-acrylic'] }],
        repeats: 10,
        board: WIDE,
      }),
    );
    expect(write(thick.buy.find(b => b.what === 'Soft gel medium')?.amount ?? '')).toBe('1 jar of 237 mL');
  });

  it('counts tape by its area, finishes and preparations by the patch, and printers apart', () => {
    const tape = planCost(
      made({
        method: 'tape-lift',
        factors: [{ key: 'pressing', levels: ['spoon', 'burnisher'] }],
        usual: { ...EXAMPLE_REQUEST.usual, medium: 'packing-tape', substrate: 'white-wood' },
      }),
    );
    expect(write(tape.lines.find(l => write(l.what).includes('tape'))!.amount)).toMatch(/dm²$/);
    expect(tape.mediums).toEqual([]);
    const done = planCost(
      made({ usual: { ...EXAMPLE_REQUEST.usual, preparation: 'white-coat', finish: 'clear-wax' } }),
    );
    expect(write(done.lines.find(l => l.what === 'White base coat')!.amount)).toBe('12 patches');
    expect(done.lines.find(l => l.what === 'Clear wax, buffed')!.price).toBeCloseTo(12 * 0.16 * 0.06, 9);
    const two = planCost(
      made({
        factors: [{ key: 'printer', levels: ['office-laser', 'chart-printer'] }],
        overrides: ['inkjet-rubbed-wet'],
      }),
    );
    expect(two.sheets).toBe(2);
    expect(two.lines.filter(l => write(l.what).startsWith('80 g copy paper'))).toHaveLength(2);
  });
});
