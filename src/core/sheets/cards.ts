import { type Card, card, cardScene, cornerMarkers, mirrored, strip, target } from '../print/index.ts';
import { A4, barAcross, barDown, box, cutMarks, type Sheets, scene, TRUE_SIZE, text } from './page.ts';

/** Where the card's top left lies on its A4 page, mm. */
export const cardOnPage = (c: Card) => ({ x: (A4.w - c.page.w) / 2, y: 56 });

/** The reading card at true size in the middle of an A4 page, with how to use it. */
export function cardSheet(patchMm: number): Sheets {
  const c = card(patchMm);
  const { x, y } = cardOnPage(c);
  const lines = [
    'Print at 100 % on plain white matt paper. Cut out the grey window and along the outer marks.',
    'Lay the card flat over the patch: the picture in the window, the ground showing all round it.',
    'Photograph from straight above, whole card in view, even light, no flash, no shine.',
  ];
  const marks = [
    text(`Reading card for ${patchMm} mm patches`, 20, 20, 4.5, { bold: true }),
    ...lines.map((words, i) => text(words, 20, 27 + i * 5, 2.6, { most: 170 })),
    ...barAcross(20, 46),
    ...barDown(8, 60),
    ...scene(cardScene(c), x, y),
    ...cutMarks(x, y, c.page.w, c.page.h),
  ];
  return { title: `Reading card, patch ${patchMm} mm`, pages: [{ ...A4, correct: TRUE_SIZE, marks }] };
}

/** Four corner markers to lay at a board's corners, so that one photo holds all of it. */
export function cornersSheet(boardCode: string): Sheets {
  const markers = cornerMarkers();
  const names = ['top left', 'top right', 'bottom right', 'bottom left'];
  const marks = markers.flatMap((drawing, i) => {
    const x = 25 + (i % 2) * 85;
    const y = 60 + Math.floor(i / 2) * 85;
    return [
      ...scene(drawing, x, y),
      ...cutMarks(x - 3, y - 3, drawing.w + 6, drawing.h + 12),
      text(`${i + 1}. ${names[i]} of the board`, x, y + drawing.h + 5, 2.6, { bold: true }),
    ];
  });
  return {
    title: `Board corners ${boardCode}`,
    pages: [
      {
        ...A4,
        correct: TRUE_SIZE,
        marks: [
          text('Corner markers for a whole board', 20, 20, 4.5, { bold: true }),
          text(
            'Print at 100 % on white matt paper and cut out. Lay each flat on its corner, its outer edges along the edges of the board.',
            20,
            27,
            2.6,
            { most: 170 },
          ),
          text('One photo from straight above then shows where every patch lies.', 20, 32, 2.6, {
            most: 170,
          }),
          ...barAcross(20, 44),
          ...marks,
        ],
      },
    ],
  };
}

/** One test target (or the long strip) alone on an A4 page at true size. */
export function targetSheet(
  patchMm: number,
  options: { readonly mirror?: boolean; readonly strip?: boolean } = {},
): Sheets {
  const mirror = options.mirror ?? true;
  const drawing = options.strip ? strip(patchMm) : target(patchMm);
  const shown = mirror ? mirrored(drawing) : drawing;
  const what = options.strip ? `Test strip ${drawing.w} × ${drawing.h} mm` : `Test target ${patchMm} mm`;
  return {
    title: `${mirror ? 'Mirrored test target' : 'Test target'}, ${patchMm} mm`,
    pages: [
      {
        ...A4,
        correct: TRUE_SIZE,
        marks: [
          text(`${what}, ${mirror ? 'mirrored for face-down transfer' : 'not mirrored'}`, 20, 20, 4, {
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
