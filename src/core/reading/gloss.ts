import { bad, good, type Outcome } from '../outcome/index.ts';
import type { Card } from '../print/index.ts';
import type { Cv, Pixels, Plane } from './cv.ts';
import { LEAST_MATCH, upright } from './gates.ts';
import { CLEAR_OF_CARD_MM } from './ground.ts';
import { quantile } from './middle.ts';
import { PX } from './px.ts';
import { lightOf, type Reference, rootOf } from './reference.ts';
import { register } from './register.ts';
import { tidy } from './totals.ts';

/** How much of a bare ground still shines. */
export interface Gloss {
  /** Share of the window in highlights, %. */
  readonly gloss: number;
  /** Half-width of what it may be off by, points: how much it changes with where the line is drawn. */
  readonly uncertainty: number;
}

/** A highlight is lighter than the dull ground by four of its scatters, and by no less than this (paper white is 1). */
const SCATTERS = 4;
const LEAST_LIGHTER = 0.15;
/** The darkest quarter of a ground is taken to be dull; lighter than paper it cannot be without shining. */
const DULL = 0.25;
const ALL_SHINES = 1.08;
/** Where else the line might as well be drawn, as shares of its height over the dull ground. */
const LINES = [0.7, 1.4];
const LEAST_UNCERTAINTY = 0.5;

/**
 * The share of a bare ground in highlights, photographed through the card with a lamp low at its side. What shines
 * sends the lamp's own white back on top of the ground's colour, so it is the channel that got least that tells.
 * `picture` is how
 * the patch will look: where it is on the ground already, that is no bare one. Returns the reason when the photo cannot
 * be trusted. docs/READINGS.md, “gloss left”.
 */
export function readGloss(cv: Cv, photo: Pixels, card: Card, picture?: Reference): Outcome<Gloss> {
  const looked = upright(cv, photo, card);
  if (!looked.ok) return looked;
  const { window } = looked.value;
  // Grain and highlights look like it by a sixth at most, a picture that half landed by two thirds.
  if (picture && register(cv, rootOf(lightOf(window.rgb)), rootOf(picture.light)).match >= LEAST_MATCH)
    return bad(
      'not-bare',
      'The picture is on this ground already: this is no photo of a bare ground.',
      'Say that it is dry, or still wet, and choose the photo again.',
    );
  return good(glossIn(window.rgb));
}

/** The same of a window that was cut out and balanced. */
export function glossIn(rgb: readonly [Plane, Plane, Plane]): Gloss {
  const { w, h } = rgb[0];
  const rim = Math.round(CLEAR_OF_CARD_MM * PX);
  const least: number[] = [];
  for (let y = rim; y < h - rim; y++)
    for (let x = rim; x < w - rim; x++) {
      const i = y * w + x;
      least.push(Math.min(rgb[0].data[i], rgb[1].data[i], rgb[2].data[i]));
    }
  const [low, quarter] = [quantile(least, 0.05), quantile(least, DULL)];
  if (low > ALL_SHINES) return { gloss: 100, uncertainty: LEAST_UNCERTAINTY };
  // Of a normal scatter the lowest twentieth and the lowest quarter lie 0.97 of it apart, its middle 0.67 above that.
  const scatter = (quarter - low) / 0.97;
  const dull = quarter + 0.674 * scatter;
  const step = Math.max(SCATTERS * scatter, LEAST_LIGHTER);
  const over = (line: number) => (100 * least.filter(v => v > dull + line * step).length) / least.length;
  const [more, less] = LINES.map(over);
  return { gloss: tidy(over(1), 1), uncertainty: tidy(Math.max(LEAST_UNCERTAINTY, (more - less) / 2), 1) };
}
