import { EXPLAIN } from './trial/explain/stage.tsx';
import { JUDGE } from './trial/judge/stage.tsx';
import { KEEP } from './trial/keep/stage.tsx';
import { MAKE } from './trial/make/stage.tsx';
import { PLAN } from './trial/plan/stage.tsx';
import { PRINT } from './trial/print/stage.tsx';
import { READ } from './trial/read/stage.tsx';
import type { Stage } from './trial/stage.ts';

/** The stages of a trial in the order people work; routes, tabs and the board’s drawing derive from here. */
export const STAGES: readonly Stage[] = [PLAN, PRINT, MAKE, READ, JUDGE, EXPLAIN, KEEP];
