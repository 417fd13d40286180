import { CAUTIONS, type CautionId } from '../methods/index.ts';
import { blank, joined, say, span, within } from '../say/index.ts';
import type { Agenda } from '../schedule/index.ts';
import { cautionsAt, chainOf, type Link, stepsFor, waitAfter, whichTime } from '../steps/index.ts';
import {
  isVariedIn,
  levelMarks,
  levelsLine,
  methodsOf,
  type Patch,
  settingsOf,
  type TrialPlan,
} from '../trial/index.ts';
import { A4, box, line, type Mark, type Page, type Sheets, TRUE_SIZE, text, wrapped } from './page.ts';

const WIDE = { w: A4.h, h: A4.w };
const LEFT = 12;
const FIRST = 58;
const HEAD = 46;
const ROW = 11;
/** Cautions are set with capitals of this height, in lines this far apart, in two columns. */
const CAUTION = { mm: 1.9, apart: 3.5, column: (WIDE.w - 2 * LEFT - 8) / 2 };
/** What is left at the foot for the cautions; with more of them they have a page of their own. */
const FOOT = 44;

/**
 * The bench on paper, for those who want no screen near water: a row a patch in the order of work, a box a step to
 * write the time in, the windows and the cautions above. With an agenda each box has its planned time in grey, the same
 * as in the calendar.
 */
export function benchSheets(plan: TrialPlan, agenda?: Agenda): Sheets {
  const ordered = [...plan.patches].sort((a, b) => a.order - b.order);
  const windows = windowsOf(plan, ordered);
  const planned = new Map(
    agenda?.tasks.map(t => [boxOf(t.patch, t.link), plannedWords(t.from, agenda.tasks[0].from)]),
  );
  const methodOf = (p: Patch) => settingsOf(plan, p).method;
  // Each method has its own steps, and so its own columns.
  const tables = methodsOf(plan).flatMap((method): Table[] => {
    const patches = ordered.filter(p => methodOf(p).id === method.id);
    if (!patches.length) return [];
    const longest = patches.map(p => chainOf(plan, p)).sort((a, b) => b.length - a.length)[0];
    const cell = Math.min(30, (WIDE.w - 2 * LEFT - FIRST) / longest.length);
    return [{ plan, name: method.name, patches, longest, cell, windows, planned }];
  });
  const { columns, height } = inColumns(cautionsOf(plan, ordered));
  const atFoot = height <= FOOT;
  const perPage = Math.floor((WIDE.h - HEAD - 8 - (atFoot ? height : 0)) / ROW);
  const pages = tables.flatMap(table =>
    Array.from({ length: Math.ceil(table.patches.length / perPage) }, (_, page): Page => {
      const here = table.patches.slice(page * perPage, (page + 1) * perPage);
      return {
        ...WIDE,
        correct: TRUE_SIZE,
        marks: [
          ...title(plan, table.name, agenda),
          ...headings(table),
          ...here.flatMap((patch, r) => rowOf(table, patch, HEAD + r * ROW)),
          ...(atFoot
            ? columns(WIDE.h - 8 - height)
            : [text('Read the cautions on the first sheet.', LEFT, 26, 2.6, { bold: true })]),
        ],
      };
    }),
  );
  const first: Page = {
    ...WIDE,
    correct: TRUE_SIZE,
    marks: [
      text(`${plan.code} · ${plan.name}: cautions`, LEFT, 14, 4, { bold: true, most: 270 }),
      ...columns(20),
    ],
  };
  return { title: `${plan.name}: bench sheet`, pages: [...(atFoot ? [] : [first]), ...pages] };
}

/** What every page of the table shares: its columns are the steps of the longest chain, each `cell` mm wide. */
interface Table {
  readonly plan: TrialPlan;
  /** The method whose steps they are, and its patches in the order of work. */
  readonly name: string;
  readonly patches: readonly Patch[];
  readonly longest: readonly Link[];
  readonly cell: number;
  /** What is waited for after a step, in words, by box. */
  readonly windows: ReadonlyMap<string, WaitWords>;
  /** The planned time of a box, in words. */
  readonly planned: ReadonlyMap<string, string>;
}

const boxOf = (patch: string, { step, round }: Link) => `${patch} ${step.id} ${round}`;
const columnAt = ({ cell }: Table, i: number) => LEFT + FIRST + i * cell;

const cautionsOf = (plan: TrialPlan, patches: readonly Patch[]): CautionId[] => [
  ...new Set<CautionId>([
    ...methodsOf(plan).flatMap(m => m.setUpCautions),
    ...patches.flatMap(p => {
      const s = settingsOf(plan, p);
      return stepsFor(plan, s).flatMap(step => cautionsAt(step, s));
    }),
  ]),
];

