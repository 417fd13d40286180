import { good, type Outcome } from '../outcome/index.ts';
import type { Card } from '../print/index.ts';
import type { Cv, Pixels } from './cv.ts';
import type { CardPlace } from './find-card.ts';
import { spoilt, upright } from './gates.ts';

/**
 * Whether a picture of the camera would do as a photo: card found, near enough, level, sharp, nothing shining, nothing
 * cut off. Returns where the card lies in it, or what to do first; what only shows when it is read is not asked.
 */
export function wouldDo(cv: Cv, frame: Pixels, card: Card): Outcome<CardPlace> {
  const looked = upright(cv, frame, card);
  if (!looked.ok) return looked;
  return spoilt(looked.value.window) ?? good(looked.value.place);
}
