import { decode, encodeJpeg } from '../src/cli/node-image.ts';
import { card, target } from '../src/core/print/index.ts';
import { chanceFrom } from '../src/core/random/index.ts';
import { type Cv, readPhoto, referenceOf } from '../src/core/reading/index.ts';
import { STARTER_SHELF } from '../src/core/shelf/index.ts';
import { photograph, simulateProcess } from '../src/core/simulator/index.ts';
import { PLAIN_SETTINGS } from '../src/core/trial/index.ts';

/** One simulated photo read back: what is true and what was read. */
export interface Trialled {
  readonly seed: number;
  readonly ground: string;
  readonly landed: readonly [number, number | null];
  readonly veil: readonly [number, number | null];
  /** How long the reading took, ms. */
  readonly readMs: number;
  readonly refusal?: string;
}

/** Makes a patch by chance from a seed, photographs it as JPEG and reads it. */
export async function tryOne(cv: Cv, seed: number, save?: (jpeg: Buffer) => void): Promise<Trialled> {
  const chance = chanceFrom(seed);
  const shelf = STARTER_SHELF;
  const substrate = shelf.substrates[seed % shelf.substrates.length];
  const settings = {
    printer: shelf.printers[0],
    donor: chance.pick(shelf.donors.slice(0, 3)),
    medium: chance.pick(shelf.mediums),
    substrate,
    preparation: substrate.gloss > 0.5 ? shelf.preparations[1] : shelf.preparations[0],
    coatMm: chance.between(0.2, 0.6),
    dryHours: 12,
    rounds: 2,
    ...PLAIN_SETTINGS,
  };
  const history = {
    settings,
    air: { tempC: 20, rh: 50 },
    placedAfterMin: chance.between(0.5, 5),
    driedHours: chance.between(5, 24),
    rounds: chance.whole(1, 3),
    patchMm: 40,
    seed: seed * 31 + 7,
  };
  const outcome = simulateProcess(history);
  const picture = target(40);
  const c = card(40);
  const shot = photograph(outcome, picture, c, substrate, settings.preparation, {
    seed: seed * 17 + 3,
    stage: 'dry',
  });
  const jpeg = await encodeJpeg(shot.photo, chance.whole(70, 92));
  save?.(jpeg);
  const decoded = await decode(jpeg);
  const began = performance.now();
  const read = readPhoto(cv, decoded, c, referenceOf(picture), { stage: 'dry' });
  const readMs = performance.now() - began;
  return {
    seed,
    readMs,
    ground: substrate.name,
    landed: [shot.landed, read.ok ? read.value.reading.landed : null],
    veil: [shot.veil, read.ok ? read.value.reading.veil : null],
    refusal: read.ok ? undefined : read.problem.code,
  };
}
