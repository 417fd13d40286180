import { createContext, useCallback, useContext } from 'react';
import type { Preferences } from '../../core/preferences/index.ts';
import { measured } from '../../core/units/index.ts';

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

/** Puts the measures in a text of the core's, which are metric, into the ones this maker reads. */
export function useMeasured(): (text: string) => string {
  const { system } = useSettings().settings;
  return useCallback((text: string) => measured(text, system), [system]);
}

/** A text of the core's with its measures as this maker reads them. */
export function Said({ children }: { children: string | readonly (string | undefined)[] | undefined }) {
  const said = useMeasured();
  return said([children].flat().join(''));
}
