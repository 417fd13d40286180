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
export {
  type Left,
  lessOnHand,
  type RealRun,
  realRun,
  shoppingCsv,
  successOf,
  usedFor,
  type Wanted,
} from './real.ts';
