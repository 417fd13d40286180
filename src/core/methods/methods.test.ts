import { describe, expect, it } from 'vitest';
import { asNow, checkMethod, copyMethod, findMethod, METHODS } from './index.ts';

describe('the sixteen methods', () => {
  it('are sixteen with ids and names of their own', () => {
    expect(METHODS).toHaveLength(16);
    expect(new Set(METHODS.map(m => m.id)).size).toBe(16);
    expect(new Set(METHODS.map(m => m.name)).size).toBe(16);
  });

  it.each(METHODS.map(m => [m.id, m] as const))('%s holds together', (_, method) => {
    expect(checkMethod(method).ok).toBe(true);
    expect(method.steps[0].id).toBe('mark');
    expect(method.setUpCautions.length).toBeGreaterThan(0);
    expect(method.takes.mediums).toContain(method.usual.medium);
    expect(method.takes.donors).toContain(method.usual.donor);
    expect(method.takes.substrates).toContain(method.usual.substrate);
    expect(method.takes.colourants).toContain(method.usual.colourant);
    for (const school of method.schools) expect(method.vary).toContain(school.factor);
    for (const option of ['coatWhere', 'removal', 'water', 'trim'] as const)
      if (method.vary.includes(option)) expect(method.options[option].length).toBeGreaterThan(1);
  });

  it('mirror what goes face down and leave what is seen through or stays face up', () => {
    const mirrored = METHODS.filter(m => m.mirror).map(m => m.id);
    for (const id of [
      'wet-rub',
      'thick-coat',
      'paint-bed',
      'wax-bed',
      'film-pull',
      'solvent-bloom',
      'hot-body',
      'quick-release',
      'dissolving-paper',
    ])
      expect(mirrored).toContain(id);
    for (const id of ['tape-lift', 'tissue-embed', 'carbon-trace']) expect(mirrored).not.toContain(id);
  });

  it('show a caution at every step that is hot, solvent, or sharp', () => {
    for (const method of METHODS)
      for (const step of method.steps) {
        if (/\biron on\b|oven|lowest heat|fuse each/i.test(step.instruction))
          expect(step.cautions.length).toBeGreaterThan(0);
        if (/Mist lightly|Spray a whisper/i.test(step.instruction))
          expect(step.cautions).toContain('solvent');
        if (/fine grit/i.test(step.instruction)) expect(step.cautions).toContain('sanding');
      }
  });
});

describe('a copy of a method', () => {
  const copy = copyMethod(findMethod('film-pull')!, []);

  it('has an id and a name of its own and knows where it came from', () => {
    expect(copy.id).toBe('film-pull-own-1');
    expect(copy.copiedFrom).toBe('film-pull');
    expect(copyMethod(copy, ['film-pull-own-1']).id).toBe('film-pull-own-2');
    expect(findMethod(copy.id, [copy])).toBe(copy);
  });

  const change = (steps: object[]) => checkMethod({ ...copy, steps });
  it.each([
    ['no steps', [], /at least one step/],
    [
      'an instruction that is empty',
      copy.steps.map((s, i) => (i === 2 ? { ...s, instruction: ' ' } : s)),
      /Step 3: Write something/,
    ],
    [
      'a window that runs backwards',
      copy.steps.map((s, i) => (i === 5 ? { ...s, wait: { kind: 'fixed', min: 9, aim: 2, max: 3 } } : s)),
      /Step 6: Not before/,
    ],
    ['no marking', copy.steps.slice(1), /marking/],
    ['the same step twice', [copy.steps[0], copy.steps[0], ...copy.steps.slice(1)], /same id/],
    [
      'no step that waits as planned',
      copy.steps.map(s => ({ ...s, wait: { kind: 'none' } })),
      /no step waits for it/,
    ],
  ])('is refused with %s', (_, steps, words) => {
    const result = change(steps as object[]);
    expect(!result.ok && result.problem.say).toMatch(words);
  });
});

describe('a method of before', () => {
  it('is told whether hands stay with a step and whether something dries, as the step it comes from', () => {
    const wax = METHODS.find(m => m.id === 'wax-bed')!;
    const old = {
      ...wax,
      id: 'mine',
      copiedFrom: 'wax-bed',
      steps: wax.steps.map(({ holds: _, wait, ...step }) => ({
        ...step,
        wait: wait.kind === 'fixed' ? { kind: wait.kind, min: wait.min, aim: wait.aim, max: wait.max } : wait,
      })),
    };
    const now = asNow(old) as typeof wax;
    expect(now.steps.map(s => [s.id, s.holds, s.wait])).toEqual(wax.steps.map(s => [s.id, s.holds, s.wait]));
    expect(now.steps.filter(s => s.holds).map(s => s.id)).toEqual(['burnish']);
    // What a maker said stays said.
    const own = asNow({ ...old, steps: old.steps.map(s => ({ ...s, holds: false })) }) as typeof wax;
    expect(own.steps.some(s => s.holds)).toBe(false);
  });
});
