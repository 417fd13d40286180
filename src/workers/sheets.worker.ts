import regular from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url';
import bold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url';
import { expose } from 'comlink';
import { cardPdf, donorSheetsPdf } from '../core/sheets/index.ts';
import type { TrialPlan } from '../core/trial/index.ts';

const load = async (url: string) => new Uint8Array(await (await fetch(url)).arrayBuffer());
const fonts = async () => ({ regular: await load(regular), bold: await load(bold) });
const asPdf = (bytes: Uint8Array) => new Blob([bytes as BlobPart], { type: 'application/pdf' });

const api = {
  /** The donor sheets of a trial as a PDF file. */
  donorSheets: async (plan: TrialPlan): Promise<Blob> => asPdf(await donorSheetsPdf(plan, await fonts())),
  /** The reading card as a PDF file. */
  readingCard: async (patchMm: number): Promise<Blob> => asPdf(await cardPdf(patchMm, await fonts())),
};
export type SheetsApi = typeof api;

expose(api);
