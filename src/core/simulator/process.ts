import { type Chance, chanceFrom } from '../random/index.ts';
import { openMinutes } from '../steps/index.ts';
import type { PatchSettings } from '../trial/index.ts';
import { type Air, dryingFactor } from '../units/index.ts';
import { field, rough } from './noise.ts';

/** What was really done to a patch. */
export interface PatchHistory {
  readonly settings: PatchSettings;
  readonly air: Air;
  /** Minutes between coating and placing. */
  readonly placedAfterMin: number;
  /** Hours between placing and wetting. */
  readonly driedHours: number;
  /** Rubbing rounds done so far. */
  readonly rounds: number;
  readonly patchMm: number;
  readonly seed: number;
}

/** What became of it, as maps over the picture at `pxPerMm`; `landed` and `veil` are 0–1. */
export interface PatchOutcome {
  readonly pxPerMm: number;
  readonly side: number;
  readonly landed: Float32Array;
  readonly veil: Float32Array;
  /** Names of the mechanisms that struck, for checking the diagnosis. */
  readonly struck: readonly string[];
}

/** Resolution of the process maps. */
const PX = 10;

interface Piece {
  readonly side: number;
  readonly mm: number;
  readonly landed: Float32Array;
  readonly chance: Chance;
}

/**
 * How dry the film was when it was wetted: 1 is just dry enough.
 *
 * @example dryness({ settings, air, driedHours: 1000 }) > 0.99; // => true
 */
export function dryness(h: PatchHistory): number {
  const { settings, air } = h;
  const thirst = settings.substrate.thirst * settings.preparation.thirstTimes;
  const need =
    settings.medium.dryHours * dryingFactor(air) * (settings.coatMm / 0.3) ** 0.7 * (1.15 - 0.3 * thirst);
  return h.driedHours / need;
}

/**
 * Decides what happens to a wet-rub patch, by the mechanisms of docs/HANDBOOK.md §8: bubbles, a coat that
 * skinned over, an unsealed edge, a thirsty or a glossy ground, removal too early, a film that
 * re-wets, rubbing through, and paper left behind. The same history and seed give the same piece.
 */
export function simulateProcess(h: PatchHistory): PatchOutcome {
  const side = Math.round(h.patchMm * PX);
  const piece: Piece = {
    side,
    mm: h.patchMm,
    landed: new Float32Array(side * side).fill(1),
    chance: chanceFrom(h.seed),
  };
  const struck: string[] = [];
  const strike = (name: string, happened: boolean) => {
    if (happened) struck.push(name);
  };
  const { settings } = h;
  const thirst = settings.substrate.thirst * settings.preparation.thirstTimes;
  const gloss = settings.substrate.gloss * settings.preparation.glossTimes;
  const late = h.placedAfterMin / openMinutes(settings, h.air);

  strike('bubbles', bubbles(piece, 0.9 + 1.2 * (1 - thirst)));
  strike('skinned', streaks(piece, piece.chance.poisson(Math.max(0, 11 * (late - 0.75)))));
  strike('edge', edgeLoss(piece, settings.coatMm < 0.25 ? 0.7 : 0.18));
  strike('thirsty', patchy(piece, Math.max(0, 0.3 * (thirst - 0.45) * (0.45 / settings.coatMm))));
  strike('glossy', patchy(piece, Math.max(0, 0.9 * (gloss - 0.4)), 9));
  const dry = dryness(h);
  strike('early', patchy(piece, 0.55 / (1 + Math.exp(9 * (dry - 0.72))), 5));
  strike('softened', patchy(piece, settings.medium.rewets * 0.05 * h.rounds, 1.6));
  strike('rubbed-through', patchy(piece, Math.max(0, 0.02 * (h.rounds - 3)), 2.5));
  patchy(piece, (1 - settings.medium.grip) * 0.12, 0.8);

  return { pxPerMm: PX, side, landed: piece.landed, veil: veilMap(h, piece), struck };
}

