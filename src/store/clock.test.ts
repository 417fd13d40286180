import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

const KEY = 'wet-test-clock-behind';
const NOON = Date.parse('2026-05-02T12:00:00.000Z');
let kept: Map<string, string>;
let wall = NOON;
let ticks = 0;

/** The clock as a page that is opened anew finds it. */
async function opened() {
  vi.resetModules();
  return import('./clock.ts');
}

beforeEach(() => {
  kept = new Map();
  wall = NOON;
  ticks = 0;
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
  });
  vi.spyOn(Date, 'now').mockImplementation(() => wall);
  vi.spyOn(performance, 'now').mockImplementation(() => ticks);
});
afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
  vi.resetModules();
});

describe('the present', () => {
  it('is the computer’s, and nothing is kept while that goes right', async () => {
    const clock = await opened();
    wall += 5000;
    ticks += 5000;
    expect(clock.presentMs()).toBe(NOON + 5000);
    expect(clock.clockBehind()).toBe(0);
    expect(kept.size).toBe(0);
  });

  it('goes on when the computer’s clock is set back, and still does after the page is opened anew', async () => {
    const clock = await opened();
    wall -= 3_600_000;
    expect(clock.presentMs()).toBe(NOON);
    expect(Number(kept.get(KEY))).toBe(3_600_000);
    const again = await opened();
    wall += 1000;
    ticks += 1000;
    expect(again.presentMs()).toBe(NOON + 1000);
    expect(again.clockBehind()).toBe(3_600_000);
  });

  it('is never before what already happened', async () => {
    const clock = await opened();
    clock.notBefore(NOON + 7_200_000);
    expect(clock.presentMs()).toBe(NOON + 7_200_000);
    expect(Number(kept.get(KEY))).toBe(7_200_000);
  });

  it('is told as well where the browser keeps nothing, or kept something odd', async () => {
    kept.set(KEY, 'an hour');
    expect((await opened()).presentMs()).toBe(NOON);
    const blocked = () => {
      throw new DOMException('Storage is blocked.', 'SecurityError');
    };
    vi.stubGlobal('localStorage', { getItem: blocked, setItem: blocked });
    const clock = await opened();
    wall -= 60_000;
    expect(clock.presentMs()).toBe(NOON);
    expect(clock.clockBehind()).toBe(60_000);
  });
});
