import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { default as jsQR } from 'jsqr';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { nodeFonts } from '../../cli/fonts.ts';
import { loadCv } from '../../cli/node-cv.ts';
import { encodeGreyPng } from '../../cli/node-image.ts';
import { placeDrawing, safeDrawing, vectorsOf } from '../artwork/index.ts';
import { EXAMPLE_REQUEST, examplePlan } from '../design/example.ts';
import { planTrial } from '../design/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { agendaOf, USUAL_WORKING } from '../schedule/index.ts';
import {
  benchSheets,
  cornersSheet,
  donorSets,
  labelSheets,
  ladderCard,
  mapSheets,
  pictureSet,
  qrWords,
  type Sheets,
  targetSheet,
} from '../sheets/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { boxesOn, pdfOf } from './index.ts';

const dir = mkdtempSync(join(tmpdir(), 'wet-test-papers-'));
afterAll(() => rmSync(dir, { recursive: true, force: true }));

/** A page as an independent tool draws it: grey bytes at `dpi`. */
async function drawn(sheets: Sheets, dpi: number, page = 1) {
  const file = join(dir, 'page.pdf');
  writeFileSync(file, await pdfOf(sheets, nodeFonts()));
  execFileSync('pdftoppm', [
    '-r',
    String(dpi),
    '-gray',
    '-f',
    String(page),
    '-l',
    String(page),
    '-singlefile',
    file,
    join(dir, 'page'),
  ]);
  const pgm = readFileSync(join(dir, 'page.pgm'));
  const head = pgm
    .subarray(0, 30)
    .toString('latin1')
    .match(/^P5\s+(\d+)\s+(\d+)\s+255\s/)!;
  const w = Number(head[1]);
  const h = Number(head[2]);
  const data = pgm.subarray(head[0].length);
  return { file, w, h, at: (x: number, y: number) => data[y * w + x], data };
}

const wordsOf = (file: string) => execFileSync('pdftotext', ['-layout', file, '-']).toString();

/** First and last dark pixel of a row or a column between two places. */
function run(length: number, value: (i: number) => number, from = 0, to = length): [number, number] {
  let first = -1;
  let last = -1;
  for (let i = from; i < to; i++)
    if (value(i) < 128) {
      if (first < 0) first = i;
      last = i;
    }
  return [first, last];
}