function punch({ side, landed }: Piece, keep: (xMm: number, yMm: number) => number) {
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const i = y * side + x;
      landed[i] = Math.min(landed[i], Math.min(1, Math.max(0, keep((x + 0.5) / PX, (y + 0.5) / PX))));
    }
}

/** Soft edge about 0.15 mm wide for a signed distance in mm (positive outside the hole). */
const soft = (distance: number) => 0.5 + distance / 0.15;

function bubbles(piece: Piece, mean: number): boolean {
  const { chance, mm } = piece;
  const holes = Array.from({ length: chance.poisson(mean) }, () => ({
    x: chance.between(0.15, 0.85) * mm,
    y: chance.between(0.15, 0.85) * mm,
    r: chance.between(0.7, 2.4),
  }));
  if (!holes.length) return false;
  punch(piece, (x, y) => Math.min(...holes.map(o => soft(Math.hypot(x - o.x, y - o.y) - o.r))));
  return true;
}

function streaks(piece: Piece, count: number): boolean {
  if (!count) return false;
  const { chance, mm } = piece;
  const wobble = field(chance.whole(0, 1e9));
  const lines = Array.from({ length: count }, () => ({
    y: chance.between(0.05, 0.95) * mm,
    from: chance.between(-0.2, 0.5) * mm,
    long: chance.between(0.3, 0.9) * mm,
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

function edgeLoss(piece: Piece, probability: number): boolean {
  const { chance, mm } = piece;
  if (chance.next() > probability) return false;
  const edge = chance.whole(0, 3);
  const deep = chance.between(0.5, 2.2);
  const wobble = rough(field(chance.whole(0, 1e9)));
  punch(piece, (x, y) => {
    const [inward, along] = [
      [y, x],
      [mm - x, y],
      [mm - y, x],
      [x, y],
    ][edge];
    return soft(inward - deep * 2 * Math.max(0, wobble(along / 7, 3) - 0.2));
  });
  return true;
}

/** Ragged loss of about `share` of the picture, in spots about `mmAcross` wide. */
function patchy(piece: Piece, share: number, mmAcross = 3): boolean {
  if (share < 0.004) return false;
  const { chance, side } = piece;
  const noise = rough(field(chance.whole(0, 1e9)));
  const values = new Float32Array(side * side);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) values[y * side + x] = noise(x / PX / mmAcross, y / PX / mmAcross);
  const sorted = Float32Array.from(values).sort();
  const limit = sorted[Math.floor(Math.min(0.95, share) * (sorted.length - 1))];
  const steep = Math.max(10, mmAcross / 0.12);
  for (let i = 0; i < values.length; i++)
    piece.landed[i] = Math.min(piece.landed[i], Math.min(1, Math.max(0, 0.5 + (values[i] - limit) * steep)));
  return true;
}

/**
 * Paper left on: heavy paper starts with more, each round takes a bit over half, and the rest shows
 * as a cloudy, fibrous veil.
 */
function veilMap(h: PatchHistory, { side, chance }: Piece): Float32Array {
  const start = 0.72 * Math.min(1.25, 0.55 + (0.45 * h.settings.donor.gsm) / 80);
  const mean = Math.min(0.8, start * 0.44 ** h.rounds * chance.between(0.75, 1.3));
  const cloud = rough(field(chance.whole(0, 1e9)));
  const fibre = field(chance.whole(0, 1e9));
  const veil = new Float32Array(side * side);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const mmX = x / PX;
      const mmY = y / PX;
      const cloudy = 0.45 + 1.1 * cloud(mmX / 6, mmY / 6);
      const fibrous = 0.7 + 0.6 * fibre(mmX / 0.9 + mmY / 2, mmY / 0.35 - mmX / 5);
      veil[y * side + x] = Math.min(0.95, mean * cloudy * fibrous);
    }
  return veil;
}
