import type { FactorKey, SettingKey } from '../factors/index.ts';
import { FACTORS, factorName, levelName, OPTION_KEYS } from '../factors/index.ts';
import type { Method } from '../methods/schema.ts';
import { joined, type Words } from '../say/index.ts';
import type { Donor, Finish, Medium, Preparation, Printer, Substrate, Tool } from '../shelf/index.ts';
import { isVariedIn } from './nest.ts';
import { type Factor, type LevelValue, NO_LEVEL, type Patch, type TrialPlan } from './schema.ts';

/**
 * Width and height of a trial's patches, mm.
 *
 * @example sizeOf(plan).h === plan.patchMm; // => true
 */
export const sizeOf = ({
  patchMm,
  patchTallMm,
}: {
  readonly patchMm: number;
  readonly patchTallMm?: number | undefined;
}): { readonly w: number; readonly h: number } => ({ w: patchMm, h: patchTallMm ?? patchMm });

/**
 * The shorter side of a trial's patches, mm: how large a square on them can be.
 *
 * @example shortSide({ patchMm: 40, patchTallMm: 60 }); // => 40
 */
export const shortSide = (plan: Parameters<typeof sizeOf>[0]): number =>
  Math.min(sizeOf(plan).w, sizeOf(plan).h);

/**
 * The sizes of reading card that patches of a trial may lie under, the one that is printed for it first: patches with a
 * picture of the maker's own need a window for all of them, the test target takes the shorter side.
 *
 * @example cardSizes({ patchMm: 40, patchTallMm: 60, pictures: [] }); // => [{ w: 40, h: 40 }, { w: 40, h: 60 }]
 */
export function cardSizes(
  plan: Parameters<typeof sizeOf>[0] & { readonly pictures?: readonly unknown[] | undefined },
): readonly { readonly w: number; readonly h: number }[] {
  const whole = sizeOf(plan);
  const short = { w: shortSide(plan), h: shortSide(plan) };
  if (whole.w === whole.h) return [whole];
  return plan.pictures?.length ? [whole, short] : [short, whole];
}

