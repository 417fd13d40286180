import { cardSheet, donorSets, type PatchSize, targetSheet } from '../sheets/index.ts';
import type { TrialPlan } from '../trial/index.ts';
import { pdfOf, type SheetFonts } from './write.ts';

export { boxesOn, pdfOf, type SheetFonts } from './write.ts';

/** All donor sheets of a trial in one PDF. */
export function donorSheetsPdf(plan: TrialPlan, fonts: SheetFonts): Promise<Uint8Array> {
  const pages = donorSets(plan).flatMap(set => set.pages);
  return pdfOf({ title: `${plan.name}: donor sheets`, pages }, fonts);
}

/** The reading card as PDF. */
export const cardPdf = (patch: PatchSize, fonts: SheetFonts): Promise<Uint8Array> =>
  pdfOf(cardSheet(patch), fonts);

/** One mirrored target alone as PDF. */
export const targetPdf = (patch: PatchSize, fonts: SheetFonts): Promise<Uint8Array> =>
  pdfOf(targetSheet(patch), fonts);
