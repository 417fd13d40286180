import type { Does, Method } from '../methods/index.ts';
import { openMinutes } from '../steps/index.ts';
import type { PatchSettings, WearTest } from '../trial/index.ts';
import { type Air, dryingFactor } from '../units/index.ts';
import {
  bubbles,
  cover,
  creases,
  dust,
  edgeLoss,
  freshPiece,
  inHollows,
  oneSided,
  type Piece,
  PX,
  patchy,
  streaks,
  stuckPaper,
} from './piece.ts';

/** What was really done to a patch. */
export interface PatchHistory {
  readonly settings: PatchSettings;
  readonly air: Air;
  /** Minutes between coating and placing. */
  readonly placedAfterMin: number;
  /** Hours of the wait that can be planned: under paper until it is wetted, before a film is pulled, of soaking, of heat. */
  readonly driedHours: number;
  /** Rubbing rounds done so far. */
  readonly rounds: number;
  readonly patchMm: number;
  /** Its height, where it is no square, mm. */
  readonly patchTallMm?: number;
  readonly seed: number;
  /** A hurried hand: pressed badly, rubbed hard, dusty. */
  readonly isHurried?: boolean;
  /** What was left out. */
  readonly skipped?: readonly Does[];
  /** Days since it was made, for what clears with time. */
  readonly days?: number;
  /** The wear tests it has been through. */
  readonly worn?: readonly WearTest[];
}

/** Share of a well-held picture that each test takes (a tenth of what a badly held one loses). */
const WEAR_TAKES: Readonly<Record<WearTest, number>> = {
  'dry-rub': 0.03,
  'wet-rub': 0.07,
  tape: 0.05,
  water: 0.02,
  wash: 0.09,
  bend: 0.03,
  sun: 0.01,
  heat: 0.02,
};

