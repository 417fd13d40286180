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
  /** Loads its page and what it draws on the board; called when it is first opened. */
  readonly load: () => Promise<LoadedStage>;
  /** Whether patches may be moved on the board as long as work has not begun. */
  readonly arranges?: boolean;
}

/** What a stage shows, once it is opened: its page, and what stands on the patches beside it. */
export interface LoadedStage {
  readonly Page: ComponentType;
  readonly marks: (view: TrialView) => BoardMarks;
}
