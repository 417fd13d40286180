import betaQuantile from '@stdlib/stats-base-dists-beta-quantile';
import Papa from 'papaparse';
import { coatMl, piecesFor } from '../design/index.ts';
import type { Outcome } from '../outcome/index.ts';
import { good } from '../outcome/index.ts';
import { dm2, many, mL, say, type Words, write } from '../say/index.ts';
import { isOne, MEDIUMS } from '../shelf/index.ts';
import { handsOnMin, stepsFor, waitAfter } from '../steps/index.ts';
import type { Amounts } from '../stock/index.ts';
import type { Air } from '../units/index.ts';
import { type KeptRecipe, settingsIn } from './kept.ts';

/** What is wanted of a recipe for real. */
export interface Wanted {
  /** The picture, mm. */
  readonly w: number;
  readonly h: number;
  /** Good ones that are wanted. */
  readonly count: number;
  /** How sure to be of having them, 0–1. */
  readonly certainty: number;
}

/** What it takes to make a recipe for real. */
export interface RealRun {
  /** Pieces to begin, so that enough come out good. */
  readonly pieces: number;
  readonly chance: number;
  /** Sheets that one picture is printed on: more than one where it is larger than a sheet. */
  readonly sheetsEach: number;
  readonly sheets: number;
  readonly ml: number;
  readonly lines: readonly { readonly what: string; readonly amount: Words; readonly price: number }[];
  /** What is not on the shelf. */
  readonly buy: readonly { readonly what: string; readonly amount: Words; readonly price: number }[];
  readonly each: number;
  readonly total: number;
  /** Minutes of hands for all pieces, and hours that pass from the first step to the last if nothing is waited for twice. */
  readonly handsMin: number;
  readonly hours: number;
}

/**
 * What so many pieces of a size take of what is counted on the shelf: printed sheets and mL of the medium, which is none
 * where it comes off a roll or there is none.
 */
export function usedFor(
  kept: KeptRecipe,
  pieces: number,
  { w, h }: { readonly w: number; readonly h: number },
): { sheetsEach: number; sheets: number; ml: number; isLiquid: boolean } {
  const s = settingsIn(kept);
  const room = printable(s.donor.sheet);
  const tiles = (a: number, b: number) => Math.ceil(a / room.w) * Math.ceil(b / room.h);
  const sheetsEach = Math.min(tiles(w, h), tiles(h, w));
  const perSheet = sheetsEach > 1 ? 1 : Math.max(1, fits(room, w, h));
  const sheets = sheetsEach > 1 ? pieces * sheetsEach : Math.ceil(pieces / perSheet);
  const isLiquid = !isOne(MEDIUMS.nothing, s.medium.kind) && !s.medium.rollDm2;
  return { sheetsEach, sheets, isLiquid, ml: isLiquid ? pieces * coatMl({ w, h }, s.coatMm) : 0 };
}

/** What so many mL and sheets of a recipe's own medium and donor are, for the shelf. */
export function amountsOf(kept: KeptRecipe, used: { readonly ml: number; readonly sheets: number }): Amounts {
  const { medium, donor } = settingsIn(kept);
  return { ml: { [medium.id]: used.ml }, sheets: { [donor.id]: used.sheets } };
}

/**
 * How much of everything a recipe takes at a size and a number, what of it has to be bought, what it costs, and how many
 * to begin: beta-binomial on what was seen of it. `onHand` tells what is left of a medium (mL) and a donor (sheets).
 * Fails where so many cannot be hoped for.
 */
