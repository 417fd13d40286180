import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { SheetFonts } from '../core/pdf/index.ts';

const require = createRequire(import.meta.url);
const font = (weight: number) =>
  new Uint8Array(
    readFileSync(
      require.resolve(
        `@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
      ),
    ),
  );

/** The fonts that are embedded in PDFs, from the package. */
export const nodeFonts = (): SheetFonts => ({ regular: font(400), bold: font(700) });
