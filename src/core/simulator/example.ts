import { STARTER_SHELF } from '../shelf/index.ts';
import { type PatchSettings, PLAIN_SETTINGS } from '../trial/index.ts';

/** A plain patch from the first things of the starter shelf, for tests and benches. */
export const exampleSettings = (part: Partial<PatchSettings> = {}): PatchSettings => ({
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
