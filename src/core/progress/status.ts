import { type Link, waitAfter } from '../steps/index.ts';
import type { Air } from '../units/index.ts';
import type { PatchProgress } from './progress.ts';

/** When the next step may, should and must at the latest be done; ms since the epoch. */
export interface Window {
  readonly opens: number;
  readonly aim: number;
  readonly closes: number;
}

/** Where a patch stands: derived from the plan and the records, never stored. */
export type PatchStatus =
  | {
      readonly phase: 'to do' | 'ready' | 'waiting' | 'overdue';
      readonly next: Link;
      readonly window?: Window;
      readonly last?: Link;
    }
  | {
      readonly phase: 'finished' | 'spoilt';
      readonly next?: undefined;
      readonly window?: undefined;
      readonly last?: Link;
    };

const MIN = 60_000;

/**
 * Where one patch stands at a moment (ms).
 *
 * @example patchStatus(line, air, start).phase; // => 'to do'
 */
export function patchStatus(line: PatchProgress, air: Air, now: number): PatchStatus {
  const { chain, doneAt } = line;
  const at = chain.findIndex((_, i) => doneAt[i] === undefined);
  const lastIndex = at < 0 ? chain.length - 1 : at - 1;
  const last = lastIndex >= 0 ? chain[lastIndex] : undefined;
  if (line.spoilt) return { phase: 'spoilt', last };
  if (at < 0) return { phase: 'finished', last };
  const next = chain[at];
  const wait = last && waitAfter(last.step, line.settings, air, line.plannedMin);
  const from = doneAt[lastIndex];
  if (from === undefined || !wait) return { phase: 'to do', next, last };
  const window = answered(
    { opens: from + wait.min * MIN, aim: from + wait.aim * MIN, closes: from + wait.max * MIN },
    from,
    line.asked,
  );
  const phase = now < window.opens ? 'waiting' : now > window.closes ? 'overdue' : 'ready';
  return { phase, next, window, last };
}

/** How much longer, as a share of what it has waited, a piece is given that was found not ready. */
const MORE = 0.25;

/** The window after somebody looked: ready means now, not ready means a quarter longer than it has had. */
function answered(window: Window, from: number, asked: PatchProgress['asked']): Window {
  if (!asked) return window;
  const { at, ready } = asked;
  if (ready)
    return {
      opens: Math.min(window.opens, at),
      aim: Math.min(window.aim, at),
      closes: Math.max(window.closes, at),
    };
  const again = at + MORE * (at - from);
  const aim = Math.max(window.aim, again);
  return {
    opens: Math.max(window.opens, again),
    aim,
    closes: Math.max(window.closes, aim + (window.closes - window.aim)),
  };
}
