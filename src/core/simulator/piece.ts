import { type Chance, chanceFrom } from '../random/index.ts';
import { field, rough } from './noise.ts';

/** Resolution of the process maps, px/mm. */
export const PX = 10;

/** A piece while things happen to it: what still holds colour, how much of it, and what lies over it. */
export interface Piece {
  readonly w: number;
  readonly h: number;
  readonly mm: { readonly w: number; readonly h: number };
  /** Share of the colour that holds, 0–1. */
  readonly landed: Float32Array;
  /** Paper that is left over it, 0–1. */
  readonly veil: Float32Array;
  readonly chance: Chance;
}

/** A piece to which nothing has happened. */
export function freshPiece(mm: { readonly w: number; readonly h: number }, seed: number): Piece {
  const [w, h] = [Math.round(mm.w * PX), Math.round(mm.h * PX)];
  return {
    ...{ w, h, mm, landed: new Float32Array(w * h).fill(1), veil: new Float32Array(w * h) },
    chance: chanceFrom(seed),
  };
}

/** Takes colour away by a rule of the place in mm. */
export function punch({ w, h, landed }: Piece, keep: (xMm: number, yMm: number) => number): void {
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = y * w + x;
      landed[i] = Math.min(landed[i], Math.min(1, Math.max(0, keep((x + 0.5) / PX, (y + 0.5) / PX))));
    }
}

/** Soft edge about 0.15 mm wide for a signed distance in mm (positive outside the hole). */
export const soft = (distance: number): number => 0.5 + distance / 0.15;

/** A round hole at so many mm from the top left; no farther round it than its soft edge is anything changed. */
function roundHole(
  { w, h, landed }: Piece,
  { x, y, r }: { readonly x: number; readonly y: number; readonly r: number },
): void {
  const reach = r + 0.1;
  const [left, right] = [Math.max(0, Math.floor((x - reach) * PX)), Math.min(w, Math.ceil((x + reach) * PX))];
  const [top, low] = [Math.max(0, Math.floor((y - reach) * PX)), Math.min(h, Math.ceil((y + reach) * PX))];
  for (let row = top; row < low; row++)
    for (let i = row * w + left; i < row * w + right; i++) {
      const away = Math.hypot((i - row * w + 0.5) / PX - x, (row + 0.5) / PX - y);
      landed[i] = Math.min(landed[i], Math.max(0, soft(away - r)));
    }
}

/** Round holes, `mean` of them on 16 cm². Says whether there were any. */
export function bubbles(piece: Piece, mean: number): boolean {
  const { chance, mm } = piece;
  const holes = Array.from({ length: chance.poisson(mean * sizeOf(piece)) }, () => ({
    x: chance.between(0.15, 0.85) * mm.w,
    y: chance.between(0.15, 0.85) * mm.h,
    r: chance.between(0.7, 2.4),
  }));
  if (!holes.length) return false;
  for (const hole of holes) roundHole(piece, hole);
  return true;
}

/** How many times 40 × 40 mm a piece is. */
const sizeOf = ({ mm }: Piece) => (mm.w * mm.h) / 1600;

/** Streaks along the brush, left to right. */
export function streaks(piece: Piece, count: number): boolean {
  if (!count) return false;
  const { chance, mm } = piece;
  const wobble = field(chance.whole(0, 1e9));
  const lines = Array.from({ length: count }, () => ({
    y: chance.between(0.05, 0.95) * mm.h,
    from: chance.between(-0.2, 0.5) * mm.w,
    long: chance.between(0.3, 0.9) * mm.w,
    half: chance.between(0.3, 1),
  }));
  punch(piece, (x, y) =>
    Math.min(
      ...lines.map(l => {
        const across =
          Math.abs(y - l.y + 0.8 * (wobble(x / 6, l.y) - 0.5)) - l.half * (0.5 + wobble(x / 3, l.y + 9));
        return soft(Math.max(across, l.from - x, x - l.from - l.long));
      }),
    ),
  );
  return true;
}

/** A band along one edge. */
export function edgeLoss(piece: Piece, probability: number): boolean {
  const { chance, mm } = piece;
  if (chance.next() > probability) return false;
  const edge = chance.whole(0, 3);
  const deep = chance.between(0.5, 2.2);
  const wobble = rough(field(chance.whole(0, 1e9)));
  punch(piece, (x, y) => {
    const [inward, along] = [
      [y, x],
      [mm.w - x, y],
      [mm.h - y, x],
      [x, y],
    ][edge];
    return soft(inward - deep * 2 * Math.max(0, wobble(along / 7, 3) - 0.2));
  });
  return true;
}

/** Spots smaller than this have no finer ones about them, mm. */
const FINE_MM = 1.5;

/** Ragged loss of about `share` of the picture, in spots about `mmAcross` wide; `stretch`: so many times as long as wide. */
export function patchy(piece: Piece, share: number, mmAcross = 3, stretch = 1): boolean {
  if (share < 0.004) return false;
  const { chance, w, h } = piece;
  // Specks are no finer than what can be seen of them.
  const noise = rough(field(chance.whole(0, 1e9)), mmAcross < FINE_MM ? 1 : 3);
  const values = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) values[y * w + x] = noise(x / PX / mmAcross / stretch, y / PX / mmAcross);
  lose(piece, values, share);
  return true;
}

/** Ink is a film that is there or is torn: so wide is its torn edge, mm. */
const TORN_MM = 0.1;

/** What would stand at a place if values were in order: found without putting them in order (Hoare 1961). */
function nth(values: Float32Array, place: number): number {
  const own = values.slice();
  let [low, high] = [0, own.length - 1];
  while (low < high) {
    const pivot = own[(low + high) >> 1];
    let [i, j] = [low, high];
    while (i <= j) {
      while (own[i] < pivot) i++;
      while (own[j] > pivot) j--;
      if (i > j) break;
      [own[i], own[j]] = [own[j], own[i]];
      i++;
      j--;
    }
    if (place <= j) high = j;
    else if (place >= i) low = i;
    else break;
  }
  return own[place];
}

