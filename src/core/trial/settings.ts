import type { FactorKey } from '../factors/index.ts';
import { FACTORS, levelName } from '../factors/index.ts';
import type { Donor, Finish, Medium, Preparation, Printer, Substrate, Tool } from '../shelf/index.ts';
import type { LevelValue, Patch, TrialPlan } from './schema.ts';

/** Everything that is set for one patch, looked up. */
export interface PatchSettings {
  readonly printer: Printer;
  readonly donor: Donor;
  readonly medium: Medium;
  readonly substrate: Substrate;
  readonly preparation: Preparation;
  readonly coatMm: number;
  readonly dryHours: number;
  readonly rounds: number;
  /** Ids of the method's own choices; empty where the method offers none. */
  readonly coatWhere: string;
  readonly water: string;
  readonly removal: string;
  readonly trim: string;
  readonly pressing?: Tool;
  readonly rubTool?: Tool;
  readonly finish?: Finish;
  readonly copyAgeH: number;
}

/** Parts of {@link PatchSettings} where nothing special is done, for methods and tests that do not speak of them. */
export const PLAIN_SETTINGS = { coatWhere: '', water: '', removal: '', trim: '', copyAgeH: 1 } as const;

const found = <T extends { id: string }>(items: readonly T[], id: string): T => {
  const item = items.find(i => i.id === id);
  if (!item) throw new Error(`The plan does not hold the item ${id}`);
  return item;
};

type Chosen = Record<FactorKey, LevelValue>;

/**
 * The plan's usual choices, replaced by those of `levels` (indices per factor; empty for a control).
 *
 * @example chosenOf(plan, [1, 1]).dryHours; // => 20
 */
export function chosenOf(plan: Pick<TrialPlan, 'usual' | 'factors'>, levels: readonly number[]): Chosen {
  const chosen: Chosen = { ...plan.usual };
  plan.factors.forEach((factor, i) => {
    if (levels[i] !== undefined) chosen[factor.key] = factor.levels[levels[i]];
  });
  return chosen;
}

/**
 * Chosen ids and numbers with their items looked up in `used`; throws when one is not there.
 *
 * @example lookUp(plan.used, plan.usual).medium.id === plan.usual.medium; // => true
 */
export function lookUp(used: TrialPlan['used'], chosen: Chosen): PatchSettings {
  return {
    printer: found(used.printers, String(chosen.printer)),
    donor: found(used.donors, String(chosen.donor)),
    medium: found(used.mediums, String(chosen.medium)),
    substrate: found(used.substrates, String(chosen.substrate)),
    preparation: found(used.preparations, String(chosen.preparation)),
    coatMm: Number(chosen.coatMm),
    dryHours: Number(chosen.dryHours),
    rounds: Number(chosen.rounds),
    coatWhere: String(chosen.coatWhere),
    water: String(chosen.water),
    removal: String(chosen.removal),
    trim: String(chosen.trim),
    pressing: chosen.pressing ? found(used.tools, String(chosen.pressing)) : undefined,
    rubTool: chosen.rubTool ? found(used.tools, String(chosen.rubTool)) : undefined,
    finish: chosen.finish ? found(used.finishes, String(chosen.finish)) : undefined,
    copyAgeH: Number(chosen.copyAgeH),
  };
}

/**
 * The settings of a patch: the plan's usual choice, replaced by the patch's level of every factor.
 *
 * @example settingsOf(plan, patch).coatMm; // => 0.4
 */
export const settingsOf = (plan: TrialPlan, patch: Pick<Patch, 'levels'>): PatchSettings =>
  lookUp(plan.used, chosenOf(plan, patch.levels));

/**
 * The names a plan's levels are looked up in: its own copies of shelf items and of the method's choices.
 *
 * @example namesOf(plan).options === plan.used.method.options; // => true
 */
export const namesOf = (plan: TrialPlan) => ({ ...plan.used, options: plan.used.method.options });

/**
 * Level names of a patch in factor order; a control has but one.
 *
 * @example levelNames(plan, { levels: [] }); // => ['Your usual way']
 */
export const levelNames = (plan: TrialPlan, patch: Pick<Patch, 'levels'>): string[] =>
  patch.levels.length
    ? plan.factors.map((factor, i) => levelName(namesOf(plan), factor.key, factor.levels[patch.levels[i]]))
    : ['Your usual way'];

export const FACTOR_LETTERS = 'ABCDEFGH';

/**
 * Short marks for drawing on a small patch: `A1`, `B2` — factor letter and level number; a control is `usual`.
 *
 * @example levelMarks({ levels: [0, 1] }); // => ['A1', 'B2']
 */
export const levelMarks = (patch: Pick<Patch, 'levels'>): string[] =>
  patch.levels.length ? patch.levels.map((level, i) => `${FACTOR_LETTERS[i]}${level + 1}`) : ['usual'];

/**
 * The shelf ids that a factor's levels name, or none for numbers and the method's own choices.
 *
 * @example isItemFactor('medium'); // => true
 */
export const isItemFactor = (key: FactorKey) => FACTORS[key].levels === 'items';
