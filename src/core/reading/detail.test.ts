import { describe, expect, it } from 'vitest';
import { toLinear } from '../colour/index.ts';
import { LINE_WIDTHS, mirrored, rasterise, target } from '../print/index.ts';
import type { Plane } from './cv.ts';
import { finestLine } from './detail.ts';

const PX = 10;

const FINE = 4;
const DRAWN = new Map<number, ReturnType<typeof rasterise>>();
/** The target four times as fine as it is read, drawn once. */
function drawnFine(size: number) {
  if (!DRAWN.has(size)) DRAWN.set(size, rasterise(target(size), PX * FINE, 2));
  return DRAWN.get(size)!;
}

/** The target as linear light, blurred across by a normal curve of `sigma` mm and moved by `shift` mm, on a ground of `base`. */
function seen({ sigma = 0, shift = 0, base = 1, lost = 0 }, size = 40): Plane {
  const fine = FINE;
  const drawn = drawnFine(size);
  const reach = Math.ceil(sigma * PX * fine * 4);
  const kernel = Array.from({ length: 2 * reach + 1 }, (_, i) =>
    sigma ? Math.exp(-0.5 * ((i - reach) / (sigma * PX * fine)) ** 2) : 1,
  );
  const whole = kernel.reduce((a, b) => a + b, 0);
  const side = size * PX;
  const data = new Float32Array(side * side);
  const isBare = (y: number) => lost && y > side * 0.55 && y < side * (0.55 + lost * 0.22);
  const drawnRow = (y: number) => drawn.data.subarray(y * fine * drawn.w, (y * fine + 1) * drawn.w);
  for (let y = 0; y < side; y++) {
    const bare = isBare(y);
    // Most rows are drawn as the one above them.
    if (y && bare === isBare(y - 1) && drawnRow(y).every((v, x) => v === drawnRow(y - 1)[x])) {
      data.copyWithin(y * side, (y - 1) * side, y * side);
      continue;
    }
    const row = new Float64Array(drawn.w);
    for (let x = 0; x < drawn.w; x++) row[x] = bare ? 1 : toLinear(drawn.data[y * fine * drawn.w + x] / 255);
    for (let x = 0; x < side; x++) {
      let sum = 0;
      for (let f = 0; f < fine; f++)
        kernel.forEach((k, i) => {
          const at = x * fine + f + i - reach - Math.round(shift * PX * fine);
          sum += k * row[Math.min(drawn.w - 1, Math.max(0, at))];
        });
      data[y * side + x] = (base * sum) / whole / fine;
    }
  }
  return { w: side, h: side, data };
}

/** What blurring must leave by the error function alone: the modulation at the middle of each line. */
function predicted(sigma: number): number {
  const lines = target(40).lines!;
  const ink = toLinear(15 / 255);
  const light = (x: number) =>
    1 -
    (1 - ink) *
      lines.reduce(
        (sum, l) =>
          sum + (erf((l.x + l.w - x) / (sigma * Math.SQRT2)) - erf((l.x - x) / (sigma * Math.SQRT2))) / 2,
        0,
      );
  const modulation = lines.map((l, i) => {
    const left = i ? (lines[i - 1].x + lines[i - 1].w + l.x) / 2 : l.x - 0.6;
    const next = lines[i + 1];
    const right = next ? (l.x + l.w + next.x) / 2 : l.x + l.w + Math.min(0.6, l.w + 0.15);
    const gap = (light(left) + light(right)) / 2;
    const at = light(l.x + l.w / 2);
    return (gap - at) / (gap + at);
  });
  const lost = modulation.findIndex(m => m < 0.3);
  return LINE_WIDTHS[lost < 0 ? LINE_WIDTHS.length - 1 : lost - 1];
}

/** Abramowitz & Stegun 7.1.26. */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x));
  const poly =
    ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t;
  return Math.sign(x) * (1 - poly * Math.exp(-x * x));
}

const read = (plane: Plane) => finestLine(plane, target(40).lines, PX);

describe('the finest line still separate', () => {
  it('is the finest there is where nothing is blurred', () => {
    expect(read(seen({}))).toBe(0.18);
  });

  it.each([0.1, 0.15, 0.2, 0.26, 0.3, 0.4])(
    'under a blur of %d mm is the one the error function says',
    sigma => {
      expect(read(seen({ sigma }))).toBe(predicted(sigma));
    },
  );

  it('gets coarser the more it is smeared', () => {
    const widths = [0.05, 0.2, 0.3, 0.45].map(sigma => read(seen({ sigma }))!);
    expect(widths).toEqual([...widths].sort((a, b) => a - b));
    expect(widths[3]).toBeGreaterThan(widths[0]);
  });

  it('does not mind a darker ground, or a picture that lies 0.2 mm off', () => {
    expect(read(seen({ sigma: 0.15, base: 0.35 }))).toBe(predicted(0.15));
    expect(read(seen({ sigma: 0.15, shift: 0.2 }))).toBe(predicted(0.15));
  });

  it('counts a line of which a fifth did not land as gone, and one that lost a sliver as there', () => {
    // The lines are 0.22 of the picture long; `lost` is a share of that.
    expect(read(seen({ lost: 0.22 }))).toBeNull();
    expect(read(seen({ lost: 0.05 }))).toBe(0.18);
  });

  it('counts a line of which most did not land as gone', () => {
    expect(read(seen({ lost: 0.9 }))).toBeNull();
  });

  it('grows with the target, and lies mirrored in a mirrored one', () => {
    expect(target(80).lines![0].w).toBe(4);
    const [line] = mirrored(target(40)).lines!;
    expect(line.x).toBeCloseTo(40 - 21.5 - 2, 9);
  });

  it('is not given for pictures without such lines', () => {
    expect(finestLine(seen({}), undefined, PX)).toBeNull();
  });
});
