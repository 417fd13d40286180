import { beforeAll, describe, expect, it } from 'vitest';
import { loadCv } from '../../cli/node-cv.ts';
import { ProblemError } from '../outcome/index.ts';
import { card, cardScene, rasterise } from '../print/index.ts';
import { type Cv, type Pixels, scoped } from './cv.ts';
import { type CardPlace, findCard, project } from './find-card.ts';

let lib: { cv: Cv };
beforeAll(async () => {
  lib = await loadCv();
});

const CARD = card(40);
const PX = 8;
const SIZE = { w: 1100, h: 1000 };
const DRAWN = rasterise(cardScene(CARD), PX);

/** The card photographed by a camera with a known homography (card mm → photo pixels), without noise. */
function shot(h: readonly number[], cover: (x: number, y: number) => boolean = () => false): Pixels {
  const drawn = { ...DRAWN, data: DRAWN.data.slice() };
  return scoped(keep => {
    const { cv } = lib;
    for (let y = 0; y < drawn.h; y++)
      for (let x = 0; x < drawn.w; x++) if (cover(x / PX, y / PX)) drawn.data[y * drawn.w + x] = 150;
    const from = keep(cv.matFromArray(drawn.h, drawn.w, cv.CV_8U, drawn.data as never));
    // Pixel centres of the drawing in mm, then as the camera sees them.
    const toMm = [1 / PX, 0, 0.5 / PX, 0, 1 / PX, 0.5 / PX, 0, 0, 1];
    const matrix = keep(cv.matFromArray(3, 3, cv.CV_64F, times(h, toMm)));
    const to = keep(new cv.Mat());
    cv.warpPerspective(
      from,
      to,
      matrix,
      new cv.Size(SIZE.w, SIZE.h),
      cv.INTER_AREA,
      cv.BORDER_CONSTANT,
      new cv.Scalar(150),
    );
    const coloured = keep(new cv.Mat());
    cv.cvtColor(to, coloured, cv.COLOR_GRAY2RGBA);
    return { ...SIZE, data: new Uint8ClampedArray(coloured.data) };
  });
}

const times = (a: readonly number[], b: readonly number[]): number[] =>
  Array.from({ length: 9 }, (_, i) => {
    const [r, c] = [Math.floor(i / 3), i % 3];
    return a[r * 3] * b[c] + a[r * 3 + 1] * b[3 + c] + a[r * 3 + 2] * b[6 + c];
  });

/** A camera straight above, turned by `degrees`, `scale` px per mm, with the card's middle in the photo's. */
function above(scale: number, degrees = 0, perspective = 0): number[] {
  const turn = (degrees * Math.PI) / 180;
  const [c, s] = [scale * Math.cos(turn), scale * Math.sin(turn)];
  const m = CARD.page.w / 2;
  const centred = [c, -s, -c * m + s * m, s, c, -s * m - c * m, 0, perspective, 1 - perspective * m];
  return times([1, 0, SIZE.w / 2, 0, 1, SIZE.h / 2, 0, 0, 1], centred);
}
const found = (photo: Pixels): CardPlace => {
  const place = findCard(lib.cv, photo, CARD);
  if (!place.ok) throw new ProblemError(place.problem);
  return place.value;
};

describe('the card in a photo', () => {
  it.each([
    ['straight', above(8)],
    ['small', above(6)],
    ['turned', above(7, 37)],
    ['upside down', above(8, 180)],
    ['tilted', above(7, 12, 0.0012)],
  ])('%s is found to a fifth of a pixel', (_, h) => {
    const place = found(shot(h));
    const { x, y, w, h: tall } = CARD.window;
    for (const [px, py] of [
      [x, y],
      [x + w, y],
      [x, y + tall],
      [x + w, y + tall],
      [CARD.page.w / 2, CARD.page.h / 2],
    ]) {
      const [tx, ty] = project(h, px, py);
      const [fx, fy] = project(place.homography, px, py);
      expect(Math.hypot(fx - tx, fy - ty)).toBeLessThan(0.2);
    }
    expect(place.misfitMm).toBeLessThan(0.05);
  });

  it('has its scale and its tilt', () => {
    const straight = found(shot(above(8)));
    expect(straight.pxPerMm).toBeCloseTo(8, 1);
    expect(straight.tiltDeg).toBeLessThan(4);
    const tilted = found(shot(above(7, 0, 0.0016)));
    expect(tilted.tiltDeg).toBeGreaterThan(found(shot(above(7, 0, 0.0004))).tiltDeg);
    expect(tilted.pxPerMm).toBeLessThan(7);
  });

  it('is found with two markers hidden, not with three', () => {
    const hide = (n: number) => {
      const hidden = CARD.markers.slice(0, n);
      return shot(above(8), (x, y) =>
        hidden.some(m => x > m.x - 1 && x < m.x + m.size + 1 && y > m.y - 1 && y < m.y + m.size + 1),
      );
    };
    expect(findCard(lib.cv, hide(2), CARD).ok).toBe(true);
    const three = findCard(lib.cv, hide(3), CARD);
    expect(!three.ok && three.problem).toMatchObject({
      code: 'markers-hidden',
      say: 'Only 3 of the card’s 6 markers can be seen.',
    });
  });

  it('is not found where there is none', () => {
    const data = new Uint8ClampedArray(SIZE.w * SIZE.h * 4).fill(150);
    const none = findCard(lib.cv, { ...SIZE, data }, CARD);
    expect(!none.ok && none.problem.code).toBe('no-card');
  });
});
