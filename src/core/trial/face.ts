import { TARGET } from '../factors/index.ts';
import type { Patch, PlanPicture, TrialPlan } from './schema.ts';
import { sizeOf } from './settings.ts';

/** What is printed on a patch; places and sizes in mm from its top left, as it looks when it is finished. */
export interface Face {
  readonly w: number;
  readonly h: number;
  /** The test target, a square. */
  readonly target?: { readonly x: number; readonly y: number; readonly size: number };
  /** A picture of the maker's own. */
  readonly picture?: Box & { readonly of: PlanPicture };
  /** The strip of tone steps and lines below it: four times as wide as high. */
  readonly strip?: Box;
}

interface Box {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

type Carries = Pick<TrialPlan, 'factors' | 'pictures' | 'picture' | 'patchMm' | 'patchTallMm'>;

/**
 * The picture that a patch carries; nothing where that is the test target.
 *
 * @example pictureOn(plan, plan.patches[0]); // => undefined
 */
export function pictureOn(plan: Carries, { levels }: Pick<Patch, 'levels'>): PlanPicture | undefined {
  const at = plan.factors.findIndex(f => f.key === 'picture');
  const id = plan.factors[at]?.levels[levels[at]] ?? plan.picture;
  return id === TARGET.id ? undefined : plan.pictures?.find(p => p.id === id);
}

/** Between a picture and the strip below it, mm. */
const APART_MM = 1;
/** Below this a strip cannot be read, mm. */
const LEAST_STRIP_MM = 9;
const MOST_STRIP_MM = 12;
/** Below this a picture beside a strip is none, mm. */
const LEAST_PICTURE_MM = 10;

/** The strip that patches of a size have room for below a picture; nothing where there is too little. */
function stripOn(w: number, h: number): Box | undefined {
  const tall = Math.min(MOST_STRIP_MM, w / 4);
  return tall >= LEAST_STRIP_MM && h - tall - APART_MM >= LEAST_PICTURE_MM
    ? { x: 0, y: h - tall, w: 4 * tall, h: tall }
    : undefined;
}

/**
 * Whether patches have room for a strip of tone steps and lines below a picture.
 *
 * @example hasRoomForStrip({ patchMm: 30 }); // => false
 */
export const hasRoomForStrip = (plan: Parameters<typeof sizeOf>[0]): boolean =>
  stripOn(sizeOf(plan).w, sizeOf(plan).h) !== undefined;

/**
 * The room that a picture has on a patch, mm.
 *
 * @example pictureRoom({ patchMm: 40 }, { strip: true }); // => { x: 0, y: 0, w: 40, h: 29 }
 */
export function pictureRoom(plan: Parameters<typeof sizeOf>[0], { strip }: Pick<PlanPicture, 'strip'>): Box {
  const { w, h } = sizeOf(plan);
  const below = strip ? stripOn(w, h) : undefined;
  return { x: 0, y: 0, w, h: below ? below.y - APART_MM : h };
}

/**
 * What is printed on a patch: its picture, with the strip where it has one and there is room; else the test target, as
 * large as its shorter side.
 *
 * @example faceOf(plan, plan.patches[0]).target.size; // => 40
 */
export function faceOf(plan: Carries, patch: Pick<Patch, 'levels'>): Face {
  const { w, h } = sizeOf(plan);
  const of = pictureOn(plan, patch);
  if (!of) return { w, h, target: { x: 0, y: 0, size: Math.min(w, h) } };
  const strip = of.strip ? stripOn(w, h) : undefined;
  return { w, h, picture: { ...pictureRoom(plan, of), of }, ...(strip ? { strip } : {}) };
}

/**
 * Whether all patches carry the test target alone.
 *
 * @example isAllTarget(plan); // => true
 */
export const isAllTarget = (plan: Carries & Pick<TrialPlan, 'patches'>): boolean =>
  !plan.pictures?.length || plan.patches.every(p => !pictureOn(plan, p));

/**
 * An id of a picture that a trial names and does not hold; nothing where it holds them all.
 *
 * @example missingPicture({ ...plan, picture: 'gull' }); // => 'gull'
 */
export function missingPicture({
  factors,
  picture,
  pictures = [],
}: Pick<TrialPlan, 'factors' | 'picture' | 'pictures'>): string | undefined {
  const levels = factors.find(f => f.key === 'picture')?.levels ?? [];
  const named = [...levels, ...(picture === undefined ? [] : [picture])].map(String);
  return named.find(id => id !== TARGET.id && !pictures.some(p => p.id === id));
}
