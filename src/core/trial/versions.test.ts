import { readFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { parsePlan, readBundle } from '../bundle/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { said } from '../say/testing.ts';
import { chainOf } from '../steps/index.ts';
import { levelNames, settingsOf } from './index.ts';

/** A trial as version 1 wrote it. */
const zip = new Uint8Array(readFileSync('src/core/trial/fixtures/version-1.zip'));
const old = JSON.parse(strFromU8(unzipSync(zip)['trial.json']));

describe('a trial of version 1', () => {
  it('is one: it knows no design and no method of its own', () => {
    expect(old.schema).toBe(1);
    expect(old.plan.design).toBeUndefined();
    expect(old.plan.used.method).toBeUndefined();
  });

  it('is brought up with everything it said', () => {
    const plan = parsePlan(old.plan);
    if (!plan.ok) throw new ProblemError(plan.problem);
    expect(plan.value.schema).toBe(3);
    expect(plan.value.design.kind).toBe('every combination');
    expect(plan.value.used.method.id).toBe('wet-rub');
    expect(plan.value.patches).toEqual(old.plan.patches);
    expect(plan.value.factors).toEqual(old.plan.factors);
    const patch = plan.value.patches.find(p => settingsOf(plan.value, p).preparation.kind === 'none')!;
    expect(levelNames(plan.value, patch)).toHaveLength(2);
    expect(settingsOf(plan.value, patch).medium.name).toBeTruthy();
    expect(
      chainOf(plan.value, patch)
        .map(l => l.step.id)
        .slice(0, 5),
    ).toEqual(['mark', 'coat', 'place', 'wet', 'rub']);
  });

  it('comes in whole as a file, and still prepares what it prepared', () => {
    const bundle = readBundle(zip);
    expect(bundle.ok && bundle.value.records).toHaveLength(old.records.length);
    const hooks = bundle;
    if (!hooks.ok) throw new ProblemError(hooks.problem);
    const primed = hooks.value.plan.patches.filter(
      p => settingsOf(hooks.value.plan, p).preparation.kind === 'primer',
    );
    expect(primed.length).toBeGreaterThan(0);
    expect(chainOf(hooks.value.plan, primed[0]).map(l => l.step.id)).toContain('prepare');
  });

  it.each([
    [
      'a method that is not the one it names',
      (p: Record<string, unknown>) => ({ ...p, method: 'film-pull' }),
      /method is not the one/,
    ],
    [
      'a patch without levels where there is no control',
      (p: { patches: object[] }) => ({
        ...p,
        patches: p.patches.map((x, i) => (i ? x : { ...x, levels: [] })),
      }),
      /does not fit its plan/,
    ],
    [
      'an item it does not hold',
      (p: { used: object }) => ({ ...p, used: { ...p.used, mediums: [] } }),
      /does not hold it/,
    ],
  ])('with %s is refused', (_, change, words) => {
    const result = parsePlan((change as (p: unknown) => unknown)(old.plan));
    expect(said(!result.ok && result.problem.say)).toMatch(words);
  });
});

/** A trial as version 2 wrote it: coated and placed, in the middle of drying. */
const second = new Uint8Array(readFileSync('src/core/trial/fixtures/version-2.zip'));

describe('a trial of version 2', () => {
  const before = JSON.parse(strFromU8(unzipSync(second)['trial.json']));

  it('is one: its steps do not say what they do', () => {
    expect(before.schema).toBe(2);
    expect(before.plan.used.method.steps[0].does).toBeUndefined();
  });

  it('comes in with every record, and every step says what it does', () => {
    const bundle = readBundle(second);
    if (!bundle.ok) throw new ProblemError(bundle.problem);
    const { plan, records } = bundle.value;
    expect(records).toEqual(before.records);
    expect(records.length).toBeGreaterThan(10);
    expect(plan.schema).toBe(3);
    expect(plan.used.method.steps.map(s => s.does)).toEqual([
      'mark',
      'prepare',
      'coat',
      'place',
      'wet',
      'rub',
      'look',
      'finish',
    ]);
    const { schema: _, used: __, ...rest } = plan;
    expect(rest).toMatchObject(
      JSON.parse(JSON.stringify({ ...before.plan, schema: undefined, used: undefined })),
    );
  });

  it('may hold a maker’s own method: copied steps do what they did there, own ones something else', () => {
    const own = structuredClone(before.plan);
    own.used.method = { ...own.used.method, id: 'tape-lift-own-1', copiedFrom: 'tape-lift' };
    own.method = 'tape-lift-own-1';
    own.used.method.steps.push({ ...own.used.method.steps[2], id: 'own-1' });
    const plan = parsePlan(own);
    if (!plan.ok) throw new ProblemError(plan.problem);
    const does = Object.fromEntries(plan.value.used.method.steps.map(s => [s.id, s.does]));
    // Coat is the tape there, and the traits are those of the method it was copied from.
    expect(does).toMatchObject({ coat: 'tape', place: 'place', 'own-1': 'other' });
    expect(plan.value.used.method.traits).toEqual(['strips of tape']);
  });
});
