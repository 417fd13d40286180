import regular from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url';
import bold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url';
import { expose } from 'comlink';
import { pdfOf } from '../core/pdf/index.ts';
import type { Sheets } from '../core/sheets/index.ts';

const load = async (url: string) => new Uint8Array(await (await fetch(url)).arrayBuffer());
const fonts = async () => ({ regular: await load(regular), bold: await load(bold) });

const api = {
  /** Sheets as PDF files, one for each. */
  pdfs: async (all: readonly Sheets[]): Promise<Blob[]> => {
    const embedded = await fonts();
    const files: Blob[] = [];
    for (const sheets of all)
      files.push(new Blob([(await pdfOf(sheets, embedded)) as BlobPart], { type: 'application/pdf' }));
    return files;
  },
};
export type SheetsApi = typeof api;

expose(api);
