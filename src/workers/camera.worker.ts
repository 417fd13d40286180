import { expose } from 'comlink';
import { card, target } from '../core/print/index.ts';
import {
  type BoardScene,
  boardLook,
  type FailedPiece,
  failedPiece,
  type PatchHistory,
  type Printed,
  photograph,
  photographBoard,
  photographGround,
  printedFace,
  printedScene,
  type Seen,
  SIMULATED_WORDS,
  type Step,
  simulateProcess,
  stepOutcome,
  truth,
  withExif,
} from '../core/simulator/index.ts';
import { cardSizes, carrierOf, faceOf, pictureOn, settingsOf, type TrialPlan } from '../core/trial/index.ts';
import { decodePhoto, encodePhoto } from './picture.ts';

/** What was done to a patch of a trial. */
export interface MadePatch {
  readonly code: string;
  readonly history: PatchHistory;
}

/** What a patch carries as it is printed. */
async function printedOn(
  plan: TrialPlan,
  pictures: ReadonlyMap<string, Blob>,
  code: string,
): Promise<Printed> {
  const patch = plan.patches.find(p => p.code === code)!;
  const file = pictures.get(pictureOn(plan, patch)?.id ?? '');
  const pixels = file ? await decodePhoto(file) : undefined;
  return printedFace(faceOf(plan, patch), pixels?.ok ? pixels.value : undefined);
}

/** How fine a rehearsal is drawn, px/mm. */
const REHEARSAL_PX = 6;

async function sceneOf(
  plan: TrialPlan,
  pictures: ReadonlyMap<string, Blob>,
  board: number,
  made: readonly MadePatch[],
): Promise<BoardScene> {
  const { w, h } = carrierOf(plan, board);
  const patches: BoardScene['patches'][number][] = [];
  for (const { code, history } of made) {
    const { x, y } = plan.patches.find(p => p.code === code)!;
    const { substrate, preparation } = history.settings;
    const printed = await printedOn(plan, pictures, code);
    patches.push({ x, y, outcome: simulateProcess(history), printed, substrate, preparation });
  }
  return { size: { w, h }, patches };
}

const marked = async (photo: Parameters<typeof encodePhoto>[0]): Promise<Blob> => {
  const jpeg = new Uint8Array(await (await encodePhoto(photo, 0.85)).arrayBuffer());
  return new Blob([withExif(jpeg, SIMULATED_WORDS, new Date()) as BlobPart], { type: 'image/jpeg' });
};

/** A piece that failed, to be looked at. */
export interface TrainingPiece {
  readonly look: Blob;
  /** The same with what did not land hatched. */
  readonly drawn: Blob;
  readonly cause: string;
  readonly symptom: string;
  readonly method: string;
  readonly ground: string;
}

const TRAINED_MM = 40;
const TRAINED_PX = 12;
/** Bare ground that is seen round the piece, mm. */
const ROUND_MM = 4;
const MOST_TRIED = 400;

async function trainingPiece(piece: FailedPiece, seed: number): Promise<TrainingPiece> {
  const { settings, outcome, backwards } = piece;
  const printed = printedScene(target(TRAINED_MM), TRAINED_PX);
  const carried = backwards
    ? { ...printed, at: (x: number, y: number) => printed.at(printed.w - x, y) }
    : printed;
  const side = TRAINED_MM + 2 * ROUND_MM;
  const { substrate, preparation } = settings;
  const at = { x: ROUND_MM, y: ROUND_MM };
  const scene = {
    size: { w: side, h: side },
    patches: [{ ...at, outcome, printed: carried, substrate, preparation }],
  };
  const look = boardLook(scene, TRAINED_PX, seed);
  const drawn = { ...look, data: new Uint8ClampedArray(look.data) };
  for (let y = 0; y < drawn.h; y++)
    for (let x = 0; x < drawn.w; x++) {
      const [u, v] = [x / TRAINED_PX - ROUND_MM, y / TRAINED_PX - ROUND_MM];
      if (u < 0 || v < 0 || u >= TRAINED_MM || v >= TRAINED_MM) continue;
      const k = Math.floor(v * outcome.pxPerMm) * outcome.w + Math.floor(u * outcome.pxPerMm);
      const isMissing = carried.at(u, v)[1] < 0.6 && outcome.landed[k] < 0.5;
      if (isMissing && (x + y) % 8 < 4) drawn.data.set(HATCH, (y * drawn.w + x) * 4);
    }
  return {
    look: await marked(look),
    drawn: await marked(drawn),
    cause: piece.causes[0],
    symptom: piece.symptoms[0],
    method: settings.method.name,
    ground: substrate.name,
  };
}
/** The colour that bare patches are hatched in. */
const HATCH = [178, 58, 16, 255];

