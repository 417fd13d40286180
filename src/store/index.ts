export { clockBehind, notBefore, presentMs } from './clock.ts';
export { followOtherTabs } from './other-tabs.ts';
export * from './queries.ts';
export { loadSettings, type Settings, saveSettings } from './settings.ts';
export type { StoredTrial, WorkshopName } from './workshop.ts';
