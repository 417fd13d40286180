import * as v from 'valibot';
import { SYSTEMS } from '../say/index.ts';
import { SITTINGS, Working } from '../schedule/index.ts';

/** Nobody rubs paper at night unless they say that they do. */
const BY_DAY = SITTINGS.find(s => s.id === 'days')!.sittings;

/** How somebody likes things at this browser: measures, colour mode, sound, hours of work. */
export const Preferences = v.object({
  system: v.optional(v.picklist(SYSTEMS), 'metric'),
  mode: v.optional(v.picklist(['light', 'dark']), 'light'),
  sound: v.optional(v.boolean(), true),
  speech: v.optional(v.boolean(), false),
  vibrate: v.optional(v.boolean(), true),
  /** Tell by a notification when a long wait ends; asks the browser first. */
  notify: v.optional(v.boolean(), false),
  working: v.optional(Working, { sittings: [...BY_DAY] }),
});
export type Preferences = v.InferOutput<typeof Preferences>;
