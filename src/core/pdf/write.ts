import {
  appendBezierCurve,
  clip,
  closePath,
  concatTransformationMatrix,
  endPath,
  fill,
  fillEvenOdd,
  LineCapStyle,
  LineJoinStyle,
  lineTo,
  moveTo,
  PDFDocument,
  type PDFFont,
  type PDFImage,
  PDFNumber,
  PDFOperator,
  PDFOperatorNames,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
  rectangle,
  rgb,
  setFillingGrayscaleColor,
  setFillingRgbColor,
  setLineCap,
  setLineJoin,
  setLineWidth,
  setStrokingRgbColor,
  stroke,
} from '@cantoo/pdf-lib';
import * as fontkit from 'fontkit';
import type { VectorPath } from '../artwork/index.ts';
import type { Mark, Page, Sheets } from '../sheets/index.ts';

/** Font files (WOFF or TTF bytes) that are embedded in every sheet. */
export interface SheetFonts {
  readonly regular: Uint8Array;
  readonly bold: Uint8Array;
}

const PT = 72 / 25.4;

interface Pen {
  readonly regular: PDFFont;
  readonly bold: PDFFont;
  readonly images: ReadonlyMap<string, PDFImage>;
}

const isPng = (bytes: Uint8Array) => bytes[0] === 0x89 && bytes[1] === 0x50;

/** Sheets as a PDF with embedded fonts: pages of their own size, drawings as vectors, true to size. */
export async function pdfOf(sheets: Sheets, fonts: SheetFonts): Promise<Uint8Array> {
  const doc = await PDFDocument.create();
  doc.registerFontkit(fontkit as never);
  doc.setTitle(sheets.title);
  doc.setCreator('Wet Test');
  const images = new Map<string, PDFImage>();
  for (const [key, bytes] of Object.entries(sheets.images ?? {}))
    images.set(key, isPng(bytes) ? await doc.embedPng(bytes) : await doc.embedJpg(bytes));
  const pen: Pen = {
    regular: await doc.embedFont(fonts.regular, { subset: true }),
    bold: await doc.embedFont(fonts.bold, { subset: true }),
    images,
  };
  for (const page of sheets.pages) drawPage(doc.addPage([page.w * PT, page.h * PT]), page, pen);
  // It is written off the page's own thread, so it need not stop for breath.
  return doc.save({ objectsPerTick: Number.POSITIVE_INFINITY });
}

function drawPage(paper: PDFPage, page: Page, pen: Pen) {
  const top = paper.getHeight();
  const { x, y } = page.correct;
  paper.pushOperators(pushGraphicsState(), concatTransformationMatrix(x, 0, 0, y, 0, top * (1 - y)));
  for (const mark of page.marks) draw(paper, mark, pen, top);
  paper.pushOperators(popGraphicsState());
}

function draw(paper: PDFPage, mark: Mark, pen: Pen, top: number) {
  switch (mark.kind) {
    case 'shape': {
      const points = mark.points.map(([px, py]) => [px * PT, top - py * PT] as const);
      paper.pushOperators(
        setFillingGrayscaleColor(mark.grey / 255),
        moveTo(...points[0]),
        ...points.slice(1).map(p => lineTo(...p)),
        closePath(),
        fill(),
      );
      return;
    }
    case 'line': {
      const grey = mark.grey / 255;
      paper.drawLine({
        start: { x: mark.from[0] * PT, y: top - mark.from[1] * PT },
        end: { x: mark.to[0] * PT, y: top - mark.to[1] * PT },
        thickness: mark.mm * PT,
        color: rgb(grey, grey, grey),
      });
      return;
    }
    case 'image': {
      const image = pen.images.get(mark.key);
      if (!image) throw new Error(`The sheet has no picture ${mark.key}`);
      paper.drawImage(image, {
        x: mark.x * PT,
        y: top - (mark.y + mark.h) * PT,
        width: mark.w * PT,
        height: mark.h * PT,
      });
      return;
    }
    case 'drawing':
      paper.pushOperators(
        pushGraphicsState(),
        rectangle(mark.x * PT, top - (mark.y + mark.h) * PT, mark.w * PT, mark.h * PT),
        clip(),
        endPath(),
        ...mark.paths.flatMap(path => outline(path, mark, top)),
        popGraphicsState(),
      );
      return;
    case 'text': {
      const font = mark.bold ? pen.bold : pen.regular;
      let size = mark.mm * PT * 1.35;
      const width = font.widthOfTextAtSize(mark.words, size) / PT;
      if (width > mark.most) size *= mark.most / width;
      const grey = mark.grey / 255;
      paper.drawText(mark.words, {
        x: mark.x * PT,
        y: top - mark.y * PT,
        size,
        font,
        color: rgb(grey, grey, grey),
      });
    }
  }
}

const CAPS = { butt: LineCapStyle.Butt, round: LineCapStyle.Round, square: LineCapStyle.Projecting };
const JOINS = { miter: LineJoinStyle.Miter, round: LineJoinStyle.Round, bevel: LineJoinStyle.Bevel };

/** One outline of a drawing whose top left is at `at`, filled first and stroked after. */
function outline(
  path: VectorPath,
  at: { readonly x: number; readonly y: number },
  top: number,
): PDFOperator[] {
  const x = (v: number) => (at.x + v) * PT;
  const y = (v: number) => top - (at.y + v) * PT;
  const trace = path.steps.map(step => {
    switch (step[0]) {
      case 'M':
        return moveTo(x(step[1]), y(step[2]));
      case 'L':
        return lineTo(x(step[1]), y(step[2]));
      case 'C':
        return appendBezierCurve(x(step[1]), y(step[2]), x(step[3]), y(step[4]), x(step[5]), y(step[6]));
      default:
        return closePath();
    }
  });
  const operators: PDFOperator[] = [];
  if (path.fill)
    operators.push(setFillingRgbColor(...path.fill), ...trace, path.evenOdd ? fillEvenOdd() : fill());
  if (path.stroke)
    operators.push(
      setStrokingRgbColor(...path.stroke.colour),
      setLineWidth(path.stroke.width * PT),
      setLineCap(CAPS[path.stroke.cap]),
      setLineJoin(JOINS[path.stroke.join]),
      PDFOperator.of(PDFOperatorNames.SetLineMiterLimit, [PDFNumber.of(Math.max(1, path.stroke.miterLimit))]),
      ...trace,
      stroke(),
    );
  return operators;
}
