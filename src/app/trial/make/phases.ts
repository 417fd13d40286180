import type { PatchStatus } from '../../../core/progress/index.ts';

/** Where a patch stands, in words and as a hatch. */
export const PHASE_WORDS: Record<PatchStatus['phase'], string> = {
  'to do': 'to do',
  ready: 'ready',
  waiting: 'waiting',
  overdue: 'overdue',
  finished: 'finished',
  spoilt: 'spoilt',
};
export const PHASE_HATCH = {
  'to do': 'none',
  waiting: 'dots',
  ready: 'lines',
  overdue: 'cross',
  finished: 'full',
  spoilt: 'cross',
} as const;
