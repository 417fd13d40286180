import * as v from 'valibot';
import { Preferences } from '../core/preferences/index.ts';

const KEY = 'wet-test-settings';

/** The stored settings; defaults when there are none or they cannot be read. */
export function loadSettings(): Preferences {
  try {
    return v.parse(Preferences, JSON.parse(localStorage.getItem(KEY) ?? '{}'));
  } catch {
    return v.parse(Preferences, {});
  }
}

/**
 * Settings with a part changed and stored: that part on what is stored now, which another tab may have changed since;
 * where nothing can be read, on `known`. `isKept` says whether they outlive this visit.
 */
export function changeSettings(
  known: Preferences,
  part: Partial<Preferences>,
): { readonly settings: Preferences; readonly isKept: boolean } {
  let stored: string | null = null;
  try {
    stored = localStorage.getItem(KEY);
  } catch {
    // Storage is blocked: what is known in this tab is all there is.
  }
  const next = { ...(stored === null ? known : loadSettings()), ...part };
  return { settings: next, isKept: saveSettings(next) };
}

/** Stores settings, and says whether that was done; a browser that blocks storage, or has no room, keeps them for this visit only. */
function saveSettings(settings: Preferences): boolean {
  try {
    localStorage.setItem(KEY, JSON.stringify(settings));
    return true;
  } catch {
    return false;
  }
}
