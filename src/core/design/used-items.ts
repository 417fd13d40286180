import type { Shelf, ShelfKind } from '../shelf/index.ts';
import {
  FACTORS,
  type FactorKind,
  isVariedIn,
  methodsOf,
  SETTING_KEYS,
  type SettingKey,
  type TrialPlan,
} from '../trial/index.ts';
import type { PlanRequest } from './request.ts';

type Chosen = Pick<PlanRequest, 'usual' | 'factors'> & { readonly compared?: PlanRequest['compared'] };

/** What a plan keeps of the shelf: everything but the methods. */
export type UsedItems = Omit<TrialPlan['used'], 'method' | 'otherMethods'>;

/** The settings that are things of one kind on the shelf. */
const keysOf = (kind: ShelfKind): SettingKey[] =>
  SETTING_KEYS.filter(key => {
    const factor: FactorKind = FACTORS[key];
    return factor.levels === 'items' && factor.shelf === kind;
  });

/** Every id of a shelf kind that a plan can need: the usual ones of all methods and the levels. */
function idsOf({ usual, factors, compared = [] }: Chosen, kind: ShelfKind): string[] {
  const ids = keysOf(kind).flatMap(key => [
    usual[key],
    ...compared.map(c => c.usual[key]),
    ...(factors.find(f => f.key === key)?.levels ?? []),
  ]);
  return [...new Set(ids.map(String))].filter(Boolean);
}

/** What a plan keeps of the shelf: the usual items and the levels, as they are now. */
export function usedItems(ask: PlanRequest, shelf: Shelf): UsedItems {
  const keep = <K extends ShelfKind>(kind: K): Shelf[K] => {
    const ids = idsOf(ask, kind);
    return (shelf[kind] as { id: string }[]).filter(item => ids.includes(item.id)) as unknown as Shelf[K];
  };
  return {
    printers: keep('printers'),
    donors: keep('donors'),
    mediums: keep('mediums'),
    substrates: keep('substrates'),
    preparations: keep('preparations'),
    tools: keep('tools'),
    finishes: keep('finishes'),
  };
}

const KINDS: readonly ShelfKind[] = [
  'printers',
  'substrates',
  'donors',
  'mediums',
  'preparations',
  'tools',
  'finishes',
];

/**
 * An id that the plan needs and its own copy of the shelf or the method does not hold, or nothing.
 *
 * @example missingItem(plan); // => undefined
 */
export function missingItem(
  plan: Chosen &
    Pick<TrialPlan, 'used'> & {
      readonly design?: { readonly control?: boolean } | string;
      readonly control?: boolean;
    },
): string | undefined {
  const control = plan.control ?? (typeof plan.design === 'object' && plan.design.control);
  for (const kind of KINDS) {
    const have = new Set(plan.used[kind].map(item => item.id));
    // A plan needs the usual item only where nothing else is said; older plans do not hold the rest.
    const needed = idsOf(plan, kind).filter(id => !have.has(id));
    const varied = keysOf(kind).flatMap(key => {
      const factor = plan.factors.find(f => f.key === key);
      return factor ? [{ ...factor, key }] : [];
    });
    const spare = new Set(control || plan.compared?.length ? [] : varied.map(f => String(plan.usual[f.key])));
    const missing = needed.find(id => !spare.has(id) || varied.some(f => f.levels.includes(id)));
    if (missing) return missing;
  }
  for (const factor of plan.factors) {
    const kind = FACTORS[factor.key];
    if (kind.levels !== 'options') continue;
    const varied = methodsOf(plan).filter(m => isVariedIn(factor, m));
    const choices = (varied.length ? varied : [plan.used.method]).flatMap(m => m.options[kind.option]);
    const missing = factor.levels.find(l => !choices.some(c => c.id === l));
    if (missing !== undefined) return String(missing);
  }
  return undefined;
}
