import type { aspectsBy } from '../aspects/index.ts';
import type { PatchSettings } from '../trial/index.ts';
import { field, rough } from './noise.ts';
import {
  bubbles,
  cover,
  creases,
  freshPiece,
  inHollows,
  oneSided,
  type Piece,
  PX,
  patchy,
  punch,
  soft,
} from './piece.ts';
import { type PatchOutcome, waysOf } from './process.ts';

/** What is graded by looking. */
export type Seen = Extract<ReturnType<typeof aspectsBy>[number], { by: 'eye' }>['id'];

/** A step of a scale, 1 the worst, 5 the best. */
export type Step = 1 | 2 | 3 | 4 | 5;

/** Share of the picture that is gone at each step of coverage. */
const GONE = [0.88, 0.5, 0.2, 0.04, 0];
/** Mean veil at each step of cleanness; in the middle it lies in places only. */
const HAZE = [0.75, 0.45, 0.3, 0.07, 0];
/** How deep each step's loss reaches in from an edge, mm, and from how many edges. */
const FROM_EDGE = [
  { deep: 5, sides: 4 },
  { deep: 2, sides: 4 },
  { deep: 2.5, sides: 1 },
  { deep: 0.6, sides: 4 },
  { deep: 0, sides: 0 },
];
/** How far edges are drawn out, mm, and what is left of the colour's strength. */
const TONES = [
  { smear: 1.5, strength: 0.3 },
  { smear: 0.7, strength: 0.55 },
  { smear: 0.3, strength: 0.75 },
  { smear: 0.1, strength: 0.88 },
  { smear: 0, strength: 1 },
];

/**
 * A piece made with these settings that shows one step of one scale and nothing else wrong: what is lost is lost the way
 * this method and ground lose it. `mm`: its size.
 */
export function stepOutcome(
  aspect: Seen,
  step: Step,
  settings: PatchSettings,
  mm: { readonly w: number; readonly h: number },
  seed: number,
): PatchOutcome {
  const piece = freshPiece(mm, seed);
  const i = step - 1;
  if (aspect === 'coverage') loseAsIts(piece, settings, GONE[i]);
  if (aspect === 'clean') {
    cover(piece, HAZE[i]);
    if (step === 3) inPlaces(piece);
  }
  if (aspect === 'edges') fromEdges(piece, FROM_EDGE[i].deep, FROM_EDGE[i].sides);
  const tone = TONES[aspect === 'tones' ? i : 4];
  const { w, h, landed, veil } = piece;
  return {
    ...{ pxPerMm: PX, w, h, landed, veil },
    strength: tone.strength,
    smear: { mm: tone.smear, along: 20 },
    ...{ milk: 0, struck: [] },
  };
}

/** Loses a share of a piece the way its method and ground do. */
function loseAsIts(piece: Piece, settings: PatchSettings, share: number): void {
  if (!share) return;
  const ways = waysOf(settings.method);
  if (ways.traces) patchy(piece, share, 1.2, 3);
  else if (ways.mists) patchy(piece, share, 0.8);
  else if (ways.tapes || ways.tissue) {
    creases(piece, share < 0.1 ? 1 : 2);
    patchy(piece, share, 3);
  } else if (ways.heats) oneSided(piece, share);
  else if (share < 0.1) patchy(piece, share, 1.6);
  else {
    bubbles(piece, 2);
    inHollows(piece, share, settings.substrate.texture);
  }
}

/** Leaves a veil in some places only. */
function inPlaces({ w, veil, chance }: Piece): void {
  const cloud = rough(field(chance.whole(0, 1e9)));
  for (let i = 0; i < veil.length; i++) {
    const v = cloud((i % w) / PX / 8, Math.floor(i / w) / PX / 8);
    veil[i] *= Math.min(1, Math.max(0, (v - 0.45) * 8));
  }
}

/** Takes a ragged band along some edges. */
function fromEdges(piece: Piece, deep: number, sides: number): void {
  if (!sides) return;
  const { chance, mm } = piece;
  const wobble = rough(field(chance.whole(0, 1e9)));
  const isNicks = deep < 1;
  punch(piece, (x, y) => {
    const inward = [y, x, mm.h - y, mm.w - x].slice(0, sides);
    return Math.min(
      ...inward.map((d, k) => {
        const along = wobble((k % 2 ? y : x) / 3, 9 * k);
        return soft(d - deep * (isNicks ? 6 * Math.max(0, along - 0.6) : 0.3 + 1.4 * along));
      }),
    );
  });
}
