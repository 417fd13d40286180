import { SteadyClock } from '../core/clock/index.ts';

const KEY = 'wet-test-clock-behind';

function stored(): number {
  try {
    return Number(localStorage.getItem(KEY)) || 0;
  } catch {
    return 0;
  }
}

const clock = new SteadyClock({ wall: () => Date.now(), ticks: () => performance.now() }, stored());
let kept = clock.behind;

function keep() {
  if (Math.abs(clock.behind - kept) < 500) return;
  kept = clock.behind;
  try {
    localStorage.setItem(KEY, String(kept));
  } catch {
    // Storage is blocked: it holds until the page is closed.
  }
}

/** The present moment, ms since the epoch; never goes back, even when the computer's clock is set back. */
export function presentMs(): number {
  const now = clock.now();
  keep();
  return now;
}

/** Sees to it that the present is not before something that already happened. */
export function notBefore(ms: number): void {
  clock.notBefore(ms);
  keep();
}

/** By how much the computer's clock is behind what was written before, ms. */
export const clockBehind = (): number => clock.behind;
