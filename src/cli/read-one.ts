import type { Problem } from '../core/outcome/index.ts';
import type { Card } from '../core/print/index.ts';
import { type Cv, type Pixels, type ReadPhoto, type Reference, readPhoto } from '../core/reading/index.ts';
import { write } from '../core/say/index.ts';
import { decode } from './node-image.ts';

const NOTHING = {
  landed: null,
  bare: [],
  veil: null,
  smear: null,
  smearAlong: null,
  stain: null,
  tone: null,
  deltaL: null,
  deltaC: null,
  detail: null,
  edges: null,
  mirrored: null,
  turn: null,
  quality: null,
};
export type Told = { code: string; say: string; wayOut?: string };
/** A problem as it is written into a file. */
export const told = ({ code, say, wayOut }: Problem): Told => ({
  ...{ code, say: write(say) },
  ...(wayOut ? { wayOut: write(wayOut) } : {}),
});
export const refused = ({ code, say, wayOut }: Told) => ({
  ok: false,
  refusal: { code, say, wayOut },
  ...NOTHING,
});
export function given({ reading }: ReadPhoto) {
  const { maps: _, ...numbers } = reading;
  return { ok: true, ...NOTHING, ...numbers };
}

/** The codes of {@link noPhoto}. */
export const NO_PHOTO = ['too-large', 'not-a-picture'];

/** Why a file is not looked at. */
export const noPhoto = (problem: Error): Told =>
  /pixel limit/.test(problem.message)
    ? {
        code: 'too-large',
        say: 'This picture has more than 60 million pixels.',
        wayOut: 'Save it smaller; 12 million pixels are plenty.',
      }
    : {
        code: 'not-a-picture',
        say: 'This file cannot be opened as a picture.',
        wayOut: 'Use JPEG, PNG or WebP.',
      };

/** A photo of a patch through the card, with all that its reading needs. */
export interface PhotoTask {
  readonly file: string;
  readonly onCard: Card;
  readonly reference: Reference;
  readonly stage: 'dry' | 'wet';
  readonly blank?: Pixels;
}

/** What is said of one photo: its reading, or why there is none; never throws. */
export async function readOne(cv: Cv, { file, onCard, reference, stage, blank }: PhotoTask): Promise<object> {
  const photo = await decode(file).catch(noPhoto);
  if ('code' in photo) return refused(photo);
  return whatever(() => {
    const read = readPhoto(cv, photo, onCard, reference, { stage, blank });
    return read.ok ? given(read.value) : refused(told(read.problem));
  });
}

/** The same where something fails that nobody thought of. */
export async function whatever(work: () => object | Promise<object>): Promise<object> {
  try {
    return await work();
  } catch (problem) {
    return refused({
      code: 'not-read',
      say: `This photo could not be read: ${problem instanceof Error ? problem.message : problem}.`,
      wayOut: 'Take it again.',
    });
  }
}
