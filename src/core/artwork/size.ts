import { largestPrint, WORDS_MM } from '../print/nest.ts';
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

/** Why a picture of this size cannot go on a sheet in one piece, in a sentence with the way out; nothing where it can. */
export function tooLargeFor(
  size: { readonly w: number; readonly h: number },
  donor: { readonly name: string; readonly sheet: { readonly w: number; readonly h: number } },
): string | undefined {
  const most = largestPrint(donor.sheet, WORDS_MM);
  if (size.w <= most.w && size.h <= most.h) return undefined;
  const mm = (v: number) => Math.max(0, Math.floor(v)).toFixed(0);
  return `At ${size.w.toFixed(0)} × ${size.h.toFixed(0)} mm it does not fit on ${donor.name.toLowerCase()} in one piece: with its margins a sheet holds ${mm(most.w)} × ${mm(most.h)} mm. Make the picture smaller, or take a larger sheet.`;
}
