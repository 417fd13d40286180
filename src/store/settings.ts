import * as v from 'valibot';
import { SITTINGS, Working } from '../core/schedule/index.ts';

/** Nobody rubs paper at night unless they say that they do. */
const BY_DAY = SITTINGS.find(s => s.id === 'days')!.sittings;

const Settings = v.object({
  system: v.optional(v.picklist(['metric', 'imperial']), 'metric'),
  mode: v.optional(v.picklist(['light', 'dark']), 'light'),
  sound: v.optional(v.boolean(), true),
  speech: v.optional(v.boolean(), false),
  vibrate: v.optional(v.boolean(), true),
  /** Tell by a notification when a long wait ends; asks the browser first. */
  notify: v.optional(v.boolean(), false),
  working: v.optional(Working, { sittings: [...BY_DAY] }),
});
/** How this browser likes things: measures, colour mode, sound. */
export type Settings = v.InferOutput<typeof Settings>;

const KEY = 'wet-test-settings';

/** The stored settings; defaults when there are none or they cannot be read. */
export function loadSettings(): Settings {
  try {
    return v.parse(Settings, JSON.parse(localStorage.getItem(KEY) ?? '{}'));
  } catch {
    return v.parse(Settings, {});
  }
}

/**
 * Settings with a part changed and stored: that part on what is stored now, which another tab may have changed since;
 * where nothing can be read, on `known`. `isKept` says whether they outlive this visit.
 */
export function changeSettings(
  known: Settings,
  part: Partial<Settings>,
): { readonly settings: Settings; readonly isKept: boolean } {
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
function saveSettings(settings: Settings): boolean {
  try {
    localStorage.setItem(KEY, JSON.stringify(settings));
    return true;
  } catch {
    return false;
  }
}
