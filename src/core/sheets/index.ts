import type { TrialPlan } from '../trial/index.ts';
import { cardSheet, targetSheet } from './cards.ts';
import { donorSets } from './donor-sheets.ts';
import { pdfOf, type SheetFonts } from './pdf.ts';

export { benchSheets, ladderCard } from './bench-sheet.ts';
export { cardOnPage, cardSheet, cornersSheet, targetSheet } from './cards.ts';
export { type DonorSet, donorSets, type OwnPicture, pictureSet, type SheetOptions } from './donor-sheets.ts';
export { labelSheets, mapSheets, qrWords } from './labels.ts';
export type { Mark, Page, Sheets } from './page.ts';
export { pdfOf, type SheetFonts } from './pdf.ts';

/** All donor sheets of a trial in one PDF. */
export function donorSheetsPdf(plan: TrialPlan, fonts: SheetFonts): Promise<Uint8Array> {
  const pages = donorSets(plan).flatMap(set => set.pages);
  return pdfOf({ title: `${plan.name}: donor sheets`, pages }, fonts);
}

/** The reading card as PDF. */
export const cardPdf = (patchMm: number, fonts: SheetFonts): Promise<Uint8Array> =>
  pdfOf(cardSheet(patchMm), fonts);

/** One mirrored target alone as PDF. */
export const targetPdf = (patchMm: number, fonts: SheetFonts): Promise<Uint8Array> =>
  pdfOf(targetSheet(patchMm), fonts);
