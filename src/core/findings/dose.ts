import { type Trapezoid, trapezoidsOf } from '../models/index.ts';
import { say, type Words, write } from '../say/index.ts';
import { FACTORS, NO_LEVEL, type TrialPlan } from '../trial/index.ts';
import type { Analysis } from './analyse.ts';

/** What a number does over all that was tried of it: a curve, with what is as good as it gets. */
export interface Dose {
  readonly factor: number;
  /** Places on the curve with what is expected there and nine in ten of what the patches allow; in the factor's unit. */
  readonly points: readonly {
    readonly x: number;
    readonly mean: number;
    readonly lo: number;
    readonly hi: number;
  }[];
  /** The least of it that is as good as it gets, and the most, each with its range of nine in ten. */
  readonly from: { readonly x: number; readonly lo: number; readonly hi: number };
  readonly to: { readonly x: number; readonly lo: number; readonly hi: number };
  /** Whether it was still getting better at the least or at the most that was tried. */
  readonly openBelow: boolean;
  readonly openAbove: boolean;
  /** Chance that all of it is as good. */
  readonly flat: number;
}

/** As good as it gets: within so many points of the best. */
export const AS_GOOD = 2;
/** With fewer different numbers than this there is no curve. */
const LEAST_LEVELS = 3;
/** As likely as this it is said to be still rising at an end. */
const OPEN = 0.5;

/**
 * Curves of every number that was varied in at least three steps, of landed: other factors taken off by the fit, a level
 * at which most failed counted as nothing landed. Over the logarithm of the number, so that twice as long is as far
 * everywhere.
 *
 * @param really what a patch really got, where that is known.
 */
export function dosesIn(
  plan: TrialPlan,
  analysis: Analysis,
  really: (code: string, factor: number) => number | undefined = () => undefined,
): Dose[] {
  const { fit, asked } = analysis;
  if (!fit) return [];
  return plan.factors.flatMap((factor, f): Dose[] => {
    if (FACTORS[factor.key].levels !== 'numbers' || factor.levels.length < LEAST_LEVELS) return [];
    const means = new Map(
      analysis.means.flatMap(m => (m.at.size === 1 && m.at.has(f) ? [[m.at.get(f)!, m.estimate.value]] : [])),
    );
    const worth = asked.worth ?? asked.bounds?.[0] ?? 0;
    const fails = factor.levels.map((_, level) => {
      const own = analysis.failing.find(x => x.factor === f && x.level === level);
      return own !== undefined && own.failed * 2 >= own.of;
    });
    const seen = asked.patches.flatMap(p => {
      const level = p.levels[f];
      if (level === undefined || level === NO_LEVEL) return [];
      const x = Math.log(really(p.code, f) ?? Number(factor.levels[level]));
      // Where most fail, that is what it comes to; a single failure elsewhere is none of the number.
      if (p.failed) return fails[level] ? [{ x, y: worth }] : [];
      if (p.value === undefined) return [];
      const own = means.get(level);
      const all = analysis.combination?.(p.levels)?.value;
      // What its other levels add is taken off; a number that only ever fails has no mean of its own.
      return [{ x, y: own === undefined || all === undefined ? p.value : p.value - (all - own) }];
    });
    if (new Set(seen.map(s => s.x.toFixed(2))).size < LEAST_LEVELS) return [];
    const draws = trapezoidsOf(seen, AS_GOOD);
    return draws ? [doseOf(f, seen, draws, asked.bounds)] : [];
  });
}

const PLACES = 41;

function doseOf(
  factor: number,
  seen: readonly { readonly x: number }[],
  draws: readonly Trapezoid[],
  bounds: readonly [number, number] | undefined,
): Dose {
  const [least, most] = [Math.min(...seen.map(s => s.x)), Math.max(...seen.map(s => s.x))];
  const nine = (values: readonly number[]) => {
    const sorted = [...values].sort((x, y) => x - y);
    const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
    return { middle: at(0.5), lo: at(0.05), hi: at(0.95) };
  };
  const end = (of: (t: Trapezoid) => number) => {
    const { middle, lo, hi } = nine(draws.map(of));
    return { x: Math.exp(middle), lo: Math.exp(lo), hi: Math.exp(hi) };
  };
  const kept = (v: number) => (bounds ? Math.min(bounds[1], Math.max(bounds[0], v)) : v);
  const share = (yes: (t: Trapezoid) => boolean) => draws.filter(yes).length / draws.length;
  const edge = (most - least) / 12;
  return {
    factor,
    points: Array.from({ length: PLACES }, (_, i) => {
      const x = least + ((most - least) * i) / (PLACES - 1);
      const { middle, lo, hi } = nine(draws.map(t => kept(t.at(x))));
      return { x: Math.exp(x), mean: middle, lo, hi };
    }),
    from: end(t => t.from),
    to: end(t => t.to),
    openBelow: share(t => t.to < least + edge) >= OPEN,
    openAbove: share(t => t.from > most - edge) >= OPEN,
    flat: share(t => t.from <= least + 1e-9 && t.to >= most - 1e-9),
  };
}

/** As sure as this it is said that it makes no difference. */
const FLAT = 0.8;

/**
 * A curve in a sentence.
 *
 * @param said a number of the factor in words.
 */
export function doseSentence(name: string, dose: Dose, said: (x: number) => Words): Words {
  const { from, to, points } = dose;
  const range = (end: Dose['from']) =>
    write(said(end.lo)) === write(said(end.hi))
      ? said(end.x)
      : say`${said(end.x)} (${said(end.lo)} to ${said(end.hi)})`;
  const [least, most] = [points[0].x, points[points.length - 1].x];
  if (dose.flat >= FLAT)
    return say`${name}: from ${said(least)} to ${said(most)} all is as good: the least of it will do.`;
  if (dose.openAbove)
    return say`${name}: it still gets better at ${said(most)}; what lies beyond was not tried.`;
  if (dose.openBelow)
    return say`${name}: it still gets better at ${said(least)}; what lies below was not tried.`;
  const after = to.hi >= most * 0.97 ? '' : say`; too much from ${range(to)}`;
  const before =
    from.lo <= least * 1.03
      ? say`${said(least)} may already be as good as it gets, most likely it is from ${said(from.x)}`
      : say`as good as it gets from ${range(from)}`;
  return say`${name}: ${before}${after}.`;
}
