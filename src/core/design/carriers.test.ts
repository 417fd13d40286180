import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parsePlan } from '../bundle/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { donorSets, mapSheets } from '../sheets/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { chainOf } from '../steps/index.ts';
import {
  carrierName,
  carrierOf,
  type Piece,
  sizeOf,
  type TrialPlan,
  type TrialRecord,
  underOf,
} from '../trial/index.ts';
import { furtherBatch } from './batch.ts';
import { planCost } from './cost.ts';
import { boardGrid, clearOf, insideBoard, smallestBoard } from './grid.ts';
import { leftover } from './leftover.ts';
import { movePatch } from './move.ts';
import { planTrial } from './plan.ts';
import type { PlanRequest } from './request.ts';
import { requestOf } from './request-of.ts';
import { layersOn, roomOn } from './room.ts';
import { STARTING_REQUEST } from './start.ts';

const shelf = STARTER_SHELF;
const base: PlanRequest = {
  ...STARTING_REQUEST,
  name: 'Tide lids',
  seed: 7,
  repeats: 2,
  factors: [
    { key: 'rounds', levels: [1, 2, 3] },
    { key: 'dryHours', levels: [12, 24] },
  ],
};
const made = (part: Partial<PlanRequest> = {}, id = 0.25) =>
  planTrial({ ...base, ...part }, shelf, { createdAt: '2026-03-01T09:00:00.000Z', random: () => id });
const plan = (part: Partial<PlanRequest> = {}, id = 0.25): TrialPlan => {
  const found = made(part, id);
  if (!found.ok) throw new ProblemError(found.problem);
  return found.value;
};
const say = (part: Partial<PlanRequest>) => {
  const found = made(part);
  return found.ok ? '' : found.problem.say;
};

const lid: Piece = { name: 'The lid', w: 130, h: 130, outline: 'ellipse' };
const panel: Piece = {
  name: 'Bag panel',
  w: 240,
  h: 200,
  outline: 'corners',
  corners: [
    { x: 0.2, y: 0 },
    { x: 0.8, y: 0 },
    { x: 1, y: 1 },
    { x: 0, y: 1 },
  ],
};

/** How far the border of a polygon is from a rectangle, by many points along it: an independent way to see it. */
function nearestPoint(piece: Piece, rect: { x: number; y: number; w: number; h: number }): number {
  const corners = piece.corners!.map(c => [c.x * piece.w, c.y * piece.h]);
  let nearest = Number.POSITIVE_INFINITY;
  corners.forEach(([ax, ay], i) => {
    const [bx, by] = corners[(i + 1) % corners.length];
    for (let k = 0; k <= 400; k++) {
      const [x, y] = [ax + ((bx - ax) * k) / 400, ay + ((by - ay) * k) / 400];
      const dx = Math.max(rect.x - x, 0, x - rect.x - rect.w);
      const dy = Math.max(rect.y - y, 0, y - rect.y - rect.h);
      nearest = Math.min(nearest, Math.max(dx, dy));
    }
  });
  return nearest;
}

