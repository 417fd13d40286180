import QRCode from 'qrcode';
import { joined, say, type Words } from '../say/index.ts';
import {
  type Carrier,
  carrierName,
  carrierOf,
  cornersOf,
  levelMarks,
  levelNames,
  sizeOf,
  type TrialPlan,
  underOf,
} from '../trial/index.ts';
import {
  A4,
  box,
  cutMarks,
  line,
  type Mark,
  type Page,
  type Sheets,
  TRUE_SIZE,
  text,
  wrapped,
} from './page.ts';

/** What the QR of a patch says: its code, with the trial's id, so that any reader can find it again. */
export const qrWords = (plan: TrialPlan, code: string) => `WET TEST ${plan.id} ${code}`;

/** A QR code (ISO/IEC 18004, level M) as squares, `mm` wide without its quiet zone. */
export function qrMarks(words: string, x: number, y: number, mm: number): Mark[] {
  const { modules } = QRCode.create(words, { errorCorrectionLevel: 'M' });
  const cell = mm / modules.size;
  const marks: Mark[] = [];
  for (let row = 0; row < modules.size; row++)
    for (let col = 0; col < modules.size; col++) {
      if (!modules.data[row * modules.size + col]) continue;
      const [left, upper] = [x + col * cell, y + row * cell];
      marks.push({
        kind: 'shape',
        grey: 0,
        points: [
          [left, upper],
          [left + cell, upper],
          [left + cell, upper + cell],
          [left, upper + cell],
        ],
      });
    }
  return marks;
}

const LABEL = { w: 60, h: 26 };
const COLS = 3;
const ROWS = 10;

/** Labels for the backs of the pieces: code, QR, levels and what the trial is called. */
export function labelSheets(plan: TrialPlan): Sheets {
  const ordered = [...plan.patches].sort((a, b) => a.order - b.order);
  const perPage = COLS * ROWS;
  const pages = Array.from({ length: Math.ceil(ordered.length / perPage) }, (_, p): Page => {
    const marks = ordered.slice(p * perPage, (p + 1) * perPage).flatMap((patch, i) => {
      const x = 15 + (i % COLS) * LABEL.w;
      const y = 18 + Math.floor(i / COLS) * LABEL.h;
      return [
        ...cutMarks(x, y, LABEL.w, LABEL.h),
        ...qrMarks(qrWords(plan, patch.code), x + 3, y + 3, LABEL.h - 6),
        text(patch.code, x + 26, y + 8.5, 4, { bold: true, most: 31 }),
        text(levelMarks(plan, patch).join(' '), x + 26, y + 13.5, 2.4, { bold: true, most: 31 }),
        ...namesSmall(levelNames(plan, patch), x + 26, y + 16.6),
      ];
    });
    return {
      ...A4,
      correct: TRUE_SIZE,
      marks: [
        text(`${plan.code} · ${plan.name}: labels for the back`, 15, 12, 3, { bold: true, most: 180 }),
        ...marks,
      ],
    };
  });
  return { title: `${plan.name}: labels`, pages };
}

/** Names of levels: a line each where there are three at most, else run on and smaller. */
const namesSmall = (names: readonly Words[], x: number, y: number): Mark[] =>
  names.length <= 3
    ? names.map((name, i) => text(name, x, y + i * 2.7, 1.5, { most: 31 }))
    : wrapped(joined(names, ', '), 1.15, 31).map((words, i) =>
        text(words, x, y + i * 1.85, 1.15, { most: 31 }),
      );

/** What stands over a map, and the room between two maps on a page, mm. */
const MAP_HEAD = 6;
const MAP_GAP = 8;
const LEGEND_APART = 2.8;

/** A map of each board to glue on its back, as it lies there: left and right are those of the back, with the code and the levels of every place; to scale where it fits, several on a page where they do. Seen from the `front` it is a page of a report. */
export function mapSheets(plan: TrialPlan, side: 'front' | 'back' = 'back'): Sheets {
  const names = legend(plan);
  const top = 31 + names.length * LEGEND_APART;
  const room = { w: A4.w - 30, h: A4.h - 18 - top };
  const { board } = plan;
  // A board on which nothing of this lies needs no map.
  const shown = Array.from({ length: board.count }, (_, i) => i).filter(i =>
    plan.patches.some(p => p.board === i),
  );
  const all = shown.map(i => carrierOf(plan, i));
  const [widest, tallest] = [Math.max(...all.map(c => c.w)), Math.max(...all.map(c => c.h))];
  const scale = Math.min(1, room.w / widest, (room.h - MAP_HEAD) / tallest);
  const [w, h] = [widest * scale, tallest * scale + MAP_HEAD];
  const across = Math.floor((room.w + MAP_GAP) / (w + MAP_GAP)) || 1;
  const down = Math.floor((room.h + MAP_GAP) / (h + MAP_GAP)) || 1;
  const perPage = across * down;
  const size = scale < 1 ? `drawn at ${Math.round(scale * 100)} %` : 'true to size';
  const pages = Array.from({ length: Math.ceil(shown.length / perPage) }, (_, page): Page => {
    const boards = shown.slice(page * perPage, (page + 1) * perPage).map((at, i) =>
      mapOf(plan, at, scale, {
        x: 15 + (i % across) * (w + MAP_GAP),
        y: top + Math.floor(i / across) * (h + MAP_GAP),
        side,
      }),
    );
    return {
      ...A4,
      correct: TRUE_SIZE,
      marks: [
        text(`${plan.code} · ${plan.name}`, 15, 18, 4, { bold: true, most: 180 }),
        text(
          `${shown.length === 1 ? 'Map of the board' : `Maps of ${shown.length} boards`}, ${side === 'back' ? `seen from the back, ${size}. Glue it there, its top where the board’s top is` : `seen from the front, ${size}`}.`,
          15,
          25,
          2.6,
          { most: 180 },
        ),
        ...names,
        ...boards.flat(),
      ],
    };
  });
  return { title: `${plan.name}: map`, pages };
}

