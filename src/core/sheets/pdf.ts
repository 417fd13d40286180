import {
  closePath,
  fill,
  lineTo,
  moveTo,
  PDFDocument,
  type PDFFont,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
  rgb,
  setFillingGrayscaleColor,
} from '@cantoo/pdf-lib';
import * as fontkit from 'fontkit';
import {
  type Card,
  card,
  cardScene,
  donorCells,
  mirrored,
  type Scene,
  sheetGrid,
  target,
} from '../print/index.ts';
import type { Donor, Printer } from '../shelf/index.ts';
import { levelMarks, levelNames, type Patch, settingsOf, type TrialPlan } from '../trial/index.ts';

/** Font files (WOFF or TTF bytes) that are embedded in every sheet. */
export interface SheetFonts {
  readonly regular: Uint8Array;
  readonly bold: Uint8Array;
}

const PT = 72 / 25.4;
const A4 = { w: 210, h: 297 };

interface Pen {
  readonly doc: PDFDocument;
  readonly regular: PDFFont;
  readonly bold: PDFFont;
}

async function startDocument(fonts: SheetFonts, title: string): Promise<Pen> {
  const doc = await PDFDocument.create();
  doc.registerFontkit(fontkit as never);
  doc.setTitle(title);
  doc.setCreator('Wet Test');
  return {
    doc,
    regular: await doc.embedFont(fonts.regular, { subset: true }),
    bold: await doc.embedFont(fonts.bold, { subset: true }),
  };
}

/** Puts a scene on a page, its top left at (x, y) mm from the page's top left, true to size, as vectors. */
function drawScene(page: PDFPage, scene: Scene, x: number, y: number) {
  const top = page.getHeight();
  page.pushOperators(pushGraphicsState());
  for (const shape of scene.shapes) {
    const points = shape.points.map(([px, py]) => [(x + px) * PT, top - (y + py) * PT] as const);
    page.pushOperators(
      setFillingGrayscaleColor(shape.grey / 255),
      moveTo(...points[0]),
      ...points.slice(1).map(p => lineTo(...p)),
      closePath(),
      fill(),
    );
  }
  page.pushOperators(popGraphicsState());
}

function text(page: PDFPage, font: PDFFont, words: string, x: number, y: number, mm: number, most = 200) {
  let size = mm * PT * 1.35;
  const width = font.widthOfTextAtSize(words, size) / PT;
  if (width > most) size *= most / width;
  page.drawText(words, { x: x * PT, y: page.getHeight() - y * PT, size, font });
}

function rule(page: PDFPage, ax: number, ay: number, bx: number, by: number, thick = 0.15, grey = 0) {
  const top = page.getHeight();
  page.drawLine({
    start: { x: ax * PT, y: top - ay * PT },
    end: { x: bx * PT, y: top - by * PT },
    thickness: thick * PT,
    color: rgb(grey, grey, grey),
  });
}

/** A bar that must measure 100 mm on paper, with end ticks and the words that say so. */
function checkBar(page: PDFPage, font: PDFFont, x: number, y: number) {
  rule(page, x, y, x + 100, y, 0.3);
  for (const at of [0, 50, 100]) rule(page, x + at, y - 1.5, x + at, y + 1.5, 0.2);
  text(
    page,
    font,
    '100 mm: measure it. If it is not 100, print again at 100 %, without "fit to page".',
    x + 102,
    y + 0.8,
    2,
    84,
  );
}

function cutMarks(page: PDFPage, x: number, y: number, w: number, h: number) {
  for (const [cx, cy, dx, dy] of [
    [x, y, -1, -1],
    [x + w, y, 1, -1],
    [x, y + h, -1, 1],
    [x + w, y + h, 1, 1],
  ]) {
    rule(page, cx + dx * 0.6, cy, cx + dx * 2.6, cy, 0.1, 0.3);
    rule(page, cx, cy + dy * 0.6, cx, cy + dy * 2.6, 0.1, 0.3);
  }
}

/**
 * The donor sheets of a trial: for every patch its mirrored target at true size, a tab with its
 * code below, cut marks, and a 100 mm check bar; patches on different donors go on different pages.
 * Returns the bytes of one PDF.
 */
