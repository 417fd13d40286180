import type { ComponentType } from 'react';
import type { BoardMarks } from '../board/marks.tsx';
import type { TrialView } from './view.tsx';

/** One stage of a trial: all that routes, tabs, links and the board know of it. */
export interface Stage {
  /** Its place in the address. */
  readonly id: string;
  /** Its place among the stages: people work in this order. */
  readonly place: number;
  /** What its tab says. */
  readonly label: string;
  /** Loads its page; called when it is first opened. */
  readonly load: () => Promise<ComponentType>;
  readonly marks: (view: TrialView) => BoardMarks;
  /** Whether patches may be moved on the board as long as work has not begun. */
  readonly arranges?: boolean;
}
