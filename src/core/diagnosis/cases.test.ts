import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { type ExplainedCase, explainCase } from './index.ts';

type Told = Record<string, unknown> & { readonly method: string };

type TellingOf = readonly [cause: string, told: Told];
/** Further ones, each written down before it was explained; what was wrong about some was mended since. */
const FURTHER = JSON.parse(
  readFileSync(join(import.meta.dirname, 'fixtures', 'told.json'), 'utf8'),
) as readonly TellingOf[];

/** Failures of two causes at once. */
const TWO = JSON.parse(
  readFileSync(join(import.meta.dirname, 'fixtures', 'told-two.json'), 'utf8'),
) as readonly (readonly [causes: readonly string[], told: Told])[];

/** Failures as makers tell them, each with what it was, from docs/HANDBOOK.md §8. */
const TOLD: readonly TellingOf[] = [
  ...FURTHER,
  [
    'air-bubbles',
    {
      method: 'wet-rub',
      times: { placedAfterMin: 1, driedHours: 24 },
      reading: { landed: 91, veil: 0.03, bareShapes: { round: 0.8, ragged: 0.2 } },
      symptoms: ['bare-patches'],
    },
  ],
  [
    'air-bubbles',
    { method: 'film-pull', reading: { landed: 93, bareShapes: { round: 0.9 } }, symptoms: ['bare-patches'] },
  ],
  [
    'skinned-over',
    {
      method: 'wet-rub',
      substrate: 'bare wood',
      times: { placedAfterMin: 9, driedHours: 24 },
      reading: { landed: 70, veil: 0.04, bareShapes: { streak: 0.7, ragged: 0.3 } },
      symptoms: ['bare-patches'],
    },
  ],
  [
    'skinned-over',
    {
      method: 'paint-bed',
      times: { placedAfterMin: 25 },
      reading: { landed: 75, bareShapes: { streak: 0.6 } },
      symptoms: [],
    },
  ],
  [
    'too-thick',
    {
      method: 'wet-rub',
      choices: { coatMm: 1.2 },
      times: { placedAfterMin: 1, driedHours: 40 },
      reading: { landed: 96, veil: 0.05 },
      symptoms: ['halo', 'wrinkle'],
    },
  ],
  ['too-thick', { method: 'thick-coat', choices: { coatMm: 2 }, symptoms: ['milky', 'stuck-paper', 'halo'] }],
  [
    'edge-not-sealed',
    {
      method: 'wet-rub',
      times: { driedHours: 30, placedAfterMin: 1 },
      reading: {
        landed: 88,
        veil: 0.03,
        edges: { top: 96, right: 95, bottom: 42, left: 96 },
        bareShapes: { 'edge band': 0.9 },
      },
      symptoms: ['lifting-edge'],
    },
  ],
  [
    'edge-not-sealed',
    {
      method: 'tape-lift',
      reading: {
        landed: 92,
        edges: { top: 60, right: 97, bottom: 98, left: 97 },
        bareShapes: { corner: 0.8 },
      },
      symptoms: ['lifting-edge'],
    },
  ],
  [
    'glossy-ground',
    {
      method: 'wet-rub',
      substrate: 'glazed tile',
      preparation: 'none',
      times: { placedAfterMin: 1, driedHours: 30 },
      reading: { landed: 35, veil: 0.02, bareShapes: { ragged: 0.9 } },
      symptoms: ['rolled-off'],
    },
  ],
  [
    'thirsty-ground',
    {
      method: 'wet-rub',
      substrate: 'unglazed tile',
      preparation: 'none',
      choices: { coatMm: 0.2 },
      times: { placedAfterMin: 1, driedHours: 30 },
      reading: { landed: 70, veil: 0.05, bareShapes: { ragged: 0.9 } },
      symptoms: ['faint'],
    },
  ],
  [
    'too-early',
    {
      method: 'wet-rub',
      times: { placedAfterMin: 1, driedHours: 3 },
      air: { tempC: 12, rh: 80 },
      reading: { landed: 40, veil: 0.05, bareShapes: { ragged: 0.8 } },
      symptoms: ['rolled-off'],
    },
  ],
  ['too-early', { method: 'gel-skin', times: { driedHours: 24 }, symptoms: ['milky', 'tacky'] }],
  [
    'too-early',
    { method: 'film-pull', times: { waitSec: 15 }, reading: { landed: 55, smear: 0.3 }, symptoms: ['smear'] },
  ],
  [
    'too-much-water',
    {
      method: 'wet-rub',
      medium: 'white glue',
      times: { driedHours: 30, placedAfterMin: 1, soakMin: 15 },
      reading: { landed: 70, veil: 0.05, bareShapes: { ragged: 0.8 } },
      symptoms: ['base-damaged'],
    },
  ],
  [
    'too-little-water',
    {
      method: 'wet-rub',
      times: { driedHours: 30, placedAfterMin: 1, soakMin: 0.3 },
      reading: { landed: 90, veil: 0.4 },
      symptoms: ['stuck-paper'],
    },
  ],
  [
    'rubbed-too-hard',
    {
      method: 'wet-rub',
      choices: { rounds: 5 },
      times: { driedHours: 30, placedAfterMin: 1 },
      reading: { landed: 75, veil: 0.02, bareShapes: { ragged: 0.7 } },
      symptoms: ['rubbed-through'],
    },
  ],
  [
    'not-enough-rounds',
    {
      method: 'wet-rub',
      choices: { rounds: 1 },
      times: { driedHours: 30, placedAfterMin: 1 },
      reading: { landed: 97, veil: 0.35 },
      symptoms: ['veil'],
    },
  ],
  ['not-enough-rounds', { method: 'tape-lift', reading: { landed: 95, veil: 0.28 }, symptoms: ['veil'] }],
  [
    'wrong-paper',
    {
      method: 'wet-rub',
      donor: 'gloss-coated paper',
      choices: { rounds: 3 },
      times: { driedHours: 30, placedAfterMin: 1 },
      reading: { landed: 90, veil: 0.3 },
    },
  ],
  [
    'wrong-colourant',
    {
      method: 'wet-rub',
      printer: 'dye ink',
      times: { driedHours: 30, placedAfterMin: 1 },
      reading: { landed: 20, smear: 0.4, stain: 10 },
      symptoms: ['smear'],
    },
  ],
  [
    'wrong-colourant',
    { method: 'tape-lift', printer: 'dye ink', reading: { landed: 5 }, symptoms: ['smear', 'faint'] },
  ],
  [
    'pale-original',
    {
      method: 'wet-rub',
      artwork: { pale: 0.8, contrast: 'low' },
      times: { driedHours: 30, placedAfterMin: 1 },
      reading: { landed: 85, veil: 0.04, landedByTone: { light: 60, middle: 85, dark: 97 } },
      symptoms: ['faint'],
    },
  ],
  [
    'dark-ground',
    {
      method: 'wet-rub',
      substrate: 'slate',
      times: { driedHours: 30, placedAfterMin: 1 },
      reading: { landed: 96, veil: 0.03, tone: 22 },
      symptoms: ['too-dark'],
    },
  ],
  [
    'not-mirrored',
    { method: 'wet-rub', reading: { landed: 96, veil: 0.03, mirrored: true }, symptoms: ['backwards'] },
  ],
  [
    'dust',
    {
      method: 'wet-rub',
      times: { driedHours: 30, placedAfterMin: 1 },
      reading: { landed: 98, veil: 0.03, bareShapes: { round: 0.3 } },
      symptoms: ['pinholes'],
    },
  ],
  [
    'pulled-late',
    {
      method: 'film-pull',
      times: { waitSec: 600 },
      reading: { landed: 40, bareShapes: { ragged: 0.9 } },
      symptoms: ['stuck-paper'],
    },
  ],
  [
    'puddled',
    {
      method: 'solvent-bloom',
      reading: { landed: 70, smear: 0.4, smearDown: true, stain: 8 },
      symptoms: ['smear'],
    },
  ],
  [
    'heat-low',
    {
      method: 'ironed-tape',
      times: { pressSec: 5 },
      reading: { landed: 55, bareShapes: { ragged: 0.8 } },
      symptoms: ['bare-patches'],
    },
  ],
  [
    'heat-low',
    {
      method: 'hot-body',
      reading: { landed: 60, bareShapes: { 'edge band': 0.7 } },
      symptoms: ['bare-patches', 'stuck-paper'],
    },
  ],
  ['heat-high', { method: 'wax-bed', symptoms: ['flooded', 'smear'] }],
  ['heat-high', { method: 'ironed-tape', symptoms: ['scorched'] }],
  [
    'creased',
    { method: 'tape-lift', reading: { landed: 93, bareShapes: { streak: 0.9 } }, symptoms: ['wrinkle'] },
  ],
  [
    'recoated',
    {
      method: 'tissue-embed',
      finish: 'spray clear',
      times: { recoatMin: 5 },
      reading: { landed: 97 },
      symptoms: ['wrinkle', 'milky'],
    },
  ],
  [
    'cloth-not-washed',
    {
      method: 'wet-rub',
      substrate: 'cotton cloth',
      preparation: 'none',
      times: { driedHours: 40, placedAfterMin: 1 },
      reading: { landed: 55, veil: 0.04, bareShapes: { ragged: 0.9 } },
      symptoms: ['lost-in-use'],
    },
  ],
  [
    'washed-early',
    {
      method: 'wet-rub',
      substrate: 'cotton cloth',
      preparation: 'wash and iron',
      times: { driedHours: 40, placedAfterMin: 1, washedAfterHours: 12 },
      reading: { landed: 60, veil: 0.03 },
      symptoms: ['lost-in-use'],
    },
  ],
];

