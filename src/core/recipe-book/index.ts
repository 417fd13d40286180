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
export { type RealRun, realRun, shoppingCsv, successOf, type Wanted } from './real.ts';
