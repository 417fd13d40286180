import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { calendarOf } from '../calendar/write.ts';
import { examplePlan } from '../design/example.ts';
import { coatMl } from '../design/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { keptFrom } from '../recipe/index.ts';
import { many, mL, say, write } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { takenOff } from '../stock/index.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import {
  amountsOf,
  checkRecipeEvent,
  followUpSessions,
  followUps,
  type KeptRecipe,
  lastingWords,
  type RecipeEvent,
  realRun,
  recipeFrom,
  recipeJson,
  recipesIn,
  settingsIn,
  shoppingCsv,
  successOf,
  usedFor,
} from './index.ts';

const plan = examplePlan({
  factors: [{ key: 'medium', levels: ['matte-acrylic', 'white-pva'] }],
  repeats: 4,
});
const records: TrialRecord[] = plan.patches.flatMap((p, i) => [
  ...readingFor(p.code, i, { landed: (p.levels[0] === 0 ? 94 : 70) - (i % 3), veil: 0.05 + 0.01 * (i % 2) }),
  {
    ...{ id: `v${i}`, at: '2026-05-05T10:00:00.000Z', kind: 'verdict' as const, patch: p.code },
    ...{
      verdict: p.levels[0] === 0 && i % 4 ? ('keep' as const) : ('scrap' as const),
      grade: 3,
      symptoms: [],
    },
  },
]);
const kept: KeptRecipe = keptFrom(plan, records)!;
const at = (day: number) => `2026-06-0${day}T08:00:00.000Z`;
const version = (id: string, day: number, part: Partial<KeptRecipe> = {}): RecipeEvent => ({
  ...{ id, recipe: 'R', at: at(day), kind: 'version', why: '', kept: { ...kept, ...part } },
});
const made = (id: string, day: number, good: number, of: number): RecipeEvent => ({
  ...{ id, recipe: 'R', at: at(day), kind: 'made', good, of, size: { w: 200, h: 150 }, note: '' },
});

describe('what wear does to made pieces', () => {
  const worn = (
    id: string,
    day: number,
    test: 'dry-rub' | 'tape' | 'sun' | 'wash',
    came: 'held' | 'lost',
    days = 7,
  ): RecipeEvent => ({
    ...{ id, recipe: 'R', at: at(day), kind: 'worn', made: 'm1', test, days, came },
  });
  const DAY = 86_400_000;

  it('is asked after at its days, the first due first, and no more once it is written down', () => {
    const [book] = recipesIn([version('v1', 1), made('m1', 2, 3, 4)]);
    const days = followUps(book).map(f => `${f.test} ${f.days}`);
    // A board is not washed; on cloth that comes first.
    expect(days).toEqual(['dry-rub 7', 'tape 7', 'wet-rub 30', 'sun 90']);
    expect(followUps(book)[0].due).toBe(Date.parse(at(2)) + 7 * DAY);
    const [after] = recipesIn([version('v1', 1), made('m1', 2, 3, 4), worn('w1', 9, 'tape', 'held')]);
    expect(followUps(after).find(f => f.test === 'tape')!.done).toMatchObject({ came: 'held' });
    expect(followUpSessions(after).map(s => s.uid)).toEqual([
      'm1-dry-rub-7@wet-test',
      'm1-wet-rub-30@wet-test',
      'm1-sun-90@wet-test',
    ]);
    expect(followUpSessions(after)[0]).toMatchObject({ alarms: [15] });
    const cloth = STARTER_SHELF.substrates.find(s => s.kind === 'cotton cloth')!;
    const onCloth = version('v1', 1, { items: { ...kept.items, substrate: cloth } });
    const [bag] = recipesIn([onCloth, made('m1', 2, 3, 4)]);
    expect(followUps(bag).map(f => `${f.test} ${f.days}`)).toEqual([
      'wash 4',
      'dry-rub 7',
      'wash 30',
      'sun 90',
    ]);
    // The wash after four days says nothing of the one after a month.
    const [washed] = recipesIn([onCloth, made('m1', 2, 3, 4), worn('w2', 7, 'wash', 'held', 4)]);
    expect(followUps(washed).flatMap(f => (f.done ? [`${f.test} ${f.days}`] : []))).toEqual(['wash 4']);
  });

  it('counts by test, the last word on each; of what was taken back nothing counts', () => {
    const events = [
      ...[
        version('v1', 1),
        made('m1', 2, 3, 4),
        worn('w1', 3, 'tape', 'held'),
        worn('w2', 4, 'dry-rub', 'lost'),
      ],
      worn('w3', 5, 'tape', 'lost'),
    ];
    const [book] = recipesIn(events);
    expect(followUps(book).find(f => f.test === 'tape')!.done!.came).toBe('lost');
    expect(lastingWords(book.worn)).toEqual([
      'Tape pull: held 1 of 2, lost 1',
      'Dry rub: held 0 of 1, lost 1',
    ]);
    const undo: RecipeEvent = { id: 'u', recipe: 'R', at: at(6), kind: 'undo', of: 'm1' };
    expect(recipesIn([...events, undo])[0].worn).toEqual([]);
    expect(checkRecipeEvent({ ...events[2], came: 'vanished' }).ok).toBe(false);
  });

  it('goes into a calendar that a reader of others opens', () => {
    const [book] = recipesIn([version('v1', 1), made('m1', 2, 3, 4)]);
    const file = calendarOf(followUpSessions(book), 2, Date.parse(at(2)));
    if (!file.ok) throw new ProblemError(file.problem);
    expect(file.value.match(/BEGIN:VEVENT/g)).toHaveLength(4);
    expect(file.value).toContain('DTSTART:20260609T080000Z');
    expect(calendarOf([], 1, 0).ok).toBe(false);
  });
});

