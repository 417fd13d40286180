import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { cardPdf, targetPdf } from '../core/pdf/index.ts';
import {
  card,
  cardScene,
  cornerPieces,
  LINE_WIDTHS,
  rasterise,
  type Scene,
  TONE_STEPS,
  targetOn,
} from '../core/print/index.ts';
import { cardOnPage } from '../core/sheets/index.ts';
import { runIfStarted, stop } from './command.ts';
import { nodeFonts } from './fonts.ts';
import { encodeGreyPng } from './node-image.ts';

const USAGE =
  'npm run kit -- DIR [--size 40 | --size 60x40] [--board 230x180]   (mm; patches 20 to 100, boards 60 to 1000)';
const PX_PER_MM = 24;

/** Two lengths from "60x40", or one for both, each within limits; nothing where it is neither. */
function lengths(text: string, lo: number, hi: number): { w: number; h: number } | undefined {
  const parts = text.split('x').map(Number);
  const [w, h = w] = parts;
  return parts.length <= 2 && [w, h].every(n => n >= lo && n <= hi) ? { w, h } : undefined;
}

/** What `npm run kit` does with its arguments. Throws where it is used wrongly. */
export async function main(args: string[]) {
  const { positionals, values } = parseArgs({
    args,
    allowPositionals: true,
    options: { size: { type: 'string', default: '40' }, board: { type: 'string' } },
  });
  const size = lengths(values.size, 20, 100);
  const board = values.board === undefined ? undefined : lengths(values.board, 60, 1000);
  if (positionals.length !== 1 || !size || (values.board !== undefined && !board)) {
    stop(USAGE);
  }
  const dir = positionals[0];
  mkdirSync(dir, { recursive: true });
  const write = (name: string, data: string | Uint8Array) => {
    writeFileSync(join(dir, name), data);
    console.log(join(dir, name));
  };
  const json = (value: unknown) => `${JSON.stringify(value, null, 1)}\n`;
  const draw = async (name: string, scene: Scene) => {
    const drawn = rasterise(scene, PX_PER_MM);
    write(name, await encodeGreyPng(drawn.data, drawn.w, drawn.h));
  };
  const c = card(size.w, size.h);
  const picture = targetOn(size.w, size.h);
  write('card.json', json({ ...c, pxPerMm: PX_PER_MM, onPdfPage: cardOnPage(c) }));
  await draw('card.png', cardScene(c));
  write('card.pdf', await cardPdf(size, nodeFonts()));
  const scale = Math.min(size.w, size.h) / 40;
  write(
    'target.json',
    json({ unit: 'mm', size, pxPerMm: PX_PER_MM, lines: LINE_WIDTHS.map(w => w * scale), tones: TONE_STEPS }),
  );
  await draw('target.png', picture);
  write('target-mirrored.pdf', await targetPdf(size, nodeFonts()));
  if (!board) return;
  const pieces = cornerPieces(board.w, board.h);
  for (const [i, piece] of pieces.entries()) await draw(`corner-${i + 1}.png`, piece.scene);
  write(
    'corners.json',
    json({
      unit: 'mm',
      board,
      pxPerMm: PX_PER_MM,
      pieces: pieces.map(({ size, at }, i) => ({ file: `corner-${i + 1}.png`, size, at })),
      markers: pieces.map(p => p.marker),
      greys: pieces.flatMap(p => p.greys),
    }),
  );
}

await runIfStarted(import.meta.url, main);
