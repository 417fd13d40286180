export { type Curve, curveOf, type Top, topOf } from './curve.ts';
export { type Decision, type DecisionAsk, decide, type OptionChance } from './decide.ts';
export { type Dosed, type Trapezoid, trapezoidsOf } from './dose.ts';
export type { Later, More, Standing, World } from './draws.ts';
export { fisher } from './fisher.ts';
export {
  type Case,
  CONFIDENCE,
  chanceOf,
  type Estimated,
  fitCases,
  type ModelFit,
} from './fit.ts';
export { type Grouping, groupingOf } from './grouping.ts';
export { type Chance01, fitLogistic, type LogisticFit } from './logistic.ts';
export { fitMixed, type MixedFit } from './mixed.ts';
export { coded, type Model, meanRow, rowOf } from './model.ts';
export { decompose } from './qr.ts';
