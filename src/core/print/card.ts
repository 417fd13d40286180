import { lettering, letteringWidth } from './letters.ts';
import { rect, type Scene, type Shape } from './scene.ts';

/** The geometry of a reading card, mm from its top left; the content of `card.json` (docs/FORMATS.md). */
export interface Card {
  readonly unit: 'mm';
  /** Width and height of the patches it is for. */
  readonly patch: number;
  readonly tall: number;
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
 * The reading card for a patch of `patch` × `tall` mm (square unless said): window 6 mm larger, six markers, two grey
 * ramps, a rule.
 *
 * @example card(40).window.w; // => 46
 * @example card(60, 40).page; // => { w: 116, h: 96 }
 */
export function card(patch: number, tall = patch): Card {
  const window = { x: BAND, y: BAND, w: patch + 2 * WINDOW_BEYOND, h: tall + 2 * WINDOW_BEYOND };
  const page = { w: window.w + 2 * BAND, h: window.h + 2 * BAND };
  const far = { x: page.w - INSET - MARKER, y: page.h - INSET - MARKER };
  const middle = page.h / 2 - MARKER / 2;
  const markers = [
    [INSET, INSET],
    [far.x, INSET],
    [far.x, far.y],
    [INSET, far.y],
    [INSET, middle],
    [far.x, middle],
  ].map(([x, y], id) => ({ id, x, y, size: MARKER }));
  const left = INSET + MARKER + 5;
  const step = (page.w - 2 * left) / RAMP.length;
  const ramp = (values: readonly number[], y: number) =>
    values.map((value, i) => ({ x: left + i * step, y, w: step, h: 8, value }));
  const greys = [...ramp(RAMP, INSET + 1), ...ramp([...RAMP].reverse(), page.h - INSET - 9)];
  const inner = BAND - 5;
  const ring = { w: page.w - 2 * inner, h: page.h - 2 * inner };
  const whites = [
    { x: inner, y: inner, w: ring.w, h: 4 },
    { x: inner, y: page.h - inner - 4, w: ring.w, h: 4 },
    { x: inner, y: inner, w: 4, h: ring.h },
    { x: page.w - inner - 4, y: inner, w: 4, h: ring.h },
    { x: 0.8, y: 0.8, w: page.w - 1.6, h: 2 },
    { x: 0.8, y: page.h / 2 - 14, w: 2, h: 28 },
    { x: page.w - 2.8, y: page.h / 2 - 14, w: 2, h: 28 },
  ];
  return { unit: 'mm', patch, tall, page, dictionary: 'DICT_4X4_50', markers, window, greys, whites };
}

/** The number of the first corner piece's marker; the card's own are below it. */
export const CORNER_FIRST = 6;
/** A corner piece is so wide; it lies outside the board, against its corner, and covers nothing of it. */
const CORNER_MM = 24;
const CORNER_MARKER = 14;
const CORNER_GREYS = [0, 80, 160];

/** A piece of paper with a coded marker that is laid against one of a board's corners. */
export interface CornerPiece {
  /** Its top left as it lies, mm from the board's top left. */
  readonly at: { readonly x: number; readonly y: number };
  readonly size: { readonly w: number; readonly h: number };
  /** The marker, and grey steps beside it, where they then lie. */
  readonly marker: Card['markers'][number];
  readonly greys: Card['greys'];
  /** The piece drawn. */
  readonly scene: Scene;
}

/**
 * The four corner pieces of a board of w × h mm, clockwise from the top left (markers 6–9). Each lies outside the board
 * beside its corner, left or right of it, flush with its upper or lower edge, so that no patch is ever covered.
 *
 * @example cornerPieces(230, 180)[0].at; // => { x: -24, y: 0 }
 */
export function cornerPieces(w: number, h: number): CornerPiece[] {
  const size = { w: CORNER_MM, h: CORNER_MM };
  const far = Math.max(0, h - CORNER_MM);
  const places = [
    { x: -CORNER_MM, y: 0 },
    { x: w, y: 0 },
    { x: w, y: far },
    { x: -CORNER_MM, y: far },
  ];
  return places.map((at, i) => {
    const rim = (CORNER_MM - CORNER_MARKER) / 2;
    const marker = { id: CORNER_FIRST + i, x: rim, y: 3, size: CORNER_MARKER };
    const step = CORNER_MARKER / CORNER_GREYS.length;
    const greys = CORNER_GREYS.map((value, k) => ({ x: rim + k * step, y: 19, w: step, h: 3.6, value }));
    const moved = <B extends { x: number; y: number }>(b: B): B => ({ ...b, x: b.x + at.x, y: b.y + at.y });
    return {
      at,
      size,
      marker: moved(marker),
      greys: greys.map(moved),
      scene: {
        ...size,
        shapes: [...markerShapes(marker), ...greys.map(g => rect(g.x, g.y, g.w, g.h, g.value))],
      },
    };
  });
}

/** The card drawn, its window filled mid-grey. */
export function cardScene(c: Card): Scene {
  const words = `READING CARD - WINDOW ${c.window.w} × ${c.window.h} MM - PATCH ${c.patch === c.tall ? c.patch : `${c.patch} × ${c.tall}`} MM`;
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

/** A coded marker drawn where it lies; one of a number that is not ours only as its black square. */
export function markerShapes(marker: Card['markers'][number]): Shape[] {
  const cell = marker.size / 6;
  const bits = (MARKER_BITS[marker.id] ?? '').replace(/ /g, '');
  return [
    rect(marker.x, marker.y, marker.size, marker.size, 0),
    ...[...bits].flatMap((bit, i) =>
      bit === '1'
        ? [rect(marker.x + (1 + (i % 4)) * cell, marker.y + (1 + Math.floor(i / 4)) * cell, cell, cell, 255)]
        : [],
    ),
  ];
}
