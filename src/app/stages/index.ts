import type { Stage } from '../trial/stage.ts';

const found = import.meta.glob<{ STAGE: Stage }>('../trial/*/stage.ts', { eager: true });

/** The stages of a trial, one folder of `trial/` each, in the order people work; routes, tabs and the board’s drawing derive from here. */
export const STAGES: readonly Stage[] = Object.values(found)
  .map(({ STAGE }) => STAGE)
  .sort((a, b) => a.place - b.place);
