import { describe, expect, it } from 'vitest';
import { planTrial, tellsOf } from '../design/index.ts';
import { METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { said } from '../say/testing.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { DISAGREEMENTS, doesItLast, howLong, requestFor, settle, waysTo } from './index.ts';

const identity = { createdAt: '2026-05-02T08:00:00.000Z', random: () => 0.3 };
const shelf = STARTER_SHELF;

describe('each of the twelve disagreements', () => {
  it.each(DISAGREEMENTS.map(d => [d.id]))('%s becomes a plan from the starter shelf', id => {
    const request = settle(id, shelf);
    if (!request.ok) throw new ProblemError(request.problem);
    const plan = planTrial(request.value, shelf, identity);
    if (!plan.ok) throw new Error(`${write(plan.problem.say)} ${write(plan.problem.wayOut ?? '')}`);
    expect(plan.value.patches.length).toBeGreaterThanOrEqual(8);
    expect(tellsOf(plan.value).spare).toBeGreaterThan(0);
  });

  it('are twelve, with different names', () => {
    expect(new Set(DISAGREEMENTS.map(d => d.id)).size).toBe(12);
  });

  it('say what the shelf lacks', () => {
    const bare = { ...shelf, mediums: shelf.mediums.filter(m => m.kind === 'rubbing alcohol').slice(0, 1) };
    const glue = settle('any-glue', bare);
    expect(said(!glue.ok && glue.problem.say)).toMatch(/Your shelf has no medium/);
    const alcohol = settle('alcohol-strength', bare);
    expect(said(!alcohol.ok && alcohol.problem.say)).toMatch(
      /at least two of these on your shelf: rubbing alcohol/,
    );
    const printers = settle('inkjet-never', { ...shelf, printers: shelf.printers.slice(0, 1) });
    expect(said(!printers.ok && printers.problem.say)).toMatch(/no printer with pigment ink/);
  });

  it('test what their sides say: thin paper is thin, inkjet has its right sheet, no heat is promised, a thick clear is of two parts', () => {
    const asked = (id: string) => {
      const request = settle(id, shelf);
      if (!request.ok) throw new ProblemError(request.problem);
      return request.value;
    };
    const levels = (id: string, key: string) => asked(id).factors.find(f => f.key === key)!.levels;
    const papers = levels('which-paper', 'donor').map(l => shelf.donors.find(d => d.id === l)!);
    expect(papers[0].gsm).toBeLessThanOrEqual(75);
    expect(papers[1].gsm).toBeGreaterThanOrEqual(100);
    expect(['quick-release paper', 'dissolving paper']).toContain(papers[2].kind);
    const ink = asked('inkjet-never');
    expect(shelf.donors.find(d => d.id === ink.usual.donor)!.kind).toBe('clear film');
    expect(ink.factors.map(f => f.key)).toEqual(['printer', 'medium']);
    const clears = levels('many-or-one-clear', 'finish').map(l => shelf.finishes.find(f => f.id === l)!);
    expect([clears[0].coats >= 3, clears[0].twoPart, clears[1].twoPart]).toEqual([true, false, true]);
    for (const { sides, method } of DISAGREEMENTS)
      if (!METHODS.find(m => m.id === method)!.usesHeat) expect(sides.join()).not.toMatch(/heat/i);
  });

  it('say what of a side is missing, by what it is called', () => {
    const missing = (part: Partial<typeof shelf>, id: string) => {
      const request = settle(id, { ...shelf, ...part });
      return request.ok ? '' : request.problem.say;
    };
    const thick = shelf.donors.filter(d => d.kind !== 'plain paper' || d.gsm > 75);
    expect(write(missing({ donors: thick }, 'which-paper'))).toBe(
      'This question needs a thin plain paper of 75 g or less, and your shelf has none.',
    );
    const at = (gsm: number) => [...thick, { ...shelf.donors[0], id: 'x', gsm }];
    expect(write(missing({ donors: at(75) }, 'which-paper'))).toBe('');
    expect(write(missing({ donors: at(76) }, 'which-paper'))).toMatch(/thin plain paper/);
    const finishes = shelf.finishes.map(f => ({ ...f, twoPart: false }));
    expect(write(missing({ finishes }, 'many-or-one-clear'))).toMatch(/a two-part clear/);
    const few = shelf.finishes.map(f => ({ ...f, coats: Math.min(2, f.coats) }));
    expect(write(missing({ finishes: few }, 'many-or-one-clear'))).toMatch(/three or more light coats/);
    const light = shelf.donors.map(d => (d.kind === 'smooth heavy paper' ? { ...d, gsm: 99 } : d));
    expect(write(missing({ donors: light }, 'which-paper'))).toMatch(/100 g or more/);
  });
});

describe('every method', () => {
  it.each(METHODS.map(m => [m.id, m] as const))(
    '%s can be asked how long to wait, from the starter shelf',
    (_, method) => {
      const request = howLong(method, shelf);
      if (!method.vary.includes('dryHours')) {
        expect(said(!request.ok && request.problem.say)).toBe(`${method.name} has no wait to try out.`);
        return;
      }
      if (!request.ok) throw new ProblemError(request.problem);
      const plan = planTrial(request.value, shelf, identity);
      if (!plan.ok) throw new Error(`${write(plan.problem.say)} ${write(plan.problem.wayOut ?? '')}`);
      expect(plan.value.patches).toHaveLength(10);
      expect(plan.value.design.leftOut).toEqual([]);
    },
  );

  it.each(METHODS.map(m => [m.id, m] as const))('%s can be asked whether it lasts', (_, method) => {
    const request = doesItLast(method, shelf, ['dry-rub']);
    if (!request.ok) throw new ProblemError(request.problem);
    const plan = planTrial(request.value, shelf, identity);
    if (!plan.ok) throw new Error(`${write(plan.problem.say)} ${write(plan.problem.wayOut ?? '')}`);
    expect(plan.value.wear).toEqual(['dry-rub']);
  });

  it('compares mediums for wear where there is one finish, and says what is missing where nothing is left', () => {
    const bare = { ...shelf, finishes: shelf.finishes.slice(0, 1) };
    const mediums = doesItLast(METHODS[0], bare, ['dry-rub']);
    expect(mediums.ok && mediums.value.factors.map(f => f.key)).toEqual(['medium']);
    const request = doesItLast({ ...METHODS[0], vary: ['finish'] }, bare, ['dry-rub']);
    expect(!request.ok && request.problem).toMatchObject({
      say: 'Your shelf has only one finish for this method.',
      wayOut: 'Add another finish to the shelf.',
    });
  });

  it('can be asked whether it lasts; a wash waits for the cure', () => {
    const request = doesItLast(METHODS[0], shelf, ['wash', 'dry-rub']);
    if (!request.ok) throw new ProblemError(request.problem);
    const plan = planTrial(request.value, shelf, identity);
    expect(plan.ok && plan.value.wear).toEqual(['wash', 'dry-rub']);
    const hurried =
      request.ok &&
      planTrial({ ...request.value, usual: { ...request.value.usual, dryHours: 10 } }, shelf, identity);
    expect(said(hurried && !hurried.ok && hurried.problem.say)).toMatch(/fully cured/);
  });
});

describe('the best way to put this on that', () => {
  it('offers wet methods for toner on birch and says why not the others', () => {
    const ways = waysTo({ printer: 'office-laser', substrate: 'birch-ply' }, shelf);
    expect(ways).toHaveLength(16);
    const possible = ways.filter(w => w.request).map(w => w.method.id);
    expect(possible).toContain('wet-rub');
    expect(possible).not.toContain('film-pull');
    expect(write(ways.find(w => w.method.id === 'film-pull')!.why ?? '')).toMatch(
      /melts|does not take|not known/,
    );
    for (const way of ways.filter(w => w.request)) {
      const plan = planTrial(way.request!, shelf, identity);
      if (!plan.ok) throw new Error(`${way.method.id}: ${write(plan.problem.say)}`);
    }
  });

  it('finds a film pull for pigment on whitened wood, on its own margin', () => {
    const way = waysTo({ printer: 'chart-printer', substrate: 'white-wood' }, shelf).find(
      w => w.method.id === 'film-pull',
    )!;
    const plan = planTrial(way.request!, shelf, identity);
    expect(plan.ok && plan.value.marginMm).toBe(20);
  });

  it('etches a glazed tile rather than give up', () => {
    const request = requestFor(METHODS[0], shelf, { substrate: 'glazed-tile' });
    if (!request.ok) throw new ProblemError(request.problem);
    const preparation = shelf.preparations.find(p => p.id === request.value.usual.preparation);
    expect(preparation!.glossTimes).toBeLessThan(0.6);
  });
});