describe('what is on the shelf', () => {
  const shelf = (ml: number, sheets: number) => ({
    mediums: [{ ...settingsIn(kept).medium, onHandMl: ml, jarMl: 250 }],
    donors: [{ ...settingsIn(kept).donor, onHand: sheets, packSize: 100 }],
  });

  it('goes down by what pieces used, as they are worked out for real, and never below nothing', () => {
    const used = usedFor(kept, 4, { w: 200, h: 150 });
    const run = realRun(
      kept,
      { good: 5, of: 5 },
      { w: 200, h: 150, count: 4, certainty: 0.5 },
      { ml: 0, sheets: 0 },
    );
    if (!run.ok) throw new ProblemError(run.problem);
    expect(usedFor(kept, run.value.pieces, { w: 200, h: 150 })).toMatchObject({
      ...{ ml: run.value.ml, sheets: run.value.sheets },
    });
    const left = takenOff(shelf(200, 50), amountsOf(kept, used));
    expect(left.mediums[0].onHandMl).toBe(Math.round(200 - used.ml));
    expect(left.donors[0].onHand).toBe(50 - used.sheets);
    // And up again where pieces are taken back.
    const back = takenOff(shelf(100, 50), amountsOf(kept, { ml: -20, sheets: -3 }));
    expect([back.mediums[0].onHandMl, back.donors[0].onHand]).toEqual([120, 53]);
  });
});

describe('a recipe that is kept', () => {
  it('holds all it takes to make it, without the trial: the settings of its best patches and how those were judged', () => {
    const s = settingsIn(kept);
    expect([s.method.id, s.medium.id, s.coatMm]).toEqual(['wet-rub', 'matte-acrylic', plan.usual.coatMm]);
    const own = plan.patches.filter(p => p.levels[0] === 0);
    expect(kept.from?.patches.sort()).toEqual(own.map(p => p.code).sort());
    expect(kept.seen.of).toBe(4);
    expect(kept.seen.good).toBe(own.filter(p => plan.patches.indexOf(p) % 4).length);
    expect(kept.card.steps.some(step => step.cautions.length > 0)).toBe(true);
  });

  it('goes to another workshop as JSON and comes back the same, each event checked', () => {
    const events = [version('v1', 1), made('m1', 2, 3, 4)];
    const back = recipeFrom(recipeJson(events));
    if (!back.ok) throw new ProblemError(back.problem);
    expect(JSON.parse(JSON.stringify(back.value))).toEqual(JSON.parse(JSON.stringify(events)));
    const broken = (change: (file: { events: Record<string, unknown>[] }) => void) => {
      const file = JSON.parse(recipeJson(events));
      change(file);
      const found = recipeFrom(JSON.stringify(file));
      return found.ok ? 'taken' : `${found.problem.code}: ${write(found.problem.say)}`;
    };
    expect(broken(f => Object.assign(f, { schema: 2 }))).toMatch(/^newer/);
    expect(broken(f => Object.assign(f, { format: 'cake' }))).toMatch(/^foreign/);
    expect(broken(f => Object.assign(f.events[1], { good: 5 }))).toMatch(/more good ones than were made/);
    expect(broken(f => Object.assign(f.events[0].kept as object, { method: { id: 'x' } }))).not.toBe('taken');
    expect(
      broken(f => delete (f.events[0].kept as { items: Record<string, unknown> }).items.medium),
    ).not.toBe('taken');
    expect(broken(f => f.events.push({ ...f.events[0], id: 'u', kind: 'undo', of: 'v1' }))).toMatch(
      /taken back/,
    );
    expect(recipeFrom('nonsense').ok).toBe(false);
    expect(checkRecipeEvent({ ...version('v', 1), at: 'yesterday' }).ok).toBe(false);
  });
});

