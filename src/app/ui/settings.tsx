import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from 'react';
import { measured } from '../../core/units/index.ts';
import { changeSettings, loadSettings, type Settings } from '../../store/index.ts';

interface SettingsApi {
  readonly settings: Settings;
  /** How often a change could not be kept: it holds until this page is closed. */
  readonly unkept: number;
  change(part: Partial<Settings>): void;
}

const Context = createContext<SettingsApi | undefined>(undefined);

/** Gives measures, colour mode and sound to everything below, and keeps changes. */
export function SettingsProvider({ children }: { children: ReactNode }) {
  const [settings, setSettings] = useState(loadSettings);
  const [unkept, setUnkept] = useState(0);
  useEffect(() => {
    document.documentElement.classList.toggle('dark', settings.mode === 'dark');
    document.documentElement.style.colorScheme = settings.mode;
  }, [settings.mode]);
  const api = useMemo(
    () => ({
      settings,
      unkept,
      change: (part: Partial<Settings>) => {
        const next = changeSettings(settings, part);
        setSettings(next.settings);
        if (!next.isKept) setUnkept(n => n + 1);
      },
    }),
    [settings, unkept],
  );
  return <Context.Provider value={api}>{children}</Context.Provider>;
}

export function useSettings(): SettingsApi {
  const api = useContext(Context);
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
