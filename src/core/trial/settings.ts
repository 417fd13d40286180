import type { Donor, Medium, Preparation, Printer, Shelf, Substrate } from '../shelf/index.ts';
import type { FactorKey, LevelValue, Patch, TrialPlan } from './index.ts';

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
}

const found = <T extends { id: string }>(items: readonly T[], id: string): T => {
  const item = items.find(i => i.id === id);
  if (!item) throw new Error(`The plan does not hold the item ${id}`);
  return item;
};

/** The settings of a patch: the plan's usual choice, replaced by the patch's level of every factor. */
export function settingsOf(plan: TrialPlan, patch: Pick<Patch, 'levels'>): PatchSettings {
  const chosen: Record<FactorKey, LevelValue> & { printer: string; substrate: string } = { ...plan.usual };
  plan.factors.forEach((factor, i) => {
    chosen[factor.key] = factor.levels[patch.levels[i]];
  });
  return {
    printer: found(plan.used.printers, chosen.printer),
    donor: found(plan.used.donors, String(chosen.donor)),
    medium: found(plan.used.mediums, String(chosen.medium)),
    substrate: found(plan.used.substrates, chosen.substrate),
    preparation: found(plan.used.preparations, String(chosen.preparation)),
    coatMm: Number(chosen.coatMm),
    dryHours: Number(chosen.dryHours),
    rounds: Number(chosen.rounds),
  };
}

/** What a factor is called where people read it. */
export const FACTOR_NAMES: Record<FactorKey, string> = {
  medium: 'Medium',
  dryHours: 'Cure time',
  donor: 'Donor sheet',
  coatMm: 'Coat thickness',
  rounds: 'Rubbing rounds',
  preparation: 'Preparation',
};

/** A level in words, e.g. `Soft gel medium`, `6 h`, `0.4 mm`, `2 rounds`. */
export function levelName(
  used: Pick<Shelf, 'mediums' | 'donors' | 'preparations'>,
  key: FactorKey,
  value: LevelValue,
): string {
  switch (key) {
    case 'medium':
      return used.mediums.find(m => m.id === value)?.name ?? String(value);
    case 'donor':
      return used.donors.find(d => d.id === value)?.name ?? String(value);
    case 'preparation':
      return used.preparations.find(p => p.id === value)?.name ?? String(value);
    case 'dryHours':
      return `${value} h`;
    case 'coatMm':
      return `${value} mm`;
    case 'rounds':
      return `${value} ${value === 1 ? 'round' : 'rounds'}`;
  }
}

/** Level names of a patch in factor order. */
export const levelNames = (plan: TrialPlan, patch: Pick<Patch, 'levels'>): string[] =>
  plan.factors.map((factor, i) => levelName(plan.used, factor.key, factor.levels[patch.levels[i]]));

/** Short marks for drawing on a small patch: `A1`, `B2` — factor letter and level number. */
export const levelMarks = (patch: Pick<Patch, 'levels'>): string[] =>
  patch.levels.map((level, i) => `${'ABC'[i]}${level + 1}`);
