export { coatMl, type PlanCost, planCost } from './cost.ts';
export { type BoardGrid, boardGrid, smallestBoard } from './grid.ts';
export { missingItem, PlanRequest, planTrial } from './plan.ts';
export { allCombinations, placeRuns } from './randomise.ts';
export { type RuleNote, ruleNotes } from './rules.ts';
export { STARTING_REQUEST } from './start.ts';