/** One board with its places, its name above it; `at` is the top left of both. */
function mapOf(
  plan: TrialPlan,
  board: number,
  scale: number,
  at: { x: number; y: number; side: 'front' | 'back' },
): Mark[] {
  const top = at.y + MAP_HEAD;
  const carrier = carrierOf(plan, board);
  const { w, h } = sizeOf(plan);
  const [wide, tall] = [w * scale, h * scale];
  const u = Math.min(wide, tall) / 40;
  // Seen from the back left is right.
  const across = (x: number, own: number) => (at.side === 'back' ? carrier.w - x - own : x) * scale;
  const places = plan.patches
    .filter(p => p.board === board)
    .flatMap(p => {
      const x = at.x + across(p.x, w);
      const y = top + p.y * scale;
      return [
        ...box(x, y, wide, tall, 0.2),
        text(p.code, x + 2 * u, y + 8 * u, 3.6 * u, { bold: true, most: wide - 4 * u }),
        text(levelMarks(plan, p).join(' '), x + 2 * u, y + 17 * u, 4 * u, { most: wide - 4 * u }),
        text(
          `no. ${p.order + 1}${underOf(plan, p) ? `, on ${underOf(plan, p)}` : ''}`,
          x + 2 * u,
          y + 24 * u,
          2.6 * u,
          { grey: 70, most: wide - 4 * u },
        ),
      ];
    });
  const taken = (carrier.taken ?? []).flatMap(t => {
    const [x, y] = [at.x + across(t.x, t.w), top + t.y * scale];
    return [
      ...box(x, y, t.w * scale, t.h * scale, 0.1),
      text(t.code, x + 2 * u, y + 8 * u, 2.6 * u, { grey: 110, most: t.w * scale - 4 * u }),
    ];
  });
  const name = carrierName(plan, board);
  return [
    text(carrier.name ? name : `Board ${board + 1} of ${plan.board.count}`, at.x, at.y + MAP_HEAD - 2, 2.4, {
      bold: true,
      most: 60,
    }),
    ...outlineOf(carrier, scale, at.x, top, at.side),
    ...taken,
    ...places,
  ];
}

/** The board's edge as it lies from the back: a rectangle, its corners, or an ellipse in short lines. */
function outlineOf(
  board: Carrier,
  scale: number,
  x: number,
  y: number,
  side: 'front' | 'back' = 'back',
): Mark[] {
  const [w, h] = [board.w * scale, board.h * scale];
  const corners = cornersOf(board)?.map(
    c => [side === 'back' ? x + w - c.x * scale : x + c.x * scale, y + c.y * scale] as const,
  );
  if (corners) return corners.map((c, i) => line(...c, ...corners[(i + 1) % corners.length], 0.4));
  if (board.outline !== 'ellipse') return box(x, y, w, h, 0.4);
  const at = (i: number) => {
    const turn = (2 * Math.PI * i) / 72;
    return [x + (w / 2) * (1 + Math.cos(turn)), y + (h / 2) * (1 + Math.sin(turn))] as const;
  };
  return Array.from({ length: 72 }, (_, i) => line(...at(i), ...at(i + 1), 0.4));
}

const legend = (plan: TrialPlan): Mark[] => {
  const level = (i: number, l: number) =>
    levelNames(plan, { levels: plan.factors.map((_, k) => (k === i ? l : 0)) })[i];
  const words = joined(
    plan.factors.map(
      (f, i) =>
        say`${'ABCDEFGH'[i]}: ${joined(
          f.levels.map((_, l) => say`${l + 1} ${level(i, l)}`),
          ', ',
        )}`,
    ),
    ' · ',
  );
  return wrapped(words, 1.6, 180).map((row, i) => text(row, 15, 29.5 + i * LEGEND_APART, 1.6, { most: 180 }));
};
