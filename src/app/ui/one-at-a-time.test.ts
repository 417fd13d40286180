import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { OneAtATime } from './one-at-a-time.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe('work of which one is done at a time', () => {
  const slow = () => {
    let end: (done: boolean) => void = () => {};
    const work = vi.fn(() => new Promise<boolean>(resolve => (end = resolve)));
    return { work, end: (done: boolean) => end(done) };
  };

  it('does not begin a second while the first goes on, and does after it', async () => {
    const gate = new OneAtATime(() => {});
    const [first, second] = [slow(), slow()];
    const one = gate.run(first.work);
    expect(await gate.run(second.work)).toBe(false);
    expect(second.work).not.toHaveBeenCalled();
    first.end(true);
    expect(await one).toBe(true);
    const two = gate.run(second.work);
    second.end(false);
    expect(await two).toBe(false);
    expect(second.work).toHaveBeenCalledOnce();
  });

  it('goes on after one that failed', async () => {
    const gate = new OneAtATime(() => {});
    await expect(gate.run(() => Promise.reject(new Error('full')))).rejects.toThrow('full');
    expect(await gate.run(async () => true)).toBe(true);
  });

  it('is shown to be going on only once it takes long, and not after it', async () => {
    const told: boolean[] = [];
    const gate = new OneAtATime(isLong => told.push(isLong));
    const { work, end } = slow();
    const one = gate.run(work);
    vi.advanceTimersByTime(149);
    expect(told).toEqual([]);
    vi.advanceTimersByTime(1);
    expect(told).toEqual([true]);
    end(true);
    await one;
    vi.advanceTimersByTime(1000);
    expect(told).toEqual([true, false]);
  });
});
