import { donorCells, sheetGrid } from '../print/nest.ts';
import { settingsOf, type TrialPlan } from '../trial/index.ts';

/** The bill of a trial: what is used up, in the shelf's own currency. */
export interface PlanCost {
  readonly lines: readonly { readonly what: string; readonly amount: string; readonly price: number }[];
  readonly mediums: readonly {
    readonly id: string;
    readonly name: string;
    readonly ml: number;
    readonly jars: number;
  }[];
  readonly sheets: number;
  readonly total: number;
}

const WASTE = 0.25;
const BEYOND_MM = 2;

/**
 * mL of wet medium for one patch: area × thickness, the coat reaching 2 mm beyond the picture,
 * plus a quarter that stays in the brush. 1 mm over 100 cm² is 10 mL.
 */
export const coatMl = (patchMm: number, coatMm: number): number =>
  (((patchMm + 2 * BEYOND_MM) ** 2 * coatMm) / 1000) * (1 + WASTE);

/** Adds up donor sheets, prints, mediums and board for a plan. */
export function planCost(plan: TrialPlan): PlanCost {
  const settings = plan.patches.map(patch => settingsOf(plan, patch));
  const lines: { what: string; amount: string; price: number }[] = [];
  let sheets = 0;
  for (const donor of plan.used.donors) {
    const pieces = settings.filter(s => s.donor.id === donor.id);
    if (!pieces.length) continue;
    const { perSheet } = sheetGrid(donor.sheet, donorCells(plan.patchMm));
    const count = Math.ceil(pieces.length / perSheet);
    sheets += count;
    const each = donor.packPrice / donor.packSize + pieces[0].printer.pricePerPage;
    lines.push({
      what: `${donor.name}, printed`,
      amount: `${count} ${count === 1 ? 'sheet' : 'sheets'}`,
      price: count * each,
    });
  }
  const mediums = plan.used.mediums.flatMap(medium => {
    const ml = settings
      .filter(s => s.medium.id === medium.id)
      .reduce((sum, s) => sum + coatMl(plan.patchMm, s.coatMm), 0);
    if (!ml) return [];
    lines.push({
      what: medium.name,
      amount: `${ml.toFixed(1)} mL`,
      price: (ml / medium.jarMl) * medium.jarPrice,
    });
    return [{ id: medium.id, name: medium.name, ml, jars: Math.ceil(ml / medium.jarMl) }];
  });
  const dm2 = (plan.board.w * plan.board.h * plan.board.count) / 10_000;
  const substrate = settings[0].substrate;
  lines.push({ what: substrate.name, amount: `${dm2.toFixed(1)} dm²`, price: dm2 * substrate.pricePerDm2 });
  return { lines, mediums, sheets, total: lines.reduce((sum, line) => sum + line.price, 0) };
}
