import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { agendaOf } from '../schedule/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import type { TrialPlan } from '../trial/index.ts';
import {
  benchSheets,
  cardSheet,
  cornersSheet,
  donorSets,
  labelSheets,
  ladderCard,
  mapSheets,
  type Page,
  pictureSet,
  type Sheets,
  targetSheet,
} from './index.ts';

/**
 * Every paper as it was when it was last looked at: where each mark lies, to a hundredth of a millimetre. A change of
 * layout changes a file of `laid-out/`: print or preview that paper, look at it, then run the test with `-u`.
 */
const short = (v: number) => String(Math.round(v * 100) / 100);

/** Modules of a code and shapes of a drawing are many: their number, where they begin and end, and the sum of all their places. */
function shapesOf(page: Page): string[] {
  const points = page.marks.flatMap(m => (m.kind === 'shape' ? m.points.map(p => [...p, m.grey]) : []));
  if (!points.length) return [];
  const sum = points.reduce(
    (total, [x, y, grey], i) => total + x * ((i % 7) + 1) + y * ((i % 5) + 1) + grey,
    0,
  );
  return [`shapes ${points.length} sum ${short(sum)}`];
}

const linesOf = (page: Page, number: number): string[] => [
  `page ${number + 1}: ${short(page.w)} × ${short(page.h)}, drawn at ${page.correct.x} ${page.correct.y}`,
  ...shapesOf(page),
  ...page.marks.flatMap(m => {
    switch (m.kind) {
      case 'shape':
        return [];
      case 'line':
        return [`line ${[...m.from, ...m.to, m.mm].map(short).join(' ')}${m.grey ? ` grey ${m.grey}` : ''}`];
      case 'text':
        return [
          `text ${[m.x, m.y, m.mm, m.most].map(short).join(' ')}${m.bold ? ' bold' : ''}${m.grey ? ` grey ${m.grey}` : ''}: ${write(m.words)}`,
        ];
      default:
        return [`${m.kind} ${[m.x, m.y, m.w, m.h].map(short).join(' ')}`];
    }
  }),
];

const seen = (sheets: Sheets | readonly Sheets[]) =>
  [sheets]
    .flat()
    .flatMap(s => [`# ${s.title}`, ...s.pages.flatMap(linesOf)])
    .join('\n');

const small = (part: Parameters<typeof examplePlan>[0] = {}): TrialPlan =>
  examplePlan({ repeats: 1, factors: [{ key: 'dryHours', levels: [4, 20, 44] }], ...part });
const own = (w: number, h: number, copies: number) => ({
  ...{ key: `${w}`, name: 'Tern', w, h, copies, centreMarks: true },
  form: { kind: 'outlines' as const, paths: [] },
});
const start = new Date(2026, 4, 2, 8).getTime();
const alone = {
  sittings: [],
  helpers: 0,
  ovenHolds: null,
  rackHolds: null,
  trayHolds: null,
  washMin: null,
  order: 'plan' as const,
};

const PAPERS: readonly (readonly [string, () => Sheets | readonly Sheets[]])[] = [
  ['donor', () => donorSets(small())],
  [
    'donor-corrected',
    () =>
      donorSets(small(), { paper: 'Letter', bars: { [STARTER_SHELF.printers[0].id]: { x: 99, y: 101 } } }),
  ],
  [
    'labels',
    () => labelSheets(small({ repeats: 10, factors: [{ key: 'dryHours', levels: [4, 8, 20, 44] }] })),
  ],
  [
    'labels-many',
    () =>
      labelSheets(
        small({
          factors: [
            { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
            { key: 'dryHours', levels: [4, 20] },
            { key: 'rounds', levels: [1, 2] },
            { key: 'coatMm', levels: [0.3, 0.5] },
          ],
        }),
      ),
  ],
  ['map', () => mapSheets(small({ board: { w: 420, h: 420, outline: 'ellipse', onePiece: false } }))],
  [
    'map-tiles',
    () =>
      mapSheets(
        small({ board: { w: 60, h: 80, outline: 'rectangle', onePiece: true }, repeats: 5, marginMm: 5 }),
      ),
  ],
  ['bench', () => benchSheets(small())],
  [
    'bench-timed',
    () => {
      const plan = small({ repeats: 6 });
      const agenda = agendaOf(plan, [], alone, start);
      if (!agenda.ok) throw new ProblemError(agenda.problem);
      return benchSheets(plan, agenda.value);
    },
  ],
  ['ladder', () => ladderCard(small())!],
  ['card', () => cardSheet(40)],
  ['corners', () => cornersSheet('JH-1')],
  ['target', () => [targetSheet(40), targetSheet(40, { mirror: false, strip: true })]],
  [
    'pictures',
    () =>
      pictureSet(
        { code: 'Picture', name: 'Tern', methods: [METHODS[0]] },
        STARTER_SHELF.donors[0],
        STARTER_SHELF.printers[0],
        { pictures: [own(120, 90, 2), own(60, 30, 3)] },
      ),
  ],
];

describe('the papers, mark for mark', () => {
  it.each(PAPERS)('%s', async (name, make) => {
    await expect(seen(make())).toMatchFileSnapshot(`laid-out/${name}.txt`);
  });

  it('without a ladder have no card of one', () => {
    expect(ladderCard(examplePlan({ factors: [{ key: 'rounds', levels: [1, 2] }] }))).toBeUndefined();
  });
});
