export {
  checkRecipeEvent,
  Event as RecipeEventForm,
  itemsIn,
  type KeptRecipe,
  type RecipeBook,
  type RecipeEvent,
  recipeFrom,
  recipeJson,
  recipesIn,
  settingsIn,
} from './kept.ts';
export { type FollowUp, followUpSessions, followUps, lastingWords } from './lasting.ts';
export { cameOut, type PieceRun, pieceRun } from './piece-run.ts';
export {
  amountsOf,
  type RealRun,
  realRun,
  shoppingCsv,
  successOf,
  usedFor,
  type Wanted,
} from './real.ts';
