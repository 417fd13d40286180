import { describe, expect, it } from 'vitest';
import { complete } from './complete.ts';
import { graphOf } from './graph.ts';
import { ALWAYS, type Job, type Workload } from './index.ts';

const graph = (jobs: readonly Job[], part: Partial<Workload> = {}) =>
  graphOf({ jobs, hands: [{ name: 'you', there: ALWAYS }], now: 0, places: {}, wash: 0, ...part });
const pair = (id: string, place: number, wait: [number, number, number], pull: number): Job => ({
  id,
  ops: [
    { id: 'place', hands: place, gap: { min: wait[0], aim: wait[1], max: wait[2] } },
    { id: 'pull', hands: pull },
  ],
});
const pulls = [pair('a', 6, [7, 9, 12], 4), pair('b', 6, [7, 9, 12], 4), pair('c', 6, [7, 9, 12], 4)];

describe('a search that leaves nothing out', () => {
  it('finds the least cost, and when', () => {
    // One inside the other: place, place, pull, pull, with the second wait as long as it takes; then the third.
    const two = complete(graph(pulls.slice(0, 2)), 'cost', 1000)!;
    expect(two.least).toBe(25);
    expect(two.slots).toHaveLength(4);
  });

  it('finds how little all could be off, whatever the end', () => {
    expect(complete(graph(pulls), 'off', 1000)!.least).toBe(0);
    const late = complete(
      graph([pair('a', 10, [0, 20, 400], 10)], {
        hands: [
          {
            name: 'you',
            there: [
              [0, 15],
              [100, 115],
            ],
          },
        ],
      }),
      'off',
      1000,
    );
    // From 5 on the piece can be placed; it is pulled at 100, 85 after its end, 65 too late.
    expect(late!.least).toBe(65);
  });

  it('looks only for what is cheaper than is known', () => {
    expect(complete(graph(pulls.slice(0, 2)), 'cost', 1000, 25)).toEqual({});
    expect(complete(graph(pulls.slice(0, 2)), 'cost', 1000, 25.5)!.least).toBe(25);
  });

  it('proves that nothing fits: too narrow for two, away too long, a full oven, nobody there', () => {
    const strict = [pair('a', 20, [5, 5, 5], 20), pair('b', 20, [5, 5, 5], 20)].map(
      (job): Job => ({ ...job, first: { from: 0, aim: 0, to: 30 } }),
    );
    expect(complete(graph(strict), 'any', 2000)).toEqual({});
    expect(complete(graph(strict.slice(0, 1)), 'any', 2000)!.slots).toHaveLength(2);
    const away = {
      hands: [
        {
          name: 'you',
          there: [
            [0, 30],
            [100, 130],
          ] as const,
        },
      ],
    };
    expect(complete(graph([pair('a', 10, [20, 30, 40], 10)], away), 'any', 2000)).toEqual({});
    const oven: Job[] = ['a', 'b'].map(id => ({
      id,
      ops: [
        { id: 'in', hands: 1, place: 'oven', gap: { min: 20, aim: 20, max: 20 } },
        { id: 'out', hands: 1 },
      ],
      first: { from: 0, aim: 0, to: 10 },
    }));
    expect(complete(graph(oven, { places: { oven: 1 } }), 'any', 2000)).toEqual({});
    expect(complete(graph(oven, { places: { oven: 2 } }), 'any', 2000)!.slots).toHaveLength(4);
    expect(complete(graph(pulls, { hands: [] }), 'any', 2000)).toEqual({});
  });

  it('keeps to turns, washes and several hands', () => {
    const coat = (id: string, brush: string, number: number): Job => ({
      id,
      ops: [{ id: 'coat', hands: 5, brush }],
      turn: { queue: 'q', number, begins: 0 },
    });
    const jobs = [coat('a', 'gel', 0), coat('b', 'glue', 1), coat('c', 'gel', 2)];
    expect(complete(graph(jobs, { wash: 3 }), 'cost', 2000)!.least).toBe(21);
    const free = jobs.map(({ turn: _, ...job }) => job);
    expect(complete(graph(free, { wash: 3 }), 'cost', 2000)!.least).toBe(18);
    const two = { hands: ['you', 'helper'].map(name => ({ name, there: ALWAYS })) };
    expect(complete(graph(free, two), 'cost', 2000)!.least).toBe(10);
  });

  it('finds room for a wash, and says nothing where only that is wanting', () => {
    const coat = (id: string, brush: string, at: number): Job => ({
      id,
      ops: [{ id: 'coat', hands: 5, brush }],
      first: { from: at, aim: at, to: at + 20 },
    });
    const look: Job = { id: 'l', ops: [{ id: 'look', hands: 2 }], first: { from: 7, aim: 7, to: 9 } };
    const found = complete(
      graph([coat('a', 'gel', 0), look, coat('b', 'glue', 9)], { wash: 4 }),
      'any',
      2000,
    );
    const [a, l, b] = found!.slots!.map(s => s.at);
    expect(Math.max(l - a - 5, b - l - 2)).toBeGreaterThanOrEqual(4);
    const fixed = [coat('a', 'gel', 0), look, coat('b', 'glue', 11)].map(
      (job): Job => ({ ...job, first: { from: job.first!.from, aim: job.first!.from, to: job.first!.from } }),
    );
    expect(complete(graph(fixed, { wash: 4 }), 'any', 2000)).toBeUndefined();
  });

  it('gives up after so many looks', () => {
    expect(complete(graph(pulls), 'cost', 2)).toBeUndefined();
  });
});