const explained = (told: Record<string, unknown>): ExplainedCase => {
  const found = explainCase({ id: 'c', ...told });
  if (!found.ok) throw new ProblemError(found.problem);
  return found.value;
};

describe('a failure as somebody tells it', () => {
  it.each(TOLD.map(([cause, told], i) => [cause, told.method, i] as const))(
    '%s, %s: is named first, or at least among the first three (%i)',
    (cause, _, i) => {
      const { causes } = explained(TOLD[i][1]);
      expect(causes.slice(0, 3).map(c => c.id)).toContain(cause);
    },
  );

  it('is named first in most of them', () => {
    const first = TOLD.filter(([cause, told]) => explained(told).causes[0]?.id === cause);
    expect(first.length / TOLD.length).toBeGreaterThanOrEqual(0.85);
  });

  it.each(TWO.map(([causes, told]) => [causes.join(' and '), told.method, causes, told] as const))(
    'may be %s at once (%s): both are among the first three',
    (_, __, causes, told) => {
      const named = explained(told)
        .causes.slice(0, 3)
        .map(c => c.id);
      expect(named).toEqual(expect.arrayContaining([...causes]));
    },
  );

  it('may have two causes at once: both are named', () => {
    const both = explained({
      method: 'wet-rub',
      choices: { rounds: 1 },
      times: { placedAfterMin: 12, driedHours: 30 },
      reading: { landed: 72, veil: 0.35, bareShapes: { streak: 0.8 } },
      symptoms: ['veil', 'bare-patches'],
    });
    expect(
      both.causes
        .slice(0, 2)
        .map(c => c.id)
        .sort(),
    ).toEqual(['not-enough-rounds', 'skinned-over']);
    for (const c of both.causes.slice(0, 2)) expect(c.likely).toBeGreaterThan(0.6);
    // What explains the same thing twice does not make both likely.
    const one = explained({ ...TOLD[0][1] });
    expect(one.causes[1]?.likely ?? 0).toBeLessThan(0.5);
  });

  it('says that nothing is wrong where nothing is', () => {
    for (const { id: method } of METHODS) {
      const healthy = explained({ method, reading: { landed: 97, veil: 0.03, smear: 0.01, tone: 3 } });
      expect(healthy.causes).toEqual([]);
      expect(healthy.nothingWrong).toBeGreaterThan(0.9);
    }
  });

  it('asks for the look that tells most, and an answer moves the odds; “cannot tell” does not', () => {
    const told = {
      method: 'wet-rub',
      reading: { landed: 60, veil: 0.05, bareShapes: { ragged: 0.8 } },
      symptoms: ['bare-patches'],
    };
    const open = explained(told);
    const [question] = open.ask;
    expect(question.gain).toBeGreaterThan(0.1);
    expect([...open.ask].sort((a, b) => b.gain - a.gain)).toEqual(open.ask);
    const id = question.question.replace('check:', '');
    const of = (found: ExplainedCase) => found.causes.find(c => c.id === id)?.likely ?? 0;
    const yes = explained({ ...told, answers: { [question.question]: 'yes' } });
    const no = explained({ ...told, answers: { [question.question]: false } });
    const idle = explained({ ...told, answers: { [question.question]: 'cannot tell' } });
    expect(of(yes)).toBeGreaterThan(of(open) + 0.1);
    expect(of(no)).toBeLessThan(of(open));
    expect(of(idle)).toBeCloseTo(of(open), 9);
    expect(yes.ask.some(a => a.question === question.question)).toBe(false);
  });

  it('takes kinds, ids and names, and says what it did not understand', () => {
    const odd = explained({
      method: 'Wet-rub transfer',
      medium: 'dragon glue',
      symptoms: ['glitter', 'veil'],
      skipped: ['sing'],
    });
    expect(odd.notUnderstood).toEqual([
      '“dragon glue” is not known here; the usual was taken.',
      '“sing” is no step of wet-rub transfer.',
      '“glitter” is no symptom that is known here.',
    ]);
    expect(odd.causes[0].id).toBe('not-enough-rounds');
    expect(
      explained({ method: 'wet-rub', symptoms: ['veil'], skipped: ['wet'] })
        .causes.flatMap(c => c.for)
        .map(x => write(x)),
    ).toContain('It was not wetted.');
  });

  it('calls no coat thick that is usual in its method', () => {
    const of = (coatMm: number) =>
      explained({ method: 'thick-coat', choices: { coatMm }, symptoms: ['stuck-paper'] });
    const thick = (found: ExplainedCase) => found.causes.find(c => c.id === 'too-thick');
    expect(
      thick(of(3))!
        .for.map(x => write(x))
        .join(),
    ).toMatch(/The coat was 2(\.0+)? times as thick as is usual/);
    expect(thick(of(1.5))?.for.join() ?? '').not.toMatch(/thick as is usual/);
    expect(thick(of(3))!.likely).toBeGreaterThan((thick(of(1.5))?.likely ?? 0) + 0.2);
  });

  it('takes what was left out of the preparation by its name, and the ground as it came then', () => {
    const told = { method: 'thick-coat', preparation: 'wash and iron', symptoms: ['lost-in-use'] };
    const of = (skipped: string[]) => explained({ ...told, skipped });
    const at = (found: ExplainedCase) => found.causes.find(c => c.id === 'cloth-not-washed')?.likely ?? 0;
    expect(of(['wash']).notUnderstood).toEqual([]);
    expect(of(['']).notUnderstood).toEqual(['“” is no step of thick-coat cloth transfer.']);
    expect(at(of(['wash']))).toBeGreaterThan(0.5);
    expect(at(of([]))).toBeLessThan(0.1);
  });

  it('knows how long was pressed from how long was held hot, and that what is hot cools', () => {
    const of = (times: object, method = 'backing-print') =>
      explained({ method, times, reading: { landed: 70 } }).causes.find(c => c.id === 'heat-low');
    expect(
      of({ waitSec: 6 })!
        .for.map(x => write(x))
        .join(),
    ).toMatch(/It was pressed for 0\.\d+ of the usual time/);
    expect(
      of({ placedAfterMin: 2 }, 'hot-body')!
        .for.map(x => write(x))
        .join(),
    ).toMatch(/came after 2(\.0)? of its longest wait/);
    expect(of({ placedAfterMin: 0.2 }, 'hot-body')?.for.join() ?? '').not.toMatch(/longest wait/);
  });

  it('fails in words for what is no case', () => {
    for (const [data, words] of [
      [{ id: 'x', method: 'spell' }, /Case x: the method “spell” is not known/],
      [{ method: 'wet-rub' }, /not filled in right at id/],
      [{ id: 'x', method: 'wet-rub', times: { driedHours: 'long' } }, /at times\.driedHours/],
      [null, /not filled in right/],
    ] as const) {
      const found = explainCase(data);
      expect(write(found.ok ? '' : found.problem.say)).toMatch(words);
    }
  });
});
