import { type AsResponse, type MeasureId, RESPONSES, type Response } from '../measures/index.ts';
import { type Waited, waitsOf } from '../progress/index.ts';
import {
  factorIn,
  type Intent,
  isSpoilt,
  levelName,
  NO_LEVEL,
  namesOf,
  readingOf,
  type TrialPlan,
  type TrialRecord,
  verdictOf,
  type WearTest,
} from '../trial/index.ts';
import { span } from '../units/index.ts';
import { type Fit, halfWidth, type Observation, pValue } from './linear-model.ts';
import { AS_LOSS, lossObservations } from './losses.ts';
import { type Fits, fitsOf } from './strata.ts';

export {
  type Estimate,
  type Fit,
  fitModel,
  halfWidth,
  type Observation,
  oneWayF,
  pValue,
} from './linear-model.ts';
export { AS_LOSS, type Loss, lossesOf } from './losses.ts';
export { type Fits, fitsOf } from './strata.ts';

/** What one factor does to one measure. */
export interface Effect {
  readonly measure: MeasureId;
  readonly factor: number;
  readonly name: string;
  /** Mean and 90 % interval of each level, in the units of the measure. */
  readonly levels: readonly {
    readonly name: string;
    readonly mean: number;
    readonly lo: number;
    readonly hi: number;
    readonly n: number;
  }[];
  readonly best: number;
  /** Best less second best; its p-value allows for having picked the best of several. */
  readonly lead: number;
  readonly p: number;
  readonly sentence: string;
}

/** What one factor does to how much a wear test takes off. */
export interface Lasting extends Omit<Effect, 'measure'> {
  readonly test: WearTest;
}

export interface Findings {
  readonly effects: readonly Effect[];
  readonly measured: number;
  readonly missing: number;
  /** Patches that only a practice photo speaks of; they are all that counts, or, where others are real, left out. */
  readonly practice: { readonly patches: number; readonly counts: boolean };
  /** Patches that were not given the time of their level, and so say nothing of it: left out where it is compared. */
  readonly strayed: readonly Waited[];
  /** The combination that leads, with what is expected of it. */
  readonly leading?: {
    readonly levels: readonly number[];
    readonly landed: { value: number; lo: number; hi: number };
    readonly veil?: { value: number; lo: number; hi: number };
    readonly patches: readonly string[];
    readonly certain: boolean;
    readonly sentence: string;
  };
  /** Why nothing can be said yet. */
  readonly why?: string;
}

/**
 * Values of one measure by patch: from the reading that counts; spoilt and wet-only patches left out, and those that
 * only a practice photo speaks of where there are real ones: what is made up never mixes with what is measured.
 *
 * @example observations(plan, records, 'landed').map(o => o.value); // => [80]
 */
export function observations(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  measure: MeasureId,
): (Observation & { code: string })[] {
  const astray = new Set(strayedIn(plan, records).map(w => w.patch));
  const found = plan.patches.flatMap(patch => {
    if (!patch.levels.length || isSpoilt(records, patch.code) || astray.has(patch.code)) return [];
    const found = readingOf(records, patch.code);
    if (found?.photo.stage !== 'dry') return [];
    const value = found.reading.reading[measure];
    const isPractice = found.photo.simulated;
    return value == null ? [] : [{ code: patch.code, levels: patch.levels, value, isPractice }];
  });
  const isReal = found.some(o => !o.isPractice);
  return found.flatMap(({ isPractice, ...o }) => (isReal && isPractice ? [] : [o]));
}

/** Patches whose wait strayed from their level, where waits are compared. */
const strayedIn = (plan: TrialPlan, records: readonly TrialRecord[]): Waited[] =>
  plan.factors.some(f => f.key === 'dryHours') ? waitsOf(plan, records).filter(w => w.strayed) : [];

function practised(plan: TrialPlan, records: readonly TrialRecord[]): Findings['practice'] {
  const read = plan.patches.flatMap(p => (p.levels.length && readingOf(records, p.code)) || []);
  const patches = read.filter(r => r.photo.simulated).length;
  return { patches, counts: patches > 0 && patches === read.length };
}

/**
 * What a trial supports: the effect of each factor on landed and on veil with 90 % intervals and
 * one honest sentence each, and the combination that leads.
 *
 * @example findingsOf(plan, []).measured; // => 0
 */
