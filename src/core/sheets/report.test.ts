import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { write } from '../say/index.ts';
import { type Mark, type Report, reportSheets } from './index.ts';

const plan = examplePlan();
const bar = {
  heading: 'Medium: landed, %',
  sentence: 'Matte lands more.',
  scale: [0, 100] as const,
  rows: [
    { name: 'Matte acrylic medium', value: 90, lo: 80, hi: 95, words: '90 (80–95)' },
    { name: 'Soft gel medium', value: 50, lo: 40, hi: 140, words: '50 (40–140)' },
  ],
};
const report = (part: Partial<Report> = {}): Report => ({
  ...{ plan, facts: ['Twelve patches.'], found: ['Take matte.'], bars: [bar], photos: [], images: {} },
  ...part,
});
const words = (sheets: ReturnType<typeof reportSheets>) =>
  sheets.pages.flatMap(p => p.marks.flatMap(m => (m.kind === 'text' ? [m.words] : [])));

describe('a trial on paper', () => {
  it('says the question, the facts, what was found, and every figure with its interval', () => {
    const all = words(reportSheets(report()));
    for (const said of [
      plan.name,
      plan.question,
      'Twelve patches.',
      'Take matte.',
      'Matte lands more.',
      '90 (80–95)',
    ])
      expect(all.map(x => write(x))).toContain(said);
    expect(all.some(w => write(w).includes('seen from the front'))).toBe(true);
    expect(all.map(x => write(x))).toContain(`${plan.name} · page 1 of 1`);
  });

  it('draws intervals on their scale, never beyond it', () => {
    const [page] = reportSheets(report()).pages;
    const lines = page.marks.filter((m): m is Mark & { kind: 'line' } => m.kind === 'line');
    const [track] = lines.filter(l => l.mm === 0.1);
    const [from, to] = [track.from[0], track.to[0]];
    const at = (v: number) => from + ((to - from) * v) / 100;
    const thick = lines.filter(l => l.mm === 0.7);
    expect(thick[0].from[0]).toBeCloseTo(at(80), 6);
    expect(thick[0].to[0]).toBeCloseTo(at(95), 6);
    expect(thick[1].to[0]).toBeCloseTo(to, 6);
    const dots = page.marks.filter((m): m is Mark & { kind: 'shape' } => m.kind === 'shape');
    expect(dots).toHaveLength(2);
    expect((dots[0].points[0][0] + dots[0].points[1][0]) / 2).toBeCloseTo(at(90), 6);
  });

  it('has all photos at one scale beside each other, turns the page for them, and keeps the recipe’s cautions', () => {
    const photos = Array.from({ length: 40 }, (_, i) => ({
      ...{ key: `r${i}`, w: 60, h: 40 },
      words: [`CX-${i}  90 %`, 'Matte'] as const,
    }));
    const recipe = {
      title: 'Wet-rub on birch',
      choices: [{ what: 'Medium', choice: 'matte' }],
      steps: [{ action: 'Sand it', instruction: 'Fine grit.', cautions: ['Dust. Wear a mask.'] }],
    };
    const sheets = reportSheets(report({ photos, recipe, images: { r0: new Uint8Array([1]) } }));
    const images = sheets.pages.flatMap((p, page) =>
      p.marks.flatMap(m => (m.kind === 'image' ? [{ ...m, page }] : [])),
    );
    expect(images).toHaveLength(40);
    expect(new Set(images.map(m => m.w.toFixed(6))).size).toBe(1);
    expect(images[0].w / images[0].h).toBeCloseTo(1.5, 6);
    expect(new Set(images.slice(0, 5).map(m => m.y)).size).toBe(1);
    expect(images.at(-1)!.page).toBeGreaterThan(0);
    for (const m of images) {
      expect(m.x + m.w).toBeLessThanOrEqual(210 - 15 + 1e-6);
      expect(m.y + m.h).toBeLessThanOrEqual(297 - 10);
      for (const other of images)
        if (other !== m && other.page === m.page)
          expect(
            other.x >= m.x + m.w ||
              other.x + other.w <= m.x ||
              other.y >= m.y + m.h ||
              other.y + other.h <= m.y,
          ).toBe(true);
    }
    expect(words(sheets)).toEqual(
      expect.arrayContaining(['Recipe: Wet-rub on birch', '! Dust. Wear a mask.']),
    );
    expect(sheets.images).toEqual({ r0: new Uint8Array([1]) });
  });
});
