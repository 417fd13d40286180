import * as v from 'valibot';
import { isPatchCode } from '../codes/index.ts';
import { missingItem } from '../design/index.ts';
import { FACTORS } from '../factors/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { WEAR, wearSteps } from '../steps/index.ts';
import {
  carrierOf,
  methodsOf,
  migrate,
  missingPicture,
  type Nest,
  NO_LEVEL,
  nestOf,
  type Patch,
  photosNamed,
  planEver,
  planNow,
  recordNow,
  sizeOf,
  TrialPlan,
  TrialRecord,
} from '../trial/index.ts';

const where = (issue: v.BaseIssue<unknown>) => (v.getDotPath(issue) ?? 'the top').slice(0, 80);

/**
 * A stored or imported plan, migrated and checked: its form, every number's range, and that its parts fit together.
 *
 * @example parsePlan({}).ok; // => false
 */
export function parsePlan(data: unknown): Outcome<TrialPlan> {
  const current = migrate(data);
  if (!current.ok) return current;
  const parsed = v.safeParse(TrialPlan, current.value, { abortEarly: true });
  if (!parsed.success) return bad('bad-plan', `The plan is damaged at ${where(parsed.issues[0])}.`);
  const plan = parsed.output;
  const wrong = wrongInPlan(plan) ?? wrongOnBoards(plan);
  return wrong ? bad('bad-plan', wrong) : good(plan);
}

function wrongInPlan(plan: TrialPlan): string | undefined {
  if (plan.used.method.id !== plan.method) return 'The plan’s method is not the one it names.';
  for (const { steps } of methodsOf(plan))
    if (new Set(steps.map(s => s.id)).size !== steps.length)
      return 'Two steps of the plan’s method have the same name.';
  const wrongMethods = wrongAmongMethods(plan);
  if (wrongMethods) return wrongMethods;
  const missing = missingItem(plan);
  if (missing) return `The plan names “${missing.slice(0, 40)}” but does not hold it.`;
  if (missingPicture(plan) !== undefined) return 'The plan names a picture but does not hold it.';
  const keys = plan.factors.map(f => f.key);
  if (new Set(keys).size !== keys.length) return 'The plan varies the same thing twice.';
  // A word where a number is varied is no time to wait and no thickness; a number names no thing.
  if (
    plan.factors.some(f =>
      f.levels.some(l => (typeof l === 'number') !== (FACTORS[f.key].levels === 'numbers')),
    )
  )
    return 'A level of the plan is not what that factor has.';
  const { stripKey, groupKey, interactions } = plan.design;
  if ([stripKey, groupKey].some(key => key !== null && !keys.includes(key)))
    return 'The plan keeps together what it does not vary.';
  if (interactions.some(pair => pair.some(i => i >= keys.length)))
    return 'The plan asks about a pair of things it does not vary.';
  const codes = new Set(plan.patches.map(p => p.code));
  if (codes.size !== plan.patches.length) return 'Two patches of the plan have the same code.';
  if (new Set(plan.patches.map(p => p.order)).size !== plan.patches.length)
    return 'Two patches of the plan have the same place in the order of work.';
  const nest = nestOf(plan.factors, methodsOf(plan));
  for (const patch of plan.patches) {
    if (!isPatchCode(patch.code)) return `“${patch.code}” is not a patch code.`;
    const isControl = plan.design.control && patch.levels.length === 0;
    const fits =
      isControl ||
      (patch.levels.length === plan.factors.length &&
        patch.levels.every(
          (level, f) =>
            level < plan.factors[f].levels.length && (level !== NO_LEVEL) === hasLevel(nest, patch, f),
        ));
    if (!fits || patch.board >= plan.board.count) return `Patch ${patch.code} does not fit its plan.`;
  }
  return undefined;
}

/** The methods that are compared: each held once, and with what is usual in it. */
function wrongAmongMethods(plan: TrialPlan): string | undefined {
  const held = methodsOf(plan).map(m => m.id);
  if (new Set(held).size !== held.length) return 'The plan holds the same method twice.';
  const levels = plan.factors.find(f => f.key === 'method')?.levels ?? [plan.method];
  const isSame = levels.length === held.length && levels.every(l => held.includes(String(l)));
  if (!isSame) return 'The methods the plan compares are not those it holds.';
  const missing = held.slice(1).some(id => !plan.compared?.some(c => c.method === id));
  return missing ? 'The plan does not say what is usual in a method it compares.' : undefined;
}

