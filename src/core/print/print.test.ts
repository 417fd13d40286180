import { describe, expect, it } from 'vitest';
import { toLinear, toSrgb } from '../colour/index.ts';
import { card, cardScene, donorCells, mirrored, rasterise, sheetGrid, srgbByte, target } from './index.ts';

describe('the reading card', () => {
  for (const size of [20, 40, 60, 100]) {
    const c = card(size);
    it(`for ${size} mm patches has a window 6 mm larger, all parts on the page and none over another`, () => {
      expect(c.window.w).toBe(size + 6);
      const boxes = [...c.markers.map(m => ({ x: m.x, y: m.y, w: m.size, h: m.size })), c.window, ...c.greys];
      boxes.forEach((a, i) => {
        expect(a.x).toBeGreaterThanOrEqual(0);
        expect(a.x + a.w).toBeLessThanOrEqual(c.page.w);
        expect(a.y + a.h).toBeLessThanOrEqual(c.page.h);
        for (const b of boxes.slice(i + 1)) {
          const apart =
            a.x + a.w <= b.x + 1e-9 ||
            b.x + b.w <= a.x + 1e-9 ||
            a.y + a.h <= b.y + 1e-9 ||
            b.y + b.h <= a.y + 1e-9;
          expect(apart).toBe(true);
        }
      });
    });
    it(`for ${size} mm patches is bare paper where it is said to be white`, () => {
      const drawn = rasterise(cardScene(c), 10);
      for (const box of c.whites)
        for (let y = Math.ceil(box.y * 10) + 1; y < (box.y + box.h) * 10 - 1; y += 3)
          for (let x = Math.ceil(box.x * 10) + 1; x < (box.x + box.w) * 10 - 1; x += 3)
            expect(drawn.data[y * drawn.w + x]).toBe(255);
    });
  }
});

describe('the test target', () => {
  it('stays inside its square at every size', () => {
    for (const size of [20, 40, 100])
      for (const [x, y] of target(size).shapes.flatMap(s => s.points)) {
        expect(Math.min(x, y)).toBeGreaterThanOrEqual(-1e-9);
        expect(Math.max(x, y)).toBeLessThanOrEqual(size + 1e-9);
      }
  });
  it('looks different from its mirror image and from itself turned', () => {
    const a = rasterise(target(40), 4);
    const b = rasterise(mirrored(target(40)), 4);
    const differs = (other: (x: number, y: number) => number) => {
      let sum = 0;
      for (let y = 0; y < a.h; y++)
        for (let x = 0; x < a.w; x++) sum += Math.abs(a.data[y * a.w + x] - other(x, y)) > 60 ? 1 : 0;
      return sum / a.data.length;
    };
    expect(differs((x, y) => b.data[y * a.w + x])).toBeGreaterThan(0.2);
    expect(differs((x, y) => a.data[(a.h - 1 - y) * a.w + (a.w - 1 - x)])).toBeGreaterThan(0.2);
    expect(differs((x, y) => a.data[x * a.w + (a.w - 1 - y)])).toBeGreaterThan(0.2);
  });
  it('is more ink than paper, so that little is hidden from the reading', () => {
    const { data } = rasterise(target(40), 10);
    const inked = data.filter(v => toLinear(v / 255) < 0.6).length / data.length;
    expect(inked).toBeGreaterThan(0.5);
    expect(inked).toBeLessThan(0.8);
  });
});

describe('drawing', () => {
  it('covers exactly the area of a shape, and mixes edges in linear light', () => {
    const { w, data } = rasterise(
      {
        w: 4,
        h: 4,
        shapes: [
          {
            points: [
              [1, 1],
              [2.5, 1],
              [2.5, 3],
              [1, 3],
            ],
            grey: 0,
          },
        ],
      },
      1,
    );
    expect(data[1 * w + 1]).toBe(0);
    expect(data[1 * w + 2]).toBe(Math.round(toSrgb(0.5) * 255));
    expect(data[1 * w + 3]).toBe(255);
  });
  it('converts light both ways', () => {
    for (let v = 0; v < 256; v++) expect(Math.abs(srgbByte(toLinear(v / 255)) - v)).toBeLessThanOrEqual(1);
  });
  it('nests twenty 40 mm prints on A4, none off the sheet', () => {
    const cell = donorCells(40);
    const grid = sheetGrid({ w: 210, h: 297 }, cell);
    expect(grid.perSheet).toBe(16);
    for (const p of grid.places) {
      expect(p.x + 40).toBeLessThanOrEqual(200);
      expect(p.y + 40 + cell.tab).toBeLessThanOrEqual(290);
    }
  });
});
