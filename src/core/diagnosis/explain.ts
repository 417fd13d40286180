import { about, type Patch, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import type { Cause } from './causes.ts';
import { CAUSES } from './every-cause.ts';
import { holdAll } from './gates.ts';
import { type Inference, infer, metBy, type Weighed } from './infer.ts';
import { shiftsFrom, type Turned } from './learnt.ts';
import { type Signals, signalsOf } from './signals.ts';

/** A cause with how likely it is and why. */
export interface Explained {
  readonly cause: Cause;
  /** Chance that it is at work, alone or with another, 0–1. */
  readonly likely: number;
  readonly for: readonly Weighed[];
  readonly against: readonly Weighed[];
}

/** Something is wrong with a patch when more than this is bare, or the veil is thicker, or a symptom is ticked. */
export const TROUBLE = { bareShare: 0.04, veil: 0.08, smear: 0.08, tone: 12, edgeLoss: 0.15 };

/**
 * Whether a patch shows anything that needs explaining.
 *
 * @example isTroubled({ bareShare: 0.3 }); // => true
 */
export const isTroubled = (s: Signals): boolean =>
  (s.bareShare ?? 0) > TROUBLE.bareShare ||
  (s.veil ?? 0) > TROUBLE.veil ||
  (s.smear ?? 0) > TROUBLE.smear ||
  (s.tone ?? 0) > TROUBLE.tone ||
  (s.edgeLoss ?? 0) > TROUBLE.edgeLoss ||
  s.mirrored === 1 ||
  Object.keys(s).some(k => k.startsWith('symptom:'));

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
  const signals = signalsOf(plan, patch, records);
  if (!isTroubled(signals)) return { causes: [], ask: [], somethingElse: 0, isUnsure: false };
  const answers = about(records, patch.code, 'answer').map(({ cause, yes }) => ({
    cause,
    yes: yes ?? undefined,
  }));
  const shifts = shiftsFrom(CAUSES, turned);
  const learnt = CAUSES.map(c => ({ ...c, prior: c.prior + shifts[c.id] }));
  const found = infer(learnt, signals, answers);
  const causes = told(found, signals);
  const { ask, somethingElse } = found;
  return { causes, ask, somethingElse, isUnsure: (causes[0]?.likely ?? 0) < ENOUGH };
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