const STEPS = [1, 2, 3, 4, 5] as const satisfies readonly Step[];
/** The steps of a scale are so many pixels across at most, all of one seed, with so much ground about them, mm. */
const SCALE_PX = 240;
const SCALE_SEED = 41;
const ROUND_SCALE_MM = 2;

const api = {
  /** A simulated photo of a patch through its card, as a JPEG whose EXIF says that it is simulated. */
  async shoot(
    plan: TrialPlan,
    pictures: ReadonlyMap<string, Blob>,
    { code, history }: MadePatch,
    stage: 'wet' | 'dry',
    seed: number,
  ): Promise<Blob> {
    const [size] = cardSizes(plan);
    const { substrate, preparation } = history.settings;
    const shot = photograph(
      simulateProcess(history),
      await printedOn(plan, pictures, code),
      card(size.w, size.h),
      ...([substrate, preparation, { seed, stage }] as const),
    );
    return marked(shot.photo);
  },
  /**
   * A simulated photo of the bare ground of a patch by a lamp from the side: after what was done to it first a smooth
   * ground still shines where its own gloss, less what the preparation took, is left.
   */
  async shootGround(plan: TrialPlan, code: string, seed: number): Promise<Blob> {
    const [size] = cardSizes(plan);
    const { substrate, preparation } = settingsOf(plan, plan.patches.find(p => p.code === code)!);
    const glossy = Math.min(1, substrate.gloss * preparation.glossTimes);
    return marked(photographGround(substrate, preparation, card(size.w, size.h), glossy, { seed }).photo);
  },
  /** A simulated photo of a whole board with its corner pieces. */
  async shootBoard(
    plan: TrialPlan,
    pictures: ReadonlyMap<string, Blob>,
    board: number,
    made: readonly MadePatch[],
    stage: 'wet' | 'dry',
    seed: number,
  ): Promise<Blob> {
    return marked(photographBoard(await sceneOf(plan, pictures, board, made), { seed, stage }));
  },
  /**
   * A piece that failed by a cause, for training the eye: how it looks, the same with what is missing drawn on it, and
   * what it was. `from`: where the seeds begin that are tried until one of them fails so.
   */
  async fail(cause: string, from: number): Promise<TrainingPiece> {
    for (let seed = from; seed < from + MOST_TRIED; seed++) {
      const piece = failedPiece(seed, { wrong: 1, cause, mm: TRAINED_MM });
      if (piece) return trainingPiece(piece, seed);
    }
    throw new Error(`no piece could be made that fails by ${cause}`);
  },
  /** What the five steps of a scale look like on a patch of this plan, the worst first. */
  async scale(
    plan: TrialPlan,
    pictures: ReadonlyMap<string, Blob>,
    code: string,
    aspect: Seen,
  ): Promise<readonly Blob[]> {
    const settings = settingsOf(plan, plan.patches.find(p => p.code === code)!);
    const printed = await printedOn(plan, pictures, code);
    const { w, h } = printed;
    const { substrate, preparation } = settings;
    const steps: Blob[] = [];
    for (const step of STEPS) {
      const outcome = stepOutcome(aspect, step, settings, { w, h }, SCALE_SEED);
      const size = { w: w + 2 * ROUND_SCALE_MM, h: h + 2 * ROUND_SCALE_MM };
      const at = { x: ROUND_SCALE_MM, y: ROUND_SCALE_MM };
      const patches = [{ ...at, outcome, printed, substrate, preparation }];
      const px = Math.min(REHEARSAL_PX, SCALE_PX / Math.max(size.w, size.h));
      steps.push(await marked(boardLook({ size, patches }, px, SCALE_SEED)));
    }
    return steps;
  },
  /** How a board would look when it is done, from straight above, and the share of each patch that would land. */
  async rehearse(
    plan: TrialPlan,
    pictures: ReadonlyMap<string, Blob>,
    board: number,
    made: readonly MadePatch[],
    seed: number,
  ): Promise<{ readonly look: Blob; readonly landed: ReadonlyMap<string, number> }> {
    const scene = await sceneOf(plan, pictures, board, made);
    const landed = new Map(
      made.map(({ code }, i) => {
        const { outcome, printed } = scene.patches[i];
        return [code, truth(outcome, printed).landed] as const;
      }),
    );
    return { look: await marked(boardLook(scene, REHEARSAL_PX, seed)), landed };
  },
};
export type CameraApi = typeof api;

expose(api);
