import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { examplePlan } from '../../core/design/example.ts';
import type { Patch } from '../../core/trial/index.ts';
import { layoutOf, nearest } from './geometry.ts';

describe('boards in the drawing', () => {
  it('lie side by side, never over each other, all inside, and are found under a point', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 30, max: 900 }),
        fc.integer({ min: 30, max: 900 }),
        fc.integer({ min: 1, max: 48 }),
        (w, h, count) => {
          const layout = layoutOf({ board: { w, h, count, outline: 'rectangle', onePiece: false } });
          for (let a = 0; a < count; a++) {
            const at = layout.at(a);
            expect(at.x + w).toBeLessThanOrEqual(layout.width);
            expect(at.y + h).toBeLessThanOrEqual(layout.height);
            expect(layout.boardAt(at.x + w / 2, at.y + h / 2)).toBe(a);
            const next = a + 1 < count ? layout.at(a + 1) : { x: layout.width, y: layout.height };
            expect(next.x >= at.x + w || next.y >= at.y + h).toBe(true);
          }
          expect(layout.boardAt(layout.width + 5, 5)).toBeUndefined();
        },
      ),
    );
  });

  it('never lie over each other where pieces of their own are among them', () => {
    const side = fc.integer({ min: 30, max: 600 });
    const piece = fc.record({
      w: side,
      h: side,
      name: fc.constant('Lid'),
      outline: fc.constant('ellipse' as const),
    });
    fc.assert(
      fc.property(side, side, fc.array(piece, { maxLength: 6 }), (w, h, pieces) => {
        const count = pieces.length + 2;
        const plan = { board: { w, h, count, outline: 'rectangle' as const, onePiece: false }, pieces };
        const layout = layoutOf(plan);
        const boxes = Array.from({ length: count }, (_, b) => {
          const of = pieces[b] ?? plan.board;
          return { ...layout.at(b), w: of.w, h: of.h };
        });
        for (const [i, a] of boxes.entries()) {
          expect(a.x + a.w).toBeLessThanOrEqual(layout.width);
          expect(a.y + a.h).toBeLessThanOrEqual(layout.height);
          expect(layout.boardAt(a.x + a.w / 2, a.y + a.h / 2)).toBe(i);
          for (const b of boxes.slice(i + 1))
            expect(a.x + a.w <= b.x || b.x + b.w <= a.x || a.y + a.h <= b.y || b.y + b.h <= a.y).toBe(true);
        }
      }),
    );
  });

  it('carry their patches with them', () => {
    const plan = examplePlan({ board: { w: 140, h: 200, outline: 'rectangle', onePiece: false } });
    expect(plan.board.count).toBeGreaterThan(1);
    const layout = layoutOf(plan);
    for (const patch of plan.patches) {
      const { x, y } = layout.of(patch);
      expect(layout.boardAt(x + plan.patchMm / 2, y + plan.patchMm / 2)).toBe(patch.board);
    }
  });
});

describe('the next patch by arrow key', () => {
  const place = (p: Patch) => ({ x: p.x, y: p.y });
  const grid = Array.from({ length: 12 }, (_, i) => ({
    ...examplePlan().patches[0],
    code: `P${i}`,
    x: (i % 4) * 50,
    y: Math.floor(i / 4) * 50,
  }));
  const go = (i: number, dx: number, dy: number) => nearest(grid, grid[i], dx, dy, place)?.code;

  it('is the one beside, above or below', () => {
    expect([go(5, 1, 0), go(5, -1, 0), go(5, 0, -1), go(5, 0, 1)]).toEqual(['P6', 'P4', 'P1', 'P9']);
  });
  it('is none beyond the rim', () => {
    expect([go(3, 1, 0), go(0, -1, 0), go(0, 0, -1), go(11, 0, 1)]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
  });
  it('reaches every patch from every other', () => {
    const reached = new Set(['P0']);
    const open = [0];
    while (open.length) {
      const i = open.pop()!;
      for (const [dx, dy] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ]) {
        const code = go(i, dx, dy);
        if (code && !reached.has(code)) {
          reached.add(code);
          open.push(Number(code.slice(1)));
        }
      }
    }
    expect(reached.size).toBe(12);
  });
});
