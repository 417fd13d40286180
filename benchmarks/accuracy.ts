import { decode, encodeJpeg } from '../src/cli/node-image.ts';
import { METHODS } from '../src/core/methods/index.ts';
import { ProblemError } from '../src/core/outcome/index.ts';
import { card, target } from '../src/core/print/index.ts';
import { requestFor } from '../src/core/questions/index.ts';
import { chanceFrom } from '../src/core/random/index.ts';
import { type Cv, readPhoto, referenceOf } from '../src/core/reading/index.ts';
import { STARTER_SHELF } from '../src/core/shelf/index.ts';
import { exampleSettings } from '../src/core/simulator/example.ts';
import { photograph, simulateProcess } from '../src/core/simulator/index.ts';

/** One simulated photo read back: what is true and what was read, with its give. */
export interface Trialled {
  readonly seed: number;
  readonly method: string;
  readonly ground: string;
  readonly landed: readonly [number, number | null, number | null];
  readonly veil: readonly [number, number | null, number | null];
  readonly smear: readonly [number, number | null];
  /** How long the reading took, ms. */
  readonly readMs: number;
  readonly refusal?: string;
  readonly jpeg: Buffer;
}

/** Makes a patch by chance from a seed, by a method in turn on what suits it, photographs it as JPEG and reads it. */
export async function tryOne(cv: Cv, seed: number): Promise<Trialled> {
  const chance = chanceFrom(seed);
  const shelf = STARTER_SHELF;
  const method = METHODS[seed % METHODS.length];
  const suits = shelf.substrates.filter(s => method.takes.substrates.includes(s.kind));
  const asked = requestFor(method, shelf, { substrate: chance.pick(suits).id });
  if (!asked.ok) throw new ProblemError(asked.problem);
  const { usual } = asked.value;
  const settings = exampleSettings({
    method,
    donor: shelf.donors.find(d => d.id === usual.donor)!,
    medium: shelf.mediums.find(m => m.id === usual.medium)!,
    substrate: shelf.substrates.find(s => s.id === usual.substrate)!,
    preparation: shelf.preparations.find(p => p.id === usual.preparation)!,
    coatMm: usual.coatMm * chance.between(0.6, 1.8),
    dryHours: usual.dryHours,
    rounds: Math.max(1, usual.rounds),
  });
  const outcome = simulateProcess({
    settings,
    air: { tempC: 20, rh: 50 },
    placedAfterMin: chance.between(0.2, 5),
    driedHours: usual.dryHours * chance.between(0.4, 1.7),
    rounds: chance.whole(1, 3),
    patchMm: 40,
    seed: seed * 31 + 7,
    ...(chance.next() < 0.25 ? { isHurried: true } : {}),
  });
  const [picture, onCard] = [target(40), card(40)];
  const shot = photograph(outcome, picture, onCard, settings.substrate, settings.preparation, {
    seed: seed * 17 + 3,
    stage: 'dry',
  });
  const jpeg = await encodeJpeg(shot.photo, chance.whole(70, 92));
  const decoded = await decode(jpeg);
  const began = performance.now();
  const read = readPhoto(cv, decoded, onCard, referenceOf(picture), { stage: 'dry' });
  const readMs = performance.now() - began;
  const r = read.ok ? read.value.reading : undefined;
  return {
    ...{ seed, readMs, jpeg, method: method.name, ground: settings.substrate.name },
    landed: [shot.landed, r?.landed ?? null, r?.landedGive ?? null],
    veil: [shot.veil, r?.veil ?? null, r?.veilGive ?? null],
    smear: [outcome.smear.mm, r?.smear ?? null],
    ...(read.ok ? {} : { refusal: read.problem.code }),
  };
}
