export { benchPage } from './bench-page.ts';
export { benchSheets, ladderCard } from './bench-sheet.ts';
export { cardOnPage, cardSheet, cornersSheet, type PatchSize, targetSheet } from './cards.ts';
export { type DonorSet, donorSets, type OwnPicture, pictureSet, type SheetOptions } from './donor-sheets.ts';
export { labelSheets, mapSheets, qrWords } from './labels.ts';
export { inMeasures, type Mark, type Page, type Sheets } from './page.ts';
export { recipeCard } from './recipe-card.ts';
export { type Report, type ReportBars, reportSheets } from './report.ts';
export { wallSheets } from './wall-sheets.ts';
