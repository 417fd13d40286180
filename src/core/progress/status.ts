import { type Link, laterIsFine, waitAfter } from '../steps/index.ts';
import { type AirHistory, driedBy, knownAt, REFERENCE_AIR } from '../units/index.ts';
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
      /** Later than the best moment, within the window, is as good. */
      readonly patient?: boolean;
      readonly last?: Link;
    }
  | {
      readonly phase: 'finished' | 'spoilt';
      readonly next?: undefined;
      readonly window?: undefined;
      readonly patient?: undefined;
      readonly last?: Link;
    };

const MIN = 60_000;

/**
 * Where one patch stands at a moment (ms). Each hour of a wait counts by the air of that hour, as it was known then.
 *
 * @example patchStatus(line, airs, start).phase; // => 'to do'
 */
export function patchStatus(line: PatchProgress, airs: AirHistory, now: number): PatchStatus {
  const { chain, doneAt } = line;
  const at = chain.findIndex((_, i) => doneAt[i] === undefined);
  const lastIndex = at < 0 ? chain.length - 1 : at - 1;
  const last = lastIndex >= 0 ? chain[lastIndex] : undefined;
  if (line.spoilt) return { phase: 'spoilt', last };
  if (at < 0) return { phase: 'finished', last };
  const next = chain[at];
  const from = doneAt[lastIndex];
  const wait = last && from !== undefined ? windowAfter(line, last, from, knownAt(airs, now)) : undefined;
  if (from === undefined || !wait) return { phase: 'to do', next, last };
  const window = answered(wait, from, line.asked);
  const patient = last && laterIsFine(last.step, line.settings);
  const phase = now < window.opens ? 'waiting' : isLate({ window, patient }, now) ? 'overdue' : 'ready';
  return { phase, next, window, last, patient };
}

/**
 * Whether what comes next comes too late at a moment (ms): its window is closed, and later is not as good. The one
 * answer for every page: what is dry stays dry, however long it lies.
 *
 * @example isLate({ window: { opens: 0, aim: 1, closes: 2 }, patient: true }, 3); // => false
 */
export const isLate = (
  { window, patient }: { readonly window?: Window; readonly patient?: boolean },
  now: number,
): boolean => window !== undefined && !patient && now > window.closes;

/** How strongly a wait follows the drying factor of the air: not at all, by its root, or in proportion. */
function follows({ step }: Link, line: PatchProgress): number {
  switch (step.wait.kind) {
    case 'open-time':
      return 0.5;
    case 'preparation':
    case 'finish':
      return 1;
    case 'planned':
      return line.referenceMin === undefined ? 0 : 1;
    case 'fixed':
      return step.wait.dries ? 1 : 0;
    default:
      return 0;
  }
}

/**
 * The window (ms) after a link that is done at `from` (ms), each hour of it by its air; nothing where the next may come
 * at any time.
 *
 * @example windowAfter(line, line.chain[0], start, airs); // => undefined
 */
export function windowAfter(
  line: PatchProgress,
  last: Link,
  from: number,
  airs: AirHistory,
): Window | undefined {
  const wait = waitAfter(last.step, line.settings, REFERENCE_AIR, line.referenceMin ?? line.plannedMin);
  if (!wait) return undefined;
  const power = follows(last, line);
  const after = (minutes: number) => driedBy(airs, from, minutes * MIN, power);
  return { opens: after(wait.min), aim: after(wait.aim), closes: after(wait.max) };
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
