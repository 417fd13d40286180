import { MaxRectsPacker } from 'maxrects-packer/dist/maxrects-packer.mjs';
import type { VectorPath } from '../artwork/index.ts';
import { type Method, mirrorReason, mirrors } from '../methods/index.ts';
import { donorCells, mirrored, type Scene, sheetGrid, strip, target, WORDS_MM } from '../print/index.ts';
import { joined, mm, say } from '../say/index.ts';
import { BY_HAND, type Donor, type Printer } from '../shelf/index.ts';
import {
  type Face,
  faceOf,
  levelMarks,
  levelNames,
  type Patch,
  pictureOn,
  settingsOf,
  sizeOf,
  type TrialPlan,
} from '../trial/index.ts';
import {
  A4,
  barAcross,
  barDown,
  box,
  cutMarks,
  LETTER,
  line,
  type Mark,
  type Page,
  type Sheets,
  scene,
  text,
} from './page.ts';

/** A picture of the maker's own that is printed beside the patches, as it goes on the sheet: PNG or JPEG bytes, or outlines in mm. */
export interface OwnPicture {
  readonly key: string;
  readonly name: string;
  readonly w: number;
  readonly h: number;
  readonly copies: number;
  readonly form:
    | { readonly kind: 'pixels'; readonly bytes: Uint8Array }
    | { readonly kind: 'outlines'; readonly paths: readonly VectorPath[] };
  /** Marks at the middle of each side. */
  readonly centreMarks: boolean;
}

export interface SheetOptions {
  /** The donor's own size, or what is cut to. */
  readonly paper?: 'own' | 'A4' | 'Letter';
  /** What the 100 mm bars of each printer measured, mm. */
  readonly bars?: Readonly<Record<string, { readonly x: number; readonly y: number }>>;
  readonly pictures?: readonly OwnPicture[];
  /** How the pictures on the patches are printed: PNG bytes by their ids, as seen and as in a mirror. */
  readonly onPatches?: Readonly<Record<string, { readonly seen: Uint8Array; readonly mirrored: Uint8Array }>>;
}

/** The sheets for one printer and one donor: one file. */
export interface DonorSet extends Sheets {
  readonly printer: Printer;
  readonly donor: Donor;
  readonly isMirrored: boolean;
  readonly pieces: number;
}

const MARGIN = 12;
const HEAD = 26;
const GAP = 6;

/**
 * The donor sheets of a trial, one set for every printer and donor that is used: what each patch carries at true size,
 * mirrored where the method asks for it, a tab below with its code and an arrow, cut marks, and 100 mm bars both
 * ways. Sizes are corrected by what the printer's bars measured. Own pictures are nested among the patches.
 */
export function donorSets(plan: TrialPlan, options: SheetOptions = {}): DonorSet[] {
  const ordered = [...plan.patches].sort((a, b) => a.order - b.order);
  // What is left of another trial is printed already.
  const toPrint = plan.used.donors.filter(d => !d.leftOf);
  return toPrint.flatMap(donor =>
    plan.used.printers.flatMap(printer => {
      const own = ordered.filter(p => {
        const s = settingsOf(plan, p);
        return s.donor.id === donor.id && s.printer.id === printer.id;
      });
      // Methods that turn the picture over another number of times need sheets of their own.
      const isMirrored = (p: Patch) => mirrors(settingsOf(plan, p).method, donor.kind);
      return [own.filter(isMirrored), own.filter(p => !isMirrored(p))].flatMap(patches =>
        patches.length ? [setOf(plan, donor, printer, patches, options)] : [],
      );
    }),
  );
}

interface Piece {
  readonly w: number;
  readonly h: number;
  draw(x: number, y: number): Mark[];
}

function setOf(
  plan: TrialPlan,
  donor: Donor,
  printer: Printer,
  patches: readonly Patch[],
  options: SheetOptions,
): DonorSet {
  const methods = [...new Set(patches.map(p => settingsOf(plan, p).method))];
  const isMirrored = mirrors(methods[0], donor.kind);
  const cell = donorCells(sizeOf(plan));
  const isFrame = BY_HAND[printer.colourant] === 'frame';
  const pieces = patches.map(
    (patch): Piece => ({
      w: cell.w,
      h: cell.h,
      draw: (x, y) => [
        ...faceMarks(faceOf(plan, patch), { x, y, isMirrored, isFrame }, options.onPatches ?? {}),
        ...tab(plan, patch, x, y),
      ],
    }),
  );
  const set = layOut({ code: plan.code, name: plan.name, methods }, donor, printer, pieces, options);
  const own = Object.entries(options.onPatches ?? {}).filter(([id]) =>
    patches.some(patch => pictureOn(plan, patch)?.id === id),
  );
  const bytes = own.map(([id, form]) => [faceKey(id, isMirrored), isMirrored ? form.mirrored : form.seen]);
  return { ...set, images: { ...set.images, ...(isFrame ? {} : Object.fromEntries(bytes)) } };
}