/** Loses `share` of a piece where `values` are least. */
function lose(piece: Piece, values: Float32Array, share: number): void {
  const { w, h } = piece;
  const limit = nth(values, Math.floor(Math.min(0.95, share) * (values.length - 1)));
  const slope = new Float32Array(values.length);
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      const across = values[x + 1 < w ? i + 1 : i] - values[x > 0 ? i - 1 : i];
      const down = values[y + 1 < h ? i + w : i] - values[y > 0 ? i - w : i];
      slope[i] = (Math.sqrt(across * across + down * down) / 2) * PX;
    }
  // On tops and in hollows there is no slope: the edge is no wider there than on a slope of a quarter of the usual.
  const least = 0.25 * nth(slope, slope.length >> 1) + 1e-9;
  for (let i = 0; i < values.length; i++) {
    const mm = (values[i] - limit) / Math.max(least, slope[i]);
    piece.landed[i] = Math.min(piece.landed[i], Math.min(1, Math.max(0, 0.5 + mm / TORN_MM)));
  }
}

/** Loses about `share` of a piece, most of it towards one side: where it cooled first, or was pressed least. */
export function oneSided(piece: Piece, share: number): boolean {
  if (share < 0.004) return false;
  const { chance, w, h, mm } = piece;
  const noise = rough(field(chance.whole(0, 1e9)));
  const towards = chance.between(0, 2 * Math.PI);
  const [cos, sin] = [Math.cos(towards) / mm.w, Math.sin(towards) / mm.h];
  const values = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [mx, my] = [(x + 0.5) / PX, (y + 0.5) / PX];
      values[y * w + x] = 0.7 * (mx * cos + my * sin) + 0.5 * noise(mx / 4, my / 4);
    }
  lose(piece, values, share);
  return true;
}

/** Straight blank lines right across: creases of a film, seams of tape. */
export function creases(piece: Piece, count: number, isUpright = false): boolean {
  if (!count) return false;
  const { chance, mm } = piece;
  const lines = Array.from({ length: count }, () => {
    const angle = isUpright ? Math.PI / 2 + chance.between(-0.03, 0.03) : chance.between(0, Math.PI);
    const [nx, ny] = [Math.sin(angle), -Math.cos(angle)];
    const through = { x: chance.between(0.2, 0.8) * mm.w, y: chance.between(0.2, 0.8) * mm.h };
    return { nx, ny, d: nx * through.x + ny * through.y, half: chance.between(0.15, 0.45) };
  });
  punch(piece, (x, y) => Math.min(...lines.map(l => soft(Math.abs(l.nx * x + l.ny * y - l.d) - l.half))));
  return true;
}

/** Loss in the ground's own pattern: the hollows of grain, the low places of a weave. */
export function inHollows(
  piece: Piece,
  share: number,
  texture: 'grain' | 'weave' | 'slate' | 'smooth',
): boolean {
  if (share < 0.004) return false;
  if (texture === 'smooth') return patchy(piece, share, 2.2);
  const { chance, w, h } = piece;
  const noise = rough(field(chance.whole(0, 1e9)));
  const values = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [mx, my] = [x / PX, y / PX];
      values[y * w + x] =
        texture === 'grain'
          ? noise(mx / 18, my / 0.9)
          : texture === 'slate'
            ? noise(mx / 4, my / 2)
            : // Whole spots of a cloth drink more; in them the hollows between its threads go first.
              0.5 +
              0.1 * (Math.sin((mx * 2 * Math.PI) / 0.72) + Math.sin((my * 2 * Math.PI) / 0.78)) +
              1.4 * (noise(mx / 4, my / 4) - 0.5);
    }
  lose(piece, values, share);
  return true;
}

/** Lays paper over the piece: `mean` of it, cloudy and in fibres. */
export function cover({ w, h, veil, chance }: Piece, mean: number): void {
  const cloud = rough(field(chance.whole(0, 1e9)));
  const fibre = field(chance.whole(0, 1e9));
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [mmX, mmY] = [x / PX, y / PX];
      const cloudy = 0.45 + 1.1 * cloud(mmX / 6, mmY / 6);
      const fibrous = 0.7 + 0.6 * fibre(mmX / 0.9 + mmY / 2, mmY / 0.35 - mmX / 5);
      veil[y * w + x] = Math.max(veil[y * w + x], Math.min(0.95, mean * cloudy * fibrous));
    }
}

/** Islands of paper that will not come off, about `share` of the piece. */
export function stuckPaper(piece: Piece, share: number): boolean {
  if (share < 0.004) return false;
  const { chance, w, h, veil } = piece;
  const noise = rough(field(chance.whole(0, 1e9)));
  const values = new Float32Array(w * h);
  for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) values[y * w + x] = noise(x / PX / 7, y / PX / 7);
  const limit = nth(values, Math.floor((1 - Math.min(0.9, share)) * (values.length - 1)));
  for (let i = 0; i < values.length; i++) if (values[i] > limit) veil[i] = Math.max(veil[i], 0.85);
  return true;
}

/** Pinholes of dust. */
export function dust(piece: Piece, mean: number): boolean {
  const { chance, mm } = piece;
  const holes = Array.from({ length: chance.poisson(mean * sizeOf(piece)) }, () => ({
    x: chance.next() * mm.w,
    y: chance.next() * mm.h,
    r: chance.between(0.2, 0.5),
  }));
  if (!holes.length) return false;
  for (const hole of holes) roundHole(piece, hole);
  return true;
}
