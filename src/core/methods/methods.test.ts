import { describe, expect, it } from 'vitest';
import { write } from '../say/index.ts';
import { said } from '../say/testing.ts';
import { asNow, checkMethod, copyMethod, findMethod, METHODS, mirrorReason, mirrors } from './index.ts';

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
    // Turned over twice, or never.
    for (const id of ['ironed-tape', 'gel-plate', 'tape-lift', 'tissue-embed', 'carbon-trace', 'gel-skin'])
      expect(mirrored).not.toContain(id);
  });

  it('says why by the same count', () => {
    const says = (id: string, donor?: Parameters<typeof mirrorReason>[1]) =>
      mirrorReason(findMethod(id)!, donor);
    expect(says('wet-rub')).toBe(
      '“Place the print” turns the picture over: once, so it lands reversed. It is printed mirrored to come out right.',
    );
    expect(says('gel-plate')).toBe(
      '“Lay the print on the plate” and “Press the substrate on” turn the picture over: twice, so it comes out right again. Do not mirror it.',
    );
    expect(says('carbon-trace')).toBe(
      'It is traced from above. Nothing turns the picture over. Do not mirror it.',
    );
    expect(says('gel-skin')).not.toMatch(/reversed/);
    // The step at which it is decided says which side goes down.
    const sticks = findMethod('gel-skin')!.steps.find(s => s.does === 'place')!;
    expect(sticks.instruction).toMatch(/sheet side down: so it reads right; turned over it reads backwards/);
  });

  it('leaves what lies face up as it is: an iron-on sheet for dark goods', () => {
    const method = findMethod('hot-body')!;
    expect(mirrors(method, 'iron-on sheet, light goods')).toBe(true);
    expect(mirrors(method, 'iron-on sheet, dark goods')).toBe(false);
    expect(mirrors(method)).toBe(true);
    expect(mirrorReason(method, 'iron-on sheet, dark goods')).toBe(
      'At “Out, and press the sheet on” this sheet lies face up. Nothing turns the picture over. Do not mirror it.',
    );
    // What was printed stays as it was printed, whatever is known now.
    expect(mirrors({ mirror: true, steps: [] })).toBe(true);
  });

  it('counts the turns of a copy whose steps were changed, and keeps what a maker of before had set', () => {
    const copy = copyMethod(findMethod('wet-rub')!, []);
    const changed = checkMethod({
      ...copy,
      steps: copy.steps.map(s => (s.does === 'wet' ? { ...s, reverses: true } : s)),
    });
    expect(changed.ok && [changed.value.mirror, changed.value.mirrorReason]).toEqual([
      false,
      '“Place the print” and “Wet the paper” turn the picture over: twice, so it comes out right again. Do not mirror it.',
    ]);
    const asBefore = (id: string, mirror: boolean) => {
      const own = copyMethod(findMethod(id)!, []);
      const steps = own.steps.map(({ reverses, faceUp, ...rest }) => rest);
      const found = checkMethod({ ...own, mirror, mirrorReason: 'As it was.', steps });
      return found.ok && found.value.mirror;
    };
    expect(asBefore('hot-body', true)).toBe(true);
    expect(asBefore('hot-body', false)).toBe(false);
    expect(asBefore('tape-lift', false)).toBe(false);
    expect(asBefore('tape-lift', true)).toBe(true);
    // Twice turned over was told to be mirrored: that was wrong.
    expect(asBefore('gel-plate', true)).toBe(false);
  });

  it('show a caution at every step that is hot, solvent, or sharp', () => {
    for (const method of METHODS)
      for (const step of method.steps) {
        if (/\biron on\b|oven|lowest heat|fuse each/i.test(write(step.instruction)))
          expect(step.cautions.length).toBeGreaterThan(0);
        if (/Mist lightly|Spray a whisper/i.test(write(step.instruction)))
          expect(step.cautions).toContain('solvent');
        if (/fine grit/i.test(write(step.instruction))) expect(step.cautions).toContain('sanding');
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
    expect(said(!result.ok && result.problem.say)).toMatch(words);
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
