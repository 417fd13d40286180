import { describe, expect, it } from 'vitest';
import { EXAMPLE_REQUEST, examplePlan } from '../design/example.ts';
import { progressOf } from '../progress/index.ts';
import { settingsOf } from '../trial/index.ts';
import { stepsFor, withWhat } from './index.ts';

const plan = examplePlan({
  usual: { ...EXAMPLE_REQUEST.usual, preparation: 'gesso', finish: 'spray-clear' },
  factors: [
    { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
    { key: 'coatMm', levels: [0.25, 0.5] },
  ],
});
const taken = (code: string) => {
  const patch = plan.patches.find(p => p.code === code)!;
  const settings = settingsOf(plan, patch);
  return new Map(stepsFor(plan, settings).map(step => [step.id, withWhat(step, settings)]));
};

describe('what is taken up at a step', () => {
  it('is what this very patch gets, and how thick', () => {
    for (const patch of plan.patches) {
      const s = settingsOf(plan, patch);
      expect(taken(patch.code).get('coat')).toEqual({ name: s.medium.name, coatMm: s.coatMm });
    }
    const coats = plan.patches.map(p => JSON.stringify(taken(p.code).get('coat')));
    expect(new Set(coats).size).toBe(4);
  });

  it('is the preparation, the print, the tool and the finish at their steps, and nothing where hands are enough', () => {
    const found = taken(plan.patches[0].code);
    expect(found.get('prepare')?.name).toBe('White gesso primer');
    expect(found.get('place')?.name).toMatch(/^80 g copy paper from the office laser/);
    expect(found.get('rub')?.name).toBe('Fingers');
    expect(found.get('finish')?.name).toBe('Spray clear, four light coats');
    for (const id of ['mark', 'wet', 'look']) expect(found.get(id)).toBeUndefined();
  });

  it('is no medium where none is used', () => {
    const [line] = progressOf(plan, []).lines;
    const none = { ...line.settings.medium, kind: 'none' as const };
    const coat = line.chain.find(l => l.step.id === 'coat')!.step;
    expect(withWhat(coat, { ...line.settings, medium: none })).toBeUndefined();
  });
});
