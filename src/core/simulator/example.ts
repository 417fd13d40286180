import { METHODS } from '../methods/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { type PatchSettings, PLAIN_SETTINGS } from '../trial/index.ts';
import type { PatchHistory, PatchOutcome } from './process.ts';

/** A plain patch from the first things of the starter shelf, for tests and benches. */
export const exampleSettings = (part: Partial<PatchSettings> = {}): PatchSettings => ({
  method: METHODS[0],
  printer: STARTER_SHELF.printers[0],
  donor: STARTER_SHELF.donors[0],
  medium: STARTER_SHELF.mediums[0],
  substrate: STARTER_SHELF.substrates[0],
  preparation: STARTER_SHELF.preparations[0],
  coatMm: 0.4,
  dryHours: 20,
  rounds: 2,
  ...PLAIN_SETTINGS,
  ...part,
});

/** What was done to that patch: placed in time, dried long enough, rubbed twice. */
export const exampleHistory = (part: Partial<PatchHistory> = {}): PatchHistory => ({
  settings: exampleSettings(),
  air: { tempC: 21, rh: 45 },
  placedAfterMin: 0.8,
  driedHours: 20,
  rounds: 2,
  patchMm: 40,
  seed: 5,
  ...part,
});

/** A square patch of so many mm on which nothing was ever laid: through the card the window shows the bare ground. */
export const untouched = (mm: number): PatchOutcome => ({
  ...{ pxPerMm: 10, w: mm * 10, h: mm * 10 },
  landed: new Float32Array(mm * mm * 100),
  veil: new Float32Array(mm * mm * 100),
  ...{ strength: 1, smear: { mm: 0, along: 0 }, milk: 0, struck: [] },
});
