export {
  type Choice,
  FACTOR_KEYS,
  FACTORS,
  type FactorKey,
  type FactorKind,
  factorName,
  levelName,
  OPTION_KEYS,
  type OptionKey,
  ofAnyMethod,
  SETTING_KEYS,
  type SettingKey,
  TARGET,
  WEAR_TESTS,
  type WearTest,
} from '../factors/index.ts';
export { type Carrier, carrierName, carrierOf, cornersOf, likeBoards, underOf } from './carriers.ts';
export { changesIn, isArchived, planEver, planNow, withChange } from './changes.ts';
export { corrected, type HandWork } from './correct.ts';
export {
  type Face,
  faceOf,
  hasRoomForStrip,
  isAllTarget,
  missingPicture,
  pictureOn,
  pictureRoom,
} from './face.ts';
export { MIGRATIONS, type Migration, migrate } from './migrate.ts';
export { combinationCount, eachOnce, inMethod, isVariedIn, type Nest, nestOf } from './nest.ts';
export { Air } from './parts.ts';
export * from './reading.ts';
export {
  MOST_EXPECTED,
  MOST_RECORDS,
  PHOTO_STAGES,
  photosNamed,
  type RecordOf,
  recordNow,
  recordWords,
  TrialRecord,
  undoWords,
  versioned,
} from './record-kinds.ts';
export { remembering } from './remember.ts';
export * from './schema.ts';
export {
  cardSizes,
  chosenOf,
  FACTOR_LETTERS,
  factorIn,
  isItemFactor,
  levelMarks,
  levelNames,
  levelsLine,
  lookUp,
  methodsOf,
  nameIn,
  namesIn,
  namesOf,
  type PatchSettings,
  PLAIN_SETTINGS,
  settingsOf,
  shortSide,
  sizeOf,
  unitOf,
} from './settings.ts';
export {
  about,
  airOf,
  aspectsOf,
  expectedIn,
  isSpoilt,
  lastUndoable,
  photosOf,
  pictureFiles,
  type ReadPhoto,
  readingOf,
  readingsOf,
  standing,
  verdictOf,
  wantedIn,
  withoutPractice,
} from './state.ts';