/** What became of it, as maps over the picture at `pxPerMm`; `landed` and `veil` are 0–1. */
export interface PatchOutcome {
  readonly pxPerMm: number;
  readonly w: number;
  readonly h: number;
  readonly landed: Float32Array;
  readonly veil: Float32Array;
  /** How strong the colour is against how it was printed: 1 as printed, less is faint, more is darker. */
  readonly strength: number;
  /** How far edges are drawn out, mm, and in which direction, degrees from the x axis; nothing where they are not. */
  readonly smear: { readonly mm: number; readonly along: number };
  /** Cloudiness of a clear layer over all of it, 0–1. */
  readonly milk: number;
  /** Names of the mechanisms that struck, for checking the diagnosis. */
  readonly struck: readonly string[];
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

/** What decides of a method what can happen in it: its steps and how its carrier comes off, never its name. */
interface Ways {
  readonly coats: boolean;
  readonly dries: boolean;
  readonly tapes: boolean;
  readonly heats: boolean;
  readonly mists: boolean;
  readonly traces: boolean;
  readonly tissue: boolean;
}

/** What can happen in a method. */
export function waysOf(method: Method): Ways {
  const has = (does: Does) => method.steps.some(s => s.does === does);
  const planned = method.steps.find(s => s.wait.kind === 'planned');
  const open = method.steps.some(s => s.wait.kind === 'open-time');
  return {
    coats: has('coat') || has('base'),
    dries:
      method.usesWater &&
      !method.usesHeat &&
      method.removal !== 'soak' &&
      planned?.does !== 'soak' &&
      (open || planned?.wait.kind === 'planned'),
    tapes: has('tape'),
    heats: method.usesHeat,
    mists:
      has('coat') && !open && ['pull', 'peel'].includes(method.removal) && !method.usesHeat && !has('stamp'),
    traces: has('trace'),
    tissue: method.traits.includes('sheet of tissue'),
  };
}

/** The wait that this method needs in this air, as a share of which a wait is too short or too long. */
function waited(h: PatchHistory, ways: Ways): number {
  if (ways.dries) return dryness(h);
  const moves = h.settings.method.usesHeat || ways.tapes ? 1 : dryingFactor(h.air) ** 0.8;
  return h.driedHours / Math.max(1e-4, h.settings.method.usual.dryHours * moves);
}

/**
 * Decides what happens to a patch, by the mechanisms of docs/HANDBOOK.md §8: bubbles, a coat that skinned over, an
 * unsealed edge, a thirsty or a glossy ground, removal too early or too late, a film that re-wets, rubbing through, paper
 * left behind, creases and seams, a side that stayed cold, solvent that runs, specks that dried, dust, milk that clears
 * with the days. The same history and seed give the same piece.
 */
export function simulateProcess(h: PatchHistory): PatchOutcome {
  const { settings } = h;
  const { method } = settings;
  const ways = waysOf(method);
  const piece = freshPiece({ w: h.patchMm, h: h.patchTallMm ?? h.patchMm }, h.seed);
  const struck: string[] = [];
  const strike = (name: string, happened: boolean) => {
    if (happened) struck.push(name);
  };
  const hurry = h.isHurried ? 1 : 0;
  const thirst = settings.substrate.thirst * settings.preparation.thirstTimes;
  const gloss = settings.substrate.gloss * settings.preparation.glossTimes;
  const share = waited(h, ways);
  const effect = { strength: 1, smear: { mm: 0, along: 0 }, milk: 0 };

  if (ways.coats && !ways.mists && !ways.tissue) {
    strike('bubbles', bubbles(piece, (0.9 + 1.2 * (1 - thirst)) * (1 + 2 * hurry)));
    const late = h.placedAfterMin / openMinutes(settings, h.air);
    strike('skinned', streaks(piece, piece.chance.poisson(Math.max(0, 11 * (late - 0.75)))));
    strike('edge', edgeLoss(piece, (settings.coatMm < 0.25 ? 0.7 : 0.18) + 0.4 * hurry));
  }
  if (ways.coats && !ways.heats && !ways.mists) {
    const dry = 0.3 * (thirst - 0.45) * (0.45 / settings.coatMm);
    strike('thirsty', inOwnPattern(piece, Math.max(0, dry), settings));
    strike('glossy', patchy(piece, Math.max(0, 0.9 * (gloss - 0.4)), 9));
  }
  if (ways.tapes) {
    strike('creased', creases(piece, piece.chance.poisson(0.35 + 1.2 * hurry)));
    strike('bubbles', bubbles(piece, 0.8 + 1.5 * hurry));
  }
  if (ways.tissue) strike('creased', creases(piece, piece.chance.poisson(0.6 + 1.5 * hurry)));
  if (ways.heats && !ways.tapes) {
    strike('cold', oneSided(piece, Math.max(0, 0.6 * (0.9 - share) + 0.12 * hurry)));
    if (share > 1.35) {
      strike('hot', true);
      effect.strength = 1.12;
      effect.smear = { mm: Math.min(1.2, 0.5 * (share - 1.2)), along: piece.chance.between(0, 180) };
    }
  }
  removalOf(h, piece, ways, share, strike, effect);
  for (const test of h.worn ?? []) {
    const weak = 1 - settings.medium.grip + Math.max(0, 1 - share) + 0.3 * Math.max(0, gloss - 0.3);
    strike('worn', patchy(piece, Math.min(0.8, WEAR_TAKES[test] * (1 + 9 * weak)), 2));
  }
  strike('dust', dust(piece, 0.4 + 3 * hurry));
  patchy(piece, (1 - settings.medium.grip) * 0.12, 0.8);
  const { w, h: tall, landed, veil } = piece;
  return { pxPerMm: PX, w, h: tall, landed, veil, ...effect, struck };
}

/** Of a thirsty ground colour is lost where it drinks most: the first pattern of wet-rub stays what it was. */
const inOwnPattern = (piece: Piece, share: number, { substrate }: PatchSettings) =>
  substrate.texture === 'smooth' ? patchy(piece, share) : inHollows(piece, share, substrate.texture);

type Strike = (name: string, happened: boolean) => void;
interface Effect {
  strength: number;
  smear: { mm: number; along: number };
  milk: number;
}

/** What comes of taking the carrier off: by water and rubbing, in a bath, by pulling, or not at all. */
function removalOf(h: PatchHistory, piece: Piece, ways: Ways, share: number, strike: Strike, effect: Effect) {
  const { settings } = h;
  const { method, medium } = settings;
  const hurry = h.isHurried ? 1 : 0;
  const early = 0.55 / (1 + Math.exp(9 * (share - 0.72)));
  const skipsRub = h.skipped?.includes('rub') ?? false;
  switch (method.removal) {
    case 'rub':
      if (ways.dries) {
        strike('early', patchy(piece, early, 5));
        if (early > 0.1) effect.smear = { mm: 0.8 * early, along: 0 };
      }
      strike('softened', patchy(piece, medium.rewets * 0.05 * h.rounds, 1.6));
      strike('rubbed-through', patchy(piece, Math.max(0, 0.02 * (h.rounds - 3) + 0.05 * hurry), 2.5, 4));
      cover(piece, paperLeft(h, skipsRub ? 0 : h.rounds, piece));
      return;
    case 'soak':
      strike('early', patchy(piece, 0.2 * Math.max(0, 0.8 - share), 4));
      strike('softened', patchy(piece, 0.12 * Math.max(0, share - 1.8), 1.6));
      strike('stuck', stuckPaper(piece, 0.4 * Math.max(0, 0.75 - share)));
      cover(piece, paperLeft(h, h.rounds + 0.6 * Math.min(1, share), piece));
      return;
    case 'pull':
      if (ways.heats) return;
      if (share < 0.75) {
        strike('pulled-early', true);
        effect.smear = { mm: Math.min(1.6, 1.8 * (0.75 - share)), along: 90 };
        effect.strength = 1 - 0.4 * (0.75 - share);
        patchy(piece, 0.35 * (0.75 - share), 6, 3);
      }
      strike('pulled-late', patchy(piece, Math.min(0.7, 0.35 * Math.max(0, share - 1.3)), 7));
      return;
    case 'peel':
      if (ways.mists) return bloom(h, piece, share, strike, effect);
      if (method.usesWater) {
        strike('early', patchy(piece, early, 5));
        cover(piece, 0.03);
        return;
      }
      if (method.steps.some(s => s.does === 'stamp')) {
        // A clear skin clears as its water goes: about half of the milk every time its own drying has passed.
        const times = ((h.days ?? h.driedHours / 24) * 24) / (medium.dryHours * dryingFactor(h.air));
        effect.milk = Math.min(0.85, 0.8 * 0.5 ** (2 * times));
        strike('milky', effect.milk > 0.15);
        strike('creased', creases(piece, piece.chance.poisson(0.3 * (1 + hurry))));
      }
      return;
    case 'dissolve':
      strike('early', patchy(piece, early, 5));
      cover(piece, 0.16 * 0.4 ** (h.rounds - 1));
      return;
    case 'none':
      if (ways.traces) {
        effect.strength = 0.55;
        strike('thin', patchy(piece, 0.06 + 0.1 * hurry, 1.2, 3));
      } else if (ways.tissue) cover(piece, 0.05);
  }
}

/** Ink that solvent carries over: it runs where there is too much, and stays behind in specks where it has dried off. */
function bloom(h: PatchHistory, piece: Piece, share: number, strike: Strike, effect: Effect): void {
  const much = h.settings.coatMm / Math.max(0.01, h.settings.method.usual.coatMm);
  effect.strength = 0.92;
  if (much > 1.25) {
    strike('ran', true);
    effect.smear = { mm: Math.min(2.2, 0.9 * (much - 1)), along: 90 };
    effect.strength = 1.05;
  }
  const dried = Math.max(0, 0.9 - much) + 0.4 * Math.max(0, h.placedAfterMin / 0.25 - 1) * 0.2;
  strike('dried-specks', patchy(piece, Math.min(0.6, 0.8 * dried), 0.7));
  if (share < 0.6) strike('weak', patchy(piece, 0.25 * (0.6 - share), 5));
}

/** Paper left on: heavy paper starts with more, each round takes a bit over half. */
function paperLeft(h: PatchHistory, rounds: number, { chance }: Piece): number {
  const start = 0.72 * Math.min(1.25, 0.55 + (0.45 * h.settings.donor.gsm) / 80);
  return Math.min(0.8, start * 0.44 ** rounds * chance.between(0.75, 1.3));
}
