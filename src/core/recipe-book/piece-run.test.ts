import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { csvFiles } from '../bundle/csv.ts';
import { examplePlan } from '../design/example.ts';
import { findingsOf } from '../findings/index.ts';
import { METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { progressOf } from '../progress/index.ts';
import { chanceFrom } from '../random/index.ts';
import { keptFrom } from '../recipe/index.ts';
import { mapSheets } from '../sheets/index.ts';
import { readingFor } from '../trial/example.ts';
import { carrierOf, faceOf, settingsOf, TrialPlan, type TrialRecord } from '../trial/index.ts';
import { cameOut, pieceRun, settingsIn } from './index.ts';

const trial = examplePlan();
const kept = keptFrom(
  trial,
  trial.patches.flatMap((p, i) => readingFor(p.code, i, { landed: 90 - (i % 4), veil: 0.05 })),
)!;
const identity = () => {
  const chance = chanceFrom(5);
  return { createdAt: '2026-06-02T08:00:00.000Z', random: () => chance.next() };
};
const WANTED = { pieces: 4, w: 200, h: 150, picture: { id: 'gull', name: 'Gull' } };
const run = (part: Partial<typeof WANTED> = {}, of = kept) =>
  pieceRun(of, 'R1', { ...WANTED, ...part }, identity());
const planOf = (...given: Parameters<typeof run>) => {
  const made = run(...given);
  if (!made.ok) throw new ProblemError(made.problem);
  return made.value;
};

describe('pieces of a recipe on the bench', () => {
  it('are each made just as the recipe says, on a ground of their own, with their picture', () => {
    const plan = planOf();
    expect(plan.patches).toHaveLength(4);
    expect(new Set(plan.patches.map(p => p.code)).size).toBe(4);
    expect(new Set(plan.patches.map(p => p.board)).size).toBe(4);
    expect(plan.real).toEqual({ recipe: 'R1' });
    const s = settingsIn(kept);
    for (const p of plan.patches) {
      const own = settingsOf(plan, p);
      for (const key of [
        'medium',
        'donor',
        'printer',
        'substrate',
        'preparation',
        'coatMm',
        'dryHours',
      ] as const)
        expect(own[key], key).toEqual(s[key]);
      expect(faceOf(plan, p)).toMatchObject({ w: 200, h: 150, picture: { of: { id: 'gull' } } });
      const { w, h } = carrierOf(plan, p.board);
      expect([w - 200, h - 150]).toEqual([2 * p.x, 2 * p.y]);
    }
  });

  it('go through the steps of their method, are judged and kept like patches, and nothing is found of them', () => {
    const plan = planOf();
    const { lines } = progressOf(plan, []);
    expect(lines.every(l => l.chain.length === lines[0].chain.length && l.chain.length > 4)).toBe(true);
    const records = plan.patches.flatMap((p, i) => readingFor(p.code, i, { landed: 90 }));
    expect(findingsOf(plan, records).effects).toEqual([]);
    expect(csvFiles(plan, records)['patches.csv'].split('\n')[1]).toContain(plan.patches[0].code);
    expect(mapSheets(plan).pages.length).toBeGreaterThan(0);
  });

  it('count as good where they are kept, as not where they are fixed, scrapped or spoilt', () => {
    const plan = planOf({ pieces: 5 });
    const at = '2026-06-03T10:00:00.000Z';
    const verdict = (i: number, given: 'keep' | 'fix' | 'scrap'): TrialRecord => ({
      ...{ id: `v${i}${given}`, at, kind: 'verdict', patch: plan.patches[i].code },
      ...{ verdict: given, grade: 3, symptoms: [] },
    });
    expect(cameOut(plan, [])).toEqual({ good: 0, of: 0, open: 5 });
    const spoilt: TrialRecord = { id: 's', at, kind: 'spoilt', patch: plan.patches[3].code, why: 'It tore' };
    const records = [verdict(0, 'keep'), verdict(1, 'fix'), verdict(2, 'scrap'), verdict(3, 'keep'), spoilt];
    expect(cameOut(plan, records)).toEqual({ good: 1, of: 4, open: 1 });
    expect(cameOut(plan, [...records, verdict(4, 'keep')])).toEqual({ good: 2, of: 5, open: 0 });
  });

  it('can be made by every method', () => {
    for (const method of METHODS) {
      const plan = planOf({}, { ...kept, method });
      expect(plan.marginMm, method.id).toBeGreaterThanOrEqual(method.aroundMm);
    }
  });

  it('are refused where they are none, too many, or of no size; no trial is without something that varies', () => {
    for (const pieces of [0, 61, 1.5]) expect(run({ pieces }).ok, String(pieces)).toBe(false);
    for (const w of [19, 1001, Number.NaN]) expect(run({ w }).ok, String(w)).toBe(false);
    expect(run({ pieces: 60, w: 1000, h: 20 }).ok).toBe(true);
    const { real: _, ...plain } = planOf({ w: 60, h: 60 });
    const refused = v.safeParse(TrialPlan, plain);
    expect(refused.success).toBe(false);
    expect(refused.issues?.[0].message).toContain('varies at least one thing');
    expect(v.safeParse(TrialPlan, { ...trial, patchMm: 101 }).success).toBe(false);
    expect(v.safeParse(TrialPlan, { ...trial, patchMm: 100 }).success).toBe(true);
  });
});
