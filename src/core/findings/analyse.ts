import {
  type Case,
  type Chance01,
  coded,
  type Decision,
  decide,
  type Estimated,
  fitCases,
  fitLogistic,
  type LogisticFit,
  type Model,
  type ModelFit,
  meanRow,
} from '../models/index.ts';
import { agree, many, say, type Words } from '../say/index.ts';
import { type Nest, NO_LEVEL } from '../trial/index.ts';

/** One patch, as far as one response goes. */
export interface Seen {
  readonly code: string;
  /** Its level of each factor; −1 for what its method does not have; none of a control, which tells of boards and days only. */
  readonly levels: readonly number[];
  /** Nothing where it was not measured, or where it failed. */
  readonly value?: number | undefined;
  /** It did not work at all: torn, smeared, given up for what was tried on it. */
  readonly failed: boolean;
  /** What it shares with others, a name for each random term. */
  readonly shares: readonly string[];
  /** Its place in the order of work, where that is known. */
  readonly order?: number | undefined;
}

/** What is asked of the patches of a trial about one response. */
export interface Asked {
  readonly factors: readonly { readonly name: string; readonly levels: readonly Words[] }[];
  readonly pairs: readonly (readonly [number, number])[];
  readonly nest?: Nest | undefined;
  readonly random: readonly string[];
  readonly patches: readonly Seen[];
  readonly better: 'high' | 'low';
  readonly bounds?: readonly [number, number] | undefined;
  /** What one that failed is worth; without it the worse end of the scale, or the worst that was seen. */
  readonly worth?: number | undefined;
  readonly draws?: number;
  /** How many draws of the decision are to be handed out whole. */
  readonly worlds?: number;
}

/** Two levels of a factor compared. */
export interface Difference extends Estimated {
  readonly factor: number;
  readonly a: number;
  readonly b: number;
  readonly p: number;
}

/** A comparison that the patches cannot tell, and what it is mixed up with. */
export interface NotTold {
  readonly factor: number;
  readonly levels: readonly number[];
  /** The factors that it cannot be told from; none where a level has no patch. */
  readonly from: readonly number[];
  /** What patches share that it cannot be told from, by its name: each option had a board of its own. */
  readonly shared?: string | undefined;
}

/** How much of an option failed. */
export interface Failing {
  readonly factor: number;
  readonly level: number;
  readonly failed: number;
  readonly of: number;
  /** Nothing where the patches do not tell it. */
  readonly chance?: Chance01 | undefined;
}

/** What the patches of a trial say of one response. */
export interface Analysis {
  readonly asked: Asked;
  /** Nothing where too little was measured. */
  readonly fit?: ModelFit | undefined;
  readonly measured: number;
  readonly failures: number;
  readonly missing: number;
  /** Means of each level of each factor, and of each pair of levels of factors whose effect together is in the model. */
  readonly means: readonly {
    readonly at: ReadonlyMap<number, number>;
    readonly estimate: Estimated;
    readonly n: number;
  }[];
  readonly differences: readonly Difference[];
  /** Factors that the decision can be made for. */
  readonly told: readonly number[];
  /** What one combination is expected to measure; nothing where the patches do not tell it. */
  combination?(levels: readonly number[]): Estimated | undefined;
  readonly notTold: readonly NotTold[];
  readonly failing: readonly Failing[];
  readonly failureFit?: LogisticFit | undefined;
  /** Combinations that can be taken, in the order in which they first come. */
  readonly options: readonly (readonly number[])[];
  readonly decision?: Decision | undefined;
  /** Why there is no more, in words. */
  readonly why?: Words | undefined;
}

const levelsOf = (asked: Asked): Model => ({
  counts: asked.factors.map(f => f.levels.length),
  pairs: asked.pairs,
  nest: asked.nest,
});

/** Why nothing could be fitted, in words. */
function whyNoFit(values: readonly number[], random: readonly string[]): Words {
  const count = many(values.length, 'measured patch');
  if (values.length > 1 && values.every(v => v === values[0]))
    return say`All ${count} came out the same: there is no scatter to tell a difference by.`;
  const what = random.length ? `effects and what patches share (${random.join(', ')})` : 'effects';
  return say`${count} ${agree(values.length, 'is', 'are')} too few: at least one more is needed than there are ${what}.`;
}

/**
 * Looks at one response of a trial: what can be told at all, means and differences with intervals, how much failed, and
 * how sure it is which option is best.
 *
 * @example analyse({ factors: [{ name: 'Medium', levels: ['matte', 'gel'] }], pairs: [], random: [], patches: [], better: 'high' }).why; // => 'No patch was measured.'
 */