const whenWords = (agenda: Agenda | undefined): string => {
  const first = agenda?.tasks[0];
  return first ? ` In grey: the planned time, on ${dayWords(new Date(first.from))} where no day stands.` : '';
};

const title = (plan: TrialPlan, method: string, agenda: Agenda | undefined): Mark[] => [
  text(`${plan.code} · ${plan.name}: bench sheet`, LEFT, 14, 4, { bold: true, most: 200 }),
  text(
    say`${method}. Write the time in the box when a step is done. Room: ${blank('temperature')}, ____ % humidity. Date: ________${whenWords(agenda)}`,
    LEFT,
    20,
    2.6,
    { most: 270 },
  ),
];

/** A column's step, and what is waited for after it. */
const headings = (table: Table): Mark[] =>
  table.longest.flatMap((link, i) => {
    const { longest, cell } = table;
    const x = columnAt(table, i) + 1;
    const most = cell - 2;
    const time = whichTime(longest, link);
    const marks = [text(link.step.action, x, time ? 33 : 36, 2.1, { bold: true, most })];
    if (time) marks.push(text(time, x, 36, 1.8, { most }));
    const all = sharedWait(table, link);
    if (all === 'differs') marks.push(text('then: see the box', x, 40, 1.8, { most }));
    else if (all)
      marks.push(
        text(`then ${all.aim}`, x, 40, 1.8, { most }),
        text(all.range, x, 43.4, 1.6, { most, grey: 70 }),
      );
    return marks;
  });

interface WaitWords {
  readonly aim: string;
  readonly range: string;
}

/** What each patch waits for after each of its steps: by its own medium, ground, air and planned time. */
function windowsOf(plan: TrialPlan, patches: readonly Patch[]): Map<string, WaitWords> {
  const found = new Map<string, WaitWords>();
  for (const patch of patches) {
    const settings = settingsOf(plan, patch);
    for (const link of chainOf(plan, patch)) {
      const wait = waitAfter(link.step, settings, plan.air);
      if (!wait) continue;
      const latest = wait.max > 20_000 ? 'any time' : span(wait.max);
      found.set(boxOf(patch.code, link), { aim: span(wait.aim), range: `${span(wait.min)} to ${latest}` });
    }
  }
  return found;
}

/** The wait after a step where all patches have the same. */
function sharedWait({ patches, windows }: Table, link: Link): WaitWords | 'differs' | undefined {
  const all = patches.flatMap(p => windows.get(boxOf(p.code, link)) ?? []);
  const [first] = all;
  return all.every(w => w.aim === first.aim && w.range === first.range) ? first : 'differs';
}

/** A patch: its place in the order, code, levels, and a box for each step it has. */
function rowOf(table: Table, patch: Patch, y: number): Mark[] {
  const { plan, longest, cell, planned, windows } = table;
  const has = new Set(chainOf(plan, patch).map(link => boxOf(patch.code, link)));
  const boxes = longest.flatMap((link, i) => {
    const id = boxOf(patch.code, link);
    if (!has.has(id)) return [];
    const x = columnAt(table, i) + 1;
    const time = planned.get(id);
    const own = sharedWait(table, link) === 'differs' ? windows.get(id) : undefined;
    return [
      ...box(x, y + 1.5, cell - 2, ROW - 3, 0.15),
      ...(time ? [text(time, x + 0.8, y + 3.9, 1.5, { most: cell - 3.6, grey: 90 })] : []),
      ...(own
        ? [text(`then ${own.range}`, x + 0.8, y + ROW - 2.2, 1.5, { most: cell - 3.6, grey: 70 })]
        : []),
    ];
  });
  return [
    line(LEFT, y, WIDE.w - LEFT, y, 0.1, 120),
    text(`${patch.order + 1}.`, LEFT, y + 6.5, 2.8, { most: 8 }),
    text(patch.code, LEFT + 9, y + 6.5, 3.2, { bold: true, most: 24 }),
    text(levelMarks(plan, patch).join(' '), LEFT + 34, y + 3.4, 2.1, { bold: true, most: 22 }),
    ...namesOf(plan, patch, y),
    ...boxes,
  ];
}

const NAME_LINES = 3;

