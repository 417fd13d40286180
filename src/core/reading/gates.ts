import { bad, good, type Outcome } from '../outcome/index.ts';
import type { Card } from '../print/index.ts';
import type { Sorted } from './classify.ts';
import type { Cv, Pixels } from './cv.ts';
import { findCard } from './find-card.ts';
import type { Registration } from './register.ts';
import { straighten } from './straighten.ts';
import { tally } from './totals.ts';

/** Refused below this many photo pixels per mm. */
const LEAST_PX_PER_MM = 6;
const MOST_BLUR_MM = 0.24;
const MOST_TILT_DEG = 38;
const MOST_MISFIT_MM = 0.35;

/** The card found, straightened and balanced; or why the photo cannot be trusted and how to retake it. */
export function upright(cv: Cv, photo: Pixels, card: Card) {
  const place = findCard(cv, photo, card);
  if (!place.ok) return place;
  if (place.value.pxPerMm < LEAST_PX_PER_MM)
    return bad(
      'too-small',
      `The card is too small in this photo: ${place.value.pxPerMm.toFixed(1)} pixels per mm, ${LEAST_PX_PER_MM} are needed.`,
      'Come closer until the card fills the picture.',
    );
  if (place.value.tiltDeg > MOST_TILT_DEG)
    return bad(
      'tilted',
      'The photo is taken too much from the side.',
      'Hold the camera straight above the card.',
    );
  const flat = straighten(cv, photo, card, place.value);
  if (!flat.ok) return flat;
  if (flat.value.blurMm > MOST_BLUR_MM)
    return bad(
      'blurred',
      'This photo is blurred.',
      'Rest your elbows, tap the card on the screen to focus, and take it again.',
    );
  if (place.value.misfitMm > MOST_MISFIT_MM)
    return bad(
      'card-bent',
      'The card is not flat, or the lens bends it.',
      'Press the card flat and step back a little.',
    );
  return good({ card: flat.value, place: place.value });
}

/** Share of the picture that has to be visible on its ground. */
const LEAST_VISIBLE = 0.3;
/** Likeness below which the picture was not found. */
export const LEAST_MATCH = 0.3;
/** Share of the picture that is bare from which nothing but a guess says where it lies. */
const NEARLY_ALL_BARE = 0.85;
const MOST_RESIDUAL_MM = 0.3;

/** Reasons not to give numbers that only show after aligning. */
export function mistrust(found: Registration, sorted: Sorted): Outcome<never> | undefined {
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