describe('recipes out of their events', () => {
  it('stand as the last version by time has them, whatever order the events come in, each once', () => {
    const events = [
      version('v2', 3, { name: 'Later' }),
      made('m', 2, 1, 2),
      version('v1', 1, { name: 'First' }),
    ];
    const [book] = recipesIn([...events, events[1]]);
    expect([book.now.name, book.versions.map(x => x.id), book.made.length]).toEqual([
      'Later',
      ['v1', 'v2'],
      1,
    ]);
    expect(book.seen).toEqual({ good: kept.seen.good + 1, of: kept.seen.of + 2 });
    expect(recipesIn([...events].reverse())).toEqual(recipesIn(events));
  });

  it('leave out what was taken back', () => {
    const undo = (id: string, of: string): RecipeEvent => ({ id, recipe: 'R', at: at(9), kind: 'undo', of });
    const [book] = recipesIn([version('v1', 1), made('m', 2, 1, 2), undo('u', 'm')]);
    expect([book.made, book.seen]).toEqual([[], kept.seen]);
    expect(recipesIn([version('v1', 1), undo('u', 'v1')])).toEqual([]);
  });
});

describe('a recipe made for real', () => {
  const wanted = { w: 200, h: 150, count: 2, certainty: 0.9 };
  const nothing = { ml: 0, sheets: 0 };
  const run = (part: Partial<typeof wanted> = {}, seen = { good: 18, of: 20 }, onHand = nothing) => {
    const found = realRun(kept, seen, { ...wanted, ...part }, onHand);
    if (!found.ok) throw new ProblemError(found.problem);
    return found.value;
  };
  const s = settingsIn(kept);

  it('begins so many that enough come out good, more of them the less is known', () => {
    expect(run().pieces).toBe(3);
    expect(run().chance).toBeGreaterThanOrEqual(0.9);
    expect(run({}, { good: 0, of: 0 }).pieces).toBeGreaterThan(10);
    expect(run({ certainty: 0.99 }).pieces).toBeGreaterThan(run({ certainty: 0.5 }).pieces);
    const hopeless = realRun(kept, { good: 0, of: 40 }, { ...wanted, count: 40 }, nothing);
    expect(!hopeless.ok && hopeless.problem.code).toBe('hopeless');
  });

  it('takes medium by its area, sheets by how many fit, and both by what is on hand', () => {
    const small = run({ w: 90, h: 60, count: 6 });
    expect(small.ml).toBeCloseTo(small.pieces * coatMl({ w: 90, h: 60 }, s.coatMm), 9);
    // An A4 sheet less 8 mm all round holds two across and four down of 90 × 60 with 6 mm between.
    expect([s.donor.sheet.w, s.donor.sheet.h]).toEqual([210, 297]);
    expect([small.sheetsEach, small.sheets]).toEqual([1, Math.ceil(small.pieces / 8)]);
    const large = run({ w: 300, h: 200 });
    expect(large.sheetsEach).toBe(2 * 1);
    expect(large.sheets).toBe(2 * large.pieces);
    expect(run({ w: 280, h: 190 }).sheetsEach).toBeLessThanOrEqual(2);
    const jars = Math.ceil(large.ml / s.medium.jarMl);
    expect(write(large.buy.find(b => b.what === s.medium.name)?.amount ?? '')).toMatch(
      new RegExp(`^${jars} jar`),
    );
    expect(run({}, undefined, { ml: 1e6, sheets: 1e6 }).buy).toEqual([]);
  });

  it('costs what its lines add up to, shared by the good ones; its hours are waits once and hands for all', () => {
    const three = run();
    expect(three.total).toBeCloseTo(
      three.lines.reduce((sum, l) => sum + l.price, 0),
      9,
    );
    expect(three.each).toBeCloseTo(three.total / 2, 9);
    const twice = run({ count: 5 });
    expect(twice.handsMin / three.handsMin).toBeCloseTo(twice.pieces / three.pieces, 6);
    const waits = (r: typeof three) => 60 * r.hours - r.handsMin;
    expect(waits(twice)).toBeCloseTo(waits(three), 6);
    expect(waits(three)).toBeGreaterThan(60 * s.dryHours * 0.9);
  });

  it('has a shopping list that no spreadsheet takes for a formula', () => {
    const line = (what: string) => ({ what, amount: '1, "small"', price: 2 });
    const text = shoppingCsv({ buy: [line('=HYPERLINK("x")')], lines: [line('+glue')] });
    const { data } = Papa.parse<string[]>(text.trim());
    expect(data[0]).toEqual(['list', 'what', 'amount', 'price']);
    expect(data[1]).toEqual(['to buy', '\'=HYPERLINK("x")', '1, "small"', '2.00']);
    expect(data[2][1]).toBe("'+glue");
    const amount = say`${many(2, 'jar')} of ${mL(250)}`;
    const told = shoppingCsv({ buy: [{ what: 'Glue', amount, price: 2 }], lines: [] });
    expect(told.split('\r\n')[1]).toBe('to buy,Glue,2 jars of 250 mL,2.00');
  });
});

describe('how often it comes out good', () => {
  it('is what a beta posterior on an even prior says, as R has it', () => {
    // qbeta(c(0.05, 0.95), 19, 3)
    const { value, lo, hi } = successOf({ good: 18, of: 20 });
    expect(value).toBeCloseTo(19 / 22, 12);
    expect(lo).toBeCloseTo(0.729448301, 6);
    expect(hi).toBeCloseTo(0.959900464, 6);
  });
});
