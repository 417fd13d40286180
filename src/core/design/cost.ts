import { mirrors } from '../methods/index.ts';
import { donorCells, sheetGrid } from '../print/donor-room.ts';
import { dm2, many, mL, say, type Words, within } from '../say/index.ts';
import { isOne, MEDIUMS } from '../shelf/index.ts';
import { carrierOf, settingsOf, sizeOf, type TrialPlan } from '../trial/index.ts';
import { type Sides, sidesOf } from '../units/index.ts';

/** The bill of a trial: what is used up, in the shelf's own currency. */
export interface PlanCost {
  readonly lines: readonly { readonly what: Words; readonly amount: Words; readonly price: number }[];
  readonly mediums: readonly {
    readonly id: string;
    readonly name: string;
    readonly ml: number;
    readonly jars: number;
  }[];
  /** What has to be bought, given what is on hand. */
  readonly buy: readonly { readonly what: string; readonly amount: Words }[];
  readonly sheets: number;
  /** Whether the shelf says of anything in it how much there is. */
  readonly isCounted: boolean;
  readonly total: number;
}

const WASTE = 0.25;
const BEYOND_MM = 2;

/**
 * mL of wet medium for one patch: area × thickness, the coat reaching 2 mm beyond the picture,
 * plus a quarter that stays in the brush. 1 mm over 100 cm² is 10 mL.
 *
 * @example coatMl(100, 1).toFixed(2); // => '13.52'
 */
export const coatMl = (patch: Sides, coatMm: number): number =>
  ((coatedMm2(patch) * coatMm) / 1000) * (1 + WASTE);

/**
 * What one patch of some settings uses up, in the shelf's own currency: its share of a sheet and a page, its coat, its
 * preparation and its finish; not the ground it lies on.
 *
 * @example patchCost(plan, settings) > 0; // => true
 */
export function patchCost(plan: Pick<TrialPlan, 'patchMm' | 'patchTallMm'>, s: Settings): number {
  const size = sizeOf(plan);
  const { perSheet } = s.donor.leftOf ? { perSheet: 1 } : sheetGrid(s.donor.sheet, donorCells(size));
  const sheet = s.donor.packPrice / s.donor.packSize + (s.donor.leftOf ? 0 : s.printer.pricePerPage);
  const dm2 = (size.w * size.h) / 10_000;
  const { medium } = s;
  const coat = isOne(MEDIUMS.nothing, medium.kind)
    ? 0
    : medium.rollDm2
      ? ((coatedMm2(size) / 10_000) * (1 + WASTE) * medium.jarPrice) / medium.rollDm2
      : (coatMl(size, s.coatMm) / medium.jarMl) * medium.jarPrice;
  return (
    sheet / Math.max(1, perSheet) + coat + dm2 * (s.preparation.pricePerDm2 + (s.finish?.pricePerDm2 ?? 0))
  );
}

/** What is coated of a patch, mm². */
function coatedMm2(patch: Sides): number {
  const { w, h } = sidesOf(patch);
  return (w + 2 * BEYOND_MM) * (h + 2 * BEYOND_MM);
}

/**
 * Adds up donor sheets, prints, mediums, preparations, finishes and boards for a plan, and what is missing of each.
 *
 * @example planCost(plan).total > 0; // => true
 */
