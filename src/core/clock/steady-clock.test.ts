import { beforeEach, describe, expect, it } from 'vitest';
import { SteadyClock } from './steady-clock.ts';

const HOUR = 3_600_000;
let wall = 0;
let ticks = 0;
const pass = (ms: number) => {
  wall += ms;
  ticks += ms;
};
const clock = (lag = 0) => new SteadyClock({ wall: () => wall, ticks: () => ticks }, lag);

describe('a steady clock', () => {
  beforeEach(() => {
    wall = 1_000_000_000_000;
    ticks = 5000;
  });

  it('goes as the computer’s clock goes', () => {
    const c = clock();
    pass(90_000);
    expect(c.now()).toBe(wall);
    expect(c.behind).toBe(0);
  });

  it('goes on when the computer’s clock is set back, and says by how much', () => {
    const c = clock();
    pass(60_000);
    const before = c.now();
    wall -= HOUR;
    pass(10_000);
    expect(c.now()).toBe(before + 10_000);
    expect(c.behind).toBe(HOUR);
  });

  it('takes a jump of two seconds for jitter, and anything more for a clock that was set', () => {
    for (const [jump, behind] of [
      [2000, 0],
      [2001, 2001],
    ]) {
      const c = clock();
      pass(60_000);
      c.now();
      wall -= jump;
      c.now();
      expect(c.behind, String(jump)).toBe(behind);
    }
  });

  it('goes a little back within the jitter, never more', () => {
    const c = clock();
    pass(60_000);
    const before = c.now();
    wall -= 1500;
    expect(before - c.now()).toBeLessThanOrEqual(2000);
  });

  it('follows again when that is put right', () => {
    const c = clock();
    wall -= HOUR;
    c.now();
    pass(1000);
    wall += HOUR;
    pass(1000);
    expect(c.now()).toBe(wall);
    expect(c.behind).toBe(0);
  });

  it('counts a night asleep, whether its ticks went on or stood still', () => {
    const c = clock();
    wall += 8 * HOUR;
    expect(c.now()).toBe(wall);
    pass(8 * HOUR);
    expect(c.now()).toBe(wall);
    expect(c.behind).toBe(0);
  });

  it('counts a night asleep also while the computer’s clock is behind', () => {
    const c = clock(10 * 60_000);
    const before = c.now();
    wall += 2 * 60_000;
    expect(c.now()).toBeGreaterThanOrEqual(before + 2 * 60_000 - 1);
  });

  it('is never before what already happened', () => {
    const c = clock();
    c.notBefore(wall + HOUR);
    expect(c.now()).toBe(wall + HOUR);
    c.notBefore(wall);
    expect(c.now()).toBe(wall + HOUR);
    expect(c.behind).toBe(HOUR);
  });

  it('never goes back, whatever is done to the computer’s clock', () => {
    const c = clock();
    let last = c.now();
    for (let i = 0; i < 500; i++) {
      pass((i * 37) % 900);
      wall += ((i * 7919) % 13) - 6 > 4 ? -HOUR : ((i * 104729) % 17) - 8 > 6 ? HOUR : 0;
      const now = c.now();
      expect(now).toBeGreaterThanOrEqual(last - 2000);
      last = now;
    }
  });
});
