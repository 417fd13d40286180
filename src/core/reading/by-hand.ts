import { bad, type Outcome, type Progress } from '../outcome/index.ts';
import type { Spot } from './by-hand-start.ts';
import type { Cv, Pixels, Plane } from './cv.ts';
import { placeBetween } from './find-card.ts';
import { middle, quantile } from './middle.ts';
import { PX } from './px.ts';
import { type ReadPhoto, readWindow } from './read.ts';
import type { Reference } from './reference.ts';
import { type Lit, lookAt, PLAIN_TONE, type Region } from './straighten.ts';
import { cutWindow } from './window.ts';

/** So much of the ground is looked at round the picture, mm; and what of it stands clear of a hand that was a little off. */
const ROUND_MM = 3.2;
const NEAR_MM = 1.2;
const CLEAR_MM = 2.6;
const LEAST_SIDE_PX = 120;

/**
 * Reads a patch without card or corner pieces: `corners` are those of the picture as somebody set them in the photo,
 * clockwise from its top left as it should look. The ground round it stands for an even light; what needs white paper
 * (veil, tone, stain) or the card's own edges (smear) is withheld, and the reading says that it is by hand.
 */
export function readByHand(
  cv: Cv,
  photo: Pixels,
  corners: readonly Spot[],
  reference: Reference,
  { stage }: { readonly stage: 'wet' | 'dry' },
  tell: Progress = () => {},
): Outcome<ReadPhoto> {
  const size = { w: reference.w / PX, h: reference.h / PX };
  const place = isConvex(corners) ? placeBetween(cv, corners, size) : undefined;
  if (!place)
    return bad(
      'no-corners-by-hand',
      'These four corners do not make a picture seen from above.',
      'Set them clockwise, each on its own corner of the picture, beginning at the upper left one.',
    );
  const sides = corners.map((a, i) => Math.hypot(a.x - corners[(i + 1) % 4].x, a.y - corners[(i + 1) % 4].y));
  if (Math.min(...sides) < LEAST_SIDE_PX)
    return bad(
      'too-small',
      'The picture is too small in this photo to be measured.',
      'Come closer, or use a larger photo.',
    );
  const box = { x: -ROUND_MM, y: -ROUND_MM, w: size.w + 2 * ROUND_MM, h: size.h + 2 * ROUND_MM };
  tell(0.2, 'Looking at the ground');
  const lit = litByGround(lookAt(photo, place, box), size);
  const window = cutWindow(photo, place, lit, box);
  const read = readWindow(
    cv,
    { ...window, aside: elsewhere(window.rgb[1], size) },
    reference,
    { stage, lit, place },
    tell,
  );
  if (!read.ok) return read;
  const { reading } = read.value;
  const withheld =
    'Its corners were set by hand, without card: veil, stain, tone and smear are withheld, for want of white paper to compare with.';
  return {
    ok: true,
    value: {
      ...read.value,
      reading: {
        ...reading,
        byHand: true,
        veil: null,
        veilGive: null,
        stain: null,
        tone: null,
        deltaL: null,
        deltaC: null,
        smear: null,
        smearAlong: null,
        notes: [withheld, ...reading.notes],
      },
    },
  };
}

/** Whether four corners go round in one turn, clockwise as a photo is looked at. */
function isConvex(corners: readonly Spot[]): boolean {
  if (corners.length !== 4) return false;
  return corners.every((a, i) => {
    const [b, c] = [corners[(i + 1) % 4], corners[(i + 2) % 4]];
    return (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x) > 1;
  });
}

/**
 * The light where nothing in sight is known to be white: one and the same all over (how the ground changes from place to
 * place is followed when it is looked at), neutral as the phone has made it, and so that nothing is brighter than white.
 */
function litByGround({ w, rgb, inPhoto }: Region, size: { readonly w: number; readonly h: number }): Lit {
  const next: [number[], number[], number[]] = [[], [], []];
  const steps: number[] = [];
  const far = beyond(w, size);
  for (let i = 0; i < inPhoto.length - 2; i += 3) {
    if (!inPhoto[i]) continue;
    steps.push(Math.abs(rgb[i * 3 + 1] - rgb[i * 3 + 7]));
    const out = far(i);
    if (out > NEAR_MM && out < CLEAR_MM) for (let c = 0; c < 3; c++) next[c].push(rgb[i * 3 + c]);
  }
  const brightest = [0, 1, 2].map(c =>
    quantile(
      rgb.filter((_, i) => i % 15 === c),
      0.995,
    ),
  );
  const white = Math.max(1e-3, ...brightest, ...next.map(middle));
  return {
    light: () => white,
    tone: [PLAIN_TONE, PLAIN_TONE, PLAIN_TONE],
    noise: Math.max(0.005, middle(steps) / 0.6745 / Math.SQRT2 / white),
    blurMm: UNKNOWN_BLUR_MM,
    spread: undefined,
    ...{ evenness: 1, hasGreys: false },
  };
}

/** How far a pixel of the window lies beyond the picture, mm; below nought inside of it. */
const beyond = (w: number, size: { readonly w: number; readonly h: number }) => (i: number) => {
  const [x, y] = [(i % w) / PX - ROUND_MM, Math.floor(i / w) / PX - ROUND_MM];
  return Math.max(-x, -y, x - size.w, y - size.h);
};

/** What differs more than this from the ground next to the picture is no ground, as a ratio; and in scatters of the ground. */
const OTHER_RATIO = 1.35;
const OTHER_SCATTERS = 5;

/** Where round the picture something else lies than the ground next to it: a card, a ruler, the table. */
function elsewhere({ w, data }: Plane, size: { readonly w: number; readonly h: number }): Uint8Array {
  const far = beyond(w, size);
  const next: number[] = [];
  for (let i = 0; i < data.length; i += 3) {
    if (far(i) > NEAR_MM && far(i) < CLEAR_MM) next.push(Math.log(Math.max(1e-3, data[i])));
  }
  const ground = middle(next);
  const scatter = 1.4826 * middle(next.map(v => Math.abs(v - ground)));
  const most = Math.max(Math.log(OTHER_RATIO), OTHER_SCATTERS * scatter);
  return Uint8Array.from(data, (v, i) =>
    far(i) > NEAR_MM && Math.abs(Math.log(Math.max(1e-3, v)) - ground) > most ? 1 : 0,
  );
}

/** What is taken for the camera's blur where no sharp edge of known place is in sight, mm. */
const UNKNOWN_BLUR_MM = 0.1;