export function planCost(plan: TrialPlan): PlanCost {
  const settings = plan.patches.map(patch => settingsOf(plan, patch));
  const lines: Lines = [];
  const buy: Buy = [];
  const sheets = donorCost(plan, settings, lines, buy);
  const mediums = mediumCost(plan, settings, lines, buy);
  const { w, h } = sizeOf(plan);
  const patchDm2 = (w * h) / 10_000;
  for (const kind of ['preparation', 'finish'] as const) {
    const names = new Map<string, { n: number; each: number }>();
    for (const s of settings) {
      const item = s[kind];
      if (!item?.pricePerDm2) continue;
      names.set(item.name, { n: (names.get(item.name)?.n ?? 0) + 1, each: item.pricePerDm2 * patchDm2 });
    }
    for (const [what, { n, each }] of names) lines.push({ what, amount: many(n, 'patch'), price: n * each });
  }
  for (const substrate of plan.used.substrates) {
    const boards = new Set(
      plan.patches.filter((_, i) => settings[i].substrate.id === substrate.id).map(p => p.board),
    );
    if (!boards.size) continue;
    // A board of another trial has been paid for.
    const fresh = [...boards].map(b => carrierOf(plan, b)).filter(c => !c.of);
    if (!fresh.length) continue;
    const area = fresh.reduce((sum, c) => sum + (c.w * c.h) / 10_000, 0);
    lines.push({
      what: substrate.name,
      amount: plan.board.onePiece ? many(boards.size, 'piece') : dm2(area),
      price: area * substrate.pricePerDm2,
    });
  }
  const isCounted = plan.used.donors.some(d => d.onHand > 0) || plan.used.mediums.some(m => m.onHandMl > 0);
  const total = lines.reduce((sum, line) => sum + line.price, 0);
  return { lines, mediums, buy, sheets, isCounted, total };
}

type Settings = ReturnType<typeof settingsOf>;
type Lines = { what: Words; amount: Words; price: number }[];
type Buy = { what: string; amount: Words }[];

/** Sheets by donor and printer; a printed sheet costs its share of the pack and a page. */
function donorCost(plan: TrialPlan, settings: readonly Settings[], lines: Lines, buy: Buy): number {
  let sheets = 0;
  for (const donor of plan.used.donors) {
    let ofDonor = 0;
    for (const printer of plan.used.printers) {
      const pieces = settings.filter(s => s.donor.id === donor.id && s.printer.id === printer.id);
      if (!pieces.length) continue;
      const perSheet = donor.leftOf ? 1 : sheetGrid(donor.sheet, donorCells(sizeOf(plan))).perSheet;
      // What is printed mirrored and what is not lies on sheets of its own.
      const turned = pieces.filter(s => mirrors(s.method, donor.kind)).length;
      const sheetsFor = (n: number) => Math.ceil(n / Math.max(1, perSheet));
      const count = sheetsFor(turned) + sheetsFor(pieces.length - turned);
      ofDonor += count;
      lines.push({
        what:
          plan.used.printers.length > 1
            ? say`${donor.name}, ${within(printer.name)}`
            : `${donor.name}, printed`,
        amount: donor.leftOf ? many(count, 'left over', 'left over') : many(count, 'sheet'),
        price: count * (donor.packPrice / donor.packSize + (donor.leftOf ? 0 : printer.pricePerPage)),
      });
    }
    sheets += ofDonor;
    // What is left over cannot be bought.
    const packs = donor.leftOf ? 0 : Math.ceil(Math.max(0, ofDonor - donor.onHand) / donor.packSize);
    if (packs)
      buy.push({
        what: donor.name,
        amount: say`${many(packs, 'pack')} of ${donor.packSize}`,
      });
  }
  return sheets;
}

function mediumCost(
  plan: TrialPlan,
  settings: readonly Settings[],
  lines: Lines,
  buy: Buy,
): PlanCost['mediums'] {
  return plan.used.mediums.flatMap(medium => {
    const pieces = settings.filter(s => s.medium.id === medium.id);
    if (!pieces.length || isOne(MEDIUMS.nothing, medium.kind)) return [];
    if (medium.rollDm2) {
      const area = ((pieces.length * coatedMm2(sizeOf(plan))) / 10_000) * (1 + WASTE);
      lines.push({
        what: medium.name,
        amount: dm2(area),
        price: (area / medium.rollDm2) * medium.jarPrice,
      });
      return [];
    }
    const ml = pieces.reduce((sum, s) => sum + coatMl(sizeOf(plan), s.coatMm), 0);
    lines.push({
      what: medium.name,
      amount: mL(ml, { places: 1 }),
      price: (ml / medium.jarMl) * medium.jarPrice,
    });
    const jars = Math.ceil(Math.max(0, ml - medium.onHandMl) / medium.jarMl);
    if (jars) buy.push({ what: medium.name, amount: say`${many(jars, 'jar')} of ${mL(medium.jarMl)}` });
    return [{ id: medium.id, name: medium.name, ml, jars }];
  });
}
