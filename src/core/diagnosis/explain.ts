import { about, type Patch, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import type { Cause } from './causes.ts';
import { CAUSES } from './every-cause.ts';
import { holdAll } from './gates.ts';
import { type Inference, infer, metBy, type Weighed } from './infer.ts';
import { shiftsFrom, type Turned } from './learnt.ts';
import { SHAPES, type SignalKey, type Signals, signalsOf } from './signals.ts';

/** A cause with how likely it is and why. */
export interface Explained {
  readonly cause: Cause;
  /** Chance that it is at work, alone or with another, 0–1. */
  readonly likely: number;
  readonly for: readonly Weighed[];
  readonly against: readonly Weighed[];
}

/**
 * Of each measure: from where on something may be wrong; what a usual hand leaves on a piece on which nothing was amiss,
 * on average; and what is usual of pieces on which something was.
 */
const TROUBLE = {
  bareShare: { from: 0.04, sound: 0.03, failed: 0.3 },
  veil: { from: 0.08, sound: 0.04, failed: 0.3 },
  smear: { from: 0.08, sound: 0.04, failed: 0.6 },
  tone: { from: 12, sound: 7, failed: 30 },
  edgeLoss: { from: 0.15, sound: 0.05, failed: 0.5 },
} satisfies Partial<Record<SignalKey, unknown>>;
const MEASURES = Object.keys(TROUBLE) as (keyof typeof TROUBLE)[];

const isSaid = (s: Signals): boolean =>
  s.mirrored === 1 || Object.keys(s).some(k => k.startsWith('symptom:'));

/**
 * Whether a patch shows anything that may need explaining: more is bare, or blurred, or veiled, than hardly anybody would
 * mind; or somebody said so.
 *
 * @example isTroubled({ bareShare: 0.3 }); // => true
 */
export const isTroubled = (s: Signals): boolean =>
  isSaid(s) || MEASURES.some(m => (s[m] ?? 0) > TROUBLE[m].from);

/**
 * How much likelier what was measured is on a piece on which nothing was amiss than on one that failed: a usual hand's
 * losses fall off exponentially from none, those of failures are spread wide. Never where somebody saw something wrong.
 *
 * @example soundRatio({ bareShare: 0.05 }) > soundRatio({ bareShare: 0.1 }); // => true
 */
export function soundRatio(s: Signals): number {
  if (isSaid(s)) return 0;
  return MEASURES.reduce((ratio, m) => {
    const { from, sound, failed } = TROUBLE[m];
    const value = s[m] ?? 0;
    return value > from ? (ratio * (failed / sound)) / Math.exp(value / sound) : ratio;
  }, 1);
}

/**
 * Signals without those that tell nothing: what little is bare that hardly anybody would mind has some shape or other.
 *
 * @example telling({ bareShare: 0.01, veil: 0.2, roundShare: 1 }); // => { bareShare: 0.01, veil: 0.2 }
 */
export const telling = (s: Signals): Signals =>
  isSaid(s) || s.bareShare === undefined || s.bareShare > TROUBLE.bareShare.from
    ? s
    : Object.fromEntries(Object.entries(s).filter(([key]) => !SHAPES.has(key as SignalKey)));

/** A cause with the words that fit how the sheet came off here. */
function worded(cause: Cause, signals: Signals): Cause {
  const other = cause.otherwise?.find(o => holdAll(o.when, signals));
  return other ? { ...cause, ...other } : cause;
}

/** Weighs one cause by itself: prior log odds plus the weights of all evidence that is met. */
export function weigh(cause: Cause, signals: Signals): { logOdds: number; met: Weighed[] } {
  const met = metBy(cause, signals);
  return { logOdds: cause.prior + met.reduce((sum, m) => sum + m.weight, 0), met };
}

/** Less likely than this a cause is not named. */
const NAMED = 0.04;

/** Causes as they are told: with words that fit, what speaks for and against each, the strongest first. */
export const told = ({ causes }: Inference, signals: Signals): Explained[] =>
  causes
    .map(({ cause, likely, met }) => ({
      cause: worded(cause, signals),
      likely,
      for: met.filter(m => m.weight > 0).sort((a, b) => b.weight - a.weight),
      against: met.filter(m => m.weight < 0).sort((a, b) => a.weight - b.weight),
    }))
    .filter(e => e.for.length > 0 && e.likely > NAMED);

/** What explains a patch, and what to look at next. */
export interface Explanation {
  readonly causes: readonly Explained[];
  readonly ask: Inference['ask'];
  /** Chance that it is none of the causes that are known. */
  readonly somethingElse: number;
  /** Chance that nothing was amiss: a usual hand leaves as much. */
  readonly nothingWrong: number;
  /** The strongest cause is no likelier than this: not enough to tell. */
  readonly isUnsure: boolean;
}

/** A leading cause below this is not enough to tell. */
const ENOUGH = 0.35;

/**
 * What explains a patch by all that was read, ticked, recorded and answered of it: several causes may be at work at once
 * ({@link infer}). No causes when nothing is wrong. `turned`: what turned out in this workshop, which shifts how usual
 * each cause is taken to be.
 *
 * @example explained(plan, patch, []).causes; // => []
 */
export function explained(
  plan: TrialPlan,
  patch: Patch,
  records: readonly TrialRecord[],
  turned: Turned = {},
): Explanation {
  const signals = telling(signalsOf(plan, patch, records));
  if (!isTroubled(signals))
    return { causes: [], ask: [], somethingElse: 0, nothingWrong: 1, isUnsure: false };
  const answers = about(records, patch.code, 'answer').map(({ cause, yes }) => ({
    cause,
    yes: yes ?? undefined,
  }));
  const shifts = shiftsFrom(CAUSES, turned);
  const learnt = CAUSES.map(c => ({ ...c, prior: c.prior + shifts[c.id] }));
  const found = infer(learnt, signals, answers, soundRatio(signals));
  const causes = told(found, signals);
  const { ask, somethingElse, nothingWrong } = found;
  return { causes, ask, somethingElse, nothingWrong, isUnsure: (causes[0]?.likely ?? 0) < ENOUGH };
}

/**
 * Ranked causes for a patch with the evidence for and against each in words. Empty when nothing is wrong.
 *
 * @example explain(plan, patch, []); // => []
 */
export const explain = (
  plan: TrialPlan,
  patch: Patch,
  records: readonly TrialRecord[],
  turned: Turned = {},
): readonly Explained[] => explained(plan, patch, records, turned).causes;