describe('boards of any outline', () => {
  it('keeps every patch its margin away from each side of a tapered panel', () => {
    const { places } = boardGrid(panel, 40, 10, 12);
    expect(places.length).toBeGreaterThanOrEqual(6);
    for (const p of places) {
      expect(nearestPoint(panel, { ...p, w: 40, h: 40 })).toBeGreaterThanOrEqual(12 - 0.2);
      expect(insideBoard(panel, p.x, p.y, 40, 12)).toBe(true);
    }
    // Beside the slanting side of it there is a corner of the bounding box that is not the panel.
    expect(insideBoard(panel, 12, 12, 40, 12)).toBe(false);
    expect(insideBoard({ ...panel, outline: 'rectangle' }, 12, 12, 40, 12)).toBe(true);
  });

  it('holds on any outline: nothing lies outside, nothing too close, nothing on one another', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(
        fc.array(fc.record({ x: share, y: share }), { minLength: 3, maxLength: 7 }),
        fc.integer({ min: 0, max: 20 }),
        (corners, margin) => {
          const piece: Piece = { name: 'Slice', w: 300, h: 260, outline: 'corners', corners };
          const { places } = boardGrid(piece, { w: 40, h: 30 }, 10, margin);
          for (const [i, p] of places.entries()) {
            expect(nearestPoint(piece, { ...p, w: 40, h: 30 })).toBeGreaterThanOrEqual(margin - 0.2);
            for (const q of places.slice(i + 1))
              expect(Math.abs(p.x - q.x) >= 49.8 || Math.abs(p.y - q.y) >= 39.8).toBe(true);
          }
        },
      ),
      { numRuns: 120 },
    );
  });

  it('sees a notch, and a square that stands in the hollow of an outline', () => {
    const hollow: Piece = {
      ...panel,
      w: 200,
      h: 200,
      corners: [
        { x: 0, y: 0 },
        { x: 0.2, y: 0 },
        { x: 0.2, y: 0.8 },
        { x: 0.8, y: 0.8 },
        { x: 0.8, y: 0 },
        { x: 1, y: 0 },
        { x: 1, y: 1 },
        { x: 0, y: 1 },
      ],
    };
    expect(insideBoard(hollow, 80, 60, 40, 0)).toBe(false);
    expect(insideBoard(hollow, 0, 60, 40, 0)).toBe(true);
    expect(insideBoard(hollow, 1, 60, 40, 0)).toBe(false);
  });

  it('grows a board by its corners until it holds what is wanted', () => {
    const size = smallestBoard(9, 40, 10, 12, 'corners', panel.corners);
    const grown = { ...panel, ...size };
    expect(boardGrid(grown, 40, 10, 12).places.length).toBeGreaterThanOrEqual(9);
  });

  it('plans on boards of corners, and comes back as it was asked', () => {
    const board = { ...base.board, w: 300, h: 260, outline: 'corners' as const, corners: panel.corners };
    const p = plan({ board });
    for (const patch of p.patches)
      expect(insideBoard(p.board, patch.x, patch.y, sizeOf(p), p.marginMm)).toBe(true);
    expect(requestOf(p).board).toEqual(board);
    expect(write(say({ board: { ...board, corners: undefined } }))).toBe('The board has no corners yet.');
  });
});

