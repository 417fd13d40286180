import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Timing } from './timing.ts';

const MUST = 1e6;
interface Limit {
  readonly from: number;
  readonly to: number;
  readonly most: number;
  readonly weight: number;
}

const costAt = (x: readonly number[], limits: readonly Limit[]) =>
  limits.reduce((sum, l) => sum + l.weight * Math.max(0, x[l.to] - x[l.from] - l.most), 0);

/**
 * The least cost by looking at every vertex: with whole limits there is a best answer whose moments are whole, and for
 * so few moments within so short a time all of them can be tried.
 */
function leastByTrying(nodes: number, limits: readonly Limit[], span: number): number {
  let least = Number.POSITIVE_INFINITY;
  const x = new Array<number>(nodes + 1).fill(0);
  const go = (i: number): void => {
    if (i === nodes) {
      least = Math.min(least, costAt(x, limits));
      return;
    }
    for (x[i] = 0; x[i] <= span; x[i]++) go(i + 1);
    x[i] = 0;
  };
  go(0);
  return least;
}

function timed(nodes: number, limits: readonly Limit[]) {
  const timing = new Timing(new Array<number>(nodes).fill(0), 40, MUST);
  const arcs = limits.map(l => timing.limit(l.from, l.to, l.most, l.weight));
  timing.settle();
  return { timing, arcs, cost: costAt([...timing.x], limits) };
}

const NODES = 4;
const SPAN = 9;
const limit = fc
  .tuple(
    fc.integer({ min: 0, max: NODES }),
    fc.integer({ min: 1, max: NODES }),
    fc.integer({ min: -5, max: 6 }),
    fc.constantFrom(1, 2, 3, 40),
  )
  .map(([from, by, most, weight]) => ({ from, to: (from + by) % (NODES + 1), most, weight }));
const limits = fc.array(limit, { minLength: 2, maxLength: 12 });
// Nothing wants to be later than what was tried.
const capped = (all: readonly Limit[]): Limit[] => [
  ...all,
  ...Array.from({ length: NODES }, (_, to) => ({ from: NODES, to, most: SPAN, weight: MUST })),
];

describe('the best moments for an order', () => {
  it('are as good as the best of all that can be tried', () => {
    fc.assert(
      fc.property(limits, some => {
        const all = capped(some);
        expect(timed(NODES, all).cost).toBe(leastByTrying(NODES, all, SPAN));
      }),
      { numRuns: 40 },
    );
  });

  it('are the same after changes as from the beginning', () => {
    fc.assert(
      fc.property(
        limits,
        fc.array(fc.tuple(fc.nat(11), fc.integer({ min: -5, max: 6 })), { minLength: 1, maxLength: 6 }),
        (some, changes) => {
          const all = capped(some);
          const { timing, arcs } = timed(NODES, all);
          for (const [which, most] of changes) {
            const i = which % all.length;
            all[i] = { ...all[i], most };
            timing.change(arcs[i], most);
            timing.settle();
          }
          expect(costAt([...timing.x], all)).toBe(timed(NODES, all).cost);
        },
      ),
      { numRuns: 150 },
    );
  });

  it('forget a limit that is lifted, and keep to it again between others', () => {
    fc.assert(
      fc.property(limits, limit, (some, other) => {
        const all = capped(some);
        const { timing, arcs } = timed(NODES, all);
        timing.lift(arcs[0]);
        timing.settle();
        const without = all.slice(1);
        expect(costAt([...timing.x], without)).toBe(timed(NODES, without).cost);
        const again = [{ ...other, weight: all[0].weight }, ...without];
        if (!timing.isIdle(arcs[0])) return;
        timing.moved(arcs[0], other.from, other.to, other.most);
        timing.settle();
        expect(costAt([...timing.x], again)).toBe(timed(NODES, again).cost);
      }),
      { numRuns: 150 },
    );
  });

  it('come back to where they were', () => {
    const { timing, arcs } = timed(3, [
      { from: 3, to: 0, most: 4, weight: MUST },
      { from: 0, to: 1, most: 7, weight: 2 },
      { from: 1, to: 0, most: -7, weight: 2 },
      { from: 2, to: 1, most: -3, weight: MUST },
    ]);
    const x = [...timing.x];
    const kept = timing.saved();
    timing.change(arcs[1], 30);
    timing.change(arcs[2], -30);
    timing.limit(3, 1, 10, MUST);
    timing.settle();
    expect([...timing.x]).not.toEqual(x);
    timing.restore(kept);
    timing.settle();
    expect([...timing.x]).toEqual(x);
  });

  it('say by how much and between what a limit that must be kept is broken', () => {
    const { timing } = timed(2, [
      { from: 1, to: 0, most: -10, weight: MUST },
      { from: 2, to: 1, most: 4, weight: MUST },
    ]);
    expect(timing.broken(MUST)).toBe(6);
    expect(timing.broken(MUST + 1)).toBe(0);
    const [from, to] = timing.worst(MUST);
    expect([0, 1, 2]).toContain(from);
    expect(timing.x[to] - timing.x[from]).toBeGreaterThan(from === 1 ? -10 : 4);
  });

  it('refuse what there is no room for, and to move a limit that is in use', () => {
    const timing = new Timing([0], 1, MUST);
    timing.limit(1, 0, 5, 1);
    expect(() => timing.limit(1, 0, 5, 1)).toThrow('no room');
    const used = new Timing([0, 0], 4, MUST);
    const arc = used.limit(1, 0, -5, MUST);
    used.settle();
    expect(() => used.moved(arc, 0, 1, 3)).toThrow('still in use');
  });
});