export function findingsOf(plan: TrialPlan, records: readonly TrialRecord[]): Findings {
  const judged = RESPONSES.map(by => {
    const data = observations(plan, records, by.id);
    return { by, data, fits: data.length ? fitsOf(plan, data) : undefined };
  });
  const [landed, veil] = (['landed', 'veil'] as const).map(id => judged.find(j => j.by.id === id)!);
  const missing = plan.patches.filter(p => p.levels.length).length - landed.data.length;
  const measured = landed.data.length;
  const practice = practised(plan, records);
  const strayed = strayedIn(plan, records);
  if (!landed.fits)
    return {
      effects: [],
      measured,
      missing,
      practice,
      strayed,
      why: measured
        ? 'Not enough patches are read yet: every level needs a dry reading, and at least one more patch than there are effects.'
        : 'No patch has a dry reading yet. Read the photos first.',
    };
  const named = levelsAsDone(plan, records);
  const effects = plan.factors.flatMap((_, f) =>
    judged.flatMap(({ by, data, fits }) =>
      fits ? [{ measure: by.id, ...effectOf(plan, f, by, fits, data, named) }] : [],
    ),
  );
  return {
    effects,
    measured,
    missing,
    practice,
    strayed,
    leading: leadingOf(plan, records, landed.fits.all, veil.fits?.all, landed.data, named),
  };
}

/**
 * How much patches made alike differ in this trial, in points landed: the residual of its fit; nothing while it has none.
 *
 * @example scatterOf(plan, records); // => undefined
 */
export function scatterOf(
  plan: TrialPlan,
  records: readonly TrialRecord[],
): { readonly residualSd: number; readonly degreesOfFreedom: number } | undefined {
  const landed = observations(plan, records, 'landed');
  const fit = landed.length ? fitsOf(plan, landed)?.all : undefined;
  return fit && { residualSd: fit.residualSd, degreesOfFreedom: fit.degreesOfFreedom };
}

/**
 * Whether it lasts: what every factor does to the loss in each wear test, with the same care as findings. Empty until
 * enough patches are photographed before and after.
 *
 * @example lastingOf(plan, records); // => []
 */
export function lastingOf(plan: TrialPlan, records: readonly TrialRecord[]): Lasting[] {
  const named = levelsAsDone(plan, records);
  return plan.wear.flatMap(test => {
    const data = lossObservations(plan, records, test);
    const fits = data.length ? fitsOf(plan, data) : undefined;
    if (!fits) return [];
    return plan.factors.map((_, f) => ({ test, ...effectOf(plan, f, AS_LOSS, fits, data, named) }));
  });
}

function effectOf(
  plan: TrialPlan,
  f: number,
  by: Pick<Response, 'better' | 'response'>,
  fits: Fits,
  data: readonly Observation[],
  named: (f: number, level: number) => string,
): Omit<Effect, 'measure'> {
  const { fit, factor: own } = fits.of(f);
  const factor = plan.factors[f];
  const levels = factor.levels.map((_, i) => {
    const mean = fit.mean(own, i);
    const half = halfWidth(mean, fit.degreesOfFreedom);
    const n = data.filter(d => d.levels[f] === i).length;
    return {
      name: named(f, i),
      mean: mean.value,
      lo: mean.value - half,
      hi: mean.value + half,
      n,
    };
  });
  const ranked = levels
    .map((_, i) => i)
    .sort((a, b) =>
      by.better === 'more' ? levels[b].mean - levels[a].mean : levels[a].mean - levels[b].mean,
    );
  const [best, second] = ranked;
  const difference = fit.difference(own, best, second);
  const p = pValue(difference, fit.degreesOfFreedom, levels.length - 1);
  const worst = ranked.at(-1)!;
  const spread = pValue(
    fit.difference(own, best, worst),
    fit.degreesOfFreedom,
    (levels.length * (levels.length - 1)) / 2,
  );
  return {
    factor: f,
    name: factorIn(plan, factor.key),
    levels,
    best,
    lead: difference.value,
    p,
    sentence: fits.unjudged.has(f)
      ? `Every ${factorIn(plan, factor.key).toLowerCase()} was made in one go, so it cannot be told from what happened to that go.`
      : sentenceFor({
          words: by.response,
          best: levels[best].name,
          second: levels[second].name,
          worst: levels[worst].name,
          lead: Math.abs(difference.value),
          half: halfWidth(difference, fit.degreesOfFreedom),
          gap: Math.abs(levels[best].mean - levels[worst].mean),
          p,
          spread,
          two: levels.length === 2,
        }),
  };
}

interface Telling {
  readonly words: AsResponse;
  readonly best: string;
  readonly second: string;
  readonly worst: string;
  readonly lead: number;
  readonly half: number;
  readonly gap: number;
  readonly p: number;
  readonly spread: number;
  readonly two: boolean;
}

