import { type AsResponse, type MeasureId, RESPONSES, type Response } from '../measures/index.ts';
import { type Estimated, fitCases } from '../models/index.ts';
import { type Waited, waitsOf } from '../progress/index.ts';
import {
  about,
  factorIn,
  isSpoilt,
  levelName,
  methodsOf,
  NO_LEVEL,
  namesOf,
  nestOf,
  readingOf,
  type TrialPlan,
  type TrialRecord,
  verdictOf,
  type WearTest,
} from '../trial/index.ts';
import { span } from '../units/index.ts';
import { type Analysis, analyse, type Seen } from './analyse.ts';
import { checksOf } from './checks.ts';
import { worthOf } from './intent.ts';
import { AS_LOSS, lossesOf } from './losses.ts';
import { sharedIn } from './shared.ts';
import { choicesOf, factorSentence, failureSentence, headline, SETTLED } from './words.ts';

export { type Analysis, type Asked, analyse, type Seen } from './analyse.ts';
export { DESIRED, type Desired, desirability, worthOf } from './intent.ts';
export { AS_LOSS, type Loss, lossesOf } from './losses.ts';
export { type Rehearsal, type RehearsalAsk, rehearsalWords, rehearse } from './rehearse.ts';
export { type Found, findingsIn, Roles, type Row } from './table.ts';
export { type Choice, choicesOf, factorSentence, failureSentence, headline, surePercent } from './words.ts';

/** What one factor does to one measure. */
export interface Effect {
  readonly measure: MeasureId;
  readonly factor: number;
  readonly name: string;
  /** Mean and 90 % interval of each level on a new board, in the units of the measure; those the patches do not tell are left out. */
  readonly levels: readonly {
    readonly level: number;
    readonly name: string;
    readonly mean: number;
    readonly lo: number;
    readonly hi: number;
    readonly n: number;
  }[];
  /** The level that is most likely the best, and how sure that is; nothing where levels cannot be told apart. */
  readonly best?: number;
  readonly sure?: number;
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
  /** Patches that did not work: scrapped, given up because it failed, or with hardly anything landed. */
  readonly failed: number;
  /** How much failed, in words; empty where nothing did. */
  readonly failing: string;
  /** What speaks against the fit: a stray patch, a drift along the work, uneven scatter. */
  readonly checks: readonly string[];
  /** Patches that only a practice photo speaks of; they are all that counts, or, where others are real, left out. */
  readonly practice: { readonly patches: number; readonly counts: boolean };
  /** Patches that were not given the time of their level, and so say nothing of it: left out where it is compared. */
  readonly strayed: readonly Waited[];
  /** The combination to take, with what is expected of it. */
  readonly leading?: {
    readonly levels: readonly number[];
    readonly name: string;
    readonly landed: { value: number; lo: number; hi: number };
    readonly veil?: { value: number; lo: number; hi: number };
    readonly patches: readonly string[];
    /** Chance that it is the best of all that were tried. */
    readonly sure: number;
    /** Every choice in it is settled. */
    readonly certain: boolean;
    /** The decision in a line or two. */
    readonly sentence: string;
  };
  /** Why nothing can be said yet. */
  readonly why?: string;
}

/** With less of the picture there than this, %, a patch did not work, whatever was said of it. */
const WORKS_FROM = 30;

/**
 * Whether a patch failed for what was tried on it: scrapped, given up because it failed, or with hardly anything landed.
 * One that the maker's own slip spoilt did not; nothing where it was written off and nobody said why.
 *
 * @example hasFailed([], patch.code); // => false
 */
export function hasFailed(records: readonly TrialRecord[], patch: string): boolean {
  if (about(records, patch, 'spoilt').some(r => r.slip === false)) return true;
  if (isSpoilt(records, patch)) return false;
  if (verdictOf(records, patch)?.verdict === 'scrap') return true;
  const read = readingOf(records, patch);
  const landed = read?.photo.stage === 'dry' ? read.reading.reading.landed : null;
  return landed !== null && landed < WORKS_FROM;
}

