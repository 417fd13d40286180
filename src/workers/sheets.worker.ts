import regular from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url';
import bold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url';
import atkinsonLatinExt from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-normal.woff?url';
import atkinsonLatinExtBold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff?url';
import notoCyrillic from '@fontsource/noto-sans/files/noto-sans-cyrillic-400-normal.woff?url';
import notoCyrillicBold from '@fontsource/noto-sans/files/noto-sans-cyrillic-700-normal.woff?url';
import notoCyrillicExt from '@fontsource/noto-sans/files/noto-sans-cyrillic-ext-400-normal.woff?url';
import notoCyrillicExtBold from '@fontsource/noto-sans/files/noto-sans-cyrillic-ext-700-normal.woff?url';
import notoGreek from '@fontsource/noto-sans/files/noto-sans-greek-400-normal.woff?url';
import notoGreekBold from '@fontsource/noto-sans/files/noto-sans-greek-700-normal.woff?url';
import notoGreekExt from '@fontsource/noto-sans/files/noto-sans-greek-ext-400-normal.woff?url';
import notoGreekExtBold from '@fontsource/noto-sans/files/noto-sans-greek-ext-700-normal.woff?url';
import notoLatin from '@fontsource/noto-sans/files/noto-sans-latin-400-normal.woff?url';
import notoLatinBold from '@fontsource/noto-sans/files/noto-sans-latin-700-normal.woff?url';
import notoLatinExt from '@fontsource/noto-sans/files/noto-sans-latin-ext-400-normal.woff?url';
import notoLatinExtBold from '@fontsource/noto-sans/files/noto-sans-latin-ext-700-normal.woff?url';
import notoVietnamese from '@fontsource/noto-sans/files/noto-sans-vietnamese-400-normal.woff?url';
import notoVietnameseBold from '@fontsource/noto-sans/files/noto-sans-vietnamese-700-normal.woff?url';
import { expose } from 'comlink';
import { boxesOn, pdfOf } from '../core/pdf/index.ts';
import type { Sheets } from '../core/sheets/index.ts';

const load = async (url: string) => new Uint8Array(await (await fetch(url)).arrayBuffer());
/** Fonts for letters beyond those of western Europe; fetched only where a sheet has such. */
const MORE = [
  [atkinsonLatinExt, atkinsonLatinExtBold],
  [notoLatin, notoLatinBold],
  [notoLatinExt, notoLatinExtBold],
  [notoGreek, notoGreekBold],
  [notoGreekExt, notoGreekExtBold],
  [notoCyrillic, notoCyrillicBold],
  [notoCyrillicExt, notoCyrillicExtBold],
  [notoVietnamese, notoVietnameseBold],
] as const;
let loaded: ReturnType<typeof loadFonts> | undefined;
const fonts = () => {
  loaded ??= loadFonts().catch(error => {
    loaded = undefined;
    throw error;
  });
  return loaded;
};
const loadFonts = async () => ({
  regular: await load(regular),
  bold: await load(bold),
  more: () => Promise.all(MORE.map(async ([r, b]) => ({ regular: await load(r), bold: await load(b) }))),
});

const api = {
  /** Letters on sheets that no font has: they print as boxes. */
  boxes: async (all: readonly Sheets[]): Promise<string[]> => {
    const embedded = await fonts();
    const found = await Promise.all(all.map(sheets => boxesOn(sheets, embedded)));
    return [...new Set(found.flat())];
  },
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