const faceKey = (picture: string, isMirrored: boolean) => `patch ${picture}${isMirrored ? ' mirrored' : ''}`;

/** What a patch carries, at (x, y), as it lies on the sheet. */
function faceMarks(
  face: Face,
  { x, y, isMirrored, isFrame }: { x: number; y: number; isMirrored: boolean; isFrame: boolean },
  known: NonNullable<SheetOptions['onPatches']>,
): Mark[] {
  if (isFrame) return frame(x, y, face.w, face.h);
  const left = (part: { readonly x: number; readonly w: number }) =>
    x + (isMirrored ? face.w - part.x - part.w : part.x);
  const drawn = (drawing: Scene) => (isMirrored ? mirrored(drawing) : drawing);
  const { target: square, picture, strip: steps } = face;
  return [
    ...(square ? scene(drawn(target(square.size)), left({ x: square.x, w: square.size }), y + square.y) : []),
    ...(picture
      ? pictureMarks(picture, left(picture), y + picture.y, faceKey(picture.of.id, isMirrored), known)
      : []),
    ...(steps ? scene(drawn(strip(steps.h)), left(steps), y + steps.y) : []),
  ];
}

/** A picture on its place; an empty place says that its file is missing. */
function pictureMarks(
  { w, h, of }: NonNullable<Face['picture']>,
  x: number,
  y: number,
  key: string,
  known: NonNullable<SheetOptions['onPatches']>,
): Mark[] {
  if (known[of.id]) return [{ kind: 'image', x, y, w, h, key }];
  return [
    ...frame(x, y, w, h),
    text(`The file of “${of.name}” is missing.`, x + 2, y + 6, 2, { most: w - 4 }),
  ];
}

/** What stands at the head of a sheet. */
interface Job {
  readonly code: string;
  readonly name: string;
  /** Those whose prints are on the sheet: all are mirrored, or none. */
  readonly methods: readonly Pick<Method, 'mirror' | 'mirrorReason' | 'mirrorNote' | 'steps'>[];
}

/** Sheets with the maker's own pictures alone, for one method, printer and donor. The pictures come mirrored already where the method asks for it. */
export const pictureSet = (job: Job, donor: Donor, printer: Printer, options: SheetOptions): DonorSet =>
  layOut(job, donor, printer, [], options);

function layOut(
  job: Job,
  donor: Donor,
  printer: Printer,
  pieces: readonly Piece[],
  options: SheetOptions,
): DonorSet {
  const pictures = options.pictures ?? [];
  const isFrame = BY_HAND[printer.colourant] === 'frame';
  const own = pictures.flatMap(p => Array.from({ length: p.copies }, () => pictureOf(p, job.code, isFrame)));
  // A guide is printed on ordinary paper, whatever the sheet is that takes the colour.
  const usual = BY_HAND[printer.colourant] ? A4 : donor.sheet;
  const sheet = options.paper === 'A4' ? A4 : options.paper === 'Letter' ? LETTER : usual;
  const correct = correction(options.bars?.[printer.id]);
  const room = { w: sheet.w / correct.x, h: sheet.h / correct.y };
  const layout = nest([...pieces, ...own], room, own.length === 0 && pieces[0] ? pieces[0] : undefined);
  const pages = layout.map(
    (placed, i): Page => ({
      ...sheet,
      correct,
      marks: [
        ...heading(job, donor, printer, `${i + 1} of ${layout.length}`, room),
        ...placed.flatMap(({ piece, x, y }) => piece.draw(x, y)),
      ],
    }),
  );
  return {
    title: `${job.name}: ${donor.name}`,
    donor,
    printer,
    isMirrored: mirrors(job.methods[0], donor.kind),
    pieces: pieces.length,
    pages,
    images: Object.fromEntries(
      (isFrame ? [] : pictures).flatMap(p => (p.form.kind === 'pixels' ? [[p.key, p.form.bytes]] : [])),
    ),
  };
}

/** A bar that measured 98.5 mm is drawn longer by 100/98.5. */
const correction = (bars: { x: number; y: number } | undefined) => ({
  x: 100 / (bars?.x || 100),
  y: 100 / (bars?.y || 100),
});

interface Placed {
  readonly piece: Piece;
  readonly x: number;
  readonly y: number;
}

