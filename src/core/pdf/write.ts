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
import { write as written } from '../say/index.ts';
import type { Mark, Page, Sheets } from '../sheets/index.ts';

/** Font files (WOFF or TTF bytes) that are embedded in every sheet. */
export interface SheetFonts {
  readonly regular: Uint8Array;
  readonly bold: Uint8Array;
  /** Fonts for letters that those lack, in the order in which they are tried; asked for only where there are such letters. */
  readonly more?: () => Promise<readonly Pick<SheetFonts, 'regular' | 'bold'>[]>;
}

const PT = 72 / 25.4;

/** A stretch of words in one font; without one, letters that no font has. */
interface Run {
  readonly words: string;
  readonly font: PDFFont | undefined;
}

interface Pen {
  readonly runsOf: (words: string, bold: boolean) => readonly Run[];
  readonly images: ReadonlyMap<string, PDFImage>;
}

/** Which letters a font file has. */
const lettersIn = (font: Uint8Array): ReadonlySet<number> =>
  new Set((fontkit.create(font) as { readonly characterSet: readonly number[] }).characterSet);

/** What is invisible by itself: controls, joiners, marks of direction. */
const isSilent = (letter: string) => /^[\p{Cc}\p{Cf}]$/u.test(letter);

/** Every letter on sheets that is in none of these fonts, once each. */
function lettersBeyond(sheets: Sheets, fonts: readonly Pick<SheetFonts, 'regular'>[]): string[] {
  const known = fonts.map(f => lettersIn(f.regular));
  const all = new Set(
    sheets.pages.flatMap(p =>
      p.marks.flatMap(m => (m.kind === 'text' ? [...written(m.words).normalize('NFC')] : [])),
    ),
  );
  return [...all].filter(l => !isSilent(l) && !known.some(own => own.has(l.codePointAt(0)!)));
}

/** The fonts that sheets need: the usual ones, and the others where something on them asks for those. */
async function fontsFor(sheets: Sheets, fonts: SheetFonts) {
  const first = [fonts];
  if (!fonts.more || !lettersBeyond(sheets, first).length) return first;
  return [...first, ...(await fonts.more())];
}

/**
 * The letters on sheets that no font has: they print as boxes, and the maker is told so before saving.
 */
export const boxesOn = async (sheets: Sheets, fonts: SheetFonts): Promise<string[]> =>
  lettersBeyond(sheets, await fontsFor(sheets, fonts));

/** Takes words apart by the first font that has each letter; each font is embedded when it is first used. */
async function runsWith(doc: PDFDocument, sheets: Sheets, fonts: SheetFonts): Promise<Pen['runsOf']> {
  const files = await fontsFor(sheets, fonts);
  const letters = files.map(f => lettersIn(f.regular));
  const placeOf = (letter: string) => letters.findIndex(own => own.has(letter.codePointAt(0)!));
  const split = (words: string): { words: string; place: number }[] => {
    const parts: { words: string; place: number }[] = [];
    for (const letter of words.normalize('NFC')) {
      if (isSilent(letter)) continue;
      const last = parts.at(-1);
      // A space goes with what stands before it.
      const place = letter === ' ' && last && last.place >= 0 ? last.place : placeOf(letter);
      if (last && last.place === place) last.words += letter;
      else parts.push({ words: letter, place });
    }
    return parts;
  };
  const embedded = new Map<string, PDFFont>();
  for (const page of sheets.pages)
    for (const mark of page.marks)
      if (mark.kind === 'text')
        for (const { place } of split(written(mark.words))) {
          const key = `${place} ${mark.bold}`;
          if (place >= 0 && !embedded.has(key))
            embedded.set(
              key,
              await doc.embedFont(mark.bold ? files[place].bold : files[place].regular, { subset: true }),
            );
        }
  return (words, bold) =>
    split(words).map(r => ({ words: r.words, font: embedded.get(`${r.place} ${bold}`) }));
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
  const pen: Pen = { runsOf: await runsWith(doc, sheets, fonts), images };
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
    case 'text':
      return write(paper, mark, pen, top);
  }
}

/** Width of a letter that no font has, and of its box, in the size of the text. */
const BOX = 0.62;

function write(paper: PDFPage, mark: Extract<Mark, { kind: 'text' }>, pen: Pen, top: number) {
  const runs = pen.runsOf(written(mark.words), Boolean(mark.bold));
  const widthOf = ({ words, font }: Run, at: number) =>
    font ? font.widthOfTextAtSize(words, at) : [...words].length * BOX * at;
  let size = mark.mm * PT * 1.35;
  const width = runs.reduce((sum, run) => sum + widthOf(run, size), 0) / PT;
  if (width > mark.most) size *= mark.most / width;
  const grey = mark.grey / 255;
  const color = rgb(grey, grey, grey);
  const y = top - mark.y * PT;
  let x = mark.x * PT;
  for (const run of runs) {
    if (run.font) paper.drawText(run.words, { x, y, size, font: run.font, color });
    else
      for (const i of [...run.words].keys())
        paper.drawRectangle({
          ...{ x: x + (i * BOX + 0.06) * size, y, width: (BOX - 0.12) * size, height: 0.7 * size },
          ...{ borderColor: color, borderWidth: 0.06 * size },
        });
    x += widthOf(run, size);
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
