import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { SheetFonts } from '../core/pdf/index.ts';

const require = createRequire(import.meta.url);
const font = (family: string, part: string, weight: number) =>
  new Uint8Array(
    readFileSync(require.resolve(`@fontsource/${family}/files/${family}-${part}-${weight}-normal.woff`)),
  );
const both = (family: string, part: string) => ({
  regular: font(family, part, 400),
  bold: font(family, part, 700),
});

/** The fonts that are embedded in PDFs, from their packages. */
export const nodeFonts = (): SheetFonts => ({
  ...both('atkinson-hyperlegible-next', 'latin'),
  more: async () => [
    both('atkinson-hyperlegible-next', 'latin-ext'),
    ...['latin', 'latin-ext', 'greek', 'greek-ext', 'cyrillic', 'cyrillic-ext', 'vietnamese'].map(part =>
      both('noto-sans', part),
    ),
  ],
});
