export { cardOnPage, cardPdf, donorSheetsPdf, type SheetFonts, targetPdf } from './pdf.ts';