/** The levels of a patch in up to three lines, the last set smaller where more has to go on it. */
function namesOf(plan: TrialPlan, patch: Patch, y: number): Mark[] {
  const lines = wrapped(levelsLine(plan, patch), 1.5, 23);
  const shown = lines.slice(0, NAME_LINES - 1);
  const last = joined(lines.slice(NAME_LINES - 1), ' ');
  return [...shown, ...(lines.length >= NAME_LINES ? [last] : [])].map((words, i) =>
    text(words, LEFT + 34, y + 5.8 + 2.2 * i, 1.5, { most: 23 }),
  );
}

/** Cautions in two columns of about the same height, whole and wrapped. `height` in mm; `columns` draws them from `top`. */
function inColumns(cautions: readonly CautionId[]) {
  const blocks = cautions.map(id => ({
    title: CAUTIONS[id].title,
    lines: wrapped(CAUTIONS[id].text, CAUTION.mm, CAUTION.column),
  }));
  const rowsOf = (from: typeof blocks) => from.reduce((sum, b) => sum + b.lines.length + 1.3, 0);
  const cuts = Array.from({ length: blocks.length + 1 }, (_, i) => i);
  const tallest = (cut: number) => Math.max(rowsOf(blocks.slice(0, cut)), rowsOf(blocks.slice(cut)));
  const cut = cuts.reduce((best, i) => (tallest(i) < tallest(best) ? i : best), cuts.length - 1);
  const column = (from: typeof blocks, x: number, top: number) => {
    let y = top;
    return from.flatMap(b => {
      const marks = [b.title, ...b.lines].map((words, i) => {
        y += CAUTION.apart;
        return text(words, x, y, CAUTION.mm, { bold: i === 0, most: CAUTION.column });
      });
      y += 0.3 * CAUTION.apart;
      return marks;
    });
  };
  return {
    height: tallest(cut) * CAUTION.apart,
    columns: (top: number): Mark[] => [
      ...column(blocks.slice(0, cut), LEFT, top),
      ...column(blocks.slice(cut), LEFT + CAUTION.column + 8, top),
    ],
  };
}

/** `Sat 2 May`: a weekday alone says nothing of work that goes on for weeks. */
const dayWords = (at: Date): string =>
  `${at.toLocaleDateString('en-GB', { weekday: 'short' })} ${at.getDate()} ${at.toLocaleDateString('en-GB', { month: 'short' })}`;

/** `18:05`, with the day and its date where it is not the first one's. */
function plannedWords(at: number, first: number): string {
  const [day, start] = [new Date(at), new Date(first)];
  const two = (n: number) => String(n).padStart(2, '0');
  const time = `${two(day.getHours())}:${two(day.getMinutes())}`;
  return day.toDateString() === start.toDateString() ? time : `${dayWords(day)} ${time}`;
}

/** The ladder of waits as a card for the bench: a rung a wait, with boxes for what was seen. */
export function ladderCard(plan: TrialPlan): Sheets | undefined {
  const f = plan.factors.findIndex(x => x.key === 'dryHours');
  if (f < 0) return undefined;
  const own = methodsOf(plan).find(m => isVariedIn(plan.factors[f], m)) ?? plan.used.method;
  const rungs = [...new Set(plan.factors[f].levels.map(Number))].sort((a, b) => a - b);
  const marks: Mark[] = [
    text(`${own.name}: ${within(own.waitName)}`, 20, 24, 5, { bold: true, most: 170 }),
    text(
      say`${plan.code} · ${plan.name}. Room: ${blank('temperature')}, ____ % humidity. Date: ________`,
      20,
      31,
      2.8,
      {
        most: 170,
      },
    ),
    text('Tick what you saw. The best rung is the shortest that came off clean.', 20, 37, 2.8, { most: 170 }),
  ];
  const heads = ['wait', 'patches', 'too wet', 'clean', 'stuck', 'tore'];
  const at = [20, 48, 108, 128, 148, 168];
  heads.forEach((h, i) => {
    marks.push(text(h, at[i], 48, 2.6, { bold: true, most: 40 }));
  });
  rungs.forEach((hours, r) => {
    const y = 54 + r * 16;
    const own = plan.patches.filter(
      p => p.levels.length && Number(plan.factors[f].levels[p.levels[f]]) === hours,
    );
    marks.push(
      line(20, y, 190, y, 0.1, 120),
      text(span(hours * 60), 20, y + 10, 4.5, { bold: true, most: 26 }),
      text(own.map(p => p.code).join('  '), 48, y + 9, 2.4, { most: 56 }),
      ...[2, 3, 4, 5].flatMap(i => box(at[i], y + 4, 8, 8, 0.25)),
    );
  });
  return { title: `${plan.name}: ladder card`, pages: [{ ...A4, correct: TRUE_SIZE, marks }] };
}