export async function donorSheetsPdf(plan: TrialPlan, fonts: SheetFonts): Promise<Uint8Array> {
  const pen = await startDocument(fonts, `${plan.name}: donor sheets`);
  const { method } = plan.used;
  const cell = donorCells(plan.patchMm);
  const picture = method.mirror ? mirrored(target(plan.patchMm)) : target(plan.patchMm);
  const ordered = [...plan.patches].sort((a, b) => a.order - b.order);
  const runs = plan.used.donors.flatMap(donor =>
    plan.used.printers.map(printer => {
      const pieces = ordered.filter(p => {
        const s = settingsOf(plan, p);
        return s.donor.id === donor.id && s.printer.id === printer.id;
      });
      return { donor, printer, pieces };
    }),
  );
  for (const { donor, printer, pieces } of runs) {
    const { perSheet, places } = sheetGrid(donor.sheet, cell);
    for (let first = 0; first < pieces.length; first += perSheet) {
      const page = pen.doc.addPage([donor.sheet.w * PT, donor.sheet.h * PT]);
      const sheet = `${Math.floor(first / perSheet) + 1} of ${Math.ceil(pieces.length / perSheet)}`;
      heading(page, pen, plan, donor, printer, sheet);
      pieces.slice(first, first + perSheet).forEach((patch, i) => {
        drawScene(page, picture, places[i].x, places[i].y);
        tab(page, pen, plan, patch, places[i].x, places[i].y);
      });
    }
  }
  return pen.doc.save();
}

function heading(page: PDFPage, pen: Pen, plan: TrialPlan, donor: Donor, printer: Printer, sheet: string) {
  const width = donor.sheet.w - 24;
  const { method } = plan.used;
  text(page, pen.bold, `${plan.code} · ${plan.name}`, 12, 15, 4, width);
  text(
    page,
    pen.regular,
    `Print on ${donor.name}, with: ${printer.name}. Sheet ${sheet}.`,
    12,
    20.5,
    2.6,
    width,
  );
  text(
    page,
    pen.regular,
    `${method.mirror ? 'Mirrored already: do not mirror again. ' : ''}Print on ${donor.printSide}. ${method.mirrorReason}`,
    12,
    25,
    2.4,
    width,
  );
  checkBar(page, pen.regular, 12, 31);
}

function tab(page: PDFPage, pen: Pen, plan: TrialPlan, patch: Patch, x: number, y: number) {
  const size = plan.patchMm;
  const below = y + size;
  const height = donorCells(size).tab;
  text(page, pen.bold, patch.code, x + 1, below + 4.6, 3.4, size - 8);
  const marks = levelMarks(patch).join(' ');
  text(
    page,
    pen.regular,
    `${marks} · ${levelNames(plan, patch).join(' · ')}`,
    x + 1,
    below + 7.8,
    1.7,
    size - 2,
  );
  const ax = x + size - 4;
  rule(page, ax, below + 5, ax, below + 1.4, 0.3);
  rule(page, ax, below + 1.4, ax - 1.1, below + 2.8, 0.3);
  rule(page, ax, below + 1.4, ax + 1.1, below + 2.8, 0.3);
  cutMarks(page, x, y, size, size + height);
}

/** The reading card at true size in the middle of an A4 page, with how to use it. Returns PDF bytes. */
export async function cardPdf(patchMm: number, fonts: SheetFonts): Promise<Uint8Array> {
  const c = card(patchMm);
  const pen = await startDocument(fonts, `Reading card, patch ${patchMm} mm`);
  const page = pen.doc.addPage([A4.w * PT, A4.h * PT]);
  const { x, y } = cardOnPage(c);
  text(page, pen.bold, `Reading card for ${patchMm} mm patches`, 20, 20, 4.5);
  const lines = [
    'Print at 100 % on plain white matt paper. Cut out the grey window and along the outer marks.',
    'Lay the card flat over the patch: the picture in the window, the ground showing all round it.',
    'Photograph from straight above, whole card in view, even light, no flash, no shine.',
  ];
  lines.forEach((line, i) => {
    text(page, pen.regular, line, 20, 27 + i * 5, 2.6, 170);
  });
  checkBar(page, pen.regular, 20, 46);
  drawScene(page, cardScene(c), x, y);
  cutMarks(page, x, y, c.page.w, c.page.h);
  return pen.doc.save();
}

/** Where the card's top left lies on its A4 page, mm. */
export const cardOnPage = (c: Card) => ({ x: (A4.w - c.page.w) / 2, y: 56 });

/** One mirrored target alone on an A4 page at true size. Returns PDF bytes. */
export async function targetPdf(patchMm: number, fonts: SheetFonts): Promise<Uint8Array> {
  const pen = await startDocument(fonts, `Mirrored test target, ${patchMm} mm`);
  const page = pen.doc.addPage([A4.w * PT, A4.h * PT]);
  text(page, pen.bold, `Test target ${patchMm} mm, mirrored for face-down transfer`, 20, 20, 4);
  checkBar(page, pen.regular, 20, 30);
  drawScene(page, mirrored(target(patchMm)), 20, 40);
  cutMarks(page, 20, 40, patchMm, patchMm);
  return pen.doc.save();
}
