export { MIGRATIONS, type Migration, migrate } from './migrate.ts';
export * from './schema.ts';
export {
  FACTOR_NAMES,
  levelMarks,
  levelName,
  levelNames,
  type PatchSettings,
  settingsOf,
} from './settings.ts';
export { about, airOf, isSpoilt, lastUndoable, readingOf, standing, verdictOf } from './state.ts';
