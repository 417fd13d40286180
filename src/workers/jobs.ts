import type { PlanRequest } from '../core/design/index.ts';
import type { Method } from '../core/methods/index.ts';
import type { Trialled } from '../core/progress/index.ts';
import type { Working } from '../core/schedule/index.ts';
import type { Shelf } from '../core/shelf/index.ts';

/** What a plan is made from, and the seed of its names. */
export interface PlanJob {
  readonly request: PlanRequest;
  readonly shelf: Shelf;
  readonly own: readonly Method[];
  readonly createdAt: string;
  readonly identity: number;
}

/** What the work of trials is laid out from. */
export interface AgendaJob {
  readonly trials: readonly Trialled[];
  /** Searched long for a better one. */
  readonly thorough: boolean;
  readonly working: Working;
  readonly now: number;
}
