import { lettering, letteringWidth } from './letters.ts';
import { rect, type Scene, type Shape } from './scene.ts';

/** The geometry of a reading card, mm from its top left; the content of `card.json` (docs/FORMATS.md). */
export interface Card {
  readonly unit: 'mm';
  readonly patch: number;
  readonly page: { readonly w: number; readonly h: number };
  readonly dictionary: 'DICT_4X4_50';
  readonly markers: readonly {
    readonly id: number;
    readonly x: number;
    readonly y: number;
    readonly size: number;
  }[];
  readonly window: { readonly x: number; readonly y: number; readonly w: number; readonly h: number };
  readonly greys: readonly {
    readonly x: number;
    readonly y: number;
    readonly w: number;
    readonly h: number;
    readonly value: number;
  }[];
  /** Rectangles of bare paper to measure the light on. */
  readonly whites: readonly {
    readonly x: number;
    readonly y: number;
    readonly w: number;
    readonly h: number;
  }[];
}

const BAND = 25;
const MARKER = 13;
const INSET = 4;
/** How much wider than the patch the window is, on each side: the ground shows there. */
export const WINDOW_BEYOND = 3;
const RAMP = [0, 40, 80, 120, 160, 200, 230];

/** Bits of the coded markers 0–9 of the open 4×4 ArUco dictionary, row by row, 1 = white. */
const MARKER_BITS = [
  '1011 0101 0011 0010',
  '0000 1111 1001 1010',
  '0011 0011 0010 1101',
  '1001 1001 0100 0110',
  '0101 0100 1001 1110',
  '0111 1001 1100 1101',
  '1001 1110 0010 1110',
  '1100 0100 1111 0010',
  '1111 1110 1101 1010',
  '1100 1111 0101 0110',
];

/**
 * The reading card for a patch of `patch` mm: window 6 mm larger, six markers, two grey ramps, a rule.
 *
 * @example card(40).window.w; // => 46
 */
export function card(patch: number): Card {
  const side = patch + 2 * WINDOW_BEYOND;
  const page = side + 2 * BAND;
  const far = page - INSET - MARKER;
  const middle = page / 2 - MARKER / 2;
  const markers = [
    [INSET, INSET],
    [far, INSET],
    [far, far],
    [INSET, far],
    [INSET, middle],
    [far, middle],
  ].map(([x, y], id) => ({ id, x, y, size: MARKER }));
  const left = INSET + MARKER + 5;
  const step = (page - 2 * left) / RAMP.length;
  const ramp = (values: readonly number[], y: number) =>
    values.map((value, i) => ({ x: left + i * step, y, w: step, h: 8, value }));
  const greys = [...ramp(RAMP, INSET + 1), ...ramp([...RAMP].reverse(), page - INSET - 9)];
  const inner = BAND - 5;
  const ring = page - 2 * inner;
  const whites = [
    { x: inner, y: inner, w: ring, h: 4 },
    { x: inner, y: page - inner - 4, w: ring, h: 4 },
    { x: inner, y: inner, w: 4, h: ring },
    { x: page - inner - 4, y: inner, w: 4, h: ring },
    { x: 0.8, y: 0.8, w: page - 1.6, h: 2 },
    { x: 0.8, y: page / 2 - 14, w: 2, h: 28 },
    { x: page - 2.8, y: page / 2 - 14, w: 2, h: 28 },
  ];
  return {
    unit: 'mm',
    patch,
    page: { w: page, h: page },
    dictionary: 'DICT_4X4_50',
    markers,
    window: { x: BAND, y: BAND, w: side, h: side },
    greys,
    whites,
  };
}

const CORNER_FIRST = 6;
const CORNER_MM = 22;

/** The four markers (6–9) for a board's corners, clockwise from the top left, each alone on white. */
export const cornerMarkers = (): Scene[] =>
  [0, 1, 2, 3].map(i => ({
    w: CORNER_MM,
    h: CORNER_MM,
    shapes: markerShapes({ id: CORNER_FIRST + i, x: 0, y: 0, size: CORNER_MM }),
  }));

/** The card drawn, its window filled mid-grey. */
export function cardScene(c: Card): Scene {
  const words = `READING CARD - WINDOW ${c.window.w} × ${c.window.h} MM - PATCH ${c.patch} MM`;
  const height = Math.min(2, 2 * ((c.page.w - 44) / letteringWidth(words, 2)));
  const ruleY = c.page.h - 3.4;
  const ruleX = (c.page.w - 50) / 2;
  const ticks = Array.from({ length: 51 }, (_, i) =>
    rect(ruleX + i - 0.06, ruleY, 0.12, i % 10 === 0 ? 2.4 : i % 5 === 0 ? 1.8 : 1.2, 0),
  );
  return {
    w: c.page.w,
    h: c.page.h,
    shapes: [
      ...c.greys.map(g => rect(g.x, g.y, g.w, g.h, g.value)),
      ...c.markers.flatMap(markerShapes),
      ...lettering(words, (c.page.w - letteringWidth(words, height)) / 2, INSET + 11, height, 0, 0.11),
      ...ticks,
      rect(c.window.x, c.window.y, c.window.w, c.window.h, 128),
    ],
  };
}

function markerShapes(marker: Card['markers'][number]): Shape[] {
  const cell = marker.size / 6;
  const bits = MARKER_BITS[marker.id].replace(/ /g, '');
  return [
    rect(marker.x, marker.y, marker.size, marker.size, 0),
    ...[...bits].flatMap((bit, i) =>
      bit === '1'
        ? [rect(marker.x + (1 + (i % 4)) * cell, marker.y + (1 + Math.floor(i / 4)) * cell, cell, cell, 255)]
        : [],
    ),
  ];
}
