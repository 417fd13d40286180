import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from 'react';
import { measured } from '../../core/units/index.ts';
import { changeSettings, loadSettings, type Settings } from '../../store/index.ts';

interface SettingsApi {
  readonly settings: Settings;
  change(part: Partial<Settings>): void;
}

const Context = createContext<SettingsApi | undefined>(undefined);

/** Gives measures, colour mode and sound to everything below, and keeps changes. */
export function SettingsProvider({ children }: { children: ReactNode }) {
  const [settings, setSettings] = useState(loadSettings);
  useEffect(() => {
    document.documentElement.classList.toggle('dark', settings.mode === 'dark');
    document.documentElement.style.colorScheme = settings.mode;
  }, [settings.mode]);
  const api = useMemo(
    () => ({
      settings,
      change: (part: Partial<Settings>) => setSettings(changeSettings(settings, part)),
    }),
    [settings],
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
