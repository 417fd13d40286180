import { bad, type Outcome, type Progress } from '../outcome/index.ts';
import type { Spot } from './by-hand-start.ts';
import type { Cv, Pixels } from './cv.ts';
import { placeBetween } from './find-card.ts';
import { lightFrom, type WhiteSample } from './light.ts';
import { middle, quantile } from './middle.ts';
import { PX } from './px.ts';
import { type ReadPhoto, readWindow } from './read.ts';
import type { Reference } from './reference.ts';
import { type Lit, lookAt, PLAIN_TONE, type Region } from './straighten.ts';
import { cutWindow } from './window.ts';

/** So much of the ground is looked at round the picture, mm; and what of it stands clear of a hand that was a little off. */
const ROUND_MM = 3.2;
const CLEAR_MM = 1.2;
const CELL_MM = 1.5;
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
  const lit = litByGround(lookAt(cv, photo, place, box), size);
  const read = readWindow(cv, cutWindow(cv, photo, place, lit, box), reference, { stage, lit, place }, tell);
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

/** The light as the ground round the picture shows it, so that nothing in sight is brighter than white. */
function litByGround(region: Region, size: { readonly w: number; readonly h: number }): Lit {
  const cells: WhiteSample[] = [];
  const inner = { x: -CLEAR_MM, y: -CLEAR_MM, w: size.w + 2 * CLEAR_MM, h: size.h + 2 * CLEAR_MM };
  const [width, height] = [region.w / PX, region.h / PX];
  for (let y = 0; y + CELL_MM <= height; y += CELL_MM)
    for (let x = 0; x + CELL_MM <= width; x += CELL_MM) {
      const [mx, my] = [x + CELL_MM / 2 - ROUND_MM, y + CELL_MM / 2 - ROUND_MM];
      const isInside = mx > inner.x && mx < inner.x + inner.w && my > inner.y && my < inner.y + inner.h;
      const rgb = isInside ? undefined : meanOf(region, x, y);
      if (rgb) cells.push({ x: mx, y: my, rgb });
    }
  const ground = lightFrom(cells, Math.max(size.w, size.h));
  const over: number[] = [];
  const steps: number[] = [];
  for (let y = 0; y < region.h; y += 3)
    for (let x = 0; x < region.w - 2; x += 3) {
      const i = (y * region.w + x) * 3 + 1;
      const here = ground(1, x / PX - ROUND_MM, y / PX - ROUND_MM);
      over.push(region.rgb[i] / here);
      steps.push(Math.abs(region.rgb[i] - region.rgb[i + 6]) / here);
    }
  const scale = Math.max(1, quantile(Float32Array.from(over), 0.995));
  return {
    light: (c, x, y) => ground(c, x, y) * scale,
    tone: [PLAIN_TONE, PLAIN_TONE, PLAIN_TONE],
    noise: Math.max(0.005, middle(steps) / 0.6745 / Math.SQRT2 / scale),
    blurMm: UNKNOWN_BLUR_MM,
    spread: undefined,
    evenness: 1,
    hasGreys: false,
  };
}
/** What is taken for the camera's blur where no sharp edge of known place is in sight, mm. */
const UNKNOWN_BLUR_MM = 0.1;

function meanOf({ w, h, rgb, inPhoto }: Region, x: number, y: number): WhiteSample['rgb'] | undefined {
  const [x0, y0] = [Math.round(x * PX), Math.round(y * PX)];
  const side = Math.round(CELL_MM * PX);
  const sum: [number, number, number] = [0, 0, 0];
  let n = 0;
  for (let v = y0; v < Math.min(h, y0 + side); v++)
    for (let u = x0; u < Math.min(w, x0 + side); u++) {
      if (!inPhoto[v * w + u]) continue;
      for (let c = 0; c < 3; c++) sum[c] += rgb[(v * w + u) * 3 + c];
      n++;
    }
  return n > (side * side) / 2 ? [sum[0] / n, sum[1] / n, sum[2] / n] : undefined;
}
