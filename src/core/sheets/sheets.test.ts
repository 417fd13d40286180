import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EXAMPLE_REQUEST, examplePlan } from '../design/example.ts';
import { planTrial } from '../design/index.ts';
import { CAUTIONS, METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { target } from '../print/index.ts';
import { planOf } from '../questions/example.ts';
import { doesItLast, howLong } from '../questions/index.ts';
import { span, write } from '../say/index.ts';
import { asRead } from '../say/testing.ts';
import { type Donor, STARTER_SHELF } from '../shelf/index.ts';
import { cautionsAt, stepsFor } from '../steps/index.ts';
import { levelNames, settingsOf, type TrialPlan } from '../trial/index.ts';
import {
  benchSheets,
  donorSets,
  inMeasures,
  labelSheets,
  mapSheets,
  type OwnPicture,
  type Page,
  pictureSet,
} from './index.ts';
import { wrapped } from './page.ts';

/** What lies over the edge of its page, as words. Texts are measured by their baseline and where they begin. */
function over({ w, h, marks, correct }: Page): string[] {
  const [right, bottom] = [w / correct.x + 1e-6, h / correct.y + 1e-6];
  const out = (x: number, y: number) => x < 0 || y < 0 || x > right || y > bottom;
  return marks.flatMap(mark => {
    switch (mark.kind) {
      case 'shape':
        return mark.points.some(([x, y]) => out(x, y)) ? ['shape'] : [];
      case 'line':
        return out(...mark.from) || out(...mark.to) ? [`line ${mark.from} ${mark.to}`] : [];
      case 'text':
        return out(mark.x, mark.y) ? [`text ${write(mark.words)}`] : [];
      default:
        return out(mark.x, mark.y) || out(mark.x + mark.w, mark.y + mark.h) ? [mark.kind] : [];
    }
  });
}

const wordsOf = (pages: readonly Page[]) =>
  pages
    .flatMap(p => p.marks.flatMap(m => (m.kind === 'text' ? [m.words] : [])))
    .map(x => write(x))
    .join(' ')
    .replace(/\s+/g, ' ');

/** A trial of each method on what the shelf holds for it. */
const trials: readonly (readonly [string, TrialPlan])[] = METHODS.map(method => {
  const wait = howLong(method, STARTER_SHELF);
  const request = wait.ok ? wait : doesItLast(method, STARTER_SHELF, ['dry-rub']);
  if (!request.ok) throw new Error(`${method.id}: ${write(request.problem.say)}`);
  const made = planTrial(request.value, STARTER_SHELF, {
    createdAt: '2026-05-02T08:00:00.000Z',
    random: () => 0.3,
  });
  if (!made.ok) throw new Error(`${method.id}: ${write(made.problem.say)}`);
  return [method.name, made.value];
});

describe('the papers of every method', () => {
  it.each(trials)('%s: nothing lies over the edge of a page', (_, plan) => {
    for (const sheets of [...donorSets(plan), labelSheets(plan), mapSheets(plan), benchSheets(plan)])
      for (const page of sheets.pages) expect(over(page)).toEqual([]);
  });

  it.each(trials)('%s: the bench sheet carries every caution whole, large enough to read', (_, plan) => {
    const { pages } = benchSheets(plan);
    const words = wordsOf(pages);
    const cautions = new Set([
      ...plan.used.method.setUpCautions,
      ...plan.patches.flatMap(p => {
        const s = settingsOf(plan, p);
        return stepsFor(plan, s).flatMap(step => cautionsAt(step, s));
      }),
    ]);
    expect(cautions.size).toBeGreaterThan(0);
    for (const id of cautions) {
      expect(words).toContain(CAUTIONS[id].title);
      expect(words).toContain(CAUTIONS[id].text);
    }
    const told = pages.flatMap(p =>
      p.marks.filter(m => m.kind === 'text' && m.mm < 1.5 && /label|gloves/.test(write(m.words))),
    );
    expect(told).toEqual([]);
  });

  it.each(trials)('%s: every patch is once on a donor sheet, on one label and on one map', (_, plan) => {
    const all = donorSets(plan).flatMap(s => s.pages);
    for (const pages of [all, labelSheets(plan).pages, mapSheets(plan).pages]) {
      const codes = pages.flatMap(p => p.marks.flatMap(m => (m.kind === 'text' && m.bold ? [m.words] : [])));
      for (const patch of plan.patches) expect(codes.filter(c => c === patch.code)).toHaveLength(1);
    }
  });
});

describe('words in lines', () => {
  it('keep every word in its order and never run over, but for a word that is too long alone', () => {
    fc.assert(
      fc.property(
        fc.array(fc.string({ minLength: 1, maxLength: 14, unit: fc.constantFrom('a', 'b', 'é', '-') }), {
          maxLength: 40,
        }),
        fc.double({ min: 1, max: 5, noNaN: true }),
        fc.double({ min: 8, max: 200, noNaN: true }),
        (words, mm, most) => {
          const lines = wrapped(words.join(' '), mm, most);
          expect(lines.map(x => write(x)).join(' ')).toBe(words.join(' '));
          for (const line of lines)
            if (write(line).includes(' '))
              expect(write(line).length * mm * 0.76).toBeLessThanOrEqual(most + 1e-6);
        },
      ),
    );
  });
  it('are none where nothing is said', () => expect(wrapped('  ', 2, 40)).toEqual([]));
});

describe('a small sheet', () => {
  const shelf = {
    ...STARTER_SHELF,
    donors: STARTER_SHELF.donors.map(d => (d.id === 'copy-80' ? { ...d, sheet: { w: 100, h: 150 } } : d)),
  };
  const identity = { createdAt: '2026-05-02T08:00:00.000Z', random: () => 0.4 };

  it('has bars of 50 mm that say so, and nothing over its edge', () => {
    const made = planTrial(EXAMPLE_REQUEST, shelf, identity);
    if (!made.ok) throw new ProblemError(made.problem);
    const [set] = donorSets(made.value);
    expect(set.pages[0].w).toBe(100);
    for (const page of set.pages) expect(over(page)).toEqual([]);
    expect(wordsOf(set.pages)).toContain('50 mm: measure it');
  });

  it('is refused where a print runs over its edge, with the size that would fit', () => {
    const made = planTrial(
      { ...EXAMPLE_REQUEST, patchMm: 80, board: { ...EXAMPLE_REQUEST.board, w: 900, h: 900 } },
      shelf,
      identity,
    );
    if (made.ok) throw new Error('planned');
    expect(made.problem).toMatchObject({
      code: 'sheet-too-small',
      say: 'A print of 80 mm with its tab does not fit on “80 g copy paper”, which is 100 × 150 mm.',
      wayOut: 'Take patches of 76 mm at most, or a larger sheet.',
    });
    const fits = planTrial(
      { ...EXAMPLE_REQUEST, patchMm: 76, board: { ...EXAMPLE_REQUEST.board, w: 900, h: 900 } },
      shelf,
      identity,
    );
    if (!fits.ok) throw new ProblemError(fits.problem);
    for (const page of donorSets(fits.value)[0].pages) expect(over(page)).toEqual([]);
  });

  it('matters only where it is used', () => {
    const request = {
      ...EXAMPLE_REQUEST,
      patchMm: 80,
      board: { ...EXAMPLE_REQUEST.board, w: 1200, h: 1200 },
      usual: { ...EXAMPLE_REQUEST.usual, donor: 'copy-70' },
    };
    expect(planTrial(request, shelf, identity).ok).toBe(true);
  });
});

describe('maps', () => {
  it('of forty-eight small tiles share pages, each tile once, its number with it', () => {
    const plan = examplePlan({
      board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
      repeats: 8,
      marginMm: 5,
    });
    expect(plan.board.count).toBe(48);
    const { pages } = mapSheets(plan);
    expect(pages).toHaveLength(8);
    const words = wordsOf(pages);
    for (let i = 1; i <= 48; i++) expect(words).toContain(`Board ${i} of 48`);
    for (const page of pages) expect(over(page)).toEqual([]);
  });

  it('of an oval board show an oval', () => {
    const plan = examplePlan({ board: { w: 420, h: 420, outline: 'ellipse', onePiece: false } });
    const [page] = mapSheets(plan).pages;
    const edge = page.marks.filter(m => m.kind === 'line' && m.mm === 0.4);
    expect(edge).toHaveLength(72);
    const xs = edge.flatMap(m => (m.kind === 'line' ? [m.from[0]] : []));
    const ys = edge.flatMap(m => (m.kind === 'line' ? [m.from[1]] : []));
    const [w, h] = [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
    expect(w).toBeCloseTo(h, 6);
    expect(over(page)).toEqual([]);
  });
});

describe('labels of a trial that varies eight things', () => {
  it('name every level of a patch', () => {
    const plan = examplePlan({
      design: 'best fraction',
      budget: 16,
      repeats: 1,
      factors: [
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
        { key: 'dryHours', levels: [4, 20] },
        { key: 'rounds', levels: [1, 2] },
        { key: 'coatMm', levels: [0.3, 0.5] },
        { key: 'donor', levels: ['copy-70', 'copy-80'] },
        { key: 'trim', levels: ['trimmed', 'margin'] },
      ],
    });
    const words = wordsOf(labelSheets(plan).pages);
    for (const patch of plan.patches)
      expect(words).toContain(
        levelNames(plan, patch)
          .map(x => write(x))
          .join(', '),
      );
  });
});

describe('own pictures on a sheet', () => {
  const picture = (w: number, h: number, copies: number): OwnPicture => ({
    key: `${w}x${h}`,
    name: 'Tern',
    w,
    h,
    copies,
    form: { kind: 'outlines', paths: [] },
    centreMarks: true,
  });
  const [donor] = STARTER_SHELF.donors;
  const [printer] = STARTER_SHELF.printers;
  const job = { code: 'Picture', name: 'Tern', methods: [METHODS[0]] };

  it('never lie over each other or the edge, for any sizes that fit', () => {
    const size = fc.integer({ min: 10, max: 180 });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(size, size, fc.integer({ min: 1, max: 4 })), { minLength: 1, maxLength: 5 }),
        all => {
          const pictures = all.map(([w, h, n], i) => ({ ...picture(w, h, n), key: String(i) }));
          const { pages } = pictureSet(job, donor as Donor, printer, { pictures });
          let count = 0;
          for (const page of pages) {
            expect(over(page)).toEqual([]);
            const drawn = page.marks.flatMap(m => (m.kind === 'drawing' ? [m] : []));
            count += drawn.length;
            drawn.forEach((a, i) => {
              for (const b of drawn.slice(i + 1)) {
                const apart = a.x + a.w <= b.x || b.x + b.w <= a.x || a.y + a.h <= b.y || b.y + b.h <= a.y;
                expect(apart).toBe(true);
              }
            });
          }
          expect(count).toBe(all.reduce((sum, [, , n]) => sum + n, 0));
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('the levels of a patch on the bench sheet', () => {
  const plan = examplePlan({
    factors: [
      { key: 'removal', levels: ['rounds', 'once'] },
      { key: 'rubTool', levels: ['fingers', 'sponge'] },
    ],
  });
  const [page] = benchSheets(plan).pages.filter(p =>
    p.marks.some(m => m.kind === 'text' && m.words === '1.'),
  );
  const texts = page.marks.flatMap(m => (m.kind === 'text' ? [m] : []));

  it('are all there, in lines that can be read, inside their row', () => {
    for (const patch of plan.patches) {
      const at = texts.findIndex(m => m.words === patch.code);
      const lines = texts.filter(m => m.mm === 1.5 && m.most === 23 && Math.abs(m.y - texts[at].y) < 6);
      expect(
        lines
          .map(m => m.words)
          .map(x => write(x))
          .join(' '),
      ).toBe(
        levelNames(plan, patch)
          .map(x => write(x))
          .join(', '),
      );
      for (const line of lines) {
        expect(write(line.words).length * line.mm * 0.76).toBeLessThanOrEqual(line.most + 1e-6);
        expect(line.y).toBeLessThan(texts[at].y - 6.5 + 11);
      }
    }
  });
});

describe('papers for a maker who measures in inches', () => {
  const words = (pages: readonly Page[]) =>
    pages.flatMap(p => p.marks.flatMap(m => (m.kind === 'text' ? [m] : [])));
  it.each([
    ['donor sheets', (plan: TrialPlan) => donorSets(plan)],
    ['the bench sheet', (plan: TrialPlan) => [benchSheets(plan)]],
    ['maps', (plan: TrialPlan) => [mapSheets(plan)]],
    ['labels', (plan: TrialPlan) => [labelSheets(plan)]],
  ] as const)('%s name no millimetres, take no more room, and stay true to size', (_, make) => {
    const plan = examplePlan({ factors: [{ key: 'coatMm', levels: [0.2, 0.5] }] });
    for (const sheets of make(plan)) {
      const inches = inMeasures(sheets, 'imperial');
      expect(asRead(inMeasures(sheets, 'metric').pages)).toEqual(asRead(sheets.pages));
      const [before, after] = [words(sheets.pages), words(inches.pages)];
      expect(
        after
          .map(m => m.words)
          .map(x => write(x))
          .join('\n'),
      ).not.toMatch(/\d (mm|mL|°C)/);
      for (const [i, mark] of after.entries())
        expect(write(mark.words).length * mark.mm).toBeLessThanOrEqual(
          write(before[i].words).length * before[i].mm + 1e-9,
        );
      const shapes = (pages: readonly Page[]) => pages.map(p => p.marks.filter(m => m.kind !== 'text'));
      expect(shapes(inches.pages)).toEqual(shapes(sheets.pages));
    }
  });
  it('have bars that say in inches what they must measure', () => {
    const [set] = donorSets(examplePlan());
    expect(
      words(inMeasures(set, 'imperial').pages)
        .map(m => m.words)
        .map(x => write(x)),
    ).toContain('3.94 in: measure it. If it is not 3.94 in, print again at 100 %, without "fit to page".');
  });
});

describe('the target on the donor sheet', () => {
  it('lies mirrored where the method lays the print face down, and as it will look where it does not', () => {
    const plan = trials[0][1];
    const drawn = (mirror: boolean) => {
      const method = { ...plan.used.method, mirror };
      const [set] = donorSets({ ...plan, used: { ...plan.used, method } });
      return set.pages[0].marks
        .flatMap(m => (m.kind === 'shape' ? [m] : []))
        .slice(0, target(plan.patchMm).shapes.length);
    };
    const picture = target(plan.patchMm).shapes;
    for (const mirror of [true, false]) {
      const marks = drawn(mirror);
      const left = Math.min(...marks.flatMap(m => m.points.map(([x]) => x)));
      const expected = picture.map(s => s.points.map(([x]) => (mirror ? plan.patchMm - x : x)));
      for (const [i, mark] of marks.entries()) {
        for (const [k, [x]] of mark.points.entries()) expect(x - left).toBeCloseTo(expected[i][k], 6);
      }
    }
    // The picture is lopsided: its mirror image is another.
    expect(drawn(true)).not.toEqual(drawn(false));
  });
});

describe('the bench sheet of a trial whose patches wait differently', () => {
  const texts = (plan: TrialPlan) =>
    benchSheets(plan).pages.flatMap(p => p.marks.flatMap(m => (m.kind === 'text' ? [m] : [])));

  it('has each row’s own window in its box, and one for all where it is the same', () => {
    const plan = examplePlan({ factors: [{ key: 'dryHours', levels: [4, 20] }] });
    const marks = texts(plan);
    expect(marks.filter(m => m.words === 'then: see the box')).toHaveLength(1);
    const [place] = marks.filter(m => m.words === 'Place the print');
    for (const patch of plan.patches) {
      const row = marks.find(m => write(m.words) === patch.code)!;
      const hours = Number(plan.factors[0].levels[patch.levels[0]]);
      const own = marks.filter(m => /^then .* to /.test(write(m.words)) && Math.abs(m.y - row.y) < 6);
      expect(own.map(m => m.words)).toEqual([`then ${span(hours * 54)} to ${span(hours * 84)}`]);
      expect(Math.abs(own[0].x - place.x)).toBeLessThan(1);
    }
    // The wait after wetting is the same for all.
    expect(marks.filter(m => m.words === '30 s to 8 min').length).toBeGreaterThan(0);
  });

  it('says seconds of a wait of a few minutes', () => {
    expect([130, 150, 600, 45, 120].map(s => span(s / 60))).toEqual([
      '2 min 10 s',
      '2 min 30 s',
      '10 min',
      '45 s',
      '2 min',
    ]);
    expect([9.9, 9.95, 1.5].map(span)).toEqual(['9 min 55 s', '10 min', '1 min 30 s']);
  });
});

describe('the map on the back of a board', () => {
  it('has on the left what lies on the right in front', () => {
    const plan = examplePlan();
    const [page] = mapSheets(plan).pages;
    const at = (code: string) => page.marks.find(m => m.kind === 'text' && m.words === code)!;
    const across = [...plan.patches].filter(p => p.board === 0 && p.y === plan.patches[0].y);
    const inFront = [...across].sort((a, b) => a.x - b.x).map(p => p.code);
    const onPaper = [...inFront].sort((a, b) => {
      const [left, right] = [at(a), at(b)];
      return left.kind === 'text' && right.kind === 'text' ? left.x - right.x : 0;
    });
    expect(inFront.length).toBeGreaterThan(1);
    expect(onPaper).toEqual(inFront.reverse());
    expect(page.marks.some(m => m.kind === 'text' && /seen from the back/.test(write(m.words)))).toBe(true);
  });
});

describe('what is not printed from a file', () => {
  const words = (page: Page) =>
    page.marks
      .flatMap(m => (m.kind === 'text' ? [m.words] : []))
      .map(x => write(x))
      .join(' ');

  it('has a guide on plain paper: a frame for a stamp, the drawing where it is traced', () => {
    const [stamped] = donorSets(planOf('gel-skin'));
    expect(words(stamped.pages[0])).toMatch(
      /A guide on plain paper, not for the transfer itself: size and place for/,
    );
    expect([stamped.pages[0].w, stamped.pages[0].h]).toEqual([210, 297]);
    expect(stamped.pages[0].marks.filter(m => m.kind === 'shape')).toEqual([]);
    const [traced] = donorSets(planOf('carbon-trace'));
    expect(words(traced.pages[0])).toMatch(/lay it over Carbon sheet and trace it/);
    expect(traced.pages[0].marks.filter(m => m.kind === 'shape').length).toBeGreaterThan(10);
    const [printed] = donorSets(planOf('wet-rub'));
    expect(words(printed.pages[0])).not.toMatch(/guide/);
  });

  it('has a frame in place of a maker’s own picture too', () => {
    const method = METHODS.find(m => m.id === 'gel-skin')!;
    const stamp = STARTER_SHELF.printers.find(p => p.colourant === 'stamp ink')!;
    const sheet = STARTER_SHELF.donors.find(d => d.kind === 'release sheet')!;
    const picture = {
      ...{ key: 'a', name: 'Gull', w: 60, h: 40, copies: 1, centreMarks: false },
      form: { kind: 'pixels' as const, bytes: new Uint8Array([1]) },
    };
    const set = pictureSet({ code: 'Picture', name: 'Gull', methods: [method] }, sheet, stamp, {
      pictures: [picture],
    });
    expect(set.pages[0].marks.some(m => m.kind === 'image')).toBe(false);
    expect(set.images).toEqual({});
    const sides = set.pages[0].marks.flatMap(m =>
      m.kind === 'line' && m.mm === 0.2 && m.grey === 30 ? [[...m.from, ...m.to]] : [],
    );
    const xs = sides.flatMap(([ax, , bx]) => [ax, bx]);
    const ys = sides.flatMap(([, ay, , by]) => [ay, by]);
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(60, 6);
    expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(40, 6);
  });
});