/** Pieces on sheets: like ones in a grid in the order of work, unlike ones nested (maximal rectangles). */
function nest(
  pieces: readonly Piece[],
  sheet: { w: number; h: number },
  cell: { w: number; h: number } | undefined,
): Placed[][] {
  if (cell) {
    const { perSheet, places } = sheetGrid(sheet, cell);
    return Array.from({ length: Math.ceil(pieces.length / perSheet) }, (_, page) =>
      pieces.slice(page * perSheet, (page + 1) * perSheet).map((piece, i) => ({ piece, ...places[i] })),
    );
  }
  const packer = new MaxRectsPacker(sheet.w - 2 * MARGIN + GAP, sheet.h - MARGIN - HEAD - MARGIN + GAP, 0, {
    smart: false,
    pot: false,
    square: false,
    allowRotation: false,
  });
  for (const piece of pieces) packer.add(piece.w, piece.h, piece);
  return packer.bins.map(bin =>
    bin.rects.map(r => ({ piece: r.data, x: MARGIN + r.x, y: MARGIN + HEAD + r.y })),
  );
}

/** The outline of a place with its middle: where a stamp or a page that is printed already goes, and how large. */
const frame = (x: number, y: number, w: number, h: number): Mark[] => [
  ...box(x, y, w, h, 0.2, 30),
  line(x + w / 2 - 3, y + h / 2, x + w / 2 + 3, y + h / 2, 0.1, 77),
  line(x + w / 2, y + h / 2 - 3, x + w / 2, y + h / 2 + 3, 0.1, 77),
];

function pictureOf(picture: OwnPicture, code: string, isFrame: boolean): Piece {
  return {
    w: picture.w + GAP,
    h: picture.h + WORDS_MM + GAP,
    draw: (x, y) => [
      ...(isFrame
        ? frame(x, y, picture.w, picture.h)
        : picture.form.kind === 'pixels'
          ? [{ kind: 'image' as const, x, y, w: picture.w, h: picture.h, key: picture.key }]
          : [{ kind: 'drawing' as const, x, y, w: picture.w, h: picture.h, paths: picture.form.paths }]),
      ...cutMarks(x, y, picture.w, picture.h),
      ...(picture.centreMarks
        ? [
            line(x + picture.w / 2, y - 3, x + picture.w / 2, y - 0.6, 0.1, 77),
            line(x + picture.w / 2, y + picture.h + 0.6, x + picture.w / 2, y + picture.h + 3, 0.1, 77),
            line(x - 3, y + picture.h / 2, x - 0.6, y + picture.h / 2, 0.1, 77),
            line(x + picture.w + 0.6, y + picture.h / 2, x + picture.w + 3, y + picture.h / 2, 0.1, 77),
          ]
        : []),
      text(
        say`${code} · ${picture.name} · ${mm(picture.w, { by: picture.h, places: 0 })}`,
        x + 3,
        y + picture.h + 4.2,
        1.7,
        {
          most: picture.w - 6,
        },
      ),
    ],
  };
}

/** What a sheet is printed on and with; of a guide, what it is for. */
function onWhat(donor: Donor, printer: Printer): string {
  const by = BY_HAND[printer.colourant];
  if (!by) return `Print on ${donor.name}, ${donor.printSide}, with: ${printer.name}.`;
  const how =
    by === 'drawing'
      ? `lay it over ${donor.name} and trace it`
      : `size and place for ${printer.name}, to lay under ${donor.name} or to cut out`;
  return `A guide on plain paper, not for the transfer itself: ${how}.`;
}

function heading(
  job: Job,
  donor: Donor,
  printer: Printer,
  sheet: string,
  page: { w: number; h: number },
): Mark[] {
  const { methods } = job;
  const most = page.w - 24;
  const why = [...new Set(methods.map(m => mirrorReason(m, donor.kind)))].join(' ');
  const mirror = mirrors(methods[0], donor.kind)
    ? 'Mirrored already: do not mirror again. '
    : 'Not mirrored. ';
  return [
    text(`${job.code} · ${job.name}`, 12, 15, 4, { bold: true, most }),
    text(`${onWhat(donor, printer)} Sheet ${sheet}.`, 12, 20.5, 2.6, { most }),
    text(`${mirror}${why}`, 12, 25, 2.4, { most }),
    ...barAcross(12, 31, page.w - 17),
    ...barDown(5, 40, page.h - 45),
  ];
}

/** The tab below a print, outside the picture: code, levels, and an arrow to the picture's upper side. */
function tab(plan: TrialPlan, patch: Patch, x: number, y: number): Mark[] {
  const { w, h } = sizeOf(plan);
  const below = y + h;
  const ax = x + w - 4;
  return [
    text(patch.code, x + 1, below + 4.6, 3.4, { bold: true, most: w - 8 }),
    text(
      say`${levelMarks(plan, patch).join(' ')} · ${joined(levelNames(plan, patch), ' · ')}`,
      x + 1,
      below + 7.8,
      1.7,
      {
        most: w - 2,
      },
    ),
    line(ax, below + 5, ax, below + 1.4, 0.3),
    line(ax, below + 1.4, ax - 1.1, below + 2.8, 0.3),
    line(ax, below + 1.4, ax + 1.1, below + 2.8, 0.3),
    ...cutMarks(x, y, w, h + donorCells({ w, h }).tab),
  ];
}
