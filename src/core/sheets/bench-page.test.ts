import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { keptFrom } from '../recipe/index.ts';
import { write } from '../say/index.ts';
import { readingFor } from '../trial/example.ts';
import { benchPage } from './index.ts';

const plan = examplePlan();
const records = plan.patches.flatMap((p, i) => readingFor(p.code, i, { landed: 90 - (i % 4), veil: 0.05 }));
const kept = keptFrom(plan, records)!;
const texts = (sheets: ReturnType<typeof benchPage>) =>
  sheets.pages.flatMap(p => p.marks.flatMap(m => (m.kind === 'text' ? [m] : [])));
const said = (sheets: ReturnType<typeof benchPage>) =>
  texts(sheets)
    .map(t => t.words)
    .map(x => write(x))
    .join(' ');
const [step] = kept.card.steps;
const of = (count: number, instruction: string) => ({
  ...kept,
  card: {
    ...kept.card,
    steps: Array.from({ length: count }, (_, i) => ({
      ...step,
      action: `Step number ${i}`,
      instruction,
      cautions: [`Care${i}: keep it away`],
    })),
  },
});

describe('a recipe over the bench', () => {
  it('is one page with every step, window and caution', () => {
    const page = benchPage(kept, 'Nine of ten come out good.');
    expect(page.pages).toHaveLength(1);
    const all = said(page);
    for (const { action, window, cautions } of kept.card.steps) {
      expect(all).toContain(action);
      if (window) expect(all).toContain(write(window).split(' ')[0]);
      for (const caution of cautions) expect(all).toContain(`! ${caution.split(':')[0]}`);
    }
    for (const { what } of kept.card.choices) expect(all).toContain(`${what}:`);
    expect(all).toContain('Nine of ten');
  });

  it('has the larger letters the shorter it is', () => {
    const largest = (n: number) => Math.max(...texts(benchPage(of(n, 'Do it.'), '')).map(t => t.mm));
    expect(largest(2)).toBeCloseTo(8, 6);
    expect(largest(20)).toBeLessThan(largest(2));
    expect(largest(20)).toBeGreaterThan(largest(34));
  });

  it('leaves out what a long step says, never a caution', () => {
    const long = benchPage(of(16, 'Stir '.repeat(100).trim()), '');
    expect(long.pages).toHaveLength(1);
    expect(said(long)).not.toContain('Stir Stir');
    for (let i = 0; i < 16; i++) {
      expect(said(long)).toContain(`Step number ${i}`);
      expect(said(long)).toContain(`! Care${i}: keep it away`);
    }
    expect(said(benchPage(of(3, 'Stir well.'), ''))).toContain('Stir well.');
  });
});
