import { methodsOf, type Nest, nestOf, type TrialPlan } from '../trial/index.ts';
import { type Fit, fitModel, type Observation } from './linear-model.ts';

/** How one factor is judged: by which fit, and as which factor of it. */
export interface Judged {
  readonly fit: Fit;
  readonly factor: number;
}

/** The fits of one measure: one over all patches, and for each factor the one it is judged by. */
export interface Fits {
  readonly all: Fit;
  of(factor: number): Judged;
  /** A factor of which every level was made in one go: what happened to the go happened to the level. */
  readonly unjudged: ReadonlySet<number>;
}

type Seen = Observation & { readonly code: string };

/**
 * Fits a trial as it was laid out. Boards and oven loads are blocks. A factor given to whole strips, or made together, is
 * judged from the means of its strips or groups (the whole-plot stratum of a split-plot, Yates 1935), the others within
 * them. Nothing when there is too little to fit.
 *
 * @example fitsOf(plan, []); // => undefined
 */
export function fitsOf(plan: TrialPlan, data: readonly Seen[]): Fits | undefined {
  const counts = plan.factors.map(f => f.levels.length);
  const pairs = plan.design.interactions;
  const patchOf = new Map(plan.patches.map(p => [p.code, p]));
  const whole = plan.factors.findIndex(f => f.key === (plan.design.stripKey ?? plan.design.groupKey));
  const plots = new Map<string, number>();
  const plotOf = (d: Seen): number => {
    const p = patchOf.get(d.code)!;
    const isLoad = plan.design.loadSize !== null || plan.board.onePiece;
    const key =
      p.strip !== undefined ? `${p.strip}` : isLoad ? `${p.group}` : `${p.board} ${p.repeat} ${p.group}`;
    if (!plots.has(key)) plots.set(key, plots.size);
    return plots.get(key)!;
  };
  const boardOf = (d: Seen): number => {
    const p = patchOf.get(d.code)!;
    if (plan.design.loadSize !== null && whole < 0) return p.group ?? 0;
    // Single pieces made later are a block of their own, as a further board is.
    return plan.board.onePiece ? (p.batch ?? 0) : p.board;
  };
  const blocked = data.map(d => ({ ...d, block: boardOf(d) }));
  const nest = nestOf(plan.factors, methodsOf(plan));
  const all = fitModel(counts, blocked, pairs, undefined, nest);
  if (!all) return undefined;
  if (whole < 0) return { all, of: factor => ({ fit: all, factor }), unjudged: new Set() };
  const between = fitModel([counts[whole]], plotMeans(blocked, plotOf, whole));
  const rest = counts.map((_, f) => f).filter(f => f !== whole);
  const crossed = pairs.some(pair => pair.includes(whole));
  const within = data.map(d => ({ ...d, block: plotOf(d) }));
  // With interactions of what was given to whole strips the strips hold its effect and the rest is fitted beside them.
  const inside = crossed
    ? fitModel(counts, within, pairs, whole, nest)
    : fitModel(
        rest.map(f => counts[f]),
        within.map(d => ({ ...d, levels: rest.map(f => d.levels[f]) })),
        pairs.map(([a, b]): [number, number] => [rest.indexOf(a), rest.indexOf(b)]),
        undefined,
        restOf(nest, rest),
      );
  return {
    all,
    of: factor =>
      factor === whole
        ? { fit: between ?? all, factor: between ? 0 : factor }
        : inside
          ? { fit: inside, factor: crossed ? factor : rest.indexOf(factor) }
          : { fit: all, factor },
    unjudged: new Set(between ? [] : [whole]),
  };
}

/**
 * How the factors `rest` are nested; nothing where the method is not among them: what it shifts is then in the strips
 * or groups it was given to.
 */
const restOf = (nest: Nest | undefined, rest: readonly number[]): Nest | undefined =>
  nest && rest.includes(nest.by) ? { by: rest.indexOf(nest.by), has: rest.map(f => nest.has[f]) } : undefined;

/** The mean of each strip or group as one observation of its level. */
function plotMeans(data: readonly Seen[], plotOf: (d: Seen) => number, whole: number): Observation[] {
  const plots = new Map<number, Seen[]>();
  for (const d of data) plots.set(plotOf(d), [...(plots.get(plotOf(d)) ?? []), d]);
  return [...plots.values()].map(own => ({
    levels: [own[0].levels[whole]],
    value: own.reduce((sum, d) => sum + d.value, 0) / own.length,
    block: own[0].block ?? 0,
  }));
}
