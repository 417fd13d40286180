import { describe, expect, it } from 'vitest';
import { findMethod, type Method } from '../methods/index.ts';
import type { Pixels } from '../reading/index.ts';
import { write } from '../say/index.ts';
import { said } from '../say/testing.ts';
import { hexOf, type Printer, STARTER_SHELF } from '../shelf/index.ts';
import {
  applyEdits,
  type Edit,
  labDifference,
  lookOn,
  measurePicture,
  mirrorPixels,
  nearestCoats,
  onPatch,
  pictureFile,
  pictureNotes,
  printCost,
  printSize,
  safeDrawing,
  thinnerThan,
  tooLargeFor,
} from './index.ts';
import { labAt } from './lab.ts';

type Rgb = readonly [number, number, number];
const paint = (w: number, h: number, at: (x: number, y: number) => Rgb): Pixels => {
  const data = new Uint8ClampedArray(w * h * 4);
  for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) data.set([...at(x, y), 255], (y * w + x) * 4);
  return { w, h, data };
};
const pixel = (p: Pixels, x: number, y: number) =>
  Array.from(p.data.slice((y * p.w + x) * 4, (y * p.w + x) * 4 + 3));
const WHITE: Rgb = [255, 255, 255];
const BLACK: Rgb = [0, 0, 0];
const half = paint(100, 60, x => (x < 50 ? BLACK : WHITE));

describe('edits', () => {
  const done = (...edits: Edit[]) => applyEdits(half, edits);

  it('are done in order and leave the original as it was', () => {
    const before = half.data.slice();
    const out = done({ kind: 'invert' }, { kind: 'crop', x: 0, y: 0, w: 0.5, h: 1 });
    expect([out.w, out.h]).toEqual([50, 60]);
    expect(pixel(out, 10, 10)).toEqual([255, 255, 255]);
    expect(half.data).toEqual(before);
  });

  it('turn, straighten and mirror about the right way', () => {
    const turned = done({ kind: 'turn', quarters: 1 });
    expect([turned.w, turned.h]).toEqual([60, 100]);
    expect(pixel(turned, 30, 10)).toEqual([0, 0, 0]);
    expect(
      pixel(
        applyEdits(half, [
          { kind: 'turn', quarters: 1 },
          { kind: 'turn', quarters: 3 },
        ]),
        10,
        10,
      ),
    ).toEqual([0, 0, 0]);
    expect(pixel(mirrorPixels(half), 10, 10)).toEqual([255, 255, 255]);
    const leaning = done({ kind: 'straighten', degrees: 20 });
    expect(pixel(leaning, 50, 5)[0] + pixel(leaning, 50, 54)[0]).toBeGreaterThan(200);
    expect(pixel(leaning, 0, 0)).toEqual([255, 255, 255]);
  });

  it('lighten, steepen and grey as they say', () => {
    const grey = paint(4, 4, () => [100, 100, 100]);
    expect(pixel(applyEdits(grey, [{ kind: 'lighten', amount: 0.5 }]), 1, 1)[0]).toBeGreaterThan(150);
    expect(pixel(applyEdits(grey, [{ kind: 'contrast', amount: 0.5 }]), 1, 1)[0]).toBeLessThan(80);
    const red = applyEdits(
      paint(2, 2, () => [255, 0, 0]),
      [{ kind: 'grey' }],
    );
    expect(new Set(pixel(red, 0, 0)).size).toBe(1);
  });

  it('take a near-white background out and leave the drawing', () => {
    const haze = paint(60, 60, (x, y) =>
      x > 20 && x < 40 && y > 20 && y < 40 ? [40, 40, 60] : [236, 232, 224],
    );
    const { background } = measurePicture(haze, 60);
    const out = applyEdits(haze, [{ kind: 'background', colour: [...background], tolerance: 10 }]);
    expect(pixel(out, 5, 5)).toEqual([255, 255, 255]);
    expect(pixel(out, 30, 30)).toEqual([40, 40, 60]);
  });

  it('put what is see-through on white', () => {
    const clear = { w: 1, h: 1, data: new Uint8ClampedArray([0, 0, 0, 0]) };
    expect(pixel(applyEdits(clear, []), 0, 0)).toEqual([255, 255, 255]);
  });
});

