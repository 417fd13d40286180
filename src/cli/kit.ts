import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { cardPdf, targetPdf } from '../core/pdf/index.ts';
import { card, cardScene, LINE_WIDTHS, rasterise, TONE_STEPS, target } from '../core/print/index.ts';
import { cardOnPage } from '../core/sheets/index.ts';
import { nodeFonts } from './fonts.ts';
import { encodeGreyPng } from './node-image.ts';

const USAGE = 'npm run kit -- DIR [--size 40]   (size in mm, 20 to 100)';
const PX_PER_MM = 24;

async function main() {
  const { positionals, values } = parseArgs({
    allowPositionals: true,
    options: { size: { type: 'string', default: '40' } },
  });
  const size = Number(values.size);
  if (positionals.length !== 1 || !(size >= 20 && size <= 100)) {
    console.error(USAGE);
    process.exit(2);
  }
  const dir = positionals[0];
  mkdirSync(dir, { recursive: true });
  const write = (name: string, data: string | Uint8Array) => {
    writeFileSync(join(dir, name), data);
    console.log(join(dir, name));
  };
  const c = card(size);
  const drawn = rasterise(cardScene(c), PX_PER_MM);
  const picture = target(size);
  const painted = rasterise(picture, PX_PER_MM);
  write('card.json', `${JSON.stringify({ ...c, pxPerMm: PX_PER_MM, onPdfPage: cardOnPage(c) }, null, 1)}\n`);
  write('card.png', await encodeGreyPng(drawn.data, drawn.w, drawn.h));
  write('card.pdf', await cardPdf(size, nodeFonts()));
  write(
    'target.json',
    `${JSON.stringify({ unit: 'mm', size: { w: size, h: size }, pxPerMm: PX_PER_MM, lines: LINE_WIDTHS.map(w => (w * size) / 40), tones: TONE_STEPS }, null, 1)}\n`,
  );
  write('target.png', await encodeGreyPng(painted.data, painted.w, painted.h));
  write('target-mirrored.pdf', await targetPdf(size, nodeFonts()));
}

await main();