describe('pieces of their own among the boards', () => {
  const p = plan({ pieces: [lid, panel], repeats: 4 });
  const on = (board: number) => p.patches.filter(x => x.board === board).length;

  it('fills the pieces first, by what room they have, and gives the boards the rest evenly', () => {
    const room = [lid, panel].map(c => boardGrid(c, 40, p.gutterMm, p.marginMm).places.length);
    expect([on(0), on(1)]).toEqual(room);
    const rest = p.patches.length - room[0] - room[1];
    expect(rest).toBeGreaterThan(0);
    const boards = Array.from({ length: p.board.count - 2 }, (_, i) => on(i + 2));
    expect(boards.reduce((a, b) => a + b, 0)).toBe(rest);
    expect(Math.max(...boards) - Math.min(...boards)).toBeLessThanOrEqual(1);
    expect(carrierName(p, 0)).toBe('The lid');
    expect(carrierName(p, 2)).toBe('Board 3');
    expect(carrierOf(p, 2).w).toBe(p.board.w);
  });

  it('needs no board at all where the pieces hold everything, and shares it out by their room', () => {
    const small = plan({ pieces: [lid, { ...panel, w: 400, h: 300 }], repeats: 1 });
    expect(small.board.count).toBe(2);
    const count = (b: number) => small.patches.filter(x => x.board === b).length;
    expect(count(0)).toBeGreaterThan(0);
    expect(count(1)).toBeGreaterThan(count(0));
  });

  it('a whole plan holds together, is drawn on its map and costs the pieces by their size', () => {
    expect(parsePlan(JSON.parse(JSON.stringify(p))).ok).toBe(true);
    const map = JSON.stringify(mapSheets(p));
    expect(map).toContain('The lid');
    expect(map).toContain('Bag panel');
    const dm2 = Array.from({ length: p.board.count }, (_, b) => carrierOf(p, b)).reduce(
      (sum, c) => sum + (c.w * c.h) / 10_000,
      0,
    );
    const [substrate] = p.used.substrates;
    const line = planCost(p).lines.find(l => l.what === substrate.name);
    expect(line?.price).toBeCloseTo(dm2 * substrate.pricePerDm2, 9);
    expect(requestOf(p).pieces).toEqual([lid, panel]);
  });

  it('a patch may be moved on its piece as far as the piece goes', () => {
    const [first] = p.patches.filter(x => x.board === 0);
    expect(movePatch(p, first.code, { board: 0, x: 0, y: 0 }).ok).toBe(false);
    const alone = { ...p, patches: p.patches.filter(x => x.board !== 0 || x === first) };
    expect(movePatch(alone, first.code, { board: 0, x: 45, y: 45 }).ok).toBe(true);
    // On a board that place would be fine.
    expect(insideBoard(p.board, 12, 12, 40, 12)).toBe(true);
    expect(movePatch(alone, first.code, { board: 0, x: 12, y: 12 }).ok).toBe(false);
  });

  it('further patches come on boards of the usual size', () => {
    const more = furtherBatch(p, [], { what: 'again' }, shelf);
    expect(more.ok && more.value.patches.every(x => x.board >= p.board.count)).toBe(true);
    const tiny = { ...p, board: { ...p.board, w: 30, h: 30 } };
    const none = furtherBatch(tiny, [], { what: 'again' }, shelf);
    expect(none.ok ? '' : none.problem.code).toBe('board-too-small');
  });

  it('says what cannot be', () => {
    expect(write(say({ pieces: [{ ...lid, w: 50, h: 50 }] }))).toBe(
      '“The lid” is too small for a patch of 40 mm.',
    );
    expect(write(say({ pieces: [lid, lid] }))).toBe('Two pieces are called “The lid”.');
    expect(write(say({ pieces: [{ ...panel, corners: undefined }] }))).toBe('Bag panel has no corners yet.');
    expect(write(say({ pieces: [{ ...lid, name: ' ' }] }))).toBe('Give the piece a name.');
    expect(write(say({ pieces: [lid], board: { ...base.board, onePiece: true } }))).toMatch(
      /piece by itself/,
    );
    expect(write(say({ pieces: [lid], design: 'strips', stripKey: 'rounds' }))).toMatch(/all alike/);
    const many = Array.from({ length: 13 }, (_, i) => ({ ...lid, name: `Lid ${i}` }));
    expect(write(say({ pieces: many, repeats: 2 }))).toMatch(/13 pieces for 12 patches/);
  });
});

