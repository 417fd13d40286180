import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { findingsOf, observations } from '../findings/index.ts';
import { planOf } from '../questions/example.ts';
import { recipeOf } from '../recipe/index.ts';
import { write } from '../say/index.ts';
import { said } from '../say/testing.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialPlan, TrialRecord } from '../trial/index.ts';
import { progressOf, waitsOf } from './index.ts';

const MIN = 60_000;
const T0 = Date.parse('2026-05-02T09:00:00.000Z');

/** Every patch is done up to the step after its planned wait, begun so many minutes after it; then read. */
function worked(plan: TrialPlan, minutes: (patch: TrialPlan['patches'][number]) => number): TrialRecord[] {
  return plan.patches.flatMap((patch, n) => {
    const { chain } = progressOf(plan, []).lines.find(l => l.patch.code === patch.code)!;
    const i = chain.findIndex(l => l.step.wait.kind === 'planned');
    const at = (ms: number) => new Date(T0 + ms).toISOString();
    const steps = chain.slice(0, i + 2).map(({ step, round }, k): TrialRecord => {
      const end = k <= i ? k * MIN : i * MIN + minutes(patch) * MIN;
      const base = { id: `s${n} ${k}`, kind: 'step' as const, patch: patch.code, step: step.id, round };
      return k <= i ? { ...base, at: at(end) } : { ...base, at: at(end + 3 * MIN), begun: at(end) };
    });
    return [...steps, ...readingFor(patch.code, n, { landed: 60 + 10 * (patch.levels[0] ?? 0) + (n % 2) })];
  });
}

const plan = examplePlan({ factors: [{ key: 'dryHours', levels: [4, 20] }] });
const hours = (p: TrialPlan['patches'][number]) => Number(plan.factors[0].levels[p.levels[0]]);
const asPlanned = (p: TrialPlan['patches'][number]) => hours(p) * 60;

describe('what was really waited', () => {
  it('is the time from the end of one step to when hands began with the next', () => {
    const waits = waitsOf(
      plan,
      worked(plan, p => asPlanned(p) + 30),
    );
    expect(waits).toHaveLength(plan.patches.length);
    for (const w of waits) {
      expect(w.waitedMin).toBeCloseTo(w.plannedMin + 30, 6);
      expect(w.strayed).toBe(false);
    }
    expect(waitsOf(plan, [])).toEqual([]);
  });

  it('strays where it leaves its window, or comes nearer to another level', () => {
    const strays = (minutes: number, of: number) =>
      waitsOf(
        plan,
        worked(plan, p => (hours(p) === of ? minutes : asPlanned(p))),
      )
        .filter(w => w.plannedMin === of * 60)
        .every(w => w.strayed);
    // The wet-rub's window is 0.9 to 1.4 times what was planned.
    expect(strays(4 * 60 * 0.9, 4)).toBe(false);
    expect(strays(4 * 60 * 0.89, 4)).toBe(true);
    expect(strays(4 * 60 * 1.4, 4)).toBe(false);
    expect(strays(4 * 60 * 1.42, 4)).toBe(true);
    // 4 and 5 h: five hours' worth is no 4 h, though inside its window.
    const near = examplePlan({ factors: [{ key: 'dryHours', levels: [4, 5] }] });
    const waits = waitsOf(
      near,
      worked(near, () => 4.6 * 60),
    );
    expect(waits.map(w => w.strayed)).toEqual(near.patches.map(p => p.levels[0] === 0));
  });

  it('takes a patch that strayed out of what is compared, and says so', () => {
    const [late] = plan.patches.filter(p => hours(p) === 4);
    const records = worked(plan, p => (p === late ? 16 * 60 : asPlanned(p)));
    const findings = findingsOf(plan, records);
    expect(findings.strayed.map(w => [w.patch, Math.round(w.waitedMin)])).toEqual([[late.code, 960]]);
    expect(observations(plan, records, 'landed').map(o => o.code)).not.toContain(late.code);
    expect(findings.measured).toBe(plan.patches.length - 1);
    // Where waits are not compared it is a patch like any other.
    const other = examplePlan({ factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }] });
    const all = worked(other, () => 16 * 60);
    expect(findingsOf(other, all).strayed).toEqual([]);
    expect(observations(other, all, 'landed').length).toBe(other.patches.filter(p => p.levels.length).length);
  });

  it('is what findings and recipes name, where it is not what was planned', () => {
    const tape = planOf('tape-lift');
    expect(tape.factors[0].key).toBe('dryHours');
    const soaked = worked(tape, p => Number(tape.factors[0].levels[p.levels[0]]) * 60 * 0.8);
    const { effects, leading } = findingsOf(tape, soaked);
    for (const level of effects[0].levels) expect(write(level.name)).toMatch(/ \(really \d/);
    expect(write(leading?.sentence ?? '')).toMatch(/\(really \d/);
    const exact = findingsOf(
      tape,
      worked(tape, p => Number(tape.factors[0].levels[p.levels[0]]) * 60),
    );
    for (const level of exact.effects[0].levels) expect(write(level.name)).not.toMatch(/really/);
  });

  it('is what a recipe is good for: waited 16 h for a planned 12', () => {
    const other = examplePlan({ factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }] });
    const choice = (records: TrialRecord[]) =>
      recipeOf(other, records)!.choices.find(c => c.what === 'Cure time')!.choice;
    const planned = other.usual.dryHours;
    expect(write(choice(worked(other, () => planned * 60)))).toMatch(new RegExp(`^${planned} h at 21 °C`));
    const late = worked(other, () => planned * 60 * 1.33);
    expect(write(choice(late))).toMatch(/^\d+ h, as it was really waited \(\d+ h was planned\), at 21 °C/);
    expect(
      said(
        recipeOf(other, late)!.steps.find(s => write(s.window ?? '')?.startsWith('then leave it'))!.window,
      ),
    ).toContain(`then leave it ${Math.round(planned * 1.33)} h`);
    const unknown = other.patches.flatMap((p, n) =>
      readingFor(p.code, n, { landed: 60 + 10 * p.levels[0] + (n % 2) }),
    );
    expect(write(choice(unknown))).toMatch(/as planned: what was really waited was not recorded/);
  });
});