export function realRun(
  kept: KeptRecipe,
  seen: { readonly good: number; readonly of: number },
  wanted: Wanted,
  onHand: { readonly ml: number; readonly sheets: number },
): Outcome<RealRun> {
  const begin = piecesFor(wanted.count, seen.good, seen.of, wanted.certainty);
  if (!begin.ok) return begin;
  const s = settingsIn(kept);
  const { pieces, chance } = begin.value;
  const { w, h } = wanted;
  const { sheetsEach, sheets, ml, isLiquid } = usedFor(kept, pieces, wanted);
  const area = (pieces * w * h) / 10_000;
  const sheetPrice = s.donor.packPrice / s.donor.packSize + s.printer.pricePerPage;
  const lines = [
    { what: `${s.donor.name}, printed`, amount: many(sheets, 'sheet'), price: sheets * sheetPrice },
    ...(isLiquid
      ? [
          {
            what: s.medium.name,
            amount: mL(ml, { places: 0 }),
            price: (ml / s.medium.jarMl) * s.medium.jarPrice,
          },
        ]
      : []),
    ...[s.preparation, s.finish]
      .filter(item => item?.pricePerDm2)
      .map(item => ({
        what: item!.name,
        amount: dm2(area),
        price: area * item!.pricePerDm2,
      })),
    { what: s.substrate.name, amount: dm2(area), price: area * s.substrate.pricePerDm2 },
  ];
  const packs = Math.ceil(Math.max(0, sheets - onHand.sheets) / s.donor.packSize);
  const jars = isLiquid ? Math.ceil(Math.max(0, ml - onHand.ml) / s.medium.jarMl) : 0;
  const buy = [
    ...(packs
      ? [
          {
            what: s.donor.name,
            amount: say`${many(packs, 'pack')} of ${s.donor.packSize}`,
            price: packs * s.donor.packPrice,
          },
        ]
      : []),
    ...(jars
      ? [
          {
            what: s.medium.name,
            amount: say`${many(jars, 'jar')} of ${mL(s.medium.jarMl)}`,
            price: jars * s.medium.jarPrice,
          },
        ]
      : []),
  ];
  const total = lines.reduce((sum, l) => sum + l.price, 0);
  return good({
    ...{ pieces, chance, sheetsEach, sheets, ml, lines, buy, total },
    each: total / wanted.count,
    ...takes(kept, pieces),
  });
}

/** Printers leave a margin of about so much, mm. */
const MARGIN_MM = 8;
const printable = (sheet: { readonly w: number; readonly h: number }) => ({
  w: sheet.w - 2 * MARGIN_MM,
  h: sheet.h - 2 * MARGIN_MM,
});
/** Room for the knife between two pictures, mm. */
const KNIFE_MM = 6;
/** How many pictures fit on a sheet, whichever way round is better. */
function fits(room: { readonly w: number; readonly h: number }, w: number, h: number): number {
  const way = (a: number, b: number) =>
    Math.floor((room.w + KNIFE_MM) / (a + KNIFE_MM)) * Math.floor((room.h + KNIFE_MM) / (b + KNIFE_MM));
  return Math.max(way(w, h), way(h, w));
}

/** Hands and hours of a recipe: each step's own hands for every piece, and its waits once for all of them. */
function takes(kept: KeptRecipe, pieces: number): Pick<RealRun, 'handsMin' | 'hours'> {
  const s = settingsIn(kept);
  const air: Air = kept.air;
  let [hands, wait] = [0, 0];
  for (const step of stepsFor({ wear: [] }, s)) {
    const times = step.eachRound ? Math.max(1, s.rounds) : 1;
    hands += pieces * times * handsOnMin(step, { settings: s, preparedWith: [] });
    const after = waitAfter(step, s, air);
    if (after) wait += times * after.aim;
  }
  return { handsMin: hands, hours: (hands + wait) / 60 };
}

/**
 * How often it comes out good, with the interval that holds nine times in ten: a beta posterior on a uniform prior
 * (Gelman et al. 2013, §2.4).
 *
 * @example successOf({ good: 0, of: 0 }).value; // => 0.5
 */
export function successOf({ good: g, of }: { readonly good: number; readonly of: number }) {
  const [a, b] = [g + 1, of - g + 1];
  return { value: a / (a + b), lo: betaQuantile(0.05, a, b), hi: betaQuantile(0.95, a, b) };
}

/** A shopping list as CSV: what, how much, price. No cell is ever taken for a formula. */
export const shoppingCsv = ({ buy, lines }: Pick<RealRun, 'buy' | 'lines'>): string =>
  Papa.unparse(
    {
      fields: ['list', 'what', 'amount', 'price'],
      data: [...buy.map(b => ['to buy', b] as const), ...lines.map(l => ['used', l] as const)].map(
        ([list, { what, amount, price }]) => [list, what, write(amount), price.toFixed(2)],
      ),
    },
    { escapeFormulae: true, newline: '\r\n' },
  );
