import { bad, good, type Outcome, type Progress } from '../outcome/index.ts';
import type { Card } from '../print/index.ts';
import { say } from '../say/index.ts';
import type { Reading } from '../trial/index.ts';
import { sortPixels } from './classify.ts';
import { toneOf } from './colour.ts';
import type { Cv, Pixels, Plane } from './cv.ts';
import { finestLine } from './detail.ts';
import type { CardPlace } from './find-card.ts';
import { frameOf, within } from './frame.ts';
import { LEAST_MATCH, mistrust, spoilt, upright } from './gates.ts';
import { groundOf } from './ground.ts';
import { asPixels } from './maps.ts';
import { PX } from './px.ts';
import { halfReference, lightOf, type Reference, rootOf } from './reference.ts';
import { register } from './register.ts';
import { smearOf } from './smear.ts';
import type { Lit } from './straighten.ts';
import { addUp, tidy } from './totals.ts';
import { type Cutout, halfWindow, share } from './window.ts';

/** A reading together with the straightened window, for showing and keeping. */
export interface ReadPhoto {
  readonly reading: Reading;
  /** The picture upright and balanced, right way round, 10 px/mm. */
  readonly straight: Pixels;
}

/** What is known of a photo before it is read. */
export interface Asked {
  readonly stage: 'wet' | 'dry';
  /** The bare ground through the same card. */
  readonly blank?: Pixels;
}

/**
 * Measures one photo of a patch through the reading card (docs/READINGS.md). `reference` is the picture as it should
 * look after transfer.
 * Returns the reading, or the reason why this photo cannot be trusted and how to retake it.
 */
export function readPhoto(
  cv: Cv,
  photo: Pixels,
  card: Card,
  reference: Reference,
  { stage, blank }: Asked,
  tell: Progress = () => {},
): Outcome<ReadPhoto> {
  tell(0.05, 'Looking for the card');
  const looked = upright(cv, photo, card);
  if (!looked.ok) return looked;
  const bare = blank && upright(cv, blank, card);
  if (bare && !bare.ok)
    return bad('blank', say`The photo of the blank cannot be used. ${bare.problem.say}`, bare.problem.wayOut);
  const { lit, place, window } = looked.value;
  tell(0.3, 'Finding the picture');
  return readWindow(cv, window, reference, { stage, lit, place, blank: bare?.value.window }, tell);
}

/** What goes with a window that was cut out. */
export interface Surroundings {
  readonly stage: 'wet' | 'dry';
  readonly lit: Omit<Lit, 'light'>;
  readonly place: Pick<CardPlace, 'pxPerMm' | 'tiltDeg'>;
  readonly blank?: Cutout;
}

/** Measures what lies in a window, wherever it was cut out: of a card, or of a board. */
export function readWindow(
  cv: Cv,
  window: Cutout,
  reference: Reference,
  { stage, lit, place, blank }: Surroundings,
  tell: Progress = () => {},
): Outcome<ReadPhoto> {
  const no = spoilt(window);
  if (no) return no;
  const found = register(cv, rootOf(lightOf(window.rgb)), rootOf(reference.light));

  tell(0.5, 'Telling ink from ground');
  const { frame, fine } = frameOf(cv, window, found, reference);
  const half = halfReference(reference);
  const ground = groundOf(cv, frame, half, blank && halfWindow(blank));
  if (!ground)
    return bad(
      'no-ground',
      'The bare ground round the picture cannot be seen.',
      'Centre the picture in the card’s window.',
    );
  const seen = frame.seen.map(p => within(p)) as unknown as [Plane, Plane, Plane];
  const camera = { noise: lit.noise, blurMm: lit.blurMm, residualMm: found.residualMm ?? 0.1 };
  const sorted = sortPixels(cv, seen, half, ground, camera);

  tell(0.9, 'Adding up');
  const refused = mistrust(found, sorted);
  if (refused) return refused;
  const quality = {
    pxPerMm: tidy(place.pxPerMm, 1),
    blurMm: tidy(lit.blurMm, 3),
    tiltDeg: tidy(place.tiltDeg, 1),
    glare: tidy(share(window.clipped), 4),
    residualMm: tidy(found.residualMm ?? 0, 3),
    light: tidy(lit.evenness, 2),
  };
  // Grain reaches a little likeness in some turn or other; that is no maker's mistake.
  const isKnown = found.match >= LEAST_MATCH;
  const reading = addUp(
    cv,
    {
      seen,
      reference: half,
      ground,
      sorted,
      found,
      stage,
      quality,
      detail: finestLine(lightOf(fine), reference.lines, PX),
      smear: isKnown && lit.spread ? smearOf(cv, seen, reference, ground, sorted, lit.spread) : null,
      tone: stage === 'dry' && lit.hasGreys ? toneOf(sorted, lit.tone[1][0]) : null,
    },
    isKnown,
  );
  tell(1, 'Done');
  return good({ reading, straight: asPixels(fine) });
}
