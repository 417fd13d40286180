import { describe, expect, it } from 'vitest';
import { type Hand, handsFor, inManyHands } from './many-hands.ts';

const tasks = [90, 1, 4, 2, 3, 0];
const later = <R>(result: R, turns: number): Promise<R> =>
  turns > 0 ? Promise.resolve().then(() => later(result, turns - 1)) : Promise.resolve(result);

describe('work in many hands', () => {
  it('is worth calling for from four tasks and two cores on, four hands at most with the own', () => {
    expect([handsFor(3, 8), handsFor(24, 1), handsFor(4, 2), handsFor(24, 3), handsFor(24, 16)]).toEqual([
      0, 0, 1, 2, 3,
    ]);
  });

  it('is done once each, by whoever is free, here as well, and comes back in order', async () => {
    const did: string[] = [];
    const by = (name: string) => (task: number) => {
      did.push(`${name}${task}`);
      return later(task * 10, task);
    };
    const counts: number[] = [];
    const hand: Hand<number, number> = work => work(by('a'));
    const found = await inManyHands(tasks, [hand], by('b'), n => counts.push(n));
    expect(found).toEqual([900, 10, 40, 20, 30, 0]);
    expect(did.map(d => d.slice(1)).sort()).toEqual(tasks.map(String).sort());
    // Both had their part, the one without the long task the larger.
    expect(did[0]).toBe('a90');
    expect(did.filter(d => d.startsWith('b')).length).toBeGreaterThan(0);
    expect(counts).toEqual([1, 2, 3, 4, 5, 6]);
  });

  it('begins here while helpers are still on their way', async () => {
    let come = () => {};
    const comes = new Promise<void>(resolve => {
      come = resolve;
    });
    const late: Hand<number, number> = work => comes.then(() => work(task => later(task * 10, 1)));
    const here: number[] = [];
    const found = await inManyHands(tasks, [late], task => {
      here.push(task);
      if (here.length === 4) come();
      return task * 10;
    });
    expect(found).toEqual([900, 10, 40, 20, 30, 0]);
    expect(here).toEqual([90, 1, 4, 2]);
    // One that does not come at all keeps nobody waiting.
    const never: Hand<number, number> = () => new Promise(() => {});
    expect(await inManyHands(tasks, [never], task => task * 10)).toEqual(found);
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
    expect(here).toContain(4);
    expect(new Set(here).size).toBe(here.length);
    here.length = 0;
    // Its worker died: what it was asked is never answered, and that it ended is told by another way.
    const dies: Hand<number, number> = work => {
      void work(() => new Promise(() => {}));
      return Promise.reject(new Error('dead'));
    };
    const helps: Hand<number, number> = work => work(task => later(task * 10, 1));
    expect(await inManyHands(tasks, [dies, helps], own)).toEqual([900, 10, 40, 20, 30, 0]);
    expect(here).toContain(90);
    here.length = 0;
    expect(await inManyHands(tasks, [], own)).toEqual([900, 10, 40, 20, 30, 0]);
    expect(here).toEqual(tasks);
    expect(await inManyHands([], [helps], own)).toEqual([]);
  });
});
