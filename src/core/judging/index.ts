export { type Agreement, agreement, type GradedAlike, gradedAlike } from './agree.ts';
export { blindOrder } from './blind.ts';
export { nextPair, type Pair, type Ranking, rankingOf } from './pairs.ts';
export { type Disagreement, disagreements, isBlind, pairsIn } from './session.ts';