describe('what is measured of a picture', () => {
  it('is its share of white and black, cover and contrast', () => {
    const facts = measurePicture(half, 50);
    expect(facts.white).toBeCloseTo(0.5, 2);
    expect(facts.black).toBeCloseTo(0.5, 2);
    expect(facts.cover).toBeCloseTo(0.5, 2);
    expect(facts.contrast).toBe(100);
    expect(thinnerThan(facts, 0.4)).toBe(0);
  });

  it('finds lines thinner than 0.4 mm, and no longer when it is printed larger', () => {
    const lines = paint(200, 200, x => (x % 20 < 3 ? BLACK : WHITE));
    expect(thinnerThan(measurePicture(lines, 20), 0.4)).toBeGreaterThan(0.95);
    expect(thinnerThan(measurePicture(lines, 60), 0.4)).toBe(0);
    expect(thinnerThan(measurePicture(lines, 45), 0.8)).toBeGreaterThan(0.7);
  });

  it('has the lightness the library has', () => {
    for (const rgb of [
      [119, 119, 119],
      [201, 168, 122],
      [12, 200, 80],
    ] as Rgb[]) {
      const [l, a, b] = labAt(...rgb);
      expect(labDifference([l, a, b], [l, a, b])).toBe(0);
      expect(l).toBeGreaterThan(0);
    }
    expect(labAt(119, 119, 119)[0]).toBeCloseTo(50.03, 1);
    expect(labAt(255, 255, 255)[0]).toBeCloseTo(100, 3);
    expect(Math.hypot(...labAt(255, 255, 255).slice(1))).toBeLessThan(0.02);
  });
});

describe('whether it is fit for the method', () => {
  const { printers, donors, substrates } = STARTER_SHELF;
  const find = <T extends { id: string }>(list: readonly T[], id: string) => list.find(i => i.id === id)!;
  const notes = (
    picture: Pixels,
    part: {
      method?: string;
      printer?: string;
      donor?: string;
      ground?: string;
      size?: { w: number; h: number };
      hasText?: boolean | null;
      kept?: { mm: number; patches: number };
      /** A printer that is not on the shelf. */
      by?: Printer;
    } = {},
  ) => {
    const size = part.size ?? { w: 60, h: 40 };
    return pictureNotes({
      facts: measurePicture(picture, size.w),
      method: findMethod(part.method ?? 'wet-rub') as Method,
      printer: part.by ?? find(printers, part.printer ?? 'office-laser'),
      donor: find(donors, part.donor ?? 'copy-80'),
      grounds: [find(substrates, part.ground ?? 'birch-ply')],
      size,
      hasText: part.hasText ?? null,
      ...(part.kept ? { kept: part.kept } : {}),
    });
  };
  const ids = (...args: Parameters<typeof notes>) => notes(...args).map(n => n.id);

  it('speaks of whites on a dark ground, not on a white one, and not of a sheet with white of its own', () => {
    expect(ids(half, { ground: 'slate' })).toContain('whites-go');
    expect(ids(half, { ground: 'white-tile' })).not.toContain('whites-go');
    expect(
      ids(half, { ground: 'slate', donor: 'iron-on-dark', method: 'hot-body', printer: 'chart-printer' }),
    ).not.toContain('whites-go');
  });

  it('speaks of low contrast and pale tones, and its fix mends them', () => {
    const pale = paint(80, 80, (x, y) => ((x + y) % 8 < 5 ? [200, 200, 200] : [235, 235, 235]));
    const found = notes(pale).find(n => n.id === 'low-contrast')!;
    expect(ids(pale)).toContain('pale-tones');
    const before = measurePicture(pale, 60).contrast;
    expect(measurePicture(applyEdits(pale, [found.fix!.edit]), 60).contrast).toBeGreaterThan(before);
  });

  it('speaks of thin lines, mostly black, hazy paper, lost colour, size and seams', () => {
    expect(ids(paint(400, 400, x => (x % 20 < 2 ? BLACK : WHITE)))).toContain('fine-detail');
    expect(ids(paint(40, 40, () => [10, 10, 10]))).toContain('mostly-black');
    expect(
      ids(paint(40, 40, (x, y) => (x > 10 && x < 30 && y > 10 && y < 30 ? BLACK : [235, 235, 230]))),
    ).toContain('grey-paper');
    expect(ids(paint(40, 40, () => [220, 60, 30]))).toContain('colour-lost');
    expect(ids(half, { size: { w: 400, h: 200 } })[0]).toBe('too-large');
    expect(ids(half, { size: { w: 180, h: 100 }, method: 'tissue-embed', donor: 'tissue-20' })).toContain(
      'seams',
    );
    const busy = paint(200, 200, (x, y) => ((x * 7 + y * 13) % 11 < 5 ? BLACK : [230, 230, 230]));
    expect(
      ids(busy, {
        method: 'hot-body',
        printer: 'chart-printer',
        donor: 'iron-on-light',
        ground: 'bisque-tile',
      }),
    ).toContain('busy');
  });

  it('goes by the finest line the maker’s own patches kept, where that was read', () => {
    const lines = paint(400, 400, x => (x % 20 < 5 ? BLACK : WHITE));
    expect(ids(lines)).not.toContain('fine-detail');
    expect(ids(lines, { kept: { mm: 1, patches: 12 } })).toContain('fine-detail');
  });

  it('goes by the dots of a printer that draws coarser than the method keeps', () => {
    const lines = paint(400, 400, x => (x % 20 < 5 ? BLACK : WHITE));
    const coarse = { ...STARTER_SHELF.printers[0], dpi: 50 };
    expect(ids(lines, { by: coarse })).toContain('fine-detail');
    expect(ids(lines, { by: { ...coarse, dpi: 600 } })).not.toContain('fine-detail');
    // The maker's own readings are of that printer already.
    expect(ids(lines, { by: coarse, kept: { mm: 0.2, patches: 12 } })).not.toContain('fine-detail');
  });

  it('says what a sheet holds where a picture is too large for it, to the millimetre', () => {
    const donor = { name: '80 g copy paper', sheet: { w: 210, h: 297 } };
    expect(tooLargeFor({ w: 186, h: 242 }, donor)).toBeUndefined();
    expect(write(tooLargeFor({ w: 187, h: 100 }, donor) ?? '')).toMatch(
      /^At 187 × 100 mm .* holds 186 × 242 mm\./,
    );
    expect(write(tooLargeFor({ w: 100, h: 243 }, donor) ?? '')).toMatch(/Make the picture smaller/);
    expect(write(tooLargeFor({ w: 10, h: 10 }, { ...donor, sheet: { w: 20, h: 30 } }) ?? '')).toMatch(
      /holds 0 × 0 mm/,
    );
  });

  it('holds the mirror rule for writing', () => {
    expect(ids(half, { hasText: true })).toContain('text-mirrored');
    expect(ids(half, { hasText: true, method: 'tape-lift' })).toContain('text-plain');
    expect(ids(half)).not.toContain('text-mirrored');
  });

  it('costs more the more ink it takes', () => {
    const size = { w: 100, h: 100 };
    const cost = (p: Pixels) => printCost(measurePicture(p, 100), size, printers[0], donors[0]);
    expect(cost(paint(20, 20, () => BLACK))).toBeGreaterThan(2 * cost(paint(20, 20, () => [240, 240, 240])));
  });
});

