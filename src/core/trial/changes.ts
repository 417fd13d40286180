import type { RecordOf, TrialRecord } from './record-kinds.ts';
import { remembering } from './remember.ts';
import type { Change, Patch, TrialPlan } from './schema.ts';
import { standing } from './state.ts';

type Changes = {
  readonly [K in Change['what']]: (plan: TrialPlan, change: Extract<Change, { what: K }>) => TrialPlan;
};

/** What each change makes of a plan; doing one twice is doing it once. */
const MADE: Changes = {
  words: (plan, { name, question }) => ({ ...plan, name, question }),
  tags: (plan, { tags }) => ({ ...plan, tags }),
  batch: (plan, { patches, boards, factors, used }) => {
    const codes = new Set(plan.patches.map(p => p.code));
    return {
      ...plan,
      board: { ...plan.board, count: Math.max(plan.board.count, boards) },
      factors: factors ?? plan.factors,
      used: used ? withItems(plan.used, used) : plan.used,
      patches: [...plan.patches, ...patches.filter(p => !codes.has(p.code))],
    };
  },
  drop: without,
  split: without,
  order: (plan, { patches }) => {
    const places = plan.patches
      .filter(p => patches.includes(p.code))
      .map(p => p.order)
      .sort((a, b) => a - b);
    // What left the trial meanwhile has no place in it.
    const here = patches.filter(code => plan.patches.some(p => p.code === code));
    return {
      ...plan,
      patches: plan.patches.map(p => {
        const at = here.indexOf(p.code);
        return at < 0 ? p : { ...p, order: places[at] };
      }),
    };
  },
  place: (plan, { places }) => ({
    ...plan,
    patches: plan.patches.map((p): Patch => {
      const to = places.find(place => place.code === p.code);
      return to ? { ...p, board: to.board, x: to.x, y: to.y } : p;
    }),
  }),
  archive: plan => plan,
};

function without(plan: TrialPlan, { patches }: { readonly patches: readonly string[] }): TrialPlan {
  const left = plan.patches.filter(p => !patches.includes(p.code));
  // A trial without patches is none.
  return left.length ? { ...plan, patches: left } : plan;
}

type Items = Extract<Change, { what: 'batch' }>['used'];

function withItems(used: TrialPlan['used'], more: NonNullable<Items>): TrialPlan['used'] {
  const added = Object.entries(more).map(([kind, items]) => {
    const have = used[kind as keyof Items] as { id: string }[];
    return [kind, [...have, ...(items as { id: string }[]).filter(i => !have.some(h => h.id === i.id))]];
  });
  return { ...used, ...Object.fromEntries(added) };
}

/**
 * A plan with a change made to it.
 *
 * @example withChange(plan, { what: 'words', name: 'Tide tins', question: '' }).name; // => 'Tide tins'
 */
export const withChange = (plan: TrialPlan, change: Change): TrialPlan =>
  MADE[change.what](plan, change as never);

/**
 * Standing changes of a plan, oldest first.
 *
 * @example changesIn(records).length; // => 0
 */
export const changesIn = (records: readonly TrialRecord[]): RecordOf<'change'>[] =>
  records.some(r => r.kind === 'change')
    ? standing(records).filter((r): r is RecordOf<'change'> => r.kind === 'change')
    : [];

/**
 * A plan as it is now: as it was made, with all changes that stand. The same object where there is none.
 *
 * @example planNow(plan, records) === plan; // => true
 */
export const planNow = (plan: TrialPlan, records: readonly TrialRecord[]): TrialPlan => nowBy(records, plan);

const nowBy = remembering((records, plan: TrialPlan) =>
  changesIn(records).reduce((so, { change }) => withChange(so, change), plan),
);

/**
 * A plan with all patches there ever were, those of batches that were taken back and those left out among them: what
 * records may be about.
 *
 * @example planEver(plan, records).patches.length === plan.patches.length; // => true
 */
export const planEver = (plan: TrialPlan, records: readonly TrialRecord[]): TrialPlan =>
  records.reduce(
    (all, r) => (r.kind === 'change' && r.change.what === 'batch' ? withChange(all, r.change) : all),
    plan,
  );

/**
 * Whether a trial is put away.
 *
 * @example isArchived(records); // => false
 */
export const isArchived = (records: readonly TrialRecord[]): boolean =>
  changesIn(records).reduce((was, { change }) => (change.what === 'archive' ? change.archived : was), false);