/** Everything that is set for one patch, looked up. */
export interface PatchSettings {
  readonly method: Method;
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

type Chosen = Record<SettingKey, LevelValue> & { method?: LevelValue; picture?: LevelValue };

type Asked = Pick<TrialPlan, 'usual' | 'factors'> & Partial<Pick<TrialPlan, 'method' | 'compared'>>;

/** The method that the levels of a patch name, or the trial's own. */
const methodIn = ({ factors, method }: Asked, levels: readonly number[]): LevelValue | undefined => {
  const at = factors.findIndex(f => f.key === 'method');
  return factors[at]?.levels[levels[at]] ?? method;
};

/**
 * The usual choices of the method that `levels` name (indices per factor; empty for a control), replaced by those of
 * the levels.
 *
 * @example chosenOf(plan, [1, 1]).dryHours; // => 20
 */
export function chosenOf(plan: Asked, levels: readonly number[]): Chosen {
  const method = methodIn(plan, levels);
  const usual = plan.compared?.find(c => c.method === method)?.usual ?? plan.usual;
  const chosen: Chosen = { ...usual, ...(method === undefined ? {} : { method }) };
  plan.factors.forEach((factor, i) => {
    if (levels[i] !== undefined && levels[i] !== NO_LEVEL) chosen[factor.key] = factor.levels[levels[i]];
  });
  return chosen;
}

/**
 * All methods of a trial, its own first.
 *
 * @example methodsOf(plan).length; // => 1
 */
export const methodsOf = (plan: Pick<TrialPlan, 'used'>): readonly Method[] => [
  plan.used.method,
  ...(plan.used.otherMethods ?? []),
];

/**
 * Chosen ids and numbers with their items looked up in `used`; throws when one is not there.
 *
 * @example lookUp(plan.used, plan.usual).medium.id === plan.usual.medium; // => true
 */
export function lookUp(used: TrialPlan['used'], chosen: Chosen): PatchSettings {
  return {
    method: chosen.method === undefined ? used.method : found(methodsOf({ used }), String(chosen.method)),
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
 * @example namesOf(plan).options.trim.length; // => 2
 */
export const namesOf = (plan: Pick<TrialPlan, 'used'> & Partial<Pick<TrialPlan, 'pictures'>>) => ({
  ...namesIn(plan.used, methodsOf(plan)),
  pictures: plan.pictures ?? [],
});

/**
 * The names that levels are looked up in: shelf items, methods, and the choices that any of those offers.
 *
 * @example namesIn(plan.used, []).options.removal; // => []
 */
export const namesIn = <S extends object>(items: S, methods: readonly Method[]) => ({
  ...items,
  methods,
  options: Object.fromEntries(
    OPTION_KEYS.map(key => [key, methods.flatMap(m => m.options[key])]),
  ) as Method['options'],
});

/**
 * What a factor is called: by the methods it is varied in; where those have different words for the planned wait, by its
 * plain name.
 *
 * @example nameIn([plan.used.method], 'medium', []); // => 'Medium'
 */
export function nameIn(methods: readonly Method[], key: FactorKey, factors: readonly Factor[]): string {
  const factor = factors.find(f => f.key === key);
  const own = factor ? methods.filter(m => isVariedIn(factor, m)) : methods;
  const words = new Set((own.length ? own : methods).map(m => m.waitName));
  return factorName(key, { waitName: words.size === 1 ? [...words][0] : 'Planned wait' });
}

/**
 * {@link nameIn} for a factor of a plan.
 *
 * @example factorIn(plan, 'coatMm'); // => 'Coat thickness'
 */
export const factorIn = (plan: Pick<TrialPlan, 'used' | 'factors'>, key: FactorKey): string =>
  nameIn(methodsOf(plan), key, plan.factors);

/**
 * Level names of a patch in factor order, without what its method does not have; a control has but one, and
 * so has a piece made by a recipe.
 *
 * @example levelNames(plan, { levels: [] }); // => ['Your usual way']
 */
export function levelNames(plan: TrialPlan, patch: Pick<Patch, 'levels'>): Words[] {
  if (!patch.levels.length) return [plan.real ? 'By the recipe' : 'Your usual way'];
  const names = namesOf(plan);
  return plan.factors.flatMap((factor, i) =>
    patch.levels[i] === NO_LEVEL ? [] : levelName(names, factor.key, factor.levels[patch.levels[i]]),
  );
}

/**
 * What one of a plan's patches is called, and several: pieces where they are made by a recipe.
 *
 * @example unitOf(plan).many; // => 'patches'
 */
export const unitOf = ({
  real,
}: {
  readonly real?: unknown;
}): { readonly one: string; readonly many: string } =>
  real ? { one: 'piece', many: 'pieces' } : { one: 'patch', many: 'patches' };

export const FACTOR_LETTERS = 'ABCDEFGH';

/**
 * Short marks for drawing on a small patch: `A1`, `B2` — factor letter and level number; a control is `usual`, a piece
 * made by a recipe its number.
 *
 * @example levelMarks({}, { levels: [0, 1], order: 0 }); // => ['A1', 'B2']
 */
export const levelMarks = (
  plan: Pick<TrialPlan, 'real'>,
  patch: Pick<Patch, 'levels' | 'order'>,
): string[] =>
  patch.levels.length
    ? patch.levels.flatMap((level, i) => (level === NO_LEVEL ? [] : `${FACTOR_LETTERS[i]}${level + 1}`))
    : [plan.real ? `${patch.order + 1}` : 'usual'];

/**
 * The shelf ids that a factor's levels name, or none for numbers and the method's own choices.
 *
 * @example isItemFactor('medium'); // => true
 */
export const isItemFactor = (key: FactorKey) => FACTORS[key].levels === 'items';

/**
 * The levels of a patch in one line.
 *
 * @example levelsLine(plan, { levels: [] }); // => 'Your usual way'
 */
export const levelsLine = (plan: TrialPlan, patch: Pick<Patch, 'levels'>): Words =>
  joined(levelNames(plan, patch), ', ');
