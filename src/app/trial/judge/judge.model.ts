import { blindOrder, nextPair, pairsIn } from '../../../core/judging/index.ts';
import type { SymptomId } from '../../../core/symptoms/index.ts';
import {
  type Patch,
  photosOf,
  readingOf,
  standing,
  type TrialPlan,
  type TrialRecord,
  verdictOf,
} from '../../../core/trial/index.ts';
import type { RecordDraft } from '../../../store/index.ts';

export type Verdict = NonNullable<ReturnType<typeof verdictOf>>['verdict'];
export type Better = 'this' | 'other' | 'neither';

export const GRADES = ['poor', 'weak', 'fair', 'good', 'perfect'];

/** Who judges, by the name that was typed: nobody in particular is `me`. */
export const judgeNamed = (typed: string): string => typed.trim().slice(0, 40) || 'me';

/** The photo a patch is judged by: the straightened one, else the last that was kept unread; nothing where there is none. */
export const photoOf = (records: readonly TrialRecord[], code: string): string | undefined =>
  readingOf(records, code)?.reading.straight ?? photosOf(records, code).at(-1)?.photo;

/** The patches that can be judged without seeing which is which: those with a photo. */
export const judgeable = (plan: TrialPlan, records: readonly TrialRecord[]): string[] =>
  plan.patches.map(p => p.code).filter(code => photoOf(records, code));

/** The patch to judge after this one (or first of all): the next in the plan without a verdict; nothing when all have one. */
export const nextToJudge = (
  plan: TrialPlan,
  records: readonly TrialRecord[],
  after?: Patch,
): Patch | undefined => plan.patches.find(p => p.code !== after?.code && !verdictOf(records, p.code));

/** What a grade of 1 to 5 that was given blind counts as: from 4 on kept, 3 to be fixed, less scrapped. */
export const verdictFor = (grade: number): Verdict => (grade >= 4 ? 'keep' : grade >= 3 ? 'fix' : 'scrap');

/** Where one judge is in grading blind: which comes, as what number of how many; no code when all are graded. */
export function blindState(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  judge: string,
): { readonly order: readonly string[]; readonly code: string | undefined; readonly number: number } {
  const order = blindOrder(plan.id, judge, judgeable(plan, records));
  // What somebody else graded is still to be graded by this judge.
  const done = new Set(
    standing(records).flatMap(r => (r.kind === 'verdict' && r.blind && r.judge === judge ? [r.patch] : [])),
  );
  const at = order.findIndex(code => !done.has(code));
  return { order, code: order[at], number: at + 1 };
}

/** What a blind grade records. */
export const gradeDraft = (code: string, grade: number, judge: string): RecordDraft => ({
  ...{ kind: 'verdict', patch: code, verdict: verdictFor(grade), grade, symptoms: [] },
  ...{ blind: true, judge },
});

/** The grade a key stands for; nothing where it stands for none. */
export const gradeOfKey = (key: string): number | undefined =>
  /^[1-5]$/.test(key) ? Number(key) : undefined;

/** The two patches that are compared next by a judge, and what was compared so far. */
export function pairState(plan: TrialPlan, records: readonly TrialRecord[], judge: string) {
  const codes = judgeable(plan, records);
  const pairs = pairsIn(records);
  return { codes, pairs, next: nextPair(codes, pairs, judge) };
}

/** What a choice between two records: `this` is the left one. */
export const pairDraft = (
  { a, b }: { readonly a: string; readonly b: string },
  better: Better,
  judge: string,
): RecordDraft => ({ kind: 'pair', patch: a, other: b, better, judge });

/** The choice a key stands for: the arrow points at the better one, down at neither. */
export const betterOfKey = (key: string): Better | undefined =>
  key === 'ArrowLeft' ? 'this' : key === 'ArrowRight' ? 'other' : key === 'ArrowDown' ? 'neither' : undefined;

/** A verdict as it stands in the form. */
export interface Judgement {
  readonly verdict: Verdict | undefined;
  /** 1 to 5; 0 for none yet. */
  readonly grade: number;
  readonly symptoms: readonly SymptomId[];
}

/** The form as it opens on a patch: with what was said of it last. */
export function judgementOf(records: readonly TrialRecord[], code: string): Judgement {
  const old = verdictOf(records, code);
  return { verdict: old?.verdict, grade: old?.grade ?? 0, symptoms: old?.symptoms ?? [] };
}

/** The form with a symptom ticked, or no longer. */
export const withSymptom = (form: Judgement, id: SymptomId): Judgement => ({
  ...form,
  symptoms: form.symptoms.includes(id) ? form.symptoms.filter(s => s !== id) : [...form.symptoms, id],
});

/** What the form records; nothing while verdict or grade is missing. */
export const verdictDraft = (
  code: string,
  { verdict, grade, symptoms }: Judgement,
): Extract<RecordDraft, { kind: 'verdict' }> | undefined =>
  verdict && grade ? { kind: 'verdict', patch: code, verdict, grade, symptoms: [...symptoms] } : undefined;
