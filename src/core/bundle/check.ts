import * as v from 'valibot';
import { isPatchCode } from '../codes/index.ts';
import { missingItem } from '../design/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { migrate, TrialPlan, TrialRecord } from '../trial/index.ts';

const where = (issue: v.BaseIssue<unknown>) => v.getDotPath(issue) ?? 'the top';

/** A stored or imported plan, migrated and checked. */
export function parsePlan(data: unknown): Outcome<TrialPlan> {
  const current = migrate(data);
  if (!current.ok) return current;
  const parsed = v.safeParse(TrialPlan, current.value);
  if (!parsed.success) return bad('bad-plan', `The plan is damaged at ${where(parsed.issues[0])}.`);
  const plan = parsed.output;
  if (plan.used.method.id !== plan.method)
    return bad('bad-plan', 'The plan’s method is not the one it names.');
  const missing = missingItem(plan);
  if (missing) return bad('bad-plan', `The plan names “${missing}” but does not hold it.`);
  const codes = new Set(plan.patches.map(p => p.code));
  if (codes.size !== plan.patches.length)
    return bad('bad-plan', 'Two patches of the plan have the same code.');
  for (const patch of plan.patches) {
    if (!isPatchCode(patch.code)) return bad('bad-plan', `“${patch.code}” is not a patch code.`);
    const isControl = plan.design.control && patch.levels.length === 0;
    const fits =
      isControl ||
      (patch.levels.length === plan.factors.length &&
        patch.levels.every((level, f) => level < plan.factors[f].levels.length));
    if (!fits || patch.board >= plan.board.count)
      return bad('bad-plan', `Patch ${patch.code} does not fit its plan.`);
  }
  return good(plan);
}

/** One stored or imported record, checked. */
export function parseRecord(data: unknown): Outcome<TrialRecord> {
  const parsed = v.safeParse(TrialRecord, data);
  return parsed.success
    ? good(parsed.output)
    : bad('bad-record', `A record is damaged at ${where(parsed.issues[0])}.`);
}

/** Checks that records belong to their plan and to each other, and that every photo they name is there. */
export function checkTrial(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  photos: ReadonlySet<string>,
): Outcome<true> {
  const codes = new Set(plan.patches.map(p => p.code));
  const ids = new Set<string>();
  const taken = new Set(records.flatMap(r => (r.kind === 'photo' ? [r.photo] : [])));
  for (const record of records) {
    if (ids.has(record.id)) return bad('bad-record', `Two records have the same name (${record.id}).`);
    ids.add(record.id);
    const about = [record.patch ?? [], record.kind === 'step' ? (record.also ?? []) : []].flat();
    const stranger = about.find(code => !codes.has(code));
    if (stranger !== undefined)
      return bad('bad-record', `A record is about patch ${stranger}, which this trial does not have.`);
    const named =
      record.kind === 'photo'
        ? [record.photo]
        : record.kind === 'reading' && record.straight
          ? [record.straight]
          : [];
    for (const photo of named)
      if (!photos.has(photo))
        return bad(
          'missing-photo',
          `The photo ${photo} is missing from the file.`,
          'Export the trial again and import that.',
        );
    if (record.kind === 'reading' && !taken.has(record.photo))
      return bad('bad-record', 'A reading has no photo.');
  }
  for (const record of records)
    if (record.kind === 'undo' && !ids.has(record.of))
      return bad('bad-record', 'An undo points to a record that is not there.');
  return good(true);
}
