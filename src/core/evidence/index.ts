export {
  type Answer,
  answer,
  type Compared,
  type Contradiction,
  comparedIn,
  comparedSentence,
  contradictionsIn,
  disagreementsIn,
  failsOf,
  type Known,
  knownIn,
  type Range,
  type Settled,
} from './answers.ts';
export { foresee, type Made, type Pool, poolOf, unsureOf } from './pool.ts';
export { EvidenceRow, THINGS, type Thing } from './row.ts';
export { evidenceIn, madeWith, thingName } from './rows.ts';
