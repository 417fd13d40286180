import { lettering } from './letters.ts';
import { rect, type Scene, type Shape, stroke } from './scene.ts';

/** Widths of the falling lines of a 40 mm target, mm; the gap after each is as wide as the line. */
export const LINE_WIDTHS = [2, 1.4, 1, 0.7, 0.5, 0.35, 0.25, 0.18] as const;
/** sRGB values of the tone steps, dark to light. */
export const TONE_STEPS = [10, 45, 80, 115, 150, 180, 210, 235] as const;

/**
 * The test target as it should look after transfer, right way round; drawn for 40 mm and scaled to
 * `size` mm. A dark band at the edge (edges, corners), a black and a dark solid, a coarse and a fine
 * texture, eight tone steps, a lopsided boat with a lighthouse, falling lines, and text.
 */
export function target(size: number): Scene {
  const scale = size / 40;
  const shapes = [
    ...band(),
    ...solids(),
    ...tones(),
    ...boat(),
    ...fallingLines(),
    ...lettering('WET 47', 21.5, 32.8, 3, 15, 0.17),
  ];
  return {
    w: size,
    h: size,
    shapes: shapes.map(s => ({ ...s, points: s.points.map(([x, y]) => [x * scale, y * scale] as const) })),
    lines: linePlaces().map(l => ({ x: l.x * scale, y: l.y * scale, w: l.w * scale, h: l.h * scale })),
  };
}

/**
 * The test target on a patch of w × h mm: as large as the shorter side, in the middle, nothing beside it.
 *
 * @example targetOn(60, 40).lines[0].x > 10; // => true
 */
export function targetOn(w: number, h: number): Scene {
  const side = Math.min(w, h);
  const drawn = target(side);
  const [dx, dy] = [(w - side) / 2, (h - side) / 2];
  return {
    w,
    h,
    shapes: drawn.shapes.map(s => ({ ...s, points: s.points.map(([x, y]) => [x + dx, y + dy] as const) })),
    lines: drawn.lines?.map(l => ({ ...l, x: l.x + dx, y: l.y + dy })),
  };
}

/**
 * The long strip: four times as wide as high, for narrow pieces and for walking a wait along a plank. Tone steps
 * above, falling lines below, each once; `height` in mm (10–50).
 */
export function strip(height: number): Scene {
  const unit = height / 20;
  const w = height * 4;
  let x = 3 * unit;
  const lines = LINE_WIDTHS.map(width => {
    const line = rect(x, 11.5 * unit, width * unit, 6 * unit, 15);
    x += (width * 2 + 0.4) * unit;
    return line;
  });
  return {
    w,
    h: height,
    shapes: [
      rect(0, 0, w, unit, 28),
      rect(0, height - unit, w, unit, 28),
      rect(0, unit, unit, height - 2 * unit, 28),
      ...TONE_STEPS.map((grey, i) => rect((3 + i * 9) * unit, 2.5 * unit, 9 * unit, 7 * unit, grey)),
      ...lines,
      rect(26 * unit, 11.5 * unit, 12 * unit, 6 * unit, 0),
      ...lettering('WET 47', 42 * unit, 12.6 * unit, 4 * unit, 15, 0.17),
    ],
  };
}

const band = (): Shape[] => [
  rect(0, 0, 40, 2, 28),
  rect(0, 38, 40, 2, 28),
  rect(0, 2, 2, 36, 28),
  rect(38, 2, 2, 36, 28),
  rect(2, 2, 2.4, 2.4, 28),
];

const solids = (): Shape[] => [
  rect(5, 3, 9, 10, 0),
  rect(15, 3, 8, 10, 70),
  ...Array.from({ length: 3 }, (_, i) => rect(24 + i * 2.6, 3, 1.3, 10, 20)),
  ...checks(31.8, 3, 5.2, 10, 0.52),
];

function checks(x: number, y: number, w: number, h: number, side: number): Shape[] {
  const shapes: Shape[] = [];
  for (let row = 0; row * side < h - 1e-6; row++)
    for (let col = row % 2; col * side < w - 1e-6; col += 2)
      shapes.push(rect(x + col * side, y + row * side, side, Math.min(side, h - row * side), 20));
  return shapes;
}

const tones = (): Shape[] => TONE_STEPS.map((grey, i) => rect(3 + i * 4.25, 14.2, 4.25, 6, grey));

/** Hull, one big sail aft, a small jib, and a lighthouse to the right with its beam: nothing is symmetrical. */
const boat = (): Shape[] => [
  {
    points: [
      [3, 31],
      [15.5, 31],
      [13.4, 35.2],
      [5.4, 35.2],
    ],
    grey: 25,
  },
  {
    points: [
      [8.6, 22],
      [8.6, 30.2],
      [3.4, 30.2],
    ],
    grey: 95,
  },
  {
    points: [
      [9.4, 24],
      [13.4, 30.2],
      [9.4, 30.2],
    ],
    grey: 140,
  },
  {
    points: [
      [16.4, 24],
      [18.4, 24],
      [19.2, 35.2],
      [15.8, 35.2],
    ],
    grey: 55,
  },
  {
    points: [
      [16.4, 22.2],
      [18.4, 22.2],
      [18.4, 23.6],
      [16.4, 23.6],
    ],
    grey: 10,
  },
  {
    points: [
      [16, 22.3],
      [16, 23.3],
      [11, 22.6],
      [11, 21.4],
    ],
    grey: 170,
  },
  stroke([3, 36.6], [19, 36.6], 0.8, 60),
];

function linePlaces() {
  let x = 21.5;
  return LINE_WIDTHS.map(w => {
    const place = { x, y: 21.6, w, h: 9.2 };
    x += w * 2 + 0.15;
    return place;
  });
}

const fallingLines = (): Shape[] => linePlaces().map(l => rect(l.x, l.y, l.w, l.h, 15));
