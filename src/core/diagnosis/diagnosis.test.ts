import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { write } from '../say/index.ts';
import { SYMPTOMS, type SymptomId } from '../symptoms/index.ts';
import { readingFor } from '../trial/example.ts';
import type { BarePatch, Reading, TrialRecord } from '../trial/index.ts';
import { CAUSES, explain } from './index.ts';

const plan = examplePlan({
  factors: [{ key: 'coatMm', levels: [0.2, 0.4] }],
  usual: { ...examplePlan().usual, dryHours: 20 },
  air: { tempC: 21, rh: 45 },
});
const patch = plan.patches.find(p => p.levels[0] === 1)!;
const T0 = Date.parse('2026-05-02T09:00:00.000Z');
const bare = (shape: BarePatch['shape'], area: number, edge = 10, along = 0): BarePatch => ({
  x: 20,
  y: 20,
  area,
  shape,
  edge,
  along,
});
const verdict = (...symptoms: SymptomId[]): TrialRecord => ({
  id: 'v',
  at: new Date(T0).toISOString(),
  kind: 'verdict',
  patch: patch.code,
  verdict: 'fix',
  grade: 2,
  symptoms,
});

/** Steps with the minutes after T0 at which they were done. */
const made = (coat: number, place: number, wet: number, rounds = 2): TrialRecord[] =>
  [
    ['mark', 0, 1],
    ['coat', coat, 1],
    ['place', place, 1],
    ['wet', wet, 1],
    ['rub', wet + 3, 1],
    ...Array.from({ length: rounds - 1 }, (_, i) => ['rub', wet + 100 * (i + 1), i + 2] as const),
  ].map(([step, minute, round]) => ({
    id: `${step}${round}`,
    at: new Date(T0 + Number(minute) * 60_000).toISOString(),
    kind: 'step',
    patch: patch.code,
    step: String(step),
    round: Number(round),
  }));

const top = (records: TrialRecord[], reading: Partial<Reading>) =>
  explain(plan, patch, [...records, ...readingFor(patch.code, 1, reading)]).map(e => e.cause.id);
const DAY = 1300;

describe('the likeliest cause', () => {
  it('of round bare spots in the middle is air bubbles', () => {
    expect(top(made(1, 1.6, DAY), { landed: 93, bare: [bare('round', 9), bare('round', 6)] })[0]).toBe(
      'air-bubbles',
    );
  });
  it('of streaks after a late placing is a coat that skinned over', () => {
    expect(top(made(1, 8, DAY), { landed: 80, bare: [bare('streak', 20), bare('streak', 14)] })[0]).toBe(
      'skinned-over',
    );
  });
  it('of a band along one side is an edge that was not sealed', () => {
    expect(
      top(made(1, 1.6, DAY), {
        landed: 90,
        bare: [bare('edge band', 40, 0)],
        edges: { top: 40, right: 95, bottom: 95, left: 95 },
      })[0],
    ).toBe('edge-not-sealed');
  });
  it('of a large ragged loss after a few hours is removal too early', () => {
    expect(top(made(1, 1.6, 180), { landed: 55, bare: [bare('ragged', 200), bare('ragged', 90)] })[0]).toBe(
      'too-early',
    );
  });
  it('of veil alone is too few rounds', () => {
    expect(top(made(1, 1.6, DAY, 1), { landed: 98, veil: 0.3 })[0]).toBe('not-enough-rounds');
  });
  it('of a mirrored picture is that it was not mirrored', () => {
    expect(top(made(1, 1.6, DAY), { mirrored: true, landed: 95 })[0]).toBe('not-mirrored');
  });
  it('of pinholes is dust', () => {
    expect(
      top([...made(1, 1.6, DAY), verdict('pinholes')], { landed: 98, bare: [bare('speckle', 1.2)] })[0],
    ).toBe('dust');
  });
  it('of rubbing through is rubbing too hard', () => {
    expect(
      top([...made(1, 1.6, DAY), verdict('rubbed-through')], {
        landed: 88,
        veil: 0.02,
        bare: [bare('ragged', 30)],
      })[0],
    ).toBe('rubbed-too-hard');
  });
});

describe('an explanation', () => {
  it('says what speaks for and against, in words with the numbers in them', () => {
    const [first] = explain(plan, patch, [
      ...made(1, 1.6, 180),
      ...readingFor(patch.code, 1, { landed: 55, bare: [bare('ragged', 200)] }),
    ]);
    expect(write(first.for[0].say)).toMatch(/only 0\.\d+ of the drying time/);
    const bubbles = explain(plan, patch, [
      ...made(1, 1.6, DAY),
      ...readingFor(patch.code, 1, { landed: 50, bare: [bare('round', 200)] }),
    ]).find(e => e.cause.id === 'air-bubbles')!;
    expect(
      bubbles.against
        .map(a => a.say)
        .map(x => write(x))
        .join(' '),
    ).toMatch(/Too much is lost for bubbles/);
  });
  it('is not made up when nothing is wrong or nothing is known', () => {
    expect(explain(plan, patch, [])).toEqual([]);
    expect(top(made(1, 1.6, DAY), { landed: 99, veil: 0.03 })).toEqual([]);
  });
  it('gives each cause a chance of its own, the likeliest first', () => {
    const all = explain(plan, patch, [
      ...made(1, 9, 180),
      ...readingFor(patch.code, 1, { landed: 60, veil: 0.3, bare: [bare('streak', 90), bare('ragged', 90)] }),
    ]);
    // Two may be at work at once: each is a chance of its own.
    for (const e of all) expect(e.likely).toBeLessThanOrEqual(1);
    expect([...all].sort((a, b) => b.likely - a.likely)).toEqual(all);
  });
});

describe('the causes', () => {
  it('are at least ten, each with a check, a rescue and a prevention', () => {
    expect(CAUSES.length).toBeGreaterThanOrEqual(10);
    for (const c of CAUSES)
      for (const words of [c.check, c.rescue, c.prevent]) expect(write(words).length).toBeGreaterThan(4);
  });
  it('have evidence both for and against, and name only symptoms that exist', () => {
    const ids = new Set<string>(SYMPTOMS.map(s => s.id));
    for (const cause of CAUSES) {
      expect(
        cause.evidence.some(e => e.weight > 0),
        cause.id,
      ).toBe(true);
      for (const e of cause.evidence)
        if (e.signal.startsWith('symptom:')) expect(ids.has(e.signal.slice(8)), e.signal).toBe(true);
    }
  });
});