describe('two trials on one board', () => {
  const first = plan({ repeats: 1, board: { ...base.board, w: 300, h: 260 } });
  const needs = { patch: 30, gutterMm: 10, marginMm: 12 };
  const free = roomOn(first, [], needs);
  if (!free.ok) throw new ProblemError(free.problem);
  const [{ piece, room }] = free.value;
  const second = plan({ patchMm: 30, repeats: 1, pieces: [piece] }, 0.5);

  it('knows what is taken, and lies beside it', () => {
    expect(piece.of).toEqual({ trial: first.id, board: 0 });
    expect(piece.taken).toHaveLength(first.patches.filter(p => p.board === 0).length);
    expect(room).toBeGreaterThan(0);
    const there = second.patches.filter(p => p.board === 0);
    expect(there).toHaveLength(Math.min(room, second.patches.length));
    for (const a of there)
      for (const b of first.patches.filter(p => p.board === 0))
        expect(
          a.x >= b.x + 40 + 9.8 || b.x >= a.x + 30 + 9.8 || a.y >= b.y + 40 + 9.8 || b.y >= a.y + 30 + 9.8,
        ).toBe(true);
    expect(clearOf(piece, first.patches[0].x + 45, first.patches[0].y, 30, 10)).toBe(false);
  });

  it('a third sees both, also when it is asked of the second', () => {
    const third = roomOn(second, [first, second], needs);
    const there = third.ok ? third.value.find(r => r.piece.of?.trial === first.id) : undefined;
    const on = [first, second].flatMap(t => t.patches.filter(p => p.board === 0).map(p => p.code));
    // Full for another of this size, or with all that lies there.
    if (there) expect(there.piece.taken?.map(t => t.code).sort()).toEqual(on.sort());
    const small = roomOn(first, [second], { ...needs, patch: 20, gutterMm: 8 });
    const codes = small.ok ? small.value[0].piece.taken?.map(t => t.code) : on;
    expect([...(codes ?? [])].sort()).toEqual([...on].sort());
  });

  it('does not pay for the board again, nor lies on what is taken', () => {
    const cost = planCost(second).lines.find(l => l.what === second.used.substrates[0].name);
    const own = second.board.count - 1;
    expect(cost?.price ?? 0).toBeCloseTo(
      (own * second.board.w * second.board.h * second.used.substrates[0].pricePerDm2) / 10_000,
      9,
    );
    const mine = second.patches.find(p => p.board === 0)!;
    const [theirs] = first.patches;
    const moved = movePatch(second, mine.code, { board: 0, x: theirs.x, y: theirs.y });
    expect(write(moved.ok ? '' : moved.problem.say)).toMatch(/patch of another trial/);
  });

  it('says where there is no room', () => {
    const none = roomOn(first, [], { ...needs, patch: 150 });
    expect(write(none.ok ? '' : none.problem.say)).toMatch(/has room for a patch of 150 mm/);
    const tiles = plan({ board: { w: 80, h: 80, outline: 'rectangle', onePiece: true } });
    const found = roomOn(tiles, [], needs);
    expect(found.ok ? '' : found.problem.code).toBe('one-piece');
    expect(write(say({ patchMm: 100, patchTallMm: 100, pieces: [{ ...piece, w: 120, h: 120 }] }))).toMatch(
      /no room left/,
    );
  });
});

/** Every step of some patches done, in turn. */
const finished = (of: TrialPlan, codes: readonly string[]): TrialRecord[] => {
  let time = Date.parse(of.createdAt);
  return of.patches
    .filter(p => codes.includes(p.code))
    .flatMap(p =>
      chainOf(of, p).map(({ step, round }, i): TrialRecord => {
        time += 3_600_000;
        return {
          id: `${p.code}-${i}`,
          at: new Date(time).toISOString(),
          patch: p.code,
          kind: 'step',
          step: step.id,
          round,
        };
      }),
    );
};

