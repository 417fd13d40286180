import { expose } from 'comlink';
import jsQR from 'jsqr';
import { bad, good, type Outcome, ProblemError, type Progress } from '../core/outcome/index.ts';
import { card } from '../core/print/index.ts';
import {
  boardOf,
  type Cut,
  type Cv,
  cutBoard,
  type Gloss,
  type GroundColour,
  type Holds,
  LIT,
  likeliestCard,
  type Pixels,
  type ReadPhoto,
  type Reference,
  readByHand,
  readCut,
  readGloss,
  readGround,
  readPhoto,
  referenceOfFace,
  type Spot,
  whatHolds,
  wouldDo,
} from '../core/reading/index.ts';
import { cardSizes, faceOf, type Patch, type Reading, type TrialPlan } from '../core/trial/index.ts';
import { type Hand, handsFor, inManyHands } from './many-hands.ts';
import { decodePhoto, encodePhoto, isHeic, jpegOfHeic, shrunk } from './picture.ts';
import { workerFor } from './run.ts';

const library = import('./image-library.ts').then(async module => {
  await module.ready;
  return module;
});

/** What can be seen of a photo before it is read. */
export interface Seen {
  readonly holds: Holds;
  /** What a QR code in it says. */
  readonly says?: string;
  readonly thumbnail: Blob;
  readonly size: { readonly w: number; readonly h: number };
  /** The photo as it can be kept and shown, where that is not the file as it came. */
  readonly asJpeg?: Blob;
}

/** A trial's patches as they can be read: the plan, and how its own pictures look, by picture. */
export interface Carried {
  readonly plan: TrialPlan;
  readonly pictures: ReadonlyMap<string, Blob>;
}

/** Where a photo is of: one patch through the card or with its corners set by hand, or all patches of a board. */
export type Aim = { readonly code: string; readonly corners?: readonly Spot[] } | { readonly board: number };

export interface ReadAnswer {
  readonly reading: Reading;
  /** The straightened picture as JPEG. */
  readonly straight: Blob;
}

/** What was read of one patch, or why nothing. */
export interface PatchAnswer {
  readonly code: string;
  readonly answer: Outcome<ReadAnswer>;
}

const THUMBNAIL = 240;
/** QR codes are looked for in a copy that is no longer than this: a label that is smaller in it says nothing. */
const QR_SIDE = 1400;

const drawn = new Map<string, Reference>();

/** How a patch should look; kept, as all patches with the same picture look the same. Throws where its file is missing. */
async function referenceOn(cv: Cv, { plan, pictures }: Carried, patch: Patch): Promise<Reference> {
  const face = faceOf(plan, patch);
  const own = face.picture?.of;
  const file = own && pictures.get(own.id);
  const key = [plan.id, own?.id, face.w, face.h, file?.size].join();
  const known = drawn.get(key);
  if (known) return known;
  const pixels = file && (await decodePhoto(file));
  if (pixels && !pixels.ok) throw new ProblemError(pixels.problem);
  const reference = referenceOfFace(cv, face, pixels?.value);
  if (drawn.size > 20) drawn.clear();
  drawn.set(key, reference);
  return reference;
}

/** The card that lies in a photo of a trial. */
const cardIn = (cv: Cv, pixels: Pixels, plan: TrialPlan) =>
  likeliestCard(
    cv,
    pixels,
    cardSizes(plan).map(s => card(s.w, s.h)),
  );

async function answerOf(read: Outcome<ReadPhoto>): Promise<Outcome<ReadAnswer>> {
  if (!read.ok) return read;
  const { reading, straight } = read.value;
  return good({ reading, straight: await encodePhoto(straight, 0.9) });
}

async function readAll(
  cv: Cv,
  pixels: Pixels,
  carried: Carried,
  aim: Aim,
  stage: 'wet' | 'dry',
  tell: Progress,
): Promise<Outcome<readonly PatchAnswer[]>> {
  const { plan } = carried;
  if ('board' in aim) {
    const references = new Map<string, Reference>();
    for (const p of plan.patches.filter(one => one.board === aim.board))
      references.set(p.code, await referenceOn(cv, carried, p));
    const board = boardOf(plan, aim.board, p => references.get(p.code));
    const cuts = cutBoard(cv, pixels, board, stage, tell);
    if (!cuts.ok) return cuts;
    const count = cuts.value.length;
    const answers = await inManyHands(
      cuts.value,
      helpersFor(count),
      cut => answerFor(cv, cut()),
      done => tell(LIT + ((1 - LIT) * done) / count, `${done} of ${count} patches read`),
    );
    return good(answers);
  }
  const patch = plan.patches.find(p => p.code === aim.code);
  if (!patch) return bad('no-patch', `There is no patch ${aim.code} in this trial any more.`);
  const reference = await referenceOn(cv, carried, patch);
  const read = aim.corners
    ? readByHand(cv, pixels, aim.corners, reference, { stage }, tell)
    : readPhoto(cv, pixels, cardIn(cv, pixels, plan), reference, { stage }, tell);
  return read.ok ? good([{ code: patch.code, answer: await answerOf(read) }]) : read;
}