/** Whether a patch has a level of a factor: its method has that setting. */
const hasLevel = (nest: Nest | undefined, patch: Patch, f: number): boolean =>
  !nest || nest.has[f][patch.levels[nest.by]] === true;

/** Places are kept to a tenth of a millimetre. */
const SLACK_MM = 0.5;

function wrongOnBoards(plan: TrialPlan): string | undefined {
  const { patches } = plan;
  const { w, h } = sizeOf(plan);
  const outside = patches.find(p => {
    const board = carrierOf(plan, p.board);
    return p.x + w > board.w + SLACK_MM || p.y + h > board.h + SLACK_MM;
  });
  if (outside) return `Patch ${outside.code} does not lie on its board.`;
  // In this order only what begins less than a patch further right can lie over it.
  const sorted = [...patches].sort((a, b) => a.board - b.board || a.x - b.x);
  const touches = (a: Patch, b: Patch | undefined) =>
    b !== undefined && b.board === a.board && b.x - a.x < w - SLACK_MM;
  for (const [i, a] of sorted.entries())
    for (let k = i + 1; touches(a, sorted[k]); k++)
      if (Math.abs(sorted[k].y - a.y) < h - SLACK_MM)
        return `Patches ${a.code} and ${sorted[k].code} lie on one another.`;
  return undefined;
}

/**
 * One stored or imported record of any version, brought up and checked.
 *
 * @example parseRecord({ kind: 'spell' }).ok; // => false
 */
export function parseRecord(data: unknown): Outcome<TrialRecord> {
  const now = recordNow(data);
  if (!now.ok) return now;
  const parsed = v.safeParse(TrialRecord, now.value, { abortEarly: true });
  return parsed.success
    ? good(parsed.output)
    : bad('bad-record', `A record is damaged at ${where(parsed.issues[0])}.`);
}

/** Steps that a record can be about: the method's and those of every wear test. */
const stepsKnown = (plan: TrialPlan) =>
  new Set(
    [...methodsOf(plan).flatMap(m => m.steps), ...wearSteps(Object.keys(WEAR) as (keyof typeof WEAR)[])].map(
      s => s.id,
    ),
  );

/**
 * Checks that records belong to their plan and to each other, and that every photo they name is there.
 *
 * @example checkTrial(plan, records, new Set(['p1'])).ok; // => true
 */
export function checkTrial(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  photos: ReadonlySet<string>,
): Outcome<true> {
  const ever = planEver(plan, records);
  const wrong = wrongInPlan(ever) ?? wrongOnBoards(planNow(plan, records));
  if (wrong) return bad('bad-record', `A change of the plan does not fit it: ${wrong}`);
  const codes = new Set(ever.patches.map(p => p.code));
  const steps = stepsKnown(plan);
  const byId = new Map(records.map(r => [r.id, r]));
  if (byId.size !== records.length)
    return bad('bad-record', `Two records have the same name (${doubled(records)}).`);
  const taken = new Set(records.flatMap(r => (r.kind === 'photo' ? [r.photo] : [])));
  for (const record of records) {
    const about = [record.patch ?? [], record.kind === 'step' ? (record.also ?? []) : []].flat();
    const stranger = about.find(code => !codes.has(code));
    if (stranger !== undefined)
      return bad('bad-record', `A record is about patch ${stranger}, which this trial does not have.`);
    if ((record.kind === 'step' || record.kind === 'ready') && !steps.has(record.step))
      return bad('bad-record', `A record is about a step “${record.step}”, which this trial does not have.`);
    const gone = photosNamed(record).find(photo => !photos.has(photo));
    if (gone !== undefined)
      return bad(
        'missing-photo',
        `The photo ${gone} is missing from the file.`,
        'Export the trial again and import that.',
      );
    if ((record.kind === 'reading' || record.kind === 'gloss') && !taken.has(record.photo))
      return bad('bad-record', 'A reading has no photo.');
    if (record.kind === 'undo') {
      const of = byId.get(record.of);
      if (!of) return bad('bad-record', 'An undo points to a record that is not there.');
      if (of.kind === 'undo') return bad('bad-record', 'An undo takes back another undo.');
    }
  }
  return good(true);
}

function doubled(records: readonly TrialRecord[]): string {
  const seen = new Set<string>();
  return records.find(r => seen.has(r.id) || !seen.add(r.id))?.id ?? '';
}
