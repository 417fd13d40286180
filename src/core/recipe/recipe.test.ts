import { describe, expect, it } from 'vitest';
import { EXAMPLE_REQUEST, examplePlan } from '../design/example.ts';
import { findingsOf, scatterOf } from '../findings/index.ts';
import { write } from '../say/index.ts';
import { readingFor } from '../trial/example.ts';
import { levelMarks, levelNames, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import { recipeOf } from './index.ts';

/** Readings in which the last level of every factor lands best, with a little scatter. */
const readings = (plan: TrialPlan): TrialRecord[] =>
  plan.patches.flatMap((p, i) =>
    readingFor(p.code, i, {
      landed: 60 + 8 * p.levels.reduce((a, b) => a + b, 0) + (i % 3),
      veil: 0.1 + 0.01 * (i % 2),
    }),
  );

describe('a recipe', () => {
  const plan = examplePlan({
    usual: { ...EXAMPLE_REQUEST.usual, finish: 'spray-clear', preparation: 'sanded' },
  });
  const recipe = recipeOf(plan, readings(plan))!;

  it('fixes every choice, also those that are the method’s own', () => {
    const choices = Object.fromEntries(recipe.choices.map(c => [c.what, c.choice]));
    expect(write(choices.Medium)).toMatch(/^White PVA glue, 0.4 mm thick/);
    expect(write(choices['Cure time'])).toMatch(
      /^20 h, as planned: what was really waited was not recorded, at 21 °C/,
    );
    expect(write(choices['Donor sheet'])).toBe('80 g copy paper, printed mirrored');
    expect(write(choices['Where the coat goes'])).toBe('On the substrate');
    expect(write(choices.Finish)).toBe('Spray clear, four light coats');
    expect(write(choices['Rubbed with'])).toBe('Fingers');
  });

  it('names the jar where its batch and day are known', () => {
    const mediums = plan.used.mediums.map(m => ({ ...m, batch: '12', opened: '2026-03-01' }));
    const dated = recipeOf({ ...plan, used: { ...plan.used, mediums } }, readings(plan))!;
    expect(write(dated.choices.find(c => c.what === 'Medium')!.choice)).toMatch(
      /^White PVA glue \(batch 12, opened on 2026-03-01\), 0.4 mm/,
    );
  });

  it('has the steps with their windows and what can hurt at them', () => {
    const actions = recipe.steps.map(s => s.action);
    expect(actions[0]).toBe('Prepare the ground');
    expect(actions.at(-1)).toBe('Put the finish on (4 coats)');
    expect(recipe.steps[0].cautions.join()).toMatch(/Dust/);
    expect(recipe.steps.at(-1)!.cautions.join()).toMatch(/Flammable vapour/);
    expect(write(recipe.steps.find(s => s.action === 'Place the print')!.window ?? '')).toMatch(
      /leave it 20 h/,
    );
    expect(actions).toContain('Wet the paper (in each of 2 rounds)');
  });

  it('names its evidence, and there is none without findings', () => {
    expect(recipe.evidence.map(x => write(x)).join(' ')).toMatch(/12 readings in all/);
    expect(recipeOf(plan, [])).toBeUndefined();
  });
});

describe('findings of other designs', () => {
  it('leave a control out of the comparison', () => {
    const plan = examplePlan({ control: true, board: { ...EXAMPLE_REQUEST.board, w: 280 } });
    const control = plan.patches.find(p => p.levels.length === 0)!;
    expect(levelNames(plan, control)).toEqual(['Your usual way']);
    expect(levelMarks(plan, control)).toEqual(['usual']);
    const records = [
      ...readings(plan).filter(r => r.patch !== control.code),
      ...readingFor(control.code, 99, { landed: 5 }),
    ];
    const findings = findingsOf(plan, records);
    expect(findings.measured).toBe(12);
    expect(findings.missing).toBe(0);
    expect(findings.leading!.patches).not.toContain(control.code);
  });

  it('of a fraction are main effects, and quick for many factors', () => {
    const plan = examplePlan({
      factors: [
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel', 'white-pva', 'decoupage-glue'] },
        { key: 'dryHours', levels: [4, 20] },
        { key: 'donor', levels: ['copy-70', 'copy-80', 'smooth-120'] },
        { key: 'coatMm', levels: [0.2, 0.5] },
        { key: 'rounds', levels: [1, 2, 3] },
        { key: 'trim', levels: ['trimmed', 'margin'] },
      ],
      design: 'best fraction',
      budget: 20,
      board: { w: 500, h: 400, outline: 'rectangle', onePiece: false },
    });
    const findings = findingsOf(plan, readings(plan));
    expect(findings.effects.filter(e => e.measure === 'landed')).toHaveLength(6);
    const medium = findings.effects.find(e => e.measure === 'landed' && e.factor === 0)!;
    expect(medium.levels[3].mean - medium.levels[0].mean).toBeCloseTo(24, -0.5);
    expect(findings.leading).toBeDefined();
  });

  it('give the scatter that the next plan can reckon with', () => {
    const plan = examplePlan();
    const scatter = scatterOf(plan, readings(plan))!;
    expect(scatter.degreesOfFreedom).toBe(8);
    expect(scatter.residualSd).toBeGreaterThan(0);
    expect(scatter.residualSd).toBeLessThan(2);
    expect(scatterOf(plan, [])).toBeUndefined();
  });
});
