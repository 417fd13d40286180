import type { Scene } from '../print/index.ts';
import type { Plane } from './cv.ts';

/** Contrast (Michelson, linear light) at which a line still counts as separate from the ground beside it. */
const SEPARATE = 0.3;
/** A line is looked at in so many pieces one after the other, and has to be separate in this share of them. */
const PIECES = 40;
const WHOLE = 0.85;
const MOST_SHIFT_MM = 0.25;
const CLEAR_MM = 0.6;

/**
 * Width (mm) of the finest of the picture's falling lines that is still separate: it and all wider ones differ from
 * the gaps beside them by 30 % modulation or more, (gap − line)/(gap + line), along seventeen twentieths of their
 * length at least, so that a line of which a fifth is missing is none wherever the break lies. Null when the picture has no such lines or not even the widest is
 * separate. `light`: linear luminance of the picture upright, `px` pixels to a mm. A shift of up to a quarter of a
 * millimetre, common to all lines, is sought first, for the picture may lie that far off.
 */
export function finestLine(light: Plane, lines: Scene['lines'], px: number): number | null {
  if (!lines?.length) return null;
  const [top, bottom] = [lines[0].y + 0.1 * lines[0].h, lines[0].y + 0.9 * lines[0].h];
  const along = (from: number, to: number) => {
    const profile = alongLines(light, from * px, to * px);
    return (shift: number) => modulations(lines, mm => between(profile, (mm + shift) * px - 0.5));
  };
  const whole = along(top, bottom);
  let best = { shift: 0, of: Number.NEGATIVE_INFINITY };
  for (let shift = -MOST_SHIFT_MM; shift <= MOST_SHIFT_MM + 1e-9; shift += 0.05) {
    const of = sum(whole(shift));
    if (of > best.of) best = { shift, of };
  }
  const step = (bottom - top) / PIECES;
  const pieces = Array.from({ length: PIECES }, (_, i) =>
    along(top + i * step, top + (i + 1) * step)(best.shift),
  );
  // Where light is measured row by row its grain counts: a line that is separate as a whole may fail in a piece.
  const mean = whole(best.shift);
  const lost = lines.findIndex(
    (_, i) => mean[i] < SEPARATE || pieces.filter(piece => piece[i] >= SEPARATE / 2).length < WHOLE * PIECES,
  );
  if (lost === 0) return null;
  return lines[lost < 0 ? lines.length - 1 : lost - 1].w;
}

const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0);

/** Modulation of each line against the middle of the gaps on its two sides. */
function modulations(lines: NonNullable<Scene['lines']>, at: (mm: number) => number): number[] {
  return lines.map((line, i) => {
    const before = i > 0 ? lines[i - 1] : undefined;
    const after = lines[i + 1];
    const left = at(before ? (before.x + before.w + line.x) / 2 : line.x - CLEAR_MM);
    const right = at(
      after ? (line.x + line.w + after.x) / 2 : line.x + line.w + Math.min(CLEAR_MM, line.w + 0.15),
    );
    const gap = (left + right) / 2;
    const ink = at(line.x + line.w / 2);
    return gap + ink > 0 ? (gap - ink) / (gap + ink) : 0;
  });
}

/** Mean of each column between two rows. */
function alongLines({ w, data }: Plane, top: number, bottom: number): Float64Array {
  const profile = new Float64Array(w);
  const [from, to] = [Math.round(top), Math.max(Math.round(top) + 1, Math.round(bottom))];
  for (let y = from; y < to; y++) for (let x = 0; x < w; x++) profile[x] += Math.max(0, data[y * w + x]);
  return profile.map(v => v / Math.max(1, to - from));
}

function between(values: Float64Array, at: number): number {
  const i = Math.min(values.length - 2, Math.max(0, Math.floor(at)));
  const share = Math.min(1, Math.max(0, at - i));
  return values[i] + share * (values[i + 1] - values[i]);
}
