export * from './queries.ts';
export { loadSettings, type Settings, saveSettings } from './settings.ts';
export type { StoredTrial, WorkshopName } from './workshop.ts';
