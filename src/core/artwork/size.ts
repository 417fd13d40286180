import { largestPrint, WORDS_MM } from '../print/donor-room.ts';
import { mm, say, type Words, within } from '../say/index.ts';
import type { Fit } from './schema.ts';

/** How large a picture becomes on a piece, mm, and which part of it is used (shares from its top left). */
export interface PrintSize {
  readonly w: number;
  readonly h: number;
  readonly part: { readonly x: number; readonly y: number; readonly w: number; readonly h: number };
}

const WHOLE = { x: 0, y: 0, w: 1, h: 1 };

/**
 * Size of a picture of the given aspect (width over height) on a piece: `fit` stays inside the margins, `fill`
 * covers the piece and loses what runs over, `enlarge` is as large as the piece allows without losing anything.
 *
 * @example printSize(2, { w: 100, h: 100 }, 'fit', 10).w; // => 80
 */
export function printSize(
  aspect: number,
  piece: { w: number; h: number },
  fit: Fit,
  marginMm: number,
): PrintSize {
  const inside = (w: number, h: number) => (aspect > w / h ? { w, h: w / aspect } : { w: h * aspect, h });
  if (fit === 'fit')
    return {
      ...inside(Math.max(1, piece.w - 2 * marginMm), Math.max(1, piece.h - 2 * marginMm)),
      part: WHOLE,
    };
  if (fit === 'enlarge') return { ...inside(piece.w, piece.h), part: WHOLE };
  const target = piece.w / piece.h;
  const part =
    aspect > target
      ? { w: target / aspect, h: 1, x: (1 - target / aspect) / 2, y: 0 }
      : { w: 1, h: aspect / target, x: 0, y: (1 - aspect / target) / 2 };
  return { w: piece.w, h: piece.h, part };
}

/**
 * Where a picture lies on a patch with so much `room` (mm), and which part of it: all of it as large as there is room,
 * in the middle; or the part round `at` (shares) at the size that it has when it is `printed` on its piece.
 *
 * @example onPatch(2, { w: 40, h: 40 }, 'whole', { x: 0.5, y: 0.5 }, { w: 80, h: 40, part: { x: 0, y: 0, w: 1, h: 1 } }).place.h; // => 20
 */
export function onPatch(
  aspect: number,
  room: { readonly w: number; readonly h: number },
  how: 'whole' | 'detail',
  at: { readonly x: number; readonly y: number },
  printed: PrintSize,
): { readonly place: { x: number; y: number; w: number; h: number }; readonly part: PrintSize['part'] } {
  const middle = (w: number, h: number) => ({ x: (room.w - w) / 2, y: (room.h - h) / 2, w, h });
  if (how === 'whole') {
    const { w, h, part } = printSize(aspect, { ...room }, 'fit', 0);
    return { place: middle(w, h), part };
  }
  const [w, h] = [Math.min(room.w, printed.w), Math.min(room.h, printed.h)];
  // A patch's worth of the print, as shares of the whole picture, kept inside of what is printed of it.
  const inside = (whole: number, shown: number, from: number, share: number, centre: number) => {
    const long = (share * shown) / whole;
    return { from: Math.min(Math.max(centre - long / 2, from), from + share - long), long };
  };
  const x = inside(printed.w, w, printed.part.x, printed.part.w, at.x);
  const y = inside(printed.h, h, printed.part.y, printed.part.h, at.y);
  return { place: middle(w, h), part: { x: x.from, y: y.from, w: x.long, h: y.long } };
}

/** Why a picture of this size cannot go on a sheet in one piece, in a sentence with the way out; nothing where it can. */
export function tooLargeFor(
  size: { readonly w: number; readonly h: number },
  donor: { readonly name: string; readonly sheet: { readonly w: number; readonly h: number } },
): Words | undefined {
  const most = largestPrint(donor.sheet, WORDS_MM);
  if (size.w <= most.w && size.h <= most.h) return undefined;
  const least = (v: number) => Math.max(0, Math.floor(v));
  return say`At ${mm(size.w, { by: size.h, places: 0 })} it does not fit on ${within(donor.name)} in one piece: with its margins a sheet holds ${mm(least(most.w), { by: least(most.h) })}. Make the picture smaller, or take a larger sheet.`;
}
