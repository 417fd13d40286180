import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { METHODS } from '../methods/index.ts';
import { planOf } from '../questions/example.ts';
import { write } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { chosenOf, levelNames } from '../trial/index.ts';
import type { Cause } from './causes.ts';
import { CAUSES, confirmingTrial } from './index.ts';

const cause = (id: string): Cause => CAUSES.find(c => c.id === id)!;
const identity = { createdAt: '2026-05-02T08:00:00.000Z', random: () => 0.37 };
const plan = examplePlan();
const patch = plan.patches.find(p => p.levels[0] === 1)!;
const confirmed = (id: string, of = plan, at = patch) =>
  confirmingTrial(of, at, cause(id), STARTER_SHELF, identity);
const made = (id: string, of = plan, at = patch) => {
  const found = confirmed(id, of, at);
  if (!found.ok) throw new Error(`${id}: ${write(found.problem.say)}`);
  return found.value;
};

describe('the trial that tells whether something was the cause', () => {
  it('has four patches: two as it was made, two with the one thing changed', () => {
    const trial = made('too-early');
    expect(trial.patches).toHaveLength(4);
    const own = chosenOf(plan, patch.levels);
    expect(trial.factors).toEqual([{ key: 'dryHours', levels: [own.dryHours, 2 * Number(own.dryHours)] }]);
    expect(trial.patches.filter(p => p.levels[0] === 0)).toHaveLength(2);
    // All else is as on that patch, not as is usual in its trial.
    const { dryHours: _, ...rest } = chosenOf(trial, [0]);
    const { dryHours: __, ...was } = own;
    expect(rest).toEqual({ ...rest, ...was });
    expect(trial.usual.medium).toBe(own.medium);
    expect(trial.name).toBe('Was it this: removed too early?');
    expect(trial.question).toContain(patch.code);
    expect(trial.id).not.toBe(plan.id);
  });

  it('halves or doubles what was too much or too little', () => {
    const own = chosenOf(plan, patch.levels);
    const other = (id: string) => made(id).factors[0].levels[1];
    expect(other('too-thick')).toBeCloseTo(Number(own.coatMm) * 0.5, 9);
    expect(other('skinned-over')).toBeCloseTo(Number(own.coatMm) * 1.5, 9);
    expect(other('not-enough-rounds')).toBe(2 * Number(own.rounds));
    expect(other('rubbed-too-hard')).toBe(1);
  });

  it('takes another thing from the shelf that suits the ground, what helps most first', () => {
    const thirsty = made('thirsty-ground');
    const [, other] = thirsty.factors[0].levels;
    const kind = STARTER_SHELF.preparations.find(p => p.id === other)!.kind;
    expect(kind).toBe('primer');
    expect(levelNames(thirsty, { levels: [1] })[0]).toBeTruthy();
    const tile = planOf('quick-release');
    const glossy = made('glossy-ground', tile, tile.patches[0]);
    expect(STARTER_SHELF.preparations.find(p => p.id === glossy.factors[0].levels[1])!.kind).not.toBe('none');
  });

  it('is none where only the hand decides, or where there is nothing else to take', () => {
    const hand = confirmed('dust');
    expect(!hand.ok && [hand.problem.code, hand.problem.wayOut]).toEqual([
      'by-hand',
      `Make one more with care: ${write(cause('dust').prevent)}`,
    ]);
    const lonely = {
      ...STARTER_SHELF,
      donors: STARTER_SHELF.donors.filter(d => d.id === chosenOf(plan, patch.levels).donor),
    };
    const none = confirmingTrial(plan, patch, cause('wrong-paper'), lonely, identity);
    expect(!none.ok && none.problem.code).toBe('nothing-else');
  });

  it('is planned for every cause that a choice can change, in some method at least', () => {
    const wet = (water: string) => ({ ...plan, usual: { ...plan.usual, water } });
    const plans = [...METHODS.map(m => planOf(m.id)), wet('soaked'), wet('damp')];
    for (const c of CAUSES.filter(x => x.confirm))
      expect(
        plans.some(p => {
          const trial = confirmingTrial(p, p.patches[0], c, STARTER_SHELF, identity);
          return trial.ok && trial.value.patches.length === 4;
        }),
        c.id,
      ).toBe(true);
  });
});