const answerFor = async (cv: Cv, cut: Cut): Promise<PatchAnswer> => ({
  code: cut.code,
  answer: await answerOf(readCut(cv, cut)),
});

/** Readers like this one that help with a board for as long as there is something to read on it. */
function helpersFor(count: number): Hand<() => Cut, PatchAnswer>[] {
  return Array.from({ length: handsFor(count, navigator.hardwareConcurrency ?? 1) }, () => {
    const helper = workerFor<ReaderApi>(
      () => new Worker(self.location.href, { type: 'module', name: 'reader of a part' }),
      'after each job',
      'A helping reader stopped.',
    );
    return work => helper.run(async reader => work(cut => reader.part(cut())));
  });
}

const api = {
  /** Reads a patch that another reader cut out of the photo of a board. */
  async part(cut: Cut): Promise<PatchAnswer> {
    const { cv } = await library;
    return answerFor(cv, cut);
  },
  /** Resolves when the image library is ready. */
  async warmUp(): Promise<void> {
    await library;
  },
  /** What a photo holds: card, corner pieces or neither, and what a QR code in it says. */
  async look(photo: Blob): Promise<Outcome<Seen>> {
    const { cv } = await library;
    const made = (await isHeic(photo)) ? await jpegOfHeic(photo) : undefined;
    if (made && !made.ok) return made;
    const pixels = await decodePhoto(made?.value ?? photo);
    if (!pixels.ok) return pixels;
    const { w, h } = pixels.value;
    const small = shrunk(pixels.value, QR_SIDE);
    const code = jsQR(new Uint8ClampedArray(small.data), small.w, small.h, {
      inversionAttempts: 'dontInvert',
    });
    return good({
      holds: whatHolds(cv, pixels.value),
      ...(code?.data ? { says: code.data } : {}),
      thumbnail: await encodePhoto(shrunk(pixels.value, THUMBNAIL), 0.8),
      size: { w, h },
      ...(made ? { asJpeg: made.value } : {}),
    });
  },
  /** Reads one photo of a trial: an answer for each patch that it is of, or why nothing of it can be read. */
  async read(
    photo: Blob,
    carried: Carried,
    aim: Aim,
    stage: 'wet' | 'dry',
    tell: Progress,
  ): Promise<Outcome<readonly PatchAnswer[]>> {
    const { cv } = await library;
    const pixels = await decodePhoto(photo);
    return pixels.ok ? readAll(cv, pixels.value, carried, aim, stage, tell) : pixels;
  },
  /** Whether what a camera shows would do as a photo of this trial; what to do first, where it would not. */
  async aim(frame: Pixels, plan: TrialPlan): Promise<Outcome<true>> {
    const { cv } = await library;
    const would = wouldDo(cv, frame, cardIn(cv, frame, plan));
    return would.ok ? good(true) : would;
  },
  /** How much of a patch's bare ground shines, lit from the side, through the card; refused where its picture is on it. */
  async gloss(photo: Blob, carried: Carried, code: string): Promise<Outcome<Gloss>> {
    const { cv } = await library;
    const pixels = await decodePhoto(photo);
    if (!pixels.ok) return pixels;
    const patch = carried.plan.patches.find(p => p.code === code);
    const picture = patch && (await referenceOn(cv, carried, patch));
    return readGloss(cv, pixels.value, cardIn(cv, pixels.value, carried.plan), picture);
  },
  /** The colour of a bare ground through the card of this patch size. */
  async ground(photo: Blob, patchMm: number): Promise<Outcome<GroundColour>> {
    const { cv } = await library;
    const pixels = await decodePhoto(photo);
    return pixels.ok ? readGround(cv, pixels.value, card(patchMm)) : pixels;
  },
};
export type ReaderApi = typeof api;

expose(api);
