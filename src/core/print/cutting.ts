import { bad, good, type Outcome } from '../outcome/index.ts';
import { mm, say } from '../say/index.ts';

/** What has to be cut for one picture, all in mm. */
export interface Cutting {
  readonly substrate: { readonly w: number; readonly h: number };
  /** Strips of tape side by side over the picture, and how long each has to be. */
  readonly strips: number;
  readonly stripLength: number;
  /** Doubled mask tape round the picture: total length. */
  readonly maskLength: number;
  readonly perBoard: number;
  readonly boards: number;
  /** Share of the boards that is waste, 0–1. */
  readonly waste: number;
}

export interface CuttingAsk {
  readonly picture: { readonly w: number; readonly h: number };
  readonly margin: number;
  readonly tapeWidth: number;
  readonly overlap: number;
  readonly pieces: number;
  readonly stock: { readonly w: number; readonly h: number };
  /** Width of the saw or knife cut. */
  readonly kerf: number;
}

/**
 * Works out what to cut: substrate = picture + margin all round; strips = ceil((width − overlap)/(tape − overlap));
 * the mask border is doubled; pieces are cut from stock in a grid, turned if more come out of it.
 * Fails with a sentence when the tape is not wider than its overlap or a piece is larger than the stock.
 */
export function cuttingFor(ask: CuttingAsk): Outcome<Cutting> {
  const { picture, margin, tapeWidth, overlap, pieces, stock, kerf } = ask;
  if ([picture.w, picture.h, stock.w, stock.h, tapeWidth].some(v => !(v > 0)) || margin < 0 || kerf < 0)
    return bad('sizes', 'Write all sizes as numbers above 0.');
  if (!(pieces >= 1)) return bad('pieces', 'At least one piece.');
  if (overlap < 0 || overlap >= tapeWidth)
    return bad('tape', 'The tape has to be wider than its overlap.', say`Overlap by ${mm(2, { to: 3 })}.`);
  const substrate = { w: picture.w + 2 * margin, h: picture.h + 2 * margin };
  const across = (w: number, h: number) =>
    Math.floor((stock.w + kerf) / (w + kerf)) * Math.floor((stock.h + kerf) / (h + kerf));
  const perBoard = Math.max(across(substrate.w, substrate.h), across(substrate.h, substrate.w));
  if (!perBoard)
    return bad(
      'stock',
      say`A piece of ${mm(substrate.w, { by: substrate.h, places: 0 })} does not come out of ${mm(stock.w, { by: stock.h })}.`,
      'Take larger stock or a smaller margin.',
    );
  const boards = Math.ceil(pieces / perBoard);
  return good({
    substrate,
    strips: picture.w <= tapeWidth ? 1 : Math.ceil((picture.w - overlap) / (tapeWidth - overlap)),
    stripLength: picture.h + 2 * Math.max(5, margin),
    maskLength: 2 * 2 * (picture.w + picture.h + 2 * tapeWidth),
    perBoard,
    boards,
    waste: 1 - (pieces * substrate.w * substrate.h) / (boards * stock.w * stock.h),
  });
}
