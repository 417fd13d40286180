import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import { describe, expect, it } from 'vitest';
import { nodeFonts } from '../../cli/fonts.ts';
import { examplePlan } from '../design/example.ts';
import { cardPdf, donorSheetsPdf, targetPdf } from './index.ts';

const PT = 72 / 25.4;
const dir = mkdtempSync(join(tmpdir(), 'wet-test-'));
const tool = (name: string) => {
  try {
    execFileSync('sh', ['-c', `command -v ${name}`]);
    return true;
  } catch {
    return false;
  }
};

describe('the sheets', () => {
  it('are pages of the donor’s own size, one set per donor', async () => {
    const plan = examplePlan({
      factors: [
        { key: 'donor', levels: ['copy-70', 'copy-80', 'smooth-120'] },
        { key: 'rounds', levels: [1, 2] },
      ],
      repeats: 3,
      board: { w: 320, h: 320, outline: 'rectangle', onePiece: false },
    });
    const doc = await PDFDocument.load(await donorSheetsPdf(plan, nodeFonts()));
    expect(doc.getPageCount()).toBe(3);
    for (const page of doc.getPages()) {
      expect(page.getWidth() / PT).toBeCloseTo(210, 3);
      expect(page.getHeight() / PT).toBeCloseTo(297, 3);
    }
  });

  it.runIf(tool('pdftotext'))(
    'carry every patch code, the mirror word and the check bar (read by an independent tool)',
    async () => {
      const plan = examplePlan();
      const file = join(dir, 'sheets.pdf');
      writeFileSync(file, await donorSheetsPdf(plan, nodeFonts()));
      const text = execFileSync('pdftotext', ['-layout', file, '-']).toString();
      for (const patch of plan.patches) expect(text).toContain(patch.code);
      expect(text).toContain('Mirrored already');
      expect(text).toContain('100 mm');
      expect(execFileSync('pdffonts', [file]).toString()).toMatch(
        /AtkinsonHyperlegibleNext\S*\s+CID TrueType\s+Identity-H\s+yes/,
      );
    },
  );

  it.runIf(tool('pdftoppm'))(
    'are true to size: the card’s window is within 0.2 mm (rendered by an independent tool)',
    async () => {
      const file = join(dir, 'card.pdf');
      writeFileSync(file, await cardPdf(40, nodeFonts()));
      execFileSync('pdftoppm', ['-r', '254', '-gray', file, join(dir, 'card')]);
      const pgm = readFileSync(join(dir, 'card-1.pgm'));
      const head = pgm
        .subarray(0, 20)
        .toString('latin1')
        .match(/^P5\s+(\d+)\s+(\d+)\s+255\s/)!;
      const [w, at] = [Number(head[1]), head[0].length];
      const row = Math.round((56 + 48) * 10);
      const line = pgm.subarray(at + row * w, at + (row + 1) * w);
      const first = line.findIndex((v, x) => x > 700 && v > 118 && v < 138);
      const last = line.findLastIndex((v, x) => x < 1400 && v > 118 && v < 138);
      expect((last - first + 1) / 10).toBeGreaterThan(45.8);
      expect((last - first + 1) / 10).toBeLessThan(46.2);
      expect(first / 10).toBeCloseTo((210 - 96) / 2 + 25, 0);
    },
  );

  it('have a single mirrored target for the kit', async () => {
    expect((await PDFDocument.load(await targetPdf(60, nodeFonts()))).getPageCount()).toBe(1);
  });
});
