import { coatMl } from '../design/index.ts';
import { donorCells, sheetGrid } from '../print/donor-room.ts';
import { progressOf } from '../progress/index.ts';
import { joined, say, type Words } from '../say/index.ts';
import { type Donor, isCounted, isOne, MEDIUMS, type Medium, onHandWords } from '../shelf/index.ts';
import { sizeOf, standing, type TrialPlan, type TrialRecord } from '../trial/index.ts';

/** So much of what is counted on the shelf, by the item's id: mL of mediums, sheets of donors. */
export interface Amounts {
  readonly ml: Readonly<Record<string, number>>;
  readonly sheets: Readonly<Record<string, number>>;
}

/** What is left on the shelf after some of it was used. */
export interface Left {
  readonly mediums: readonly Medium[];
  readonly donors: readonly Donor[];
  /** What is left, and what is low, in words. */
  readonly words: Words;
}

/**
 * A shelf's mediums and donors with less on hand, never less than nothing; what is not counted stays so,
 * and what is not on the shelf is passed over. Amounts may be below nought, to give back. Only what changes is returned.
 *
 * @example takenOff({ mediums: [], donors: [] }, { ml: { a: 3 }, sheets: {} }).words; // => ''
 */
export function takenOff(shelf: Pick<Left, 'mediums' | 'donors'>, used: Amounts): Left {
  const mediums = shelf.mediums.flatMap(m =>
    isCounted(m) && used.ml[m.id]
      ? [{ ...m, counted: true, onHandMl: Math.max(0, Math.round(m.onHandMl - used.ml[m.id])) }]
      : [],
  );
  const donors = shelf.donors.flatMap(d =>
    isCounted(d) && used.sheets[d.id]
      ? [{ ...d, counted: true, onHand: Math.max(0, d.onHand - used.sheets[d.id]) }]
      : [],
  );
  const left = [...mediums, ...donors].map(item => say`${item.name}: ${onHandWords(item)}.`);
  return { mediums, donors, words: joined(left, ' ') };
}

/**
 * What a trial has used up so far of what is counted on a shelf, as {@link coatMl} and the sheets it is printed on have
 * it, less what was taken off for it before: a patch uses its print once anything but its mark is done, and its coat with
 * it. Nothing where nothing is left to be taken.
 */
export function usedUp(plan: TrialPlan, records: readonly TrialRecord[]): Amounts | undefined {
  const size = sizeOf(plan);
  const ml: Record<string, number> = {};
  const prints: Record<string, number> = {};
  for (const { settings: s, chain, doneAt } of progressOf(plan, records).lines) {
    if (!chain.some((l, i) => l.step.does !== 'mark' && doneAt[i] !== undefined)) continue;
    const isLiquid = !isOne(MEDIUMS.nothing, s.medium.kind) && !s.medium.rollDm2;
    if (isLiquid) ml[s.medium.id] = (ml[s.medium.id] ?? 0) + coatMl(size, s.coatMm);
    prints[s.donor.id] = (prints[s.donor.id] ?? 0) + 1;
  }
  const sheets = Object.fromEntries(
    plan.used.donors.flatMap(d => {
      const perSheet = d.leftOf ? 1 : Math.max(1, sheetGrid(d.sheet, donorCells(size)).perSheet);
      return prints[d.id] ? [[d.id, Math.ceil(prints[d.id] / perSheet)]] : [];
    }),
  );
  const taken = standing(records).flatMap(r => (r.kind === 'stock' ? [r] : []));
  const left = (
    used: Record<string, number>,
    before: readonly Readonly<Record<string, number>>[],
    step: number,
  ) =>
    Object.fromEntries(
      Object.entries(used).flatMap(([id, amount]) => {
        const rest = amount - before.reduce((sum, b) => sum + (b[id] ?? 0), 0);
        return rest >= step ? [[id, Math.round(rest / step) * step]] : [];
      }),
    );
  const open = {
    ml: left(
      ml,
      taken.map(t => t.ml),
      0.1,
    ),
    sheets: left(
      sheets,
      taken.map(t => t.sheets),
      1,
    ),
  };
  return Object.keys(open.ml).length + Object.keys(open.sheets).length ? open : undefined;
}