describe('how it will look', () => {
  it('has no white: white becomes the ground, black stays, colours multiply', () => {
    const ground = () => [0.5, 0.25, 0.1] as const;
    const seen = lookOn(half, { ground, widthMm: 50 });
    expect(pixel(seen, 10, 10)).toEqual([0, 0, 0]);
    expect(hexOf([0.5, 0.25, 0.1])).toBe(
      `#${pixel(seen, 80, 10)
        .map(v => v.toString(16).padStart(2, '0'))
        .join('')}`,
    );
    const red = lookOn(
      paint(2, 2, () => [255, 0, 0]),
      { ground, widthMm: 2 },
    );
    expect(pixel(red, 0, 0)[1]).toBe(0);
  });

  it('is hazy under veil and keeps its white on a sheet that has some', () => {
    const ground = () => [0.1, 0.1, 0.1] as const;
    expect(pixel(lookOn(half, { ground, widthMm: 50, veil: 0.3 }), 10, 10)[0]).toBeGreaterThan(120);
    expect(pixel(lookOn(half, { ground, widthMm: 50, opaque: true }), 80, 10)[0]).toBeGreaterThan(230);
  });

  it('fits, fills or is enlarged on its piece', () => {
    const piece = { w: 100, h: 100 };
    expect(printSize(2, piece, 'fit', 10)).toMatchObject({ w: 80, h: 40 });
    expect(printSize(2, piece, 'enlarge', 10)).toMatchObject({ w: 100, h: 50 });
    expect(printSize(2, piece, 'fill', 10)).toEqual({
      w: 100,
      h: 100,
      part: { x: 0.25, y: 0, w: 0.5, h: 1 },
    });
    expect(printSize(0.5, piece, 'fill', 0).part).toEqual({ x: 0, y: 0.25, w: 1, h: 0.5 });
  });
});

