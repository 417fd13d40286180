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
export { EvidenceRow, evidenceIn, madeWith, THINGS, type Thing, thingName } from './rows.ts';