describe('donor sheets', () => {
  const made = planTrial(
    {
      ...EXAMPLE_REQUEST,
      factors: [
        {
          key: 'donor',
          levels: ['copy-70', 'copy-80', 'smooth-120', 'gloss-130', 'quick-release', 'magazine-page'],
        },
        { key: 'printer', levels: ['office-laser', 'cabin-inkjet'] },
      ],
      repeats: 1,
      overrides: ['inkjet-rubbed-wet', 'donor-refuses-colourant', 'wrong-donor'],
    },
    STARTER_SHELF,
    { createdAt: '2026-05-02T08:00:00.000Z', random: () => 0.4 },
  );
  if (!made.ok) throw new ProblemError(made.problem);
  const sets = donorSets(made.value);

  it('of six donors and two printers land on the right sheets, one file each', async () => {
    expect(sets).toHaveLength(12);
    for (const set of sets) {
      const { file } = await drawn(set, 30);
      const words = wordsOf(file);
      expect(words).toContain(set.printer.name);
      expect(words).toContain(set.donor.name);
      const codes = made.value.patches
        .filter(
          p =>
            made.value.factors[0].levels[p.levels[0]] === set.donor.id &&
            made.value.factors[1].levels[p.levels[1]] === set.printer.id,
        )
        .map(p => p.code);
      expect(codes).toHaveLength(1);
      for (const p of made.value.patches) expect(words.includes(p.code)).toBe(codes.includes(p.code));
    }
  });

  it('have bars of 100 mm both ways and patches of their size, within 0.2 mm', async () => {
    const [set] = donorSets(examplePlan());
    const page = await drawn(set, 254);
    const [left, right] = run(page.w, x => page.at(x, 310), 100, 1128);
    // The end ticks are 0.2 mm wide.
    expect(Math.abs((right - left) / 10 - 100.1)).toBeLessThan(0.2);
    const [top, bottom] = run(page.h, y => page.at(50, y), 380, 1450);
    expect(Math.abs((bottom - top) / 10 - 100.1)).toBeLessThan(0.2);
    // The first target's dark band begins at the first place and is 40 mm wide.
    const [x0, x1] = run(page.w, x => page.at(x, 390), 115, 530);
    expect(Math.abs(x0 / 10 - 12)).toBeLessThan(0.2);
    expect(Math.abs((x1 + 1) / 10 - 52)).toBeLessThan(0.2);
  });

  it('are corrected by what the bars of this printer measured', async () => {
    const [set] = donorSets(examplePlan(), { bars: { 'office-laser': { x: 98, y: 101 } } });
    const page = await drawn(set, 254);
    const row = Math.round((31 * 100) / 101) * 10;
    const rows = [...Array(16).keys()].map(i => row - 8 + i);
    const across = Math.max(
      ...rows.map(y => {
        const [a, b] = run(page.w, x => page.at(x, y), 100, 1155);
        return (b - a) / 10;
      }),
    );
    expect(Math.abs(across - (100.1 * 100) / 98)).toBeLessThan(0.2);
  });

  it('take the maker’s own picture among the patches or alone, on the paper that is asked for', async () => {
    const bytes = new Uint8Array(await encodeGreyPng(new Uint8Array(100 * 50).fill(40), 100, 50));
    const picture = {
      key: 'p',
      name: 'Curlew',
      w: 80,
      h: 40,
      copies: 3,
      form: { kind: 'pixels' as const, bytes },
      centreMarks: true,
    };
    const [mixed] = donorSets(examplePlan(), { pictures: [picture], paper: 'Letter' });
    const page = await drawn(mixed, 100);
    expect(execFileSync('pdfinfo', [page.file]).toString()).toMatch(/Page size:\s+612 x 792/);
    expect(wordsOf(page.file).match(/Curlew/g)).toHaveLength(3);
    for (const p of examplePlan().patches) expect(wordsOf(page.file)).toContain(p.code);
    const { donors, printers } = STARTER_SHELF;
    const alone = pictureSet(
      { code: 'CU', name: 'Curlew', methods: [examplePlan().used.method] },
      donors[0],
      printers[0],
      { pictures: [picture] },
    );
    const own = await drawn(alone, 254);
    const [x0, x1] = run(own.w, x => own.at(x, 480), 105, 970);
    expect(Math.abs((x1 - x0 + 1) / 10 - 80)).toBeLessThan(0.2);
    expect(wordsOf(own.file)).toContain('Mirrored already');
  });

  it.each([false, true])(
    'print a plain drawing as outlines, the same as another program draws it (mirrored: %s)',
    async mirror => {
      const text = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 160 80" width="160" height="80">
      <rect width="160" height="80" fill="#eee"/><g transform="translate(20 10) rotate(8)"><path d="M0 40h80q-6 24-20 24H16z" fill="#224466" stroke="#111" stroke-width="3" stroke-linejoin="round"/>
      <path d="M36 2v34H4z M30 20v10h-10z" fill="#b43" fill-rule="evenodd"/><path d="M40 2c20 4 30 20 30 34H40z" fill="#777"/></g>
      <circle cx="130" cy="24" r="14" fill="none" stroke="#333" stroke-width="4"/><ellipse cx="130" cy="24" rx="6" ry="3"/><polyline points="104,70 120,58 136,70 152,58" fill="none" stroke="#000" stroke-width="2" stroke-linecap="square"/>
      <path d="M150 30 a20 30 20 1 0 12 40 z" fill="#999"/></svg>`;
      const drawing = safeDrawing(text);
      const vectors = drawing.ok ? vectorsOf(drawing.value) : drawing;
      if (!vectors.ok) throw new ProblemError(vectors.problem);
      const size = { w: 80, h: 40, part: { x: 0, y: 0, w: 1, h: 1 } };
      const { donors, printers } = STARTER_SHELF;
      const set = pictureSet(
        { code: 'TN', name: 'Tern', methods: [examplePlan().used.method] },
        donors[0],
        printers[0],
        {
          pictures: [
            {
              key: 'tern',
              name: 'Tern',
              w: 80,
              h: 40,
              copies: 1,
              centreMarks: false,
              form: { kind: 'outlines', paths: placeDrawing(vectors.value, size, mirror) },
            },
          ],
        },
      );
      const page = await drawn(set, 254);
      expect(execFileSync('pdfimages', ['-list', page.file]).toString().trim().split('\n')).toHaveLength(2);
      // Rendered by the image library's own SVG reader.
      const { data } = await sharp(Buffer.from(text), { density: 72 * 5 })
        .resize(800, 400)
        .flop(mirror)
        .greyscale()
        .raw()
        .toBuffer({ resolveWithObject: true });
      const { x, y } = set.pages[0].marks.find(m => m.kind === 'drawing')! as { x: number; y: number };
      let off = 0;
      for (let py = 0; py < 400; py++)
        for (let px = 0; px < 800; px++)
          if (Math.abs(page.at(Math.round(x * 10) + px, Math.round(y * 10) + py) - data[py * 800 + px]) > 60)
            off++;
      // Only edges may differ: by less than a tenth of a millimetre along all outlines.
      expect(off / (800 * 400)).toBeLessThan(0.012);
    },
  );
});

describe('labels', () => {
  it('carry codes whose QR an independent decoder reads', async () => {
    const plan = examplePlan();
    const page = await drawn(labelSheets(plan), 200);
    const pxPerMm = 200 / 25.4;
    const ordered = [...plan.patches].sort((a, b) => a.order - b.order);
    for (const [i, patch] of ordered.entries()) {
      const x = Math.round((15 + (i % 3) * 60 + 0.5) * pxPerMm);
      const y = Math.round((18 + Math.floor(i / 3) * 26 + 0.5) * pxPerMm);
      const side = Math.round(25 * pxPerMm);
      const rgba = new Uint8ClampedArray(side * side * 4).fill(255);
      for (let r = 0; r < side; r++)
        for (let c = 0; c < side; c++)
          rgba.fill(page.at(x + c, y + r), (r * side + c) * 4, (r * side + c) * 4 + 3);
      const decode = (jsQR as unknown as { default?: typeof jsQR }).default ?? jsQR;
      expect(decode(rgba, side, side)?.data).toBe(qrWords(plan, patch.code));
    }
    const words = wordsOf(page.file);
    for (const p of plan.patches) expect(words).toContain(p.code);
  });
});

describe('maps, bench sheets, ladder cards and strips', () => {
  it('say where every patch lies and what is done to it', async () => {
    const plan = examplePlan();
    const map = wordsOf((await drawn(mapSheets(plan), 30)).file);
    const bench = await drawn(benchSheets(plan), 30);
    const words = wordsOf(bench.file);
    for (const p of plan.patches) {
      expect(map).toContain(p.code);
      expect(words).toContain(p.code);
    }
    expect(words).toContain('Rub the paper off');
    expect(words).toContain('Spare your fingers');
    expect(words).not.toContain('In grey: the planned time');
    const agenda = agendaOf(plan, [], USUAL_WORKING, new Date(2026, 4, 2, 9, 0).getTime());
    if (!agenda.ok) throw new ProblemError(agenda.problem);
    const timed = wordsOf((await drawn(benchSheets(plan, agenda.value), 30)).file);
    expect(timed).toContain('In grey: the planned time');
    // The same minutes as the agenda's, and so the calendar's.
    const last = new Date(agenda.value.tasks.at(-1)!.from);
    const month = last.toLocaleDateString('en-GB', { month: 'short' });
    expect(timed).toContain(
      `${last.toDateString().slice(0, 3)} ${last.getDate()} ${month} ${last.toTimeString().slice(0, 5)}`,
    );
    expect(execFileSync('pdfinfo', [bench.file]).toString()).toMatch(/Page size:\s+841\.89 x 595\.2/);
  });

  it('a ladder card has a rung for every wait, and no card without one', async () => {
    const plan = examplePlan({ design: 'ladder', factors: [{ key: 'dryHours', levels: [2, 6, 18] }] });
    const words = wordsOf((await drawn(ladderCard(plan)!, 30)).file);
    for (const rung of ['2h', '6h', '18h']) expect(words.replace(/ /g, '')).toContain(rung);
    expect(ladderCard(examplePlan({ factors: [{ key: 'rounds', levels: [1, 2] }] }))).toBeUndefined();
  });

  it('targets and strips are true to size', async () => {
    for (const size of [40, 60, 80, 100]) {
      const page = await drawn(targetSheet(size), 254);
      const [x0, x1] = run(page.w, x => page.at(x, 410), 150, 1300);
      expect(Math.abs((x1 - x0 + 1) / 10 - size)).toBeLessThan(0.2);
    }
    const strip = await drawn(targetSheet(40, { strip: true }), 254);
    const [x0, x1] = run(strip.w, x => strip.at(x, 405), 150, 1900);
    expect(Math.abs((x1 - x0 + 1) / 10 - 160)).toBeLessThan(0.2);
  });

  it('corner markers are the ones an independent finder knows, in their places', async () => {
    const { cv } = await loadCv();
    const page = await drawn(cornersSheet('K7'), 150);
    const image = cv.matFromArray(page.h, page.w, cv.CV_8U, page.data as never);
    const finder = new cv.aruco_ArucoDetector(
      cv.getPredefinedDictionary(cv.DICT_4X4_50),
      new cv.aruco_DetectorParameters(),
      new cv.aruco_RefineParameters(10, 3, true),
    );
    const [corners, ids, rejected] = [new cv.MatVector(), new cv.Mat(), new cv.MatVector()];
    finder.detectMarkers(image, corners, ids, rejected);
    expect([...ids.data32S].sort((a, b) => a - b)).toEqual([6, 7, 8, 9]);
    for (const thing of [image, finder, corners, ids, rejected]) thing.delete();
  });
});

describe('names in any alphabet', () => {
  const NAMES = ['Łódź žluťoučký kůň', 'Ελλάδα', 'Ёжик в тумане', 'Nguyễn', 'Größe ÆØÅ ñ', 'e\u0301tude'];
  const sheetOf = (words: readonly string[]): Sheets =>
    ({
      title: 'Names',
      pages: [
        {
          ...{ w: 210, h: 297, correct: { x: 1, y: 1 } },
          marks: words.map((w, i) => ({
            ...{
              kind: 'text',
              words: w,
              x: 15,
              y: 30 + 12 * i,
              mm: 5,
              most: 180,
              grey: 0,
              bold: i % 2 === 1,
            },
          })),
        },
      ],
    }) as Sheets;

  it('are printed and can be read back, letter for letter', async () => {
    const { file } = await drawn(sheetOf(NAMES), 50);
    const words = wordsOf(file).normalize('NFC');
    for (const name of NAMES) expect(words).toContain(name.normalize('NFC'));
    expect(await boxesOn(sheetOf(NAMES), nodeFonts())).toEqual([]);
  });

  it('of which no font has a letter get a box that is seen, and are told before', async () => {
    const sheet = sheetOf(['Tern 燕 海', 'plain']);
    expect(await boxesOn(sheet, nodeFonts())).toEqual(['燕', '海']);
    const page = await drawn(sheet, 254);
    expect(wordsOf(page.file)).toContain('Tern');
    // Two boxes: four uprights on a line through them, right of the word.
    const y = Math.round((30 - 1.5) * 10);
    let uprights = 0;
    for (let x = 150; x < 800; x++) if (page.at(x, y) < 128 && page.at(x - 1, y) >= 128) uprights++;
    const letters = await drawn(sheetOf(['Tern', 'plain']), 254);
    let before = 0;
    for (let x = 150; x < 800; x++) if (letters.at(x, y) < 128 && letters.at(x - 1, y) >= 128) before++;
    expect(uprights - before).toBe(4);
  });

  it('that a western font has ask for no other, and what is invisible is passed over', async () => {
    let asked = 0;
    const more = async () => {
      asked++;
      return [];
    };
    const fonts = { ...nodeFonts(), more };
    await pdfOf(sheetOf(['Größe', 'a\u200db\u0007c']), fonts);
    expect(asked).toBe(0);
    await pdfOf(sheetOf(['Łódź']), fonts);
    expect(asked).toBe(1);
  });
});
