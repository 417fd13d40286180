import betaCdf from '@stdlib/stats-base-dists-beta-cdf';
import { chanceOf } from '../models/index.ts';
import { joined, named, say, type Words } from '../say/index.ts';
import type { Analysis } from './analyse.ts';

/** A residual is named as astray when one so large comes by chance less often than this among all of them. */
const ASTRAY = 0.01;
const DRIFT = 0.01;
const UNEQUAL = 0.01;
const LACK = 0.01;
/** With fewer patches than this to spare nothing is said of the scatter. */
const LEAST_SPARE = 6;

/**
 * What speaks against the picture that was fitted, in sentences: a patch far from what its levels say, a drift along the
 * order of work, scatter that grows.
 */
export function checksOf({ fit, asked }: Analysis, name: (factor: number, level: number) => Words): Words[] {
  if (!fit) return [];
  const { residuals } = fit.mixed;
  const measured = asked.patches.filter(p => !p.failed && p.value !== undefined && Number.isFinite(p.value));
  const spare = residuals.length - fit.coded.parts.q.length;
  if (spare < LEAST_SPARE) return [];
  const found: Words[] = [];
  const stray = strayIn(residuals, fit.coded.parts.q);
  if (stray) {
    const { code, levels } = measured[stray.at];
    const far = residuals[stray.at] > 0 ? 'higher' : 'lower';
    const own = levels.map((l, f) => (l < 0 ? '' : name(f, l))).filter(Boolean);
    found.push(
      say`${named(code, 'patch')} (${own.length ? joined(own, ', ') : 'your usual way'}) lies much ${far} than its levels say: look at it again, and at what was different when it was made.`,
    );
  }
  const order = measured.map(p => p.order);
  if (order.every(o => o !== undefined)) {
    const drift = slopeOf(order as number[], residuals);
    if (drift.p < DRIFT)
      found.push(
        `What was made later came out ${drift.slope > 0 === (asked.better === 'high') ? 'better' : 'worse'} than what was made before: something changed while you worked.`,
      );
  }
  const misfit = lackOfFit(
    measured.map(p => p.levels.join()),
    residuals,
    fit.coded.parts.q.length,
  );
  if (misfit < LACK && asked.factors.length > 1)
    found.push(
      asked.pairs.length
        ? 'What was measured does not follow from its levels and the pairs you chose: other things go together too.'
        : 'What was measured does not simply add up from its levels: some of them go better together than by themselves. Plan it once more with pairs chosen to have that told.',
    );
  asked.factors.forEach((factor, f) => {
    const groups = factor.levels.map((_, l) =>
      [...residuals].filter((_, i) => measured[i].levels[f] === l).map(Math.abs),
    );
    if (groups.length === 2 && groups.every(g => g.length >= 4)) {
      const { p, more } = welch(groups[0], groups[1]);
      if (p < UNEQUAL) found.push(say`${name(f, more)} comes out less evenly than ${name(f, 1 - more)}.`);
    }
  });
  return found;
}

/** The largest residual by its own standard deviation, where it is too large for chance (externally studentised, Bonferroni). */
function strayIn(residuals: Float64Array, q: readonly Float64Array[]): { at: number } | undefined {
  const n = residuals.length;
  const free = n - q.length;
  const rss = residuals.reduce((sum, r) => sum + r * r, 0);
  let best = { at: -1, p: 1 };
  for (let i = 0; i < n; i++) {
    const lever = q.reduce((sum, u) => sum + u[i] * u[i], 0);
    if (lever > 0.999) continue;
    const without = (rss - residuals[i] ** 2 / (1 - lever)) / (free - 1);
    if (!(without > 0)) continue;
    const t = residuals[i] / Math.sqrt(without * (1 - lever));
    const p = chanceOf(t, 1, free - 1) * n;
    if (p < best.p) best = { at: i, p };
  }
  return best.p < ASTRAY ? best : undefined;
}

function slopeOf(x: readonly number[], y: Float64Array): { slope: number; p: number } {
  const n = x.length;
  const mean = x.reduce((a, b) => a + b, 0) / n;
  const sxx = x.reduce((sum, v) => sum + (v - mean) ** 2, 0);
  if (!sxx) return { slope: 0, p: 1 };
  const my = y.reduce((a, b) => a + b, 0) / n;
  const slope = x.reduce((sum, v, i) => sum + (v - mean) * (y[i] - my), 0) / sxx;
  const rss = x.reduce((sum, v, i) => sum + (y[i] - my - slope * (v - mean)) ** 2, 0);
  return { slope, p: chanceOf(slope, Math.sqrt(rss / (n - 2) / sxx), n - 2) };
}

/**
 * Chance of so much more scatter between patches of different levels than between those made alike, were the model right:
 * the F test of lack of fit against pure error (Draper & Smith 1998, §2.1); 1 where nothing was made twice.
 *
 * @param spent how many numbers were fitted.
 */
function lackOfFit(kinds: readonly string[], residuals: Float64Array, spent: number): number {
  const groups = new Map<string, number[]>();
  kinds.forEach((k, i) => {
    groups.set(k, [...(groups.get(k) ?? []), residuals[i]]);
  });
  let [pure, df] = [0, 0];
  for (const own of groups.values()) {
    const mean = own.reduce((a, b) => a + b, 0) / own.length;
    pure += own.reduce((sum, r) => sum + (r - mean) ** 2, 0);
    df += own.length - 1;
  }
  const rss = residuals.reduce((sum, r) => sum + r * r, 0);
  const spare = residuals.length - spent - df;
  if (df < LEAST_SPARE || spare < 1 || pure <= 1e-12 * rss) return 1;
  const f = (rss - pure) / spare / (pure / df);
  return 1 - betaCdf((spare * f) / (spare * f + df), spare / 2, df / 2);
}

/** Levene's comparison of two groups of absolute residuals, by Welch's t. */
function welch(a: readonly number[], b: readonly number[]): { p: number; more: 0 | 1 } {
  const of = (v: readonly number[]) => {
    const m = v.reduce((s, x) => s + x, 0) / v.length;
    return { m, e: v.reduce((s, x) => s + (x - m) ** 2, 0) / (v.length - 1) / v.length, n: v.length };
  };
  const [x, y] = [of(a), of(b)];
  const df = (x.e + y.e) ** 2 / (x.e ** 2 / (x.n - 1) + y.e ** 2 / (y.n - 1) || 1);
  return { p: chanceOf(x.m - y.m, Math.sqrt(x.e + y.e), Math.max(1, df)), more: x.m > y.m ? 0 : 1 };
}
