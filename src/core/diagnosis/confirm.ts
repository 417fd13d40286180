import { type Identity, type PlanRequest, planTrial, requestOf } from '../design/index.ts';
import { FACTORS, type FactorKey } from '../factors/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { say, within } from '../say/index.ts';
import { SHELF_KINDS, type Shelf, type ShelfItem } from '../shelf/index.ts';
import { chosenOf, type Patch, settingsOf, type TrialPlan } from '../trial/index.ts';
import type { Cause, Change } from './causes.ts';

/** Made so often each: two as it was made, two with the one thing changed. */
const EACH = 2;
/** How many other levels are tried until one can be planned. */
const TRIED = 8;

/**
 * The smallest trial that tells whether a cause was at work on a patch: made as that was, and with the one thing changed
 * that would have kept it from happening, twice each. Fails where no choice of a plan changes it, or where the shelf has
 * nothing else to take.
 */
export function confirmingTrial(
  plan: TrialPlan,
  patch: Patch,
  cause: Cause,
  onShelf: Shelf,
  identity: Identity,
): Outcome<TrialPlan> {
  const { confirm: change } = cause;
  if (!change)
    return bad(
      'by-hand',
      'No choice of a plan tells this one: it is in how it was done.',
      say`Make one more with care: ${cause.prevent}`,
    );
  const settings = settingsOf(plan, patch);
  const shelf = withUsed(onShelf, plan);
  const own = chosenOf(plan, patch.levels)[change.factor];
  const others = othersFor(change, own, shelf, settings.method.options).slice(0, TRIED);
  let why: Outcome<TrialPlan> = bad(
    'nothing-else',
    `There is nothing else to take for “${within(FACTORS[change.factor].name)}” here.`,
    'Put another on the shelf, or plan it by hand.',
  );
  for (const other of others) {
    const asked = requestFor(plan, patch, change.factor, own, other, cause);
    let made = planTrial(asked, shelf, identity, [settings.method]);
    if (!made.ok && made.problem.board)
      made = planTrial({ ...asked, board: { ...asked.board, ...made.problem.board } }, shelf, identity, [
        settings.method,
      ]);
    if (made.ok) return good(made.value);
    why = made;
  }
  return why;
}

/** The shelf with what the trial used that is not on it any more. */
const withUsed = (shelf: Shelf, { used }: TrialPlan): Shelf =>
  Object.fromEntries(
    SHELF_KINDS.map(kind => {
      const here = shelf[kind] as readonly ShelfItem[];
      const own = (used[kind] ?? []) as readonly ShelfItem[];
      return [kind, [...here, ...own.filter(u => !here.some(h => h.id === u.id))]];
    }),
  ) as unknown as Shelf;

type Level = string | number;

/** Other levels to take, the likeliest to help first. */
function othersFor(
  change: Change,
  own: Level,
  shelf: Shelf,
  options: TrialPlan['used']['method']['options'],
): Level[] {
  const kind = FACTORS[change.factor];
  if ('times' in change) {
    if (kind.levels !== 'numbers') return [];
    const wanted = Number(own) * change.times;
    const step = Math.min(wanted, kind.step);
    const value = Math.min(kind.most, Math.max(kind.least, Math.round(wanted / step) * step));
    const tidy = Number(value.toPrecision(6));
    return tidy === own ? [] : [tidy];
  }
  const { kinds } = change;
  if (kind.levels === 'options')
    return (options[kind.option] ?? [])
      .map(o => o.id)
      .filter(id => id !== own && (!kinds || kinds.includes(id)));
  if (kind.levels !== 'items') return [];
  const rank = (item: { readonly kind?: string }) => (kinds ? kinds.indexOf(item.kind ?? '') : 0);
  return (shelf[kind.shelf] as readonly { readonly id: string; readonly kind?: string }[])
    .filter(item => item.id !== own && rank(item) >= 0)
    .sort((a, b) => rank(a) - rank(b))
    .map(item => item.id);
}

function requestFor(
  plan: TrialPlan,
  patch: Patch,
  key: FactorKey,
  own: Level,
  other: Level,
  cause: Cause,
): PlanRequest {
  const { pieces: _, compared: __, ...asked } = requestOf(plan);
  const { method = plan.method, picture, ...usual } = chosenOf(plan, patch.levels);
  return {
    ...asked,
    name: `Was it this: ${within(cause.name)}?`.slice(0, 80),
    question: `${patch.code} of “${plan.name}”: made as it was, and with one thing changed.`.slice(0, 400),
    method: String(method),
    factors: [{ key, levels: [own, other] }],
    usual: usual as unknown as PlanRequest['usual'],
    ...(picture === undefined ? {} : { picture: String(picture) }),
    repeats: EACH,
    design: 'every combination',
    budget: 2 * EACH,
    ...{ interactions: [], stripKey: null, groupKey: null, loadSize: null, control: false, wear: [] },
  };
}