// The 34 test pairs of Sharma, Wu & Dalal (2005), table 1.
const PAIRS = [
  [50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425],
  [50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615],
  [50, 2.8361, -74.02, 50, 0, -82.7485, 3.4412],
  [50, -1.3802, -84.2814, 50, 0, -82.7485, 1],
  [50, -1.1848, -84.8006, 50, 0, -82.7485, 1],
  [50, -0.9009, -85.5211, 50, 0, -82.7485, 1],
  [50, 0, 0, 50, -1, 2, 2.3669],
  [50, -1, 2, 50, 0, 0, 2.3669],
  [50, 2.49, -0.001, 50, -2.49, 0.0009, 7.1792],
  [50, 2.49, -0.001, 50, -2.49, 0.001, 7.1792],
  [50, 2.49, -0.001, 50, -2.49, 0.0011, 7.2195],
  [50, 2.49, -0.001, 50, -2.49, 0.0012, 7.2195],
  [50, -0.001, 2.49, 50, 0.0009, -2.49, 4.8045],
  [50, -0.001, 2.49, 50, 0.001, -2.49, 4.8045],
  [50, -0.001, 2.49, 50, 0.0011, -2.49, 4.7461],
  [50, 2.5, 0, 50, 0, -2.5, 4.3065],
  [50, 2.5, 0, 73, 25, -18, 27.1492],
  [50, 2.5, 0, 61, -5, 29, 22.8977],
  [50, 2.5, 0, 56, -27, -3, 31.903],
  [50, 2.5, 0, 58, 24, 15, 19.4535],
  [50, 2.5, 0, 50, 3.1736, 0.5854, 1],
  [50, 2.5, 0, 50, 3.2972, 0, 1],
  [50, 2.5, 0, 50, 1.8634, 0.5757, 1],
  [50, 2.5, 0, 50, 3.2592, 0.335, 1],
  [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644],
  [63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.263],
  [61.2901, 3.7196, -5.3901, 61.4292, 2.248, -4.962, 1.8731],
  [35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645],
  [22.7233, 20.0904, -46.694, 23.0331, 14.973, -42.5619, 2.0373],
  [36.4612, 47.858, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146],
  [90.8027, -2.0831, 1.441, 91.1528, -1.6435, 0.0447, 1.4441],
  [90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381],
  [6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377],
  [2.0776, 0.0795, -1.135, 0.9033, -0.0636, -0.5514, 0.9082],
] as const;

describe('matching a base coat', () => {
  it('uses CIEDE2000 as its authors publish it, on all 34 pairs', () => {
    expect(PAIRS).toHaveLength(34);
    for (const [l1, a1, b1, l2, a2, b2, reference] of PAIRS)
      expect(labDifference([l1, a1, b1], [l2, a2, b2])).toBeCloseTo(reference, 3);
  });

  it('names the nearest coat and says whether an edge will show', () => {
    const paints = STARTER_SHELF.mediums;
    const [first, second] = nearestCoats([0.8, 0.72, 0.52], paints);
    expect(first.coat.id).toBe('matt-cream');
    expect(first.words).toBe('you will not see an edge');
    expect(second.deltaE).toBeGreaterThan(first.deltaE);
    expect(second.words).toMatch(/edge|another colour/);
    expect(nearestCoats([0, 0, 0], [{ paint: null }])).toEqual([]);
    const grey = (v: number) => ({ paint: [v, v, v] as const });
    const words = nearestCoats([0.3, 0.3, 0.3], [0.3, 0.322, 0.35, 0.8].map(grey)).map(m => m.words);
    expect(words).toEqual([
      'you will not see an edge',
      'you will have to look for the edge',
      'you will see an edge',
      'it is another colour',
    ]);
  });
});