/** Waits that differ by more than this share from what was planned are said as they were. */
const AS_PLANNED = 0.1;

/**
 * Levels by name as they were done: of a wait that came out otherwise than planned, what it really was in the middle of
 * its patches.
 */
function levelsAsDone(
  plan: TrialPlan,
  records: readonly TrialRecord[],
): (f: number, level: number) => string {
  const waits = new Map(waitsOf(plan, records).map(w => [w.patch, w]));
  return (f, level) => {
    const factor = plan.factors[f];
    if (level === NO_LEVEL) return '';
    const name = levelName(namesOf(plan), factor.key, factor.levels[level]);
    if (factor.key !== 'dryHours') return name;
    const own = plan.patches.flatMap(p => {
      const waited = p.levels[f] === level ? waits.get(p.code) : undefined;
      return waited && !waited.strayed ? [waited.waitedMin] : [];
    });
    if (!own.length) return name;
    const real = median(own);
    const planned = Number(factor.levels[level]) * 60;
    return Math.abs(real / planned - 1) > AS_PLANNED ? `${name} (really ${span(real)})` : name;
  };
}

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const mid = sorted.length >> 1;
  return sorted.length % 2 ? sorted[mid] : (sorted[mid - 1] + sorted[mid]) / 2;
};

/** One sentence that says no more than the numbers do. */
function sentenceFor(t: Telling): string {
  const give = `${t.words.difference(t.lead)} (give or take ${t.words.difference(t.half)})`;
  if (t.p < 0.05) return `${t.best} ${t.words.more} than ${t.two ? t.second : 'every other'}, by ${give}.`;
  if (!t.two && t.spread < 0.05)
    return `${t.best} ${t.words.more} than ${t.worst}, by ${t.words.difference(t.gap)}; between ${t.best} and ${t.second} it is too close to call.`;
  if (t.p < 0.3) return `${t.best} is ahead of ${t.second} by ${give}, but two more repeats could change it.`;
  return `No difference in ${t.words.noun} can be told apart from chance here; ${t.best} and ${t.second} are ${t.words.difference(t.lead)} apart.`;
}

/** How much a point of veil (0.01) costs against a point landed, for each intent. */
const VEIL_COST: Record<Intent, number> = { crisp: 0.8, worn: 0.25, painterly: 0.35 };

function leadingOf(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  landedFit: Fit,
  veilFit: Fit | undefined,
  data: readonly (Observation & { code: string })[],
  named: (f: number, level: number) => string,
) {
  const combos = [...new Map(data.map(d => [d.levels.join(), d.levels])).values()];
  const score = (levels: readonly number[]) =>
    landedFit.combination(levels).value -
    (veilFit ? 100 * veilFit.combination(levels).value * VEIL_COST[plan.intent] : 0);
  const ranked = combos
    .map(levels => ({
      levels,
      score: score(levels),
      scrap: patchesOf(plan, levels).filter(code => verdictOf(records, code)?.verdict === 'scrap').length,
    }))
    .sort((a, b) => a.scrap - b.scrap || b.score - a.score);
  const [first, next] = ranked;
  if (!first) return undefined;
  const range = (fit: Fit, low: number, high: number) => {
    const e = fit.combination(first.levels);
    const half = halfWidth(e, fit.degreesOfFreedom);
    return { value: e.value, lo: Math.max(low, e.value - half), hi: Math.min(high, e.value + half) };
  };
  const e = landedFit.combination(first.levels);
  const gap = next ? first.score - next.score : Number.POSITIVE_INFINITY;
  const certain = gap > 2 * Math.SQRT2 * e.standardError;
  const inWords = (levels: readonly number[]) =>
    levels
      .map((level, f) => named(f, level))
      .filter(Boolean)
      .join(', ');
  const name = inWords(first.levels);
  const runnerUp = next && inWords(next.levels);
  return {
    levels: first.levels,
    landed: range(landedFit, 0, 100),
    veil: veilFit ? range(veilFit, 0, 1) : undefined,
    patches: patchesOf(plan, first.levels),
    certain,
    sentence:
      certain || !runnerUp
        ? `${name} leads clearly.`
        : `${name} leads, but ${runnerUp} is too close behind to rule out.`,
  };
}

const patchesOf = (plan: TrialPlan, levels: readonly number[]) =>
  plan.patches.filter(p => p.levels.join() === levels.join()).map(p => p.code);
