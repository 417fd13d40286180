import type { Words } from '../say/index.ts';

/** What one factor does to one measure. */
export interface Effect {
  /** The id of what it is about; see the kinds that a trial can be judged by. */
  readonly measure: string;
  readonly factor: number;
  readonly name: string;
  /** Mean and 90 % interval of each level on a new board, in the units of the measure; those the patches do not tell are left out. */
  readonly levels: readonly {
    readonly level: number;
    readonly name: Words;
    readonly mean: number;
    readonly lo: number;
    readonly hi: number;
    readonly n: number;
  }[];
  /** The patches behind it: which, with what level, and what came of it. */
  readonly dots: readonly { readonly code: string; readonly level: number; readonly value: number }[];
  /** The level that is most likely the best, and how sure that is; nothing where levels cannot be told apart. */
  readonly best?: number;
  readonly sure?: number;
  readonly sentence: Words;
}
