import { FACTORS, NO_LEVEL, type TrialPlan } from '../trial/index.ts';
import type { Analysis } from './analyse.ts';
import { type Curve, curveOf } from '../models/index.ts';

/** What a number does over all that was tried of it: a curve, with what is as good as it gets. */
export interface Dose {
  readonly factor: number;
  /** Places on the curve with what is expected there and nine in ten of what the patches allow; in the factor's unit. */
  readonly points: readonly { readonly x: number; readonly mean: number; readonly lo: number; readonly hi: number }[];
  /** The least of it that is as good as it gets, and the most, each with its range of nine in ten. */
  readonly from: { readonly x: number; readonly lo: number; readonly hi: number };
  readonly to: { readonly x: number; readonly lo: number; readonly hi: number };
  /** Whether it was still getting better at the least or at the most that was tried. */
  readonly openBelow: boolean;
  readonly openAbove: boolean;
  /** Whether it makes any difference that can be seen. */
  readonly flat: number;
}

/** As good as it gets: within so many points of the best. */
export const AS_GOOD = 2;
/** With fewer different numbers than this there is no curve. */
const LEAST_LEVELS = 3;
/** As likely as this it is said to be still rising at an end. */
const OPEN = 0.5;

/**
 * Curves of every number that was varied in at least three steps, of landed: other factors and boards taken off by the
 * fit, what failed counted as nothing landed. Over the logarithm of the number, so that twice as long is as far
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
    const seen = asked.patches.flatMap(p => {
      const level = p.levels[f];
      if (level === undefined || level === NO_LEVEL) return [];
      const x = Math.log(really(p.code, f) ?? Number(factor.levels[level]));
      if (p.failed) return [{ x, y: worth }];
      if (p.value === undefined) return [];
      const own = means.get(level);
      const all = analysis.combination?.(p.levels)?.value;
      // What its other levels add is taken off; a number that only ever fails has no mean of its own.
      return [{ x, y: own === undefined || all === undefined ? p.value : p.value - (all - own) }];
    });
    if (new Set(seen.map(s => s.x.toFixed(2))).size < LEAST_LEVELS) return [];
    const curve = curveOf(seen, asked.bounds);
    return curve ? [doseOf(f, curve)] : [];
  });
}

function doseOf(factor: number, { grid, paths, mean }: Curve): Dose {
  const n = grid.length;
  const last = n - 1;
  const ends = paths.map(path => {
    const top = Math.max(...path);
    const good = path.flatMap((v, i) => (v >= top - AS_GOOD ? [i] : []));
    const best = path.indexOf(top);
    // The stretch about the best: a second one far off is another matter.
    let [a, b] = [best, best];
    while (a > 0 && path[a - 1] >= top - AS_GOOD) a--;
    while (b < last && path[b + 1] >= top - AS_GOOD) b++;
    return { a, b, all: good.length === n };
  });
  const range = (places: readonly number[]) => {
    const sorted = [...places].sort((x, y) => x - y);
    const at = (share: number) => Math.exp(grid[sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]]);
    return { x: at(0.5), lo: at(0.05), hi: at(0.95) };
  };
  const share = (yes: (e: (typeof ends)[number]) => boolean) => ends.filter(yes).length / ends.length;
  return {
    factor,
    points: grid.map((g, i) => {
      const own = paths.map(p => p[i]).sort((x, y) => x - y);
      const at = (s: number) => own[Math.min(own.length - 1, Math.floor(s * own.length))];
      return { x: Math.exp(g), mean: mean[i], lo: at(0.05), hi: at(0.95) };
    }),
    from: range(ends.map(e => e.a)),
    to: range(ends.map(e => e.b)),
    // The best stretch is but the end itself, or nothing before it is as good.
    openBelow: share(e => e.b < n / 6) >= OPEN,
    openAbove: share(e => e.a > n - n / 6) >= OPEN,
    flat: share(e => e.all),
  };
}

/** As sure as this it is said that it makes no difference. */
const FLAT = 0.8;

/**
 * A curve in a sentence.
 *
 * @param said a number of the factor in words.
 */
export function doseSentence(name: string, dose: Dose, said: (x: number) => string): string {
  const { from, to, points } = dose;
  const range = (end: Dose['from']) =>
    said(end.lo) === said(end.hi) ? said(end.x) : `${said(end.x)} (${said(end.lo)} to ${said(end.hi)})`;
  const [least, most] = [points[0].x, points[points.length - 1].x];
  if (dose.flat >= FLAT)
    return `${name}: from ${said(least)} to ${said(most)} all is as good: the least of it will do.`;
  if (dose.openAbove) return `${name}: it still gets better at ${said(most)}; what lies beyond was not tried.`;
  if (dose.openBelow) return `${name}: it still gets better at ${said(least)}; what lies below was not tried.`;
  const after = to.hi >= most * 0.97 ? '' : `; too much from ${range(to)}`;
  const before =
    from.lo <= least * 1.03
      ? `${said(least)} may already be as good as it gets, most likely it is from ${said(from.x)}`
      : `as good as it gets from ${range(from)}`;
  return `${name}: ${before}${after}.`;
}
