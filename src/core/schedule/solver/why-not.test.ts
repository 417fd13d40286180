import { describe, expect, it } from 'vitest';
import { ALWAYS, type Job, lowerBound, solve, type Workload, whyNot } from './index.ts';

const problem = (jobs: readonly Job[], part: Partial<Workload> = {}): Workload => ({
  jobs,
  hands: [{ name: 'you', there: ALWAYS }],
  now: 0,
  places: {},
  wash: 0,
  ...part,
});
const pair = (id: string, wait: number, part: Partial<Job> = {}): Job => ({
  id,
  ops: [
    { id: 'place', hands: 20, gap: { min: wait, aim: wait, max: wait } },
    { id: 'pull', hands: 20 },
  ],
  ...part,
});
const stuckOf = (p: Workload) => {
  const found = solve(p, { rounds: 0, seed: 1 });
  if (found.ok) throw new Error('it fits');
  return found.problem.job ?? '';
};

describe('what would make it fit', () => {
  it('names the wait that cannot be kept', () => {
    const p = problem([pair('a', 100)], {
      hands: [
        {
          name: 'you',
          there: [
            [0, 50],
            [400, 500],
          ],
        },
      ],
    });
    const why = whyNot(p, stuckOf(p));
    expect(why.windows).toEqual([{ job: 'a', after: 'place' }]);
    expect(why.otherTimes).toBe(true);
    expect(why.helper).toBe(false);
    expect(why.fewer).toBe(0);
  });

  it('is a helper where two must be done at once', () => {
    const at = { from: 10, aim: 10, to: 10 };
    const p = problem([
      { id: 'a', ops: [{ id: 'pull', hands: 20 }], first: at },
      { id: 'b', ops: [{ id: 'pull', hands: 20 }], first: at },
    ]);
    const why = whyNot(p, stuckOf(p));
    expect(why.helper).toBe(true);
    expect(why.fewer).toBe(1);
    expect(why.otherTimes).toBe(false);
  });

  it('is fewer at once where a sitting holds only so many', () => {
    const p = problem([pair('a', 20), pair('b', 20), pair('c', 20), pair('d', 20)], {
      hands: [{ name: 'you', there: [[0, 100]] }],
    });
    expect(whyNot(p, stuckOf(p)).fewer).toBe(2);
  });

  it('is another order where turns stand in the way', () => {
    const first = { id: 'a', ops: [{ id: 'coat', hands: 10 }], first: { from: 50, aim: 50, to: 60 } };
    const p = problem([
      { ...first, turn: { queue: 'q', number: 0, begins: 0 } },
      {
        id: 'b',
        ops: [{ id: 'coat', hands: 10 }],
        first: { from: 0, aim: 0, to: 20 },
        turn: { queue: 'q', number: 1, begins: 0 },
      },
    ]);
    const why = whyNot(p, stuckOf(p));
    expect(why.otherOrder).toBe(true);
    expect(why.helper).toBe(false);
  });
});

describe('the bound', () => {
  const single = (id: string, from: number, hands: number): Job => ({
    id,
    ops: [{ id: 'do', hands }],
    first: { from, aim: from, to: 10_000 },
  });

  it('is the sum of the hands when all can begin at once', () => {
    expect(lowerBound(problem([single('a', 0, 7), single('b', 0, 5), single('c', 0, 9)]))).toBe(21);
  });

  it('counts what must be waited for before and after', () => {
    // Begin at 4 at the earliest, 6 of work, then 30 to wait and 2 of work.
    const late: Job = {
      id: 'late',
      ops: [
        { id: 'coat', hands: 6, gap: { min: 20, aim: 30, max: 40 } },
        { id: 'look', hands: 2 },
      ],
      first: { from: 4, aim: 4, to: 9 },
    };
    expect(lowerBound(problem([late]))).toBe(42);
    // Two of them: the second starts six later, whichever it is.
    expect(lowerBound(problem([late, { ...late, id: 'other' }]))).toBeGreaterThanOrEqual(44);
  });

  it('knows that nothing is done while nobody is there', () => {
    const hands = [
      {
        name: 'you',
        there: [
          [0, 10],
          [100, 200],
        ] as const,
      },
    ];
    expect(lowerBound(problem([single('a', 0, 8), single('b', 0, 8)], { hands }))).toBeGreaterThanOrEqual(
      104,
    );
  });

  it('is halved, not more, by a second pair of hands', () => {
    const two = [ALWAYS, ALWAYS].map((there, i) => ({ name: `h${i}`, there }));
    const jobs = Array.from({ length: 6 }, (_, i) => single(`j${i}`, 0, 10));
    expect(lowerBound(problem(jobs, { hands: two }))).toBe(30);
  });

  it('is never above what a full search of all orders finds', () => {
    const jobs = [single('a', 0, 9), single('b', 3, 4), single('c', 5, 6), single('d', 11, 3)];
    const orders = (list: Job[]): Job[][] =>
      list.length < 2
        ? [list]
        : list.flatMap((x, i) => orders([...list.slice(0, i), ...list.slice(i + 1)]).map(r => [x, ...r]));
    const best = Math.min(
      ...orders(jobs).map(order => {
        let at = 0;
        let off = 0;
        for (const job of order) {
          at = Math.max(at, job.first!.from);
          off += at - job.first!.aim;
          at += job.ops[0].hands;
        }
        return at + off;
      }),
    );
    const found = solve(problem(jobs), { rounds: 100, seed: 2 });
    expect(lowerBound(problem(jobs))).toBeLessThanOrEqual(best);
    expect(found.ok && found.value.cost).toBe(best);
  });
});
