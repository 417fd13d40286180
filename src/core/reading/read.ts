import { toLinear } from '../colour/index.ts';
import { bad, good, type Outcome, type Progress } from '../outcome/index.ts';
import { type Card, rasterise, type Scene } from '../print/index.ts';
import type { Reading } from '../trial/index.ts';
import { sortPixels } from './classify.ts';
import type { Cv, Pixels, Plane } from './cv.ts';
import { finestLine } from './detail.ts';
import { LEAST_MATCH, mistrust, upright } from './gates.ts';
import { groundOf } from './ground.ts';
import { asPixels } from './maps.ts';
import { inPictureFrame, register } from './register.ts';
import { PX } from './straighten.ts';
import { addUp, tidy } from './totals.ts';
import { cutWindow, share } from './window.ts';

/** A reading together with the straightened window, for showing and keeping. */
export interface ReadPhoto {
  readonly reading: Reading;
  /** The picture upright and balanced, right way round, 10 px/mm. */
  readonly straight: Pixels;
}

/** Share of the window that may shine. */
const MOST_SHINE = 0.012;

/**
 * Measures one photo of a patch through the reading card (docs/READINGS.md). `reference` is the picture as it should
 * look after transfer. `blank` is a photo of the bare ground through the same card, if there is one.
 * Returns the reading, or the reason why this photo cannot be trusted and how to retake it.
 */
export function readPhoto(
  cv: Cv,
  photo: Pixels,
  card: Card,
  reference: Scene,
  options: { readonly stage: 'wet' | 'dry'; readonly blank?: Pixels },
  tell: Progress = () => {},
): Outcome<ReadPhoto> {
  tell(0.05, 'Looking for the card');
  const straight = upright(cv, photo, card);
  if (!straight.ok) return straight;
  const { card: flat, place } = straight.value;

  tell(0.35, 'Finding the picture');
  const window = cutWindow(flat, card);
  const shine = share(window.clipped);
  if (shine > MOST_SHINE)
    return bad(
      'glare',
      'There is glare on the patch.',
      'Move the lamp or turn the board until nothing shines, then take it again.',
    );
  const drawn = rasterise(reference, PX);
  const ink: Plane = { w: drawn.w, h: drawn.h, data: Float32Array.from(drawn.data, v => toLinear(v / 255)) };
  const root = (plane: Plane): Plane => ({ ...plane, data: plane.data.map(v => Math.sqrt(Math.max(0, v))) });
  const brightness: Plane = {
    ...window.rgb[1],
    data: window.rgb[1].data.map((g, i) => luminance(window.rgb[0].data[i], g, window.rgb[2].data[i])),
  };
  const found = register(cv, root(brightness), root(ink));

  tell(0.55, 'Telling ink from ground');
  const blank = options.blank ? upright(cv, options.blank, card) : undefined;
  if (blank && !blank.ok)
    return bad('blank', `The photo of the blank cannot be used. ${blank.problem.say}`, blank.problem.wayOut);
  const ground = blank?.ok
    ? groundOf(cutWindow(blank.value.card, card), undefined, ink.w)
    : groundOf(window, found.warp, ink.w);
  if (!ground)
    return bad(
      'no-ground',
      'The bare ground round the picture cannot be seen.',
      'Centre the picture in the card’s window.',
    );
  const seen = window.rgb.map(plane => inPictureFrame(cv, plane, found.warp, ink.w)) as unknown as [
    Plane,
    Plane,
    Plane,
  ];
  const camera = { noise: flat.noise, blurMm: flat.blurMm, residualMm: found.residualMm ?? 0.1 };
  const sorted = sortPixels(cv, seen, ink, ground, camera);

  tell(0.9, 'Adding up');
  const refused = mistrust(found, sorted);
  if (refused) return refused;
  const quality = {
    pxPerMm: tidy(place.pxPerMm, 1),
    blurMm: tidy(flat.blurMm, 3),
    tiltDeg: tidy(place.tiltDeg, 1),
    glare: tidy(shine, 4),
    residualMm: tidy(found.residualMm ?? 0, 3),
    light: tidy(flat.light, 2),
  };
  const detail = finestLine(
    { ...seen[1], data: seen[1].data.map((g, i) => luminance(seen[0].data[i], g, seen[2].data[i])) },
    reference.lines,
    PX,
  );
  // Grain reaches a little likeness in some turn or other; that is no maker's mistake.
  const isKnown = found.match >= LEAST_MATCH;
  const parts = { seen, ink, ground, sorted, found, stage: options.stage, quality, detail };
  const reading = addUp(cv, parts, isKnown);
  tell(1, 'Done');
  return good({ reading, straight: asPixels(seen) });
}

/** Relative luminance of linear light (IEC 61966-2-1 primaries). */
const luminance = (r: number, g: number, b: number) => 0.2126 * r + 0.7152 * g + 0.0722 * b;
