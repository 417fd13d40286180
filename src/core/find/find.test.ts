import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { keptFrom } from '../recipe/index.ts';
import { recipesIn } from '../recipe-book/index.ts';
import { write } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { summaryOf } from '../summary/index.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import { choicesOf, entriesOf, findIn, materialStory, notebookOf } from './index.ts';

const plan = {
  ...examplePlan({ factors: [{ key: 'medium', levels: ['matte-acrylic', 'white-pva'] }], repeats: 3 }, 4),
  name: 'Tide gauge',
  tags: ['harbour'],
};
const [a, b] = plan.patches.map(p => p.code);
const at = '2026-05-05T10:00:00.000Z';
const records: TrialRecord[] = [
  ...plan.patches.flatMap((p, i) =>
    readingFor(p.code, i, { landed: p.levels[0] === 0 ? 90 + i : 60 + i, veil: 0.1 }),
  ),
  { id: 'n', at, kind: 'note', patch: a, text: 'The kettle steamed beside it' },
  { id: 'v', at, kind: 'verdict', patch: a, verdict: 'keep', grade: 4, symptoms: [] },
  { id: 'w', at, kind: 'verdict', patch: b, verdict: 'scrap', grade: 1, symptoms: ['veil'] },
  { id: 'c', at, kind: 'cause', patch: b, cause: 'dust' },
];
const other = { ...examplePlan({}, 8), name: 'Locker doors', createdAt: '2025-03-02T08:00:00.000Z' };
const trials = [summaryOf({ plan, records }, true), summaryOf({ plan: other, records: [] })];
const books = recipesIn([
  {
    id: 'e',
    recipe: 'R',
    at,
    kind: 'version',
    why: '',
    kept: { ...keptFrom(plan, records)!, name: 'Gauge, our way' },
  },
]);
const notebook = notebookOf(entriesOf(trials, books, STARTER_SHELF, []));
const titles = (words: string, narrowed = {}) => findIn(notebook, words, narrowed).map(e => e.title);

describe('the notebook searched', () => {
  it('tells of a recipe what it is made with, and finds it by how it is done too', () => {
    const recipe = notebook.entries.find(e => e.kind === 'recipe')!;
    expect(write(recipe.about)).toMatch(/^The office laser.*humidity$/);
    expect(titles('fingers', { kind: 'recipe' })).toEqual(['Gauge, our way']);
  });

  it('calls what was made by a recipe pieces, and what is tried patches', () => {
    const run = { ...other, patches: other.patches.slice(0, 1), real: { recipe: 'R' } };
    const said = (of: typeof run | typeof other) =>
      entriesOf([summaryOf({ plan: of, records: [] })], [], STARTER_SHELF, [])
        .slice(0, 2)
        .map(e => [e.says, write(e.about).match(/\d+ \w+, \d+ read/)?.[0]]);
    expect(said(run)).toEqual([
      ['pieces', '1 piece, 0 read'],
      ['piece', undefined],
    ]);
    expect(said(other)).toEqual([
      ['trial', `${other.patches.length} patches, 0 read`],
      ['patch', undefined],
    ]);
  });

  it('finds trials, patches, recipes and the shelf by the beginning of a word, the best first', () => {
    expect(titles('gau')[0]).toMatch(/^(Tide gauge|Gauge, our way)$/);
    expect(titles('gau')).toEqual(expect.arrayContaining(['Tide gauge', 'Gauge, our way']));
    expect(titles(a)[0]).toBe(a);
    expect(titles('matte', { kind: 'material' })).toContain(
      STARTER_SHELF.mediums.find(m => m.id === 'matte-acrylic')!.name,
    );
  });

  it('wants all words, forgives a slip of the finger in a long one, and reads notes', () => {
    expect(titles('kettle')).toEqual(['Tide gauge']);
    expect(titles('ketle')).toEqual(['Tide gauge']);
    expect(titles('kettle locker')).toEqual([]);
    expect(titles('nothing-like-it')).toEqual([]);
  });

  it('is narrowed down by kind, material, symptom, cause, tag and year', () => {
    expect(titles('', { kind: 'trial' })).toEqual(['Tide gauge', 'Locker doors']);
    expect(titles('', { year: '2025', kind: 'trial' })).toEqual(['Locker doors']);
    expect(titles('', { tag: 'harbour', kind: 'trial' })).toEqual(['Tide gauge']);
    const { symptoms, causes, materials, years, tags } = choicesOf(notebook.entries);
    expect([symptoms.length, causes.length, tags, years]).toEqual([1, 1, ['harbour'], ['2026', '2025']]);
    expect(titles('', { symptom: symptoms[0], kind: 'patch' })).toEqual([b]);
    expect(titles('', { cause: causes[0], kind: 'trial' })).toEqual(['Tide gauge']);
    const pva = STARTER_SHELF.mediums.find(m => m.id === 'white-pva')!.name;
    expect(materials).toContain(pva);
    expect(titles('', { material: pva, kind: 'recipe' })).toEqual([]);
    // Without words patches stand with their trials.
    expect(findIn(notebook, '').some(e => e.kind === 'patch')).toBe(false);
  });
});

describe('the story of a material', () => {
  const story = (id: string) => materialStory(trials, STARTER_SHELF.mediums.find(m => m.id === id)!.name);

  it('is where it was used, what landed there, and how much of it was kept', () => {
    const own = plan.patches.flatMap((p, i) => (p.levels[0] === 0 ? [90 + i] : []));
    const told = story('matte-acrylic');
    expect(told.trials.map(t => t.name)[0]).toBe('Tide gauge');
    expect(told.landed).toBeCloseTo(own.reduce((x, y) => x + y, 0) / own.length, 9);
    expect(told.patches).toBe(own.length);
    expect(told.judged + story('white-pva').judged).toBe(2);
    expect(told.kept + story('white-pva').kept).toBe(1);
    expect(materialStory(trials, 'Unheard of')).toMatchObject({ trials: [], patches: 0, landed: null });
  });
});
