import type { ReadPhoto } from '../trial/index.ts';

const DAY = 86_400_000;

/** What one rubbing round did to a patch, by its dry photos. */
export interface RoundStep {
  readonly round: number;
  readonly veil: number;
  readonly landed: number | null;
  /** Against the round before; nothing for the first. */
  readonly took?: { readonly veil: number; readonly landed: number | null };
}

/** Rounds side by side, and what one more would most likely bring. */
export interface Rounds {
  readonly steps: readonly RoundStep[];
  /** Veil after one more round, if it takes as large a share as those before did; nothing with one round alone. */
  readonly next?: number;
  readonly isWorthIt: boolean;
}

/** Another round is worth it where it takes off so much veil, and costs no more of the picture than the last ones did. */
const WORTH = 0.04;
const MOST_LOST = 2;

/**
 * What each round took off by the last dry reading after it. Each is taken to leave the same share of the veil (a
 * geometric mean over the rounds seen), which is how rubbing thins paper.
 *
 * @example roundsSeen([]).steps; // => []
 */
export function roundsSeen(readings: readonly ReadPhoto[]): Rounds {
  const byRound = new Map<number, ReadPhoto>();
  for (const r of readings)
    if (r.photo.stage === 'dry' && !r.photo.worn && r.reading.reading.veil !== null)
      byRound.set(r.photo.round, r);
  const steps: RoundStep[] = [];
  for (const [round, { reading }] of [...byRound].sort((a, b) => a[0] - b[0])) {
    const { veil, landed } = reading.reading;
    const before = steps.at(-1);
    const lost = before && before.landed !== null && landed !== null ? before.landed - landed : null;
    steps.push({
      ...{ round, veil: veil!, landed },
      ...(before ? { took: { veil: before.veil - veil!, landed: lost } } : {}),
    });
  }
  const first = steps[0];
  const last = steps.at(-1);
  if (!first || !last || steps.length < 2 || first.veil <= 0) return { steps, isWorthIt: false };
  const share = Math.min(1, (Math.max(0.001, last.veil) / first.veil) ** (1 / (last.round - first.round)));
  const next = last.veil * share;
  const isWorthIt = last.veil - next >= WORTH && (last.took?.landed ?? 0) <= MOST_LOST;
  return { steps, next, isWorthIt };
}

/** How the cloudiness of a clear layer went, and when it will be gone. */
export interface Milk {
  readonly points: readonly { readonly at: number; readonly milk: number }[];
  /** When it will be clear (ms), with nine in ten of what the points allow; nothing while they do not tell. */
  readonly clear?: { readonly at: number; readonly from: number; readonly to: number };
  readonly isClear: boolean;
}

/** Below this a layer counts as clear. */
const CLEAR = 0.05;
/** What a reading of it is off by, as a share, however well it is lit. */
const OFF = 0.12;
const NINETY = 1.645;

/**
 * Milk over the days: white that lies over the dark parts of a patch that no paper was rubbed off. It goes as water
 * leaves, by the same share every day: ln(milk) falls along a line (least squares), which meets the clear at a day; its
 * range from what each reading is off by.
 *
 * @example milkOver([]).isClear; // => false
 */
export function milkOver(readings: readonly ReadPhoto[]): Milk {
  const points = readings
    .filter(r => r.photo.stage === 'dry' && !r.photo.worn && r.reading.reading.veil !== null)
    .map(r => ({ at: Date.parse(r.photo.takenAt ?? r.reading.at), milk: r.reading.reading.veil! }))
    .sort((a, b) => a.at - b.at);
  const isClear = points.length > 0 && points[points.length - 1].milk <= CLEAR;
  const [first, last] = [points[0], points.at(-1)];
  if (isClear || !first || !last || last.at - first.at < DAY / 4) return { points, isClear };
  const x = points.map(p => (p.at - first.at) / DAY);
  const y = points.map(p => Math.log(Math.max(0.01, p.milk)));
  const mean = (v: readonly number[]) => v.reduce((a, b) => a + b, 0) / v.length;
  const [mx, my] = [mean(x), mean(y)];
  const xx = x.reduce((sum, v) => sum + (v - mx) ** 2, 0);
  const slope = x.reduce((sum, v, i) => sum + (v - mx) * (y[i] - my), 0) / xx;
  const give = (NINETY * OFF) / Math.sqrt(xx);
  // Where it may as well not be falling at all, no day can be told.
  if (slope + give >= 0) return { points, isClear };
  const day = (by: number) => first.at + (mx + (Math.log(CLEAR) - my) / by) * DAY;
  const clear = { at: day(slope), from: Math.max(last.at, day(slope - give)), to: day(slope + give) };
  return { points, isClear, clear };
}