describe('a further layer', () => {
  const lower = plan({ repeats: 1, board: { ...base.board, w: 300, h: 260 } });
  const done = lower.patches.slice(0, 4).map(p => p.code);
  const records = finished(lower, done);
  const found = layersOn({ plan: lower, records }, [], { patch: 30, gutterMm: 10, marginMm: 12 });
  if (!found.ok) throw new ProblemError(found.problem);
  const [{ piece, room }] = found.value;

  it('lies in the middle of patches that are finished, and on no other', () => {
    expect(piece.under?.map(u => u.code).sort()).toEqual([...done].sort());
    expect(room).toBe(4);
    const second = plan({ patchMm: 30, repeats: 1, pieces: [piece] }, 0.5);
    const on = second.patches.filter(p => p.board === 0);
    expect(on).toHaveLength(4);
    for (const p of on) {
      const below = lower.patches.find(b => b.code === underOf(second, p))!;
      expect([p.x - below.x, p.y - below.y]).toEqual([5, 5]);
    }
    expect(second.patches.filter(p => p.board > 0).every(p => underOf(second, p) === undefined)).toBe(true);
    expect(parsePlan(JSON.parse(JSON.stringify(second))).ok).toBe(true);
    expect(JSON.stringify(mapSheets(second))).toContain(`, on ${done[0]}`);
    // It stays on patches that are there.
    const moved = movePatch(second, on[0].code, { board: 0, x: 100, y: 200 });
    expect(moved.ok ? '' : moved.problem.code).toBe('layer');
    // And what lies there already is not offered again.
    const again = layersOn({ plan: lower, records }, [second], { patch: 30, gutterMm: 10, marginMm: 12 });
    expect(again.ok ? '' : again.problem.code).toBe('nothing-under');
  });

  it('is on nothing that is unfinished, written off or too small', () => {
    const none = layersOn({ plan: lower, records: [] }, [], { patch: 30, gutterMm: 10, marginMm: 12 });
    expect(write(none.ok ? '' : none.problem.say)).toMatch(/No finished patch of/);
    const spoilt: TrialRecord = {
      id: 's',
      at: '2026-06-01T09:00:00.000Z',
      patch: done[0],
      kind: 'spoilt',
      why: 'dropped',
      slip: true,
    };
    const left = layersOn({ plan: lower, records: [...records, spoilt] }, [], {
      patch: 30,
      gutterMm: 10,
      marginMm: 12,
    });
    expect(left.ok && left.value[0].piece.under?.map(u => u.code)).not.toContain(done[0]);
    expect(left.ok && left.value[0].room).toBe(3);
    const large = layersOn({ plan: lower, records }, [], { patch: 41, gutterMm: 10, marginMm: 12 });
    expect(large.ok).toBe(false);
  });
});

describe('what is left over', () => {
  const from = plan();
  const kept = leftover(from, { what: 'Printed backing', donor: from.used.donors[0].id, count: 6 }, []);
  if (!kept.ok) throw new ProblemError(kept.problem);
  const again = (part: Partial<PlanRequest>, donor = kept.value) =>
    planTrial(
      { ...base, repeats: 1, usual: { ...base.usual, donor: donor.id }, ...part },
      { ...shelf, donors: [...shelf.donors, donor] },
      { createdAt: from.createdAt, random: () => 0.9 },
    );

  it('is a sheet that is printed already: laid on, not printed, not paid again', () => {
    expect(kept.value).toMatchObject({ leftOf: from.code, onHand: 6, packPrice: 0, sheet: { w: 40, h: 40 } });
    const made = again({});
    if (!made.ok) throw new ProblemError(made.problem);
    expect(donorSets(made.value)).toEqual([]);
    const bill = planCost(made.value);
    expect(bill.lines.find(l => write(l.what).startsWith('Printed backing'))).toMatchObject({
      price: 0,
      amount: '6 left over',
    });
    expect(bill.buy).toEqual([]);
    expect(parsePlan(JSON.parse(JSON.stringify(made.value))).ok).toBe(true);
  });

  it('says when there is not enough of it, or when the patches are larger', () => {
    const few = again({ repeats: 2 });
    expect(write(few.ok ? '' : few.problem.say)).toBe(
      `There are 6 pieces of “Printed backing from ${from.code}”, and the plan needs 12.`,
    );
    const large = again({ patchMm: 45 });
    expect(large.ok ? '' : large.problem.code).toBe('sheet-too-small');
  });

  it('keeps apart what is left at other times, and asks for what is missing', () => {
    const ask = { what: 'Skin', donor: from.used.donors[0].id, count: 1 };
    const next = leftover(from, ask, [kept.value.id]);
    expect(next.ok && next.value.id).not.toBe(kept.value.id);
    for (const [part, code] of [
      [{ what: ' ' }, 'what'],
      [{ count: 0 }, 'count'],
      [{ count: 1.5 }, 'count'],
      [{ donor: 'none' }, 'donor'],
    ] as const) {
      const bad = leftover(from, { ...ask, ...part }, []);
      expect(bad.ok ? '' : bad.problem.code).toBe(code);
    }
  });
});
