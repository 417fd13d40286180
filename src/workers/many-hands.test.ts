import { describe, expect, it } from 'vitest';
import { type Hand, handsFor, inManyHands } from './many-hands.ts';

const tasks = [90, 1, 4, 2, 3, 0];
const later = <R>(result: R, turns: number): Promise<R> =>
  turns > 0 ? Promise.resolve().then(() => later(result, turns - 1)) : Promise.resolve(result);

describe('work in many hands', () => {
  it('is worth calling for from four tasks and two cores on, four hands at most', () => {
    expect([handsFor(3, 8), handsFor(24, 1), handsFor(4, 2), handsFor(24, 3), handsFor(24, 16)]).toEqual([
      0, 0, 2, 3, 4,
    ]);
  });

  it('is done once each, by whoever is free, and comes back in order', async () => {
    const did: string[] = [];
    const hand =
      (name: string): Hand<number, number> =>
      work =>
        work(task => {
          did.push(`${name}${task}`);
          return later(task * 10, task);
        });
    const counts: number[] = [];
    const found = await inManyHands(
      tasks,
      [hand('a'), hand('b')],
      () => {
        throw new Error('nothing is left for here');
      },
      n => counts.push(n),
    );
    expect(found).toEqual([900, 10, 40, 20, 30, 0]);
    expect(did.map(d => d.slice(1)).sort()).toEqual(tasks.map(String).sort());
    // The one that had the long task took up fewer.
    expect(did.filter(d => d.startsWith('a')).length).toBeLessThan(did.filter(d => d.startsWith('b')).length);
    expect(counts).toEqual([1, 2, 3, 4, 5, 6]);
  });

  it('is finished here where a hand breaks off, hangs dead, or there is none', async () => {
    const here: number[] = [];
    const own = (task: number) => {
      here.push(task);
      return task * 10;
    };
    const breaks: Hand<number, number> = work =>
      work(task => (task === 4 ? Promise.reject(new Error('gone')) : Promise.resolve(task * 10)));
    expect(await inManyHands(tasks, [breaks], own)).toEqual([900, 10, 40, 20, 30, 0]);
    expect(here).toEqual([4, 2, 3, 0]);
    here.length = 0;
    // Its worker died: what it was asked is never answered, and that it ended is told by another way.
    const dies: Hand<number, number> = work => {
      void work(() => new Promise(() => {}));
      return Promise.reject(new Error('dead'));
    };
    const helps: Hand<number, number> = work => work(task => later(task * 10, 1));
    expect(await inManyHands(tasks, [dies, helps], own)).toEqual([900, 10, 40, 20, 30, 0]);
    expect(here).toEqual([90]);
    here.length = 0;
    expect(await inManyHands(tasks, [], own)).toEqual([900, 10, 40, 20, 30, 0]);
    expect(here).toEqual(tasks);
    expect(await inManyHands([], [helps], own)).toEqual([]);
  });
});
