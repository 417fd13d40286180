import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { type CautionId, DEEDS, DOES, deedOf, METHODS, newStep } from '../methods/index.ts';
import { settingsOf } from '../trial/index.ts';
import { cautionsAt, withWhat } from './index.ts';

const plan = examplePlan();
const settings = settingsOf(plan, plan.patches[0]);
const own = (does: (typeof DOES)[number], cautions: CautionId[] = []) =>
  newStep({
    id: 'own-1',
    does,
    action: 'Wipe it over',
    done: 'Wiped',
    instruction: 'As you do it.',
    handsOnMin: 1,
    wait: { kind: 'none' },
    cautions,
  });
const withMedium = (part: Partial<typeof settings.medium>) => ({
  ...settings,
  medium: { ...settings.medium, ...part },
});

describe('what a step does', () => {
  it('is said by every step of every method, marking by the first and by no other', () => {
    for (const { id, steps } of METHODS) {
      expect(steps[0].does, id).toBe('mark');
      expect(
        steps.filter(s => s.does === 'mark'),
        id,
      ).toHaveLength(1);
      expect(
        steps.some(s => s.does === 'other'),
        id,
      ).toBe(false);
    }
  });

  it('has a name of its own to choose it by', () => {
    const names = DOES.map(does => DEEDS[does].name);
    expect(new Set(names).size).toBe(names.length);
  });

  it('brings a maker’s own coat with alcohol the cautions of any coat with it', () => {
    const alcohol = withMedium({ kind: 'rubbing alcohol', flammable: true });
    expect(cautionsAt(own('coat'), alcohol)).toEqual(['solvent']);
    expect(cautionsAt(own('base'), alcohol)).toEqual(['solvent']);
    expect(cautionsAt(own('other'), alcohol)).toEqual([]);
    expect(cautionsAt(own('coat', ['solvent']), alcohol)).toEqual(['solvent']);
  });

  it('brings two parts, wax and hot tools to where they are used', () => {
    expect(cautionsAt(own('coat'), withMedium({ kind: 'two-part clear' }))).toEqual(['two-part']);
    expect(cautionsAt(own('coat'), withMedium({ kind: 'wax' }))).toEqual(['wax']);
    const iron = {
      ...settings,
      pressing: { id: 'i', name: 'Iron', note: '', kind: 'iron', washMin: 0, holds: 1 } as const,
    };
    expect(cautionsAt(own('place'), iron)).toEqual(['hot-tools']);
    expect(cautionsAt(own('burnish'), iron)).toEqual(['hot-tools']);
    expect(cautionsAt(own('rub'), iron)).toEqual([]);
    const finish = {
      ...settings,
      finish: {
        id: 'f',
        name: 'Clear',
        note: '',
        kind: 'spray clear',
        coats: 2,
        minutes: 1,
        waitHours: 1,
        recoatHours: 0,
        twoPart: true,
        flammable: true,
        pricePerDm2: 0,
      } as const,
    };
    expect(cautionsAt(own('finish'), finish)).toEqual(['solvent', 'two-part']);
    expect(cautionsAt(own('clear'), finish)).toEqual(['solvent', 'two-part']);
    expect(cautionsAt(own('look'), finish)).toEqual([]);
  });

  it('says what the hand reaches for: the medium in its thickness for a coat, without one for tape', () => {
    expect(withWhat(own('coat'), settings)).toEqual({ name: settings.medium.name, coatMm: settings.coatMm });
    expect(withWhat(own('tape'), settings)).toEqual({ name: settings.medium.name });
    expect(withWhat(own('coat'), withMedium({ kind: 'none' }))).toBeUndefined();
    expect(withWhat(own('place'), settings)?.name).toContain(settings.donor.name);
    expect(withWhat(own('look'), settings)).toBeUndefined();
    expect(deedOf('heat').puts).toBe('oven');
    expect([deedOf('coat').brushes, deedOf('tape').brushes]).toEqual([true, undefined]);
  });
});
