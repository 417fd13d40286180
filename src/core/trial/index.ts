export {
  type Choice,
  FACTOR_KEYS,
  FACTOR_NAMES,
  FACTORS,
  type FactorKey,
  type FactorKind,
  levelName,
  OPTION_KEYS,
  type OptionKey,
  WEAR_TESTS,
  type WearTest,
} from '../factors/index.ts';
export { MIGRATIONS, type Migration, migrate } from './migrate.ts';
export * from './schema.ts';
export {
  chosenOf,
  FACTOR_LETTERS,
  isItemFactor,
  levelMarks,
  levelNames,
  lookUp,
  namesOf,
  type PatchSettings,
  PLAIN_SETTINGS,
  settingsOf,
} from './settings.ts';
export { about, airOf, isSpoilt, lastUndoable, readingOf, standing, verdictOf } from './state.ts';
