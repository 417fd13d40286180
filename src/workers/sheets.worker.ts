import regular from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url';
import bold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url';
import { expose } from 'comlink';
import { pdfOf } from '../core/pdf/index.ts';
import type { Sheets } from '../core/sheets/index.ts';

const load = async (url: string) => new Uint8Array(await (await fetch(url)).arrayBuffer());
const fonts = async () => ({ regular: await load(regular), bold: await load(bold) });

const api = {
  /** Sheets as a PDF file. */
  pdf: async (sheets: Sheets): Promise<Blob> =>
    new Blob([(await pdfOf(sheets, await fonts())) as BlobPart], { type: 'application/pdf' }),
};
export type SheetsApi = typeof api;

expose(api);
