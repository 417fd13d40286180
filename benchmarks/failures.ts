import { decode, encodeJpeg } from '../src/cli/node-image.ts';
import type { Case } from '../src/core/diagnosis/index.ts';
import { card, target } from '../src/core/print/index.ts';
import { type Cv, readPhoto, referenceOf } from '../src/core/reading/index.ts';
import { type FailedPiece, failedPiece, photograph } from '../src/core/simulator/index.ts';

/** A simulated piece told as a case: what was read from its photo, what was recorded, and what really was the matter. */
export interface Failure {
  readonly told: Case;
  readonly truth: readonly string[];
  readonly method: string;
  readonly ground: string;
}

const PATCH = 30;
/** Of four, three have their times recorded; of the others only what was planned is known. */
const isTimedBy = (seed: number) => Math.floor(seed / 7) % 4 !== 0;

/**
 * A piece made up from a seed with so many things that went wrong, photographed and read. Nothing where nothing came of
 * it, or the photo is refused.
 */
export async function failureFrom(cv: Cv, seed: number, wrong: 0 | 1 | 2): Promise<Failure | undefined> {
  const made = failedPiece(seed, { wrong, mm: PATCH });
  if (!made) return undefined;
  const [picture, onCard] = [target(PATCH), card(PATCH)];
  const { substrate, preparation, method } = made.settings;
  const shot = photograph(made.outcome, picture, onCard, substrate, preparation, {
    ...{ seed: seed * 17 + 3, stage: 'dry', backwards: made.backwards },
  });
  const photo = await decode(await encodeJpeg(shot.photo, 85));
  const read = readPhoto(cv, photo, onCard, referenceOf(picture), { stage: 'dry' });
  if (!read.ok) return undefined;
  return {
    told: toldAs(seed, made, read.value.reading, isTimedBy(seed)),
    truth: made.causes,
    ...{ method: method.name, ground: substrate.name },
  };
}

type Read = Extract<Awaited<ReturnType<typeof readPhoto>>, { ok: true }>['value']['reading'];

function toldAs(
  seed: number,
  { settings: s, history: h, opens, mists }: FailedPiece,
  reading: Read,
  isTimed: boolean,
): Case {
  const area = reading.bare.reduce((sum, b) => sum + b.area, 0) || 1;
  const bareShapes: Record<string, number> = {};
  for (const b of reading.bare) bareShapes[b.shape] = (bareShapes[b.shape] ?? 0) + b.area / area;
  return {
    id: String(seed),
    method: s.method.id,
    ...{ printer: s.printer.id, donor: s.donor.id, medium: s.medium.id },
    ...{ substrate: s.substrate.id, preparation: s.preparation.id },
    choices: {
      coatMm: s.coatMm,
      rounds: s.method.steps.some(step => step.does === 'rub') ? h.rounds : undefined,
    },
    air: h.air,
    times: isTimed
      ? {
          placedAfterMin: opens || mists ? h.placedAfterMin : undefined,
          driedHours: h.driedHours,
        }
      : {},
    skipped: [],
    artwork: {},
    reading: {
      ...{ landed: reading.landed, veil: reading.veil, smear: reading.smear, stain: reading.stain },
      ...{ tone: reading.tone, mirrored: reading.mirrored, bareShapes },
      smearDown: reading.smearAlong === null ? null : Number(Math.abs(reading.smearAlong - 90) < 30),
      landedByTone: reading.landedByTone,
      edges: reading.edges,
    },
    symptoms: [],
    answers: {},
  };
}
