import { type ReactNode, useEffect, useMemo, useState } from 'react';
import type { Preferences } from '../../core/preferences/index.ts';
import { changeSettings, loadSettings } from '../../store/index.ts';
import { SettingsContext } from '../ui/settings.tsx';

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
      change: (part: Partial<Preferences>) => {
        const next = changeSettings(settings, part);
        setSettings(next.settings);
        if (!next.isKept) setUnkept(n => n + 1);
      },
    }),
    [settings, unkept],
  );
  return <SettingsContext.Provider value={api}>{children}</SettingsContext.Provider>;
}