/** A patch's value of a measure. */
export interface Observed {
  readonly code: string;
  readonly levels: readonly number[];
  readonly value: number;
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
): Observed[] {
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

/** Draws of a decision: enough for a chance to a few percent, quick enough for every look. */
const DRAWS = 1500;

interface Valued {
  readonly by: Pick<Response, 'better'>;
  readonly bounds: readonly [number, number];
  readonly value: (code: string) => number | undefined;
}

/** One response of a trial, looked at by its plan. */
function analysed(plan: TrialPlan, records: readonly TrialRecord[], { by, bounds, value }: Valued): Analysis {
  const astray = new Set(strayedIn(plan, records).map(w => w.patch));
  const shared = sharedIn(plan);
  const seen = plan.patches.flatMap((p): Seen[] => {
    if (!p.levels.length || astray.has(p.code)) return [];
    const failed = hasFailed(records, p.code);
    return [
      {
        code: p.code,
        levels: p.levels,
        value: failed || isSpoilt(records, p.code) ? undefined : value(p.code),
        failed,
        shares: shared.of(p),
        order: p.order,
      },
    ];
  });
  return analyse({
    factors: plan.factors.map(f => ({
      name: factorIn(plan, f.key),
      levels: f.levels.map(l => levelName(namesOf(plan), f.key, l)),
    })),
    pairs: plan.design.interactions,
    nest: nestOf(plan.factors, methodsOf(plan)),
    random: shared.random,
    patches: seen,
    better: by.better === 'more' ? 'high' : 'low',
    bounds,
    draws: DRAWS,
  });
}

const known = new WeakMap<readonly TrialRecord[], { readonly of: TrialPlan; readonly found: Findings }>();

/**
 * What a trial supports: the effect of each factor on every measure with 90 % intervals and one honest sentence each,
 * how much failed, and the decision. The same object for as long as nothing is recorded.
 *
 * @example findingsOf(plan, []).measured; // => 0
 */
export function findingsOf(plan: TrialPlan, records: readonly TrialRecord[]): Findings {
  const before = known.get(records);
  if (before?.of === plan) return before.found;
  const found = findIn(plan, records);
  known.set(records, { of: plan, found });
  return found;
}

function findIn(plan: TrialPlan, records: readonly TrialRecord[]): Findings {
  const judged = RESPONSES.map(by => {
    const values = new Map(observations(plan, records, by.id).map(o => [o.code, o.value]));
    return {
      by,
      analysis: analysed(plan, records, { by, bounds: by.response.bounds, value: code => values.get(code) }),
    };
  });
  const landed = judged.find(j => j.by.id === 'landed')!.analysis;
  const veil = judged.find(j => j.by.id === 'veil')!.analysis;
  const named = levelsAsDone(plan, records);
  const strayed = strayedIn(plan, records);
  const found = {
    measured: landed.measured,
    missing:
      landed.missing +
      strayed.filter(w => plan.patches.some(p => p.code === w.patch && p.levels.length)).length,
    failed: landed.failures,
    failing: failureSentence(landed, named),
    checks: checksOf(landed, named),
    practice: practised(plan, records),
    strayed,
  };
  if (!landed.fit)
    return {
      ...found,
      effects: [],
      why: landed.measured
        ? 'Not enough patches are read yet: at least one more dry reading is needed than there are effects.'
        : landed.failures
          ? 'Every patch failed: no option of this trial worked.'
          : 'No patch has a dry reading yet. Read the photos first.',
    };
  const effects = plan.factors.flatMap((_, f) =>
    judged.flatMap(({ by, analysis }) =>
      analysis.fit ? [{ measure: by.id, ...effectOf(plan, f, by, analysis, named) }] : [],
    ),
  );
  const leading = leadingOf(plan, records, { landed, veil }, named);
  return { ...found, effects, ...(leading ? { leading } : {}) };
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
  const patchOf = new Map(plan.patches.map(p => [p.code, p]));
  const shared = sharedIn(plan);
  const cases = observations(plan, records, 'landed')
    .filter(o => !hasFailed(records, o.code))
    .map(o => ({ ...o, shares: shared.of(patchOf.get(o.code)!) }));
  const model = {
    counts: plan.factors.map(f => f.levels.length),
    pairs: plan.design.interactions,
    nest: nestOf(plan.factors, methodsOf(plan)),
  };
  const fit = fitCases(model, cases);
  if (!fit) return undefined;
  const spent = fit.coded.parts.q.length + fit.mixed.shifts.reduce((sum, s) => sum + s.length - 1, 0);
  return {
    residualSd: Math.sqrt(fit.residualVariance),
    degreesOfFreedom: Math.max(1, cases.length - spent),
  };
}

/**
 * Whether it lasts: what every factor does to the loss in each wear test, with the same care as findings. Empty until
 * enough patches are photographed before and after.
 *
 * @example lastingOf(plan, records); // => []
 */
export function lastingOf(plan: TrialPlan, records: readonly TrialRecord[]): Lasting[] {
  const named = levelsAsDone(plan, records);
  const losses = lossesOf(plan, records);
  return plan.wear.flatMap(test => {
    const own = new Map(losses.filter(l => l.test === test).map(l => [l.patch, l.lost]));
    const analysis = analysed(plan, records, { by: AS_LOSS, bounds: [0, 100], value: code => own.get(code) });
    if (!analysis.fit) return [];
    return plan.factors.map((_, f) => ({ test, ...effectOf(plan, f, AS_LOSS, analysis, named) }));
  });
}

function effectOf(
  plan: TrialPlan,
  f: number,
  by: { readonly response: AsResponse },
  analysis: Analysis,
  named: (f: number, level: number) => string,
): Omit<Effect, 'measure'> {
  const name = factorIn(plan, plan.factors[f].key);
  const levels = analysis.means.flatMap(({ at, estimate, n }) => {
    const level = at.size === 1 ? at.get(f) : undefined;
    return level === undefined
      ? []
      : [{ level, name: named(f, level), mean: estimate.value, lo: estimate.lo, hi: estimate.hi, n }];
  });
  if (sharedIn(plan).whole === f)
    return {
      ...{ factor: f, name, levels },
      sentence: `Every ${name.toLowerCase()} was made in one go, so it cannot be told from what happened to that go.`,
    };
  const choice = choicesOf(analysis).find(c => c.factor === f);
  return {
    ...{ factor: f, name, levels },
    ...(choice ? { best: choice.level, sure: choice.sure } : {}),
    sentence: factorSentence(analysis, f, by.response.difference, by.response, named),
  };
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

/** What a combination is expected to measure, kept on its scale. */
const expected = (estimate: Estimated | undefined) =>
  estimate && { value: estimate.value, lo: estimate.lo, hi: estimate.hi };

/** What is the best for what the maker wants, by all measures together. */
function leadingOf(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  { landed, veil }: { readonly landed: Analysis; readonly veil: Analysis },
  named: (f: number, level: number) => string,
): Findings['leading'] {
  const worth = analysed(plan, records, {
    by: { better: 'more' },
    bounds: [0, 100],
    value: code => {
      const read = readingOf(records, code);
      return read?.photo.stage === 'dry' && observed(landed, code)
        ? worthOf(plan.intent, read.reading.reading)
        : undefined;
    },
  });
  const { decision, options } = worth;
  if (!decision || !landed.fit) return undefined;
  const tried = options.map((levels, i) => ({ levels, ...decision.options[i] }));
  const [first] = tried.sort((a, b) => b.best - a.best || a.loss - b.loss);
  const { whole } = sharedIn(plan);
  const choices = choicesOf(worth).filter(c => c.factor !== whole);
  const range = expected(landed.combination?.(first.levels));
  const veiled = expected(veil.combination?.(first.levels));
  if (!range) return undefined;
  const name = first.levels
    .map((level, f) => named(f, level))
    .filter(Boolean)
    .join(', ');
  return {
    levels: first.levels,
    name,
    landed: range,
    ...(veiled ? { veil: veiled } : {}),
    patches: plan.patches.filter(p => p.levels.join() === first.levels.join()).map(p => p.code),
    sure: first.best,
    certain: choices.length > 0 && choices.every(c => c.sure >= SETTLED),
    sentence: headline(worth, v => `${Math.max(1, Math.round(v))} of 100 points`, named),
  };
}

const observed = ({ asked }: Analysis, code: string): boolean =>
  asked.patches.some(p => p.code === code && p.value !== undefined);