const svg = (inside: string, attributes = 'width="40" height="20"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inside}</svg>`;

describe('drawings', () => {
  it('that only draw are let in, with their size', () => {
    const plain = safeDrawing(
      svg(
        '<defs><circle id="a" r="2"/></defs><use href="#a"/><path d="M0 0h10" fill="url(#g)"/>',
        'viewBox="0 0 80 40" width="40mm"',
      ),
    );
    expect(plain.ok && plain.value.w).toBeCloseTo(151.18, 1);
    expect(plain.ok && plain.value.h).toBe(40);
    const boxed = safeDrawing(svg('<rect width="1" height="1"/>', 'viewBox="0 0 80 40"'));
    expect(boxed.ok && [boxed.value.w, boxed.value.h]).toEqual([80, 40]);
  });

  const loops = Array.from(
    { length: 20 },
    (_, i) => `<g id="g${i + 1}">${`<use href="#g${i}"/>`.repeat(8)}</g>`,
  ).join('');
  it.each([
    ['a script', svg('<script>alert(1)</script>'), /script/],
    ['a handler', svg('<rect onclick="alert(1)" width="1" height="1"/>'), /program/],
    ['a picture from outside', svg('<image href="https://example.org/x.png"/>'), /outside its file/],
    ['a file from outside', svg('<use href="other.svg#a"/>'), /outside its file/],
    ['a style from outside', svg('<style>@import "x.css";</style>'), /styles bring/],
    ['a fill from outside', svg('<rect fill="url(http://example.org/#a)"/>'), /outside its file/],
    ['a style sheet instruction', `<?xml-stylesheet href="x.css"?>${svg('')}`, /style sheet/],
    ['a program in a link', svg('<a href="javascript:alert(1)"><rect/></a>'), /program/],
    ['foreign content', svg('<foreignObject><p>x</p></foreignObject>'), /foreignobject/],
    ['entities', `<!DOCTYPE svg [<!ENTITY a "aaaa">]>${svg('&a;')}`, /document type/],
    ['parts that multiply', svg(`<defs><rect id="g0"/>${loops}</defs><use href="#g20"/>`), /over and over/],
    ['a part that draws itself', svg('<g id="a"><use href="#a"/></g><use href="#a"/>'), /over and over/],
    ['an absurd size', svg('', 'width="9000000" height="10"'), /9000000/],
    ['a moving part', svg('<animate attributeName="x"/>'), /animate/],
    ['broken XML', '<svg><g></svg>', /damaged/],
    ['other XML', '<html/>', /no drawing/],
    ['nothing in it', ' ', /damaged|empty/],
    [
      'a style from outside in a CDATA part',
      svg('<style><![CDATA[@import "x.css";]]></style>'),
      /styles bring/,
    ],
    ['a link to data', svg('<a href="data:text/html,x"><rect/></a>'), /program/],
    ['a box that never ends', svg('', `viewBox="${'0 '.repeat(150)}"`), /damaged/],
    ['parts nested without end', svg(`${'<g>'.repeat(400)}${'</g>'.repeat(400)}`), /nested too deeply/],
    ['more parts than can be drawn', svg('<g/>'.repeat(60_000)), /too many parts|over and over/],
    ['more text than can be looked through', svg(`<desc>${'x'.repeat(9e6)}</desc>`), /too large to look/],
    ['no height', svg('', 'width="10" height="0"'), /10 × 0 pixels/],
  ])('with %s are refused', (_, text, words) => {
    const result = safeDrawing(text);
    expect(said(!result.ok && result.problem.say)).toMatch(words);
  });
});

describe('files', () => {
  const bytes = (...parts: (number[] | string)[]) =>
    Uint8Array.from(parts.flatMap(p => (typeof p === 'string' ? [...p].map(c => c.charCodeAt(0)) : p)));
  const pngHead = (w: number, h: number) => [
    0x89,
    0x50,
    0x4e,
    0x47,
    0x0d,
    0x0a,
    0x1a,
    0x0a,
    0,
    0,
    0,
    13,
    0x49,
    0x48,
    0x44,
    0x52,
    w >> 24,
    (w >> 16) & 255,
    (w >> 8) & 255,
    w & 255,
    h >> 24,
    (h >> 16) & 255,
    (h >> 8) & 255,
    h & 255,
    8,
    6,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
  ];
  const jpegWith = (inks: number) =>
    bytes([0xff, 0xd8, 0xff, 0xe0, 0, 4, 0, 0, 0xff, 0xc0, 0, 17, 8, 0, 20, 0, 30, inks, 1, 1, 1, 1, 1, 1]);

  it('are known by their first bytes', () => {
    const jpeg = pictureFile(jpegWith(3));
    expect(jpeg.ok && jpeg.value).toEqual({ kind: 'jpeg', w: 30, h: 20, animated: false, cmyk: false });
    const inks = pictureFile(jpegWith(4));
    expect(inks.ok && inks.value.cmyk).toBe(true);
    const still = pictureFile(bytes(pngHead(30, 20), [0, 0, 0, 0], 'IDAT', [0, 0, 0, 0]));
    expect(still.ok && still.value).toMatchObject({ kind: 'png', w: 30, h: 20, animated: false });
    const moving = pictureFile(
      bytes(pngHead(30, 20), [0, 0, 0, 8], 'acTL', [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]),
    );
    expect(moving.ok && moving.value.animated).toBe(true);
    const webp = pictureFile(
      bytes('RIFF', [0, 0, 0, 0], 'WEBPVP8X', [10, 0, 0, 0, 2, 0, 0, 0, 29, 0, 0, 19, 0, 0, 0, 0]),
    );
    expect(webp.ok && webp.value).toEqual({ kind: 'webp', w: 30, h: 20, animated: true, cmyk: false });
    // 14 bits each of width and height less one, after a signature byte (lossless) or a frame header (lossy).
    const lossless = pictureFile(
      bytes('RIFF', [0, 0, 0, 0], 'WEBPVP8L', [0, 0, 0, 0, 0x2f, 29, 0xc0, 4, 0], '0000000000'),
    );
    expect(lossless.ok && lossless.value).toMatchObject({ kind: 'webp', w: 30, h: 20, animated: false });
    const lossy = pictureFile(
      bytes('RIFF', [0, 0, 0, 0], 'WEBPVP8 ', [0, 0, 0, 0, 0, 0, 0, 0x9d, 1, 0x2a, 30, 0, 20, 0], '000'),
    );
    expect(lossy.ok && lossy.value).toMatchObject({ kind: 'webp', w: 30, h: 20, animated: false });
    const drawing = pictureFile(bytes('<svg xmlns="x"></svg>'));
    expect(drawing.ok && drawing.value.kind).toBe('svg');
  });

  it.each([
    ['nothing', new Uint8Array(), /not a picture/],
    ['words', bytes('these are only words, no picture at all'), /not a picture/],
    ['a picture of 100 million pixels', bytes(pngHead(10_000, 10_000)), /100 million pixels/],
    ['more than 80 MB', new Uint8Array(80_000_001), /larger than 80 MB/],
    ['a picture of no width', bytes(pngHead(0, 20)), /damaged/],
    ['a JPEG that ends too soon', bytes([0xff, 0xd8, 0xff, 0xe0, 0, 4]), /damaged/],
  ])('with %s are refused', (_, file, words) => {
    const result = pictureFile(file);
    expect(said(!result.ok && result.problem.say)).toMatch(words);
  });
});

describe('a picture on a patch', () => {
  const room = { w: 40, h: 50 };
  const middle = { x: 0.5, y: 0.5 };
  const printed = { w: 160, h: 80, part: { x: 0, y: 0, w: 1, h: 1 } };
  const box = ({ x, y, w, h }: { x: number; y: number; w: number; h: number }) =>
    [x, y, w, h].map(v => Number(v.toFixed(4)));

  it('is all of it as large as there is room, in the middle', () => {
    const { place, part } = onPatch(2, room, 'whole', middle, printed);
    expect(box(place)).toEqual([0, 15, 40, 20]);
    expect(box(part)).toEqual([0, 0, 1, 1]);
  });

  it('is a part as large as on its piece, kept inside the picture', () => {
    const at = (x: number, y: number) => box(onPatch(2, room, 'detail', { x, y }, printed).part);
    expect(at(0.5, 0.5)).toEqual([0.375, 0.1875, 0.25, 0.625]);
    expect(at(0, 1)).toEqual([0, 0.375, 0.25, 0.625]);
    expect(at(0.3, 0.4)).toEqual([0.175, 0.0875, 0.25, 0.625]);
  });

  it('is no more than what is printed of it, at that size', () => {
    const cut = { w: 100, h: 30, part: { x: 0.2, y: 0, w: 0.6, h: 1 } };
    const { place, part } = onPatch(2, room, 'detail', { x: 0, y: 0.5 }, cut);
    expect(box(place)).toEqual([0, 10, 40, 30]);
    expect(box(part)).toEqual([0.2, 0, 0.24, 1]);
    expect(box(onPatch(2, room, 'detail', { x: 1, y: 0.5 }, cut).part)).toEqual([0.56, 0, 0.24, 1]);
  });
});
