import type { Patch, TrialPlan, TrialRecord } from '../trial/index.ts';
import type { Cause, Gate } from './causes.ts';
import { CAUSES } from './every-cause.ts';
import { type Signals, signalsOf } from './signals.ts';

/** One piece of evidence that was met, in words, and how strongly it speaks. */
export interface Weighed {
  readonly say: string;
  /** Natural log of the likelihood ratio; above 0 speaks for the cause. */
  readonly weight: number;
}

/** A cause with how likely it is and why. */
export interface Explained {
  readonly cause: Cause;
  /** Share of the odds among all causes and "something else", 0–1. */
  readonly likely: number;
  readonly for: readonly Weighed[];
  readonly against: readonly Weighed[];
}

/** Something is wrong with a patch when more than this is bare, or the veil is thicker, or a symptom is ticked. */
export const TROUBLE = { bareShare: 0.04, veil: 0.08 };

/** What the list says when nothing listed fits: the odds kept for a cause that is not in the data. */
const SOMETHING_ELSE = Math.exp(-0.4);

/**
 * Whether a patch shows anything that needs explaining.
 *
 * @example isTroubled({ bareShare: 0.3 }); // => true
 */
export const isTroubled = (s: Signals): boolean =>
  (s.bareShare ?? 0) > TROUBLE.bareShare ||
  (s.veil ?? 0) > TROUBLE.veil ||
  s.mirrored === 1 ||
  Object.keys(s).some(k => k.startsWith('symptom:'));

/**
 * Whether a cause can be at work at all with this method, ground and what was done.
 *
 * @example inQuestion({ only: [{ signal: 'pulled', above: 0 }] }, { pulled: 0 }); // => false
 */
export const inQuestion = ({ only = [] }: Cause, signals: Signals): boolean => holdAll(only, signals);

const holdAll = (gates: readonly Gate[], signals: Signals): boolean =>
  gates.every(({ signal, above = Number.NEGATIVE_INFINITY, below = Number.POSITIVE_INFINITY }) => {
    const value = signals[signal];
    return value !== undefined && value > above && value < below;
  });

/** A cause with the words that fit how the sheet came off here. */
function worded(cause: Cause, signals: Signals): Cause {
  const other = cause.otherwise?.find(o => holdAll(o.when, signals));
  return other ? { ...cause, ...other } : cause;
}

/** Weighs one cause: prior log odds plus the weights of all evidence that is met. */
export function weigh(cause: Cause, signals: Signals): { logOdds: number; met: Weighed[] } {
  const met: Weighed[] = [];
  for (const e of cause.evidence) {
    const value = signals[e.signal];
    if (value === undefined) continue;
    const holds = (e.above === undefined || value > e.above) && (e.below === undefined || value < e.below);
    if (holds) met.push({ say: e.say.replace('{}', shown(value)), weight: e.weight });
  }
  return { logOdds: cause.prior + met.reduce((sum, m) => sum + m.weight, 0), met };
}

const shown = (v: number) =>
  Math.abs(v) >= 10 ? v.toFixed(0) : Math.abs(v) >= 1 ? v.toFixed(1) : v.toFixed(2);

/**
 * Ranked causes for a patch with the evidence for and against each in words: log odds added up as
 * in naive Bayes, then normalised over all causes and "something else". Empty when nothing is wrong.
 *
 * @example explain(plan, patch, []); // => []
 */
export function explain(plan: TrialPlan, patch: Patch, records: readonly TrialRecord[]): Explained[] {
  const signals = signalsOf(plan, patch, records);
  if (!isTroubled(signals)) return [];
  const scored = CAUSES.filter(cause => inQuestion(cause, signals)).map(cause => ({
    cause,
    ...weigh(cause, signals),
  }));
  const total = scored.reduce((sum, s) => sum + Math.exp(s.logOdds), SOMETHING_ELSE);
  return scored
    .map(({ cause, logOdds, met }) => ({
      cause: worded(cause, signals),
      likely: Math.exp(logOdds) / total,
      for: met.filter(m => m.weight > 0).sort((a, b) => b.weight - a.weight),
      against: met.filter(m => m.weight < 0).sort((a, b) => a.weight - b.weight),
    }))
    .filter(e => e.for.length > 0 && e.likely > 0.02)
    .sort((a, b) => b.likely - a.likely);
}
