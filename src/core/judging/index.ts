export { type Agreement, agreement, type GradedAlike, gradedAlike } from './agree.ts';
export { blindOrder } from './blind.ts';
export { mostPairs, nextPair, type Pair, pairsLeft, type Ranking, rankingOf, soFar } from './pairs.ts';
export { type Disagreement, disagreements, isBlind, pairsIn } from './session.ts';
