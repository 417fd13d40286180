import { bad, good } from '../outcome/index.ts';
import type { Card } from '../print/index.ts';
import type { Sorted } from './classify.ts';
import type { Cv, Pixels } from './cv.ts';
import { findCard, HOLD_STILL, MOST_BLUR_MM } from './find-card.ts';
import type { Registration } from './register.ts';
import { litBy, pageOf, partOf } from './straighten.ts';
import { tally } from './tally.ts';
import { type Cutout, share, windowFrom } from './window.ts';

/** Refused below this many photo pixels per mm. */
export const LEAST_PX_PER_MM = 6;
const MOST_TILT_DEG = 38;
const MOST_MISFIT_MM = 0.35;

/** Why a card as it was found cannot be read: too small in the photo, or seen too much from the side; nothing where it can. */
export function badlyPlaced({ pxPerMm, tiltDeg }: { readonly pxPerMm: number; readonly tiltDeg: number }) {
  if (pxPerMm < LEAST_PX_PER_MM)
    return bad(
      'too-small',
      `The card is too small in this photo: ${pxPerMm.toFixed(1)} pixels per mm, ${LEAST_PX_PER_MM} are needed.`,
      'Come closer until the card fills the picture.',
    );
  if (tiltDeg > MOST_TILT_DEG)
    return bad(
      'tilted',
      'The photo is taken too much from the side.',
      'Hold the camera straight above the card.',
    );
  return undefined;
}

/** The card found, what it tells of the light, and what lies in its window; or why the photo cannot be trusted and how to retake it. */
export function upright(cv: Cv, photo: Pixels, card: Card) {
  const place = findCard(cv, photo, card);
  if (!place.ok) return place;
  const wrong = badlyPlaced(place.value);
  if (wrong) return wrong;
  const page = pageOf(photo, place.value, card);
  const lit = litBy(cv, page, card);
  if (!lit.ok) return lit;
  if (lit.value.blurMm > MOST_BLUR_MM) return bad('blurred', 'This photo is blurred.', HOLD_STILL);
  if (place.value.misfitMm > MOST_MISFIT_MM)
    return bad(
      'card-bent',
      'The card is not flat, or the lens bends it.',
      'Press the card flat and step back a little.',
    );
  return good({
    lit: lit.value,
    place: place.value,
    window: windowFrom(partOf(page, card.window), lit.value, card.window),
  });
}

/** Share of the window that may shine, and that may lie outside the photo. */
const MOST_SHINE = 0.012;
const MOST_OUTSIDE = 0.002;

/** Reasons not to look closer at what lies in the window. */
export function spoilt(window: Cutout) {
  const { w, h } = window.rgb[0];
  const outside = 1 - share(window.inPhoto);
  if (outside > MOST_OUTSIDE)
    return bad(
      'cropped',
      'The photo cuts off a part of the patch.',
      'Take the whole patch into the picture, with the card or the corners round it.',
    );
  const shine = share(window.clipped);
  if (shine <= MOST_SHINE) return undefined;
  let [sx, sy, n] = [0, 0, 0];
  window.clipped.forEach((v, i) => {
    if (!v) return;
    sx += i % w;
    sy += Math.floor(i / w);
    n++;
  });
  const [x, y] = [sx / n / w, sy / n / h];
  const where =
    `${y < 0.4 ? 'upper' : y > 0.6 ? 'lower' : ''} ${x < 0.4 ? 'left' : x > 0.6 ? 'right' : ''}`.trim();
  return bad(
    'glare',
    `There is glare on the patch${where ? `, over the ${where.replace(' ', ' ')}` : ''}.`,
    'Move the lamp or turn the board until nothing shines, keep the phone level, then take it again.',
  );
}

/** Share of the picture that has to be visible on its ground. */
const LEAST_VISIBLE = 0.3;
/** Likeness below which the picture was not found. */
export const LEAST_MATCH = 0.3;
/** Share of the picture that is bare from which nothing but a guess says where it lies. */
const NEARLY_ALL_BARE = 0.85;
const MOST_RESIDUAL_MM = 0.3;

/** Reasons not to give numbers that only show after aligning. */
export function mistrust(
  found: Pick<Registration, 'match' | 'residualMm'>,
  sorted: Pick<Sorted, 'inked' | 'visible' | 'lost'>,
) {
  const { inked, visible, bare } = tally(sorted);
  if (visible / inked < LEAST_VISIBLE)
    return bad(
      'not-visible',
      `Only ${Math.round((100 * visible) / inked)} % of this picture could be seen on so dark a ground.`,
      'Judge this patch by eye, or test on a lighter ground.',
    );
  const nearlyNothing = bare / visible > NEARLY_ALL_BARE;
  if (found.match < LEAST_MATCH && !nearlyNothing)
    return bad(
      'no-picture',
      'The test picture was not found in the window.',
      'Check that this is the right patch and that the picture is centred in the window.',
    );
  if (found.residualMm !== undefined && found.residualMm > MOST_RESIDUAL_MM && !nearlyNothing)
    return bad(
      'misaligned',
      'The picture does not line up with its original.',
      'Lay the card flat on the board and take it again from straight above.',
    );
  return undefined;
}
