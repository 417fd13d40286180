import { topOf } from '../models/index.ts';
import { progressOf } from '../progress/index.ts';
import { isShortWait } from '../steps/index.ts';
import { readingOf } from '../trial/index.ts';
import { type Air, driedBetween, dryingFactor } from '../units/index.ts';
import type { Trialled } from './learn.ts';
import type { ShortWaitSeen } from './seen.ts';

/** The best short wait in an air, minutes, with its range of nine in ten, and how many patches it rests on. */
export interface ShortWait {
  readonly min: number;
  readonly lo: number;
  readonly hi: number;
  readonly patches: number;
}

/** How exactly a maker hits a time of whom nothing is known, as a standard deviation of its logarithm, and how many tries that is worth. */
const HITS = { sd: 0.12, worth: 6 };
/** Somebody who was this far off was called away: that says nothing of how they hit a time. */
const FAR_OFF = Math.log(2);
/** When the best lies at an end of what was tried this likely, the ladder showed no top. */
const NO_TOP = 0.6;
/** Where so many points are lost from one rung to the next on both sides, the best may lie anywhere between them. */
const TOO_COARSE = 20;
/** A wait of which less than this lands, %, is no best one yet. */
const GOOD_FOR_NOTHING = 50;

/** How exactly this maker hits a time. */
function hitsOf(points: readonly ShortWaitSeen[]): number {
  const off = points.flatMap(p => (p.off !== undefined && Math.abs(p.off) < FAR_OFF ? [p.off] : []));
  const square = off.reduce((sum, o) => sum + o * o, 0);
  return Math.sqrt((HITS.worth * HITS.sd ** 2 + square) / (HITS.worth + off.length));
}

/**
 * The wait before pulling from which most is to be expected, learnt from ladders and all other patches of a method whose
 * wait is short: a response of free shape over the logarithm of the real wait ({@link topOf}), waits brought to the
 * reference air, given how exactly this maker hits a time. Nothing with fewer than five patches or four different waits,
 * when the best lies at an end of what was tried, when the ladder was too coarse to say where between two rungs it lies, or
 * when even the best lands too little.
 *
 * @example learntShortWait('film-pull', [], air); // => undefined
 */
export function learntShortWait(
  method: string,
  lessons: readonly { readonly shortWaits: readonly ShortWaitSeen[] }[],
  air: Air,
): ShortWait | undefined {
  const points = lessons.flatMap(l => l.shortWaits).filter(p => p.method === method);
  if (points.length < 5 || new Set(points.map(p => p.x.toFixed(2))).size < 4) return undefined;
  const top = topOf(
    points.map(p => ({ x: p.x, y: p.landed })),
    hitsOf(points),
  );
  if (!top || top.atEnd > NO_TOP || top.falls > TOO_COARSE || top.expected < GOOD_FOR_NOTHING)
    return undefined;
  const [min, lo, hi] = [top.x, top.lo, top.hi].map(Math.exp);
  return inAir({ min, lo, hi, patches: points.length }, air);
}

/**
 * A short wait of the reference air as it is in another.
 *
 * @example inAir({ min: 1, lo: 0.8, hi: 1.2, patches: 9 }, { tempC: 21, rh: 45 }).hi; // => 1.2
 */
export function inAir(wait: ShortWait, air: Air): ShortWait {
  const factor = dryingFactor(air);
  return { ...wait, min: wait.min * factor, lo: wait.lo * factor, hi: wait.hi * factor };
}

/** The real waits of a trial whose planned wait is short, with what landed; none for other methods. */
export function shortWaitsSeen({ plan, records }: Trialled): ShortWaitSeen[] {
  const progress = progressOf(plan, records);
  return progress.lines.flatMap(line => {
    const { method } = line.settings;
    if (!isShortWait(method.usual.dryHours * 60)) return [];
    const i = line.chain.findIndex(l => l.step.wait.kind === 'planned');
    const [from, to] = [line.doneAt[i], line.doneAt[i + 1]];
    const landed = readingOf(records, line.patch.code)?.reading.reading.landed;
    if (from === undefined || to === undefined || landed == null || to <= from) return [];
    const planned = line.plannedMin ?? line.settings.dryHours * 60;
    return [
      {
        method: method.id,
        x: Math.log(driedBetween(progress.airs, from, to) / 60_000),
        landed,
        ...(planned > 0 ? { off: Math.log((to - from) / 60_000 / planned) } : {}),
      },
    ];
  });
}
