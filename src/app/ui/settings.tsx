import { createContext, useCallback, useContext } from 'react';
import type { Preferences } from '../../core/preferences/index.ts';
import { type Words, write } from '../../core/say/index.ts';

/** What was set, and how it is changed. */
export interface SettingsApi {
  readonly settings: Preferences;
  /** How often a change could not be kept: it holds until this page is closed. */
  readonly unkept: number;
  change(part: Partial<Preferences>): void;
}

/** Where the parts below find what was set. */
export const SettingsContext = createContext<SettingsApi | undefined>(undefined);

export function useSettings(): SettingsApi {
  const api = useContext(SettingsContext);
  if (!api) throw new Error('SettingsProvider is missing');
  return api;
}

/** Writes words of the core's in the measures that this maker reads. */
export function useWrite(): (words: Words) => string {
  const { system } = useSettings().settings;
  return useCallback((words: Words) => write(words, { system }), [system]);
}

/** Words of the core's as this maker reads them. */
export function Said({ children }: { children: Words | readonly (Words | undefined)[] | undefined }) {
  const written = useWrite();
  return written([children].flat().filter((w): w is Words => w !== undefined));
}
