export { atHandIn, followAtHand, setAtHand } from './at-hand.ts';
export { clockBehind, notBefore, presentMs } from './clock.ts';
export { followOtherTabs } from './other-tabs.ts';
export * from './queries.ts';
export type { Waiting } from './queue.ts';
export { changeSettings, loadSettings, type Settings } from './settings.ts';
export { asStorageError, StorageError } from './storage-error.ts';
export type { WorkshopName } from './stores.ts';
export type { DamagedTrial, ListedTrial } from './summaries.ts';
