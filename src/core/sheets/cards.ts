import { type Card, card, cardScene, cornerPieces, mirrored, strip, targetOn } from '../print/index.ts';
import { mm, say, sized, write } from '../say/index.ts';
import { A4, barAcross, barDown, box, cutMarks, type Sheets, scene, TRUE_SIZE, text } from './page.ts';

/** Where the card's top left lies on its A4 page, mm. */
export const cardOnPage = (c: Card) => ({ x: (A4.w - c.page.w) / 2, y: 56 });

/** A patch's size: one number where it is square, mm. */
export type PatchSize = number | { readonly w: number; readonly h: number };
const bothOf = (size: PatchSize) => (typeof size === 'number' ? { w: size, h: size } : size);

/** The reading card at true size in the middle of an A4 page, with how to use it. */
export function cardSheet(patch: PatchSize): Sheets {
  const { w, h } = bothOf(patch);
  const c = card(w, h);
  const { x, y } = cardOnPage(c);
  const lines = [
    'Print at 100 % on plain white matt paper. Cut out the grey window and along the outer marks.',
    'Lay the card flat over the patch: the picture in the window, the ground showing all round it.',
    'Photograph from straight above, whole card in view, even light, no flash, no shine.',
  ];
  const marks = [
    text(say`Reading card for ${sized(patch)} patches`, 20, 20, 4.5, { bold: true }),
    ...lines.map((words, i) => text(words, 20, 27 + i * 5, 2.6, { most: 170 })),
    ...barAcross(20, 46),
    ...barDown(8, 60),
    ...scene(cardScene(c), x, y),
    ...cutMarks(x, y, c.page.w, c.page.h),
  ];
  return {
    title: `Reading card, patch ${write(sized(patch))}`,
    pages: [{ ...A4, correct: TRUE_SIZE, marks }],
  };
}

/** Any board will do to draw them: a piece looks the same wherever its board ends. */
const SOME_BOARD = 200;

/** Four corner pieces to lay against a board's corners, so that one photo holds all of it. */
export function cornersSheet(boardCode: string): Sheets {
  const names = [
    'left of the upper left corner',
    'right of the upper right corner',
    'right of the lower right corner',
    'left of the lower left corner',
  ];
  const marks = cornerPieces(SOME_BOARD, SOME_BOARD).flatMap(({ scene: drawing }, i) => {
    const x = 25 + (i % 2) * 85;
    const y = 66 + Math.floor(i / 2) * 60;
    return [
      ...scene(drawing, x, y),
      ...cutMarks(x, y, drawing.w, drawing.h),
      text(`${i + 1}. ${names[i]}`, x, y + drawing.h + 6, 2.6, { bold: true }),
    ];
  });
  const lines = [
    'Print at 100 % on white matt paper and cut out along the marks.',
    'Lay each beside its corner, outside the board, edge against edge: 1 and 2 flush with the upper edge, 3 and 4 with the lower.',
    'Nothing of the board is covered. One photo from straight above then shows where every patch lies.',
  ];
  return {
    title: `Board corners ${boardCode}`,
    pages: [
      {
        ...A4,
        correct: TRUE_SIZE,
        marks: [
          text('Corner pieces for a whole board', 20, 20, 4.5, { bold: true }),
          ...lines.map((words, i) => text(words, 20, 27 + i * 5, 2.6, { most: 170 })),
          ...barAcross(20, 46),
          ...marks,
        ],
      },
    ],
  };
}

/** One test target (or the long strip) alone on an A4 page at true size. */
export function targetSheet(
  patch: PatchSize,
  options: { readonly mirror?: boolean; readonly strip?: boolean } = {},
): Sheets {
  const mirror = options.mirror ?? true;
  const { w, h } = bothOf(patch);
  const drawing = options.strip ? strip(h) : targetOn(w, h);
  const shown = mirror ? mirrored(drawing) : drawing;
  const what = options.strip
    ? say`Test strip ${mm(drawing.w, { by: drawing.h })}`
    : say`Test target ${sized(patch)}`;
  return {
    title: `${mirror ? 'Mirrored test target' : 'Test target'}, ${write(sized(patch))}`,
    pages: [
      {
        ...A4,
        correct: TRUE_SIZE,
        marks: [
          text(say`${what}, ${mirror ? 'mirrored for face-down transfer' : 'not mirrored'}`, 20, 20, 4, {
            bold: true,
          }),
          ...barAcross(20, 30),
          ...scene(shown, 20, 40),
          ...box(20, 40, drawing.w, drawing.h, 0.05, 200),
          ...cutMarks(20, 40, drawing.w, drawing.h),
        ],
      },
    ],
  };
}