export function analyse(asked: Asked): Analysis {
  const { patches, factors, bounds } = asked;
  const fits = patches.filter(p => !p.failed && p.value !== undefined && Number.isFinite(p.value));
  const own = patches.filter(p => p.levels.length);
  const measured = fits.filter(p => p.levels.length);
  const model = { ...levelsOf(asked), control: fits.length > measured.length };
  const failures = own.filter(p => p.failed).length;
  const base = {
    asked,
    measured: measured.length,
    failures,
    missing: own.length - measured.length - failures,
  };
  const judged = own.filter(p => p.failed || measured.includes(p));
  const failureFit = failures
    ? fitLogistic(
        { ...model, pairs: [], control: false },
        judged.map(p => ({ levels: p.levels, failed: p.failed })),
      )
    : undefined;
  const failing = factors.flatMap((f, factor) =>
    f.levels.map((_, level): Failing => {
      const own = judged.filter(p => p.levels[factor] === level);
      return {
        ...{ factor, level },
        failed: own.filter(p => p.failed).length,
        of: own.length,
        chance: failureFit?.mean(new Map([[factor, level]])),
      };
    }),
  );
  const nothing = { means: [], differences: [], told: [], notTold: [], options: [] };
  const rest = { ...base, failing, failureFit };
  if (!measured.length)
    return {
      ...rest,
      ...nothing,
      why: failures ? 'Every patch failed: no option worked.' : 'No patch was measured.',
    };
  const cases = fits.map((p): Case => ({ levels: p.levels, value: p.value!, shares: p.shares }));
  const seen = seenLevels(model, measured);
  const fit = fitCases(
    {
      ...model,
      counts: seen.map(own => Math.max(1, own.length)),
      nest: model.nest && {
        by: model.nest.by,
        has: model.nest.has.map(row => seen[model.nest!.by].map(m => row[m])),
      },
    },
    cases.map(c => ({ ...c, levels: c.levels.map((l, f) => (l === NO_LEVEL ? l : seen[f].indexOf(l))) })),
    bounds,
  );
  const options = [...new Map(judged.map(p => [p.levels.join(), p.levels])).values()];
  if (!fit) {
    const known = coded(
      model,
      fits.map(p => p.levels),
    );
    return {
      ...rest,
      ...nothing,
      options,
      why: whyNoFit(
        fits.map(p => p.value!),
        // Where there would be enough without what they share.
        fits.length > known.parts.q.length ? asked.random : [],
      ),
    };
  }
  const { means, differences, notTold } = comparedIn(fit, seen, asked, measured);
  // What differs only between boards, with no more boards than options, nobody can judge, however it comes out.
  const told = toldBy(
    { ...model, control: false },
    judged.map(p => p.levels),
  ).filter(f => !notTold.some(n => n.factor === f && n.shared !== undefined));
  const worst = asked.better === 'high' ? Math.min : Math.max;
  const worth =
    asked.worth ??
    (bounds ? (asked.better === 'high' ? bounds[0] : bounds[1]) : worst(...measured.map(p => p.value!)));
  const decision = decide({
    model,
    cases,
    options,
    better: asked.better,
    bounds,
    // Also where none failed yet: of a few patches that says little, and it may be another option that fails.
    failure: { cases: judged.map(p => ({ levels: p.levels, failed: p.failed })), worth },
    ...(asked.draws ? { draws: asked.draws } : {}),
    ...(asked.worlds ? { worlds: asked.worlds } : {}),
  });
  return {
    ...{ ...rest, fit, means, differences, told, notTold, options, decision },
    combination: levels => {
      const own = levels.map((l, f) => (l === NO_LEVEL ? l : seen[f].indexOf(l)));
      return own.some((l, f) => l < 0 && levels[f] !== NO_LEVEL) ? undefined : fit.combination(own);
    },
  };
}

/** The levels of each factor that were measured at all: what nobody measured is no part of a mean over all. */
const seenLevels = ({ counts }: Model, measured: readonly Seen[]): readonly (readonly number[])[] =>
  counts.map((count, f) =>
    Array.from({ length: count }, (_, l) => l).filter(l => measured.some(p => p.levels[f] === l)),
  );

/** The factors of which every two levels can be told apart by what worked and what failed. */
export function toldBy(model: Model, runs: readonly (readonly number[])[]): number[] {
  const known = coded(model, runs);
  const row = (f: number, l: number) => meanRow(model, new Map([[f, l]]));
  return model.counts.flatMap((count, f) => {
    const first = row(f, 0);
    const others = Array.from({ length: count - 1 }, (_, l) => row(f, l + 1).map((v, j) => v - first[j]));
    return count > 1 && others.every(r => known.told(r)) ? [f] : [];
  });
}

function comparedIn(
  fit: ModelFit,
  seen: readonly (readonly number[])[],
  { factors, pairs, random }: Asked,
  measured: readonly Seen[],
) {
  const means: Analysis['means'][number][] = [];
  const differences: Difference[] = [];
  const notTold: NotTold[] = [];
  const add = (at: ReadonlyMap<number, number>) => {
    const own = new Map([...at].map(([f, l]) => [f, seen[f].indexOf(l)]));
    const estimate = [...own.values()].every(l => l >= 0) ? fit.mean(own) : undefined;
    const n = measured.filter(p => [...at].every(([f, l]) => p.levels[f] === l)).length;
    if (estimate) means.push({ at, estimate, n });
  };
  factors.forEach((factor, f) => {
    for (let level = 0; level < factor.levels.length; level++) add(new Map([[f, level]]));
    for (let a = 0; a < factor.levels.length; a++)
      for (let b = a + 1; b < factor.levels.length; b++) {
        const [x, y] = [seen[f].indexOf(a), seen[f].indexOf(b)];
        const found = x >= 0 && y >= 0 ? fit.difference(f, x, y) : undefined;
        if (found) {
          differences.push({ factor: f, a, b, ...found });
          continue;
        }
        const isSeen = x >= 0 && y >= 0;
        const held = isSeen ? fit.heldBy(f, x, y) : undefined;
        notTold.push({
          ...{ factor: f, levels: [a, b], from: isSeen ? fit.mixedWith(f, x, y) : [] },
          ...(held === undefined ? {} : { shared: random[held] }),
        });
      }
  });
  for (const [f, g] of pairs)
    for (let a = 0; a < factors[f].levels.length; a++)
      for (let b = 0; b < factors[g].levels.length; b++)
        add(
          new Map([
            [f, a],
            [g, b],
          ]),
        );
  return { means, differences, notTold };
}
