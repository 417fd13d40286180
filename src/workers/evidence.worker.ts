import { expose } from 'comlink';
import {
  type Answer,
  answer,
  type Compared,
  type Contradiction,
  comparedIn,
  contradictionsIn,
  disagreementsIn,
  type EvidenceRow,
  type Known,
  knownIn,
  type Made,
  type Pool,
  poolOf,
  type Settled,
} from '../core/evidence/index.ts';

/** What a workshop's trials say together. */
export interface Weighed {
  readonly known: readonly Known[];
  readonly settled: readonly Settled[];
  readonly contradictions: readonly Contradiction[];
}

let pool: Pool = poolOf([]);

const api = {
  /** Weighs all trials together; what is asked afterwards rests on it. */
  weigh: (rows: readonly EvidenceRow[]): Weighed => {
    pool = poolOf(rows);
    return { known: knownIn(rows), settled: disagreementsIn(pool), contradictions: contradictionsIn(rows) };
  },
  /** What is to be expected of a way of making. */
  ask: (made: Made): Answer | undefined => answer(pool, made),
  /** Which level of something is best in a method, as far as it is known. */
  compared: (method: string, key: string): Compared | undefined => comparedIn(pool, method, key),
};
export type EvidenceApi = typeof api;

expose(api);
