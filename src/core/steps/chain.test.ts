import { describe, expect, it } from 'vitest';
import { EXAMPLE_REQUEST, examplePlan } from '../design/example.ts';
import { planTrial } from '../design/index.ts';
import { METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { progressOf } from '../progress/index.ts';
import { planOf } from '../questions/example.ts';
import { howLong } from '../questions/index.ts';
import { forecast, nextAction } from '../schedule/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { settingsOf, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import { REFERENCE_AIR } from '../units/index.ts';
import {
  cautionsAt,
  chainOf,
  handsOnMin,
  laterIsFine,
  setUpCautions,
  stepsFor,
  WEAR,
  waitAfter,
  whichTime,
} from './index.ts';

const usual = EXAMPLE_REQUEST.usual;
const chain = (plan: TrialPlan) =>
  chainOf(plan, plan.patches[0]).map(l => `${l.step.id}${l.round > 1 ? l.round : ''}`);

describe('a patch’s chain', () => {
  it('leaves out preparing and finishing where nothing is done', () => {
    expect(chain(examplePlan())).toEqual([
      'mark',
      'coat',
      'place',
      'wet',
      'rub',
      'look',
      'wet2',
      'rub2',
      'look2',
    ]);
  });

  it('has them where something is', () => {
    const plan = examplePlan({
      usual: { ...usual, preparation: 'white-coat', finish: 'clear-wax', rounds: 1 },
    });
    expect(chain(plan)).toEqual(['mark', 'prepare', 'coat', 'place', 'wet', 'rub', 'look', 'finish']);
  });

  it('closes the recoat window at both ends where the label of a finish of several coats does', () => {
    const plan = examplePlan({ usual: { ...usual, finish: 'spray-clear', rounds: 1 } });
    const settings = settingsOf(plan, plan.patches[0]);
    const finish = settings.finish!;
    const [step] = chainOf(plan, plan.patches[0])
      .map(l => l.step)
      .filter(s => s.does === 'finish');
    const of = (part: object) => {
      const s = { ...settings, finish: { ...finish, ...part } };
      return { wait: waitAfter(step, s, REFERENCE_AIR)!, later: laterIsFine(step, s) };
    };
    expect([finish.waitHours, finish.recoatHours]).toEqual([0.5, 1]);
    expect(of({})).toEqual({ wait: { min: 24, aim: 30, max: 60 }, later: false });
    expect(of({ recoatHours: 0 })).toEqual({ wait: { min: 24, aim: 30, max: 1500 }, later: true });
    // One coat alone is never coated again.
    expect(of({ coats: 1 }).later).toBe(true);
    // A label that closes the window before the coat has set means as soon as it has.
    expect(of({ recoatHours: 0.2 }).wait.max).toBe(30);
  });

  it('has the finish once for each of its coats, each with the wait after it', () => {
    const plan = examplePlan({
      usual: { ...usual, finish: 'spray-clear', rounds: 1 },
      board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
      marginMm: 5,
    });
    expect(chain(plan).slice(-4)).toEqual(['finish', 'finish2', 'finish3', 'finish4']);
    const [line] = progressOf(plan, []).lines;
    const [one, two] = line.chain.filter(l => l.step.id === 'finish');
    expect(whichTime(line.chain, two)).toBe('coat 2 of 4');
    const { minutes, waitHours } = line.settings.finish!;
    expect(handsOnMin(one.step, line)).toBe(minutes);
    const wait = waitAfter(one.step, line.settings, { tempC: 21, rh: 45 })!;
    expect(wait.aim).toBeCloseTo(waitHours * 60, 1);
  });

  it('says which round it is, and nothing of what comes once', () => {
    const links = chainOf(examplePlan(), examplePlan().patches[0]);
    const time = (id: string, round: number) =>
      whichTime(links, links.find(l => l.step.id === id && l.round === round)!);
    expect(time('rub', 2)).toBe('round 2 of 2');
    expect(time('coat', 1)).toBeUndefined();
  });

  it('takes the time of a preparation from the shelf, and from the method where the shelf says nothing', () => {
    const plan = examplePlan({
      usual: { ...usual, preparation: 'gesso' },
      board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
      marginMm: 5,
    });
    const [line] = progressOf(plan, []).lines;
    const { step } = line.chain.find(l => l.step.id === 'prepare')!;
    expect(handsOnMin(step, line)).toBe(line.settings.preparation.minutes);
    const settings = { ...line.settings, preparation: { ...line.settings.preparation, minutes: 0 } };
    expect(handsOnMin(step, { ...line, settings })).toBe(step.handsOnMin);
  });

  it('has one round where the paper comes off in one go, whatever the rounds say', () => {
    const plan = examplePlan({ usual: { ...usual, removal: 'once', rounds: 4 } });
    expect(chain(plan).filter(s => s.startsWith('rub'))).toEqual(['rub']);
  });

  it('says the words that fit the choices', () => {
    const on = (coatWhere: string, water: string) => {
      const plan = examplePlan({ usual: { ...usual, coatWhere, water } });
      return stepsFor(plan, settingsOf(plan, plan.patches[0]));
    };
    expect(on('print', 'damp').find(s => s.id === 'coat')!.instruction).toMatch(/over the printed face/);
    expect(on('substrate', 'damp').find(s => s.id === 'coat')!.instruction).toMatch(/over the whole place/);
    expect(on('substrate', 'soaked').find(s => s.id === 'wet')!.instruction).toMatch(/Soak the back through/);
  });

  it('ends with the wear tests, each looked at before and after', () => {
    const plan = examplePlan({ wear: ['dry-rub', 'water'], usual: { ...usual, rounds: 1 } });
    expect(chain(plan).slice(-4)).toEqual(['wear-dry-rub', 'worn-dry-rub', 'wear-water', 'worn-water']);
    for (const test of Object.values(WEAR)) expect(test.how.length).toBeGreaterThan(10);
  });
});

describe('every method on the bench', () => {
  it.each(METHODS.filter(m => m.vary.includes('dryHours')).map(m => [m.id, m] as const))(
    '%s can be worked through to its end',
    (_, method) => {
      const request = howLong(method, STARTER_SHELF);
      if (!request.ok) throw new ProblemError(request.problem);
      const made = planTrial(request.value, STARTER_SHELF, {
        createdAt: '2026-05-02T08:00:00.000Z',
        random: () => 0.6,
      });
      if (!made.ok) throw new ProblemError(made.problem);
      const plan = made.value;
      const steps = new Set(plan.patches.flatMap(p => chainOf(plan, p).map(l => l.step.id)));
      for (const step of method.steps)
        if (!step.onlyIfPrepared && !step.onlyIfFinished && step.fromRound === 1)
          expect(steps).toContain(step.id);
      const ahead = forecast(plan, [], Date.parse(plan.createdAt));
      expect(ahead.handsOnMin).toBeGreaterThan(0);
      expect(ahead.endsAt).toBeGreaterThan(Date.parse(plan.createdAt));
      // The planned wait is that of the patch, in the step that waits for it.
      const patch = plan.patches[0];
      const settings = settingsOf(plan, patch);
      const waiting = chainOf(plan, patch).find(l => l.step.wait.kind === 'planned')!;
      expect(waitAfter(waiting.step, settings, plan.air)!.aim).toBeCloseTo(settings.dryHours * 60, 9);
    },
  );

  it('tape that is rubbed again is wetted again first, and not before its first rub', () => {
    const plan = planOf('tape-lift');
    const twice = { ...plan, usual: { ...plan.usual, rounds: 2 } };
    const does = chainOf(twice, twice.patches[0]).map(l => `${l.step.does} ${l.round}`);
    expect(does.filter(d => /soak|wet|rub/.test(d))).toEqual(['soak 1', 'rub 1', 'wet 2', 'rub 2']);
  });

  it('says “soak and clean in one go” where that was chosen, whatever the water', () => {
    const plan = planOf('wet-rub');
    const words = (removal: string, water: string) => {
      const other = { ...plan, usual: { ...plan.usual, removal, water } };
      const steps = stepsFor(other, settingsOf(other, other.patches[0]));
      return steps.filter(s => s.does === 'wet' || s.does === 'rub').map(s => s.instruction);
    };
    for (const water of ['damp', 'soaked']) {
      expect(words('once', water)[0]).toMatch(
        /^Soak the back through .* until the paper is loose everywhere/,
      );
      expect(words('once', water)[1]).toMatch(/until all of the paper is off/);
    }
    expect(words('rounds', 'damp')[0]).toMatch(/^Dampen/);
    expect(words('rounds', 'soaked')[0]).toMatch(/^Soak/);
    expect(words('rounds', 'damp')[1]).not.toMatch(/all of the paper/);
  });

  it('keeps a body in the oven for eight to fifteen minutes', () => {
    const heat = METHODS.find(m => m.id === 'hot-body')!.steps.find(s => s.does === 'heat')!;
    const plan = planOf('hot-body');
    const window = waitAfter(heat, { ...settingsOf(plan, plan.patches[0]), dryHours: 0.2 }, plan.air)!;
    expect([window.min, window.aim, window.max].map(m => Math.round(m * 10) / 10)).toEqual([8, 12, 15]);
  });

  it('a pull that has to come seconds after placing is asked for before anything else', () => {
    const film = METHODS.find(m => m.id === 'film-pull')!;
    const request = howLong(film, STARTER_SHELF);
    const made =
      request.ok &&
      planTrial(request.value, STARTER_SHELF, { createdAt: '2026-05-02T08:00:00.000Z', random: () => 0.2 });
    if (!made) throw new Error('no request');
    if (!made.ok) throw new ProblemError(made.problem);
    const plan = made.value;
    const first = [...plan.patches].sort((a, b) => a.order - b.order)[0];
    const at = (second: number) => new Date(Date.parse(plan.createdAt) + second * 1000).toISOString();
    const done = (step: string, second: number, patch = first.code): TrialRecord => ({
      id: `${patch}${step}`.replace(/[^0-9A-Za-z]/g, ''),
      at: at(second),
      kind: 'step',
      patch,
      step,
      round: 1,
    });
    const records = [
      ...plan.patches.map(p => done('mark', 1, p.code)),
      done('mask', 20),
      done('coat', 60),
      done('place', 75),
    ];
    const action = nextAction(progressOf(plan, records), Date.parse(at(76)));
    expect(action.kind === 'do' && [action.patch.code, action.link.step.id]).toEqual([first.code, 'pull']);
  });
});

describe('cautions before anything is begun', () => {
  it('name what some of the patches are prepared, coated or finished with', () => {
    const plain = examplePlan();
    expect(setUpCautions(plain)).toEqual(plain.used.method.setUpCautions);
    const etched = examplePlan({
      factors: [{ key: 'preparation', levels: ['none', 'etched'] }],
      usual: { ...usual, substrate: 'glass' },
      overrides: ['glossy-untreated'],
    });
    expect(setUpCautions(etched)[0]).toBe('etching');
    expect(setUpCautions(examplePlan({ usual: { ...usual, finish: 'spray-clear' } }))).toContain('solvent');
    expect(new Set(setUpCautions(etched)).size).toBe(setUpCautions(etched).length);
  });
});

describe('cautions at a step', () => {
  const at = (step: string, part: Partial<typeof usual>, method = 'wet-rub') => {
    const found = METHODS.find(m => m.id === method)!;
    const plan = examplePlan({ usual: { ...usual, ...part } });
    return cautionsAt(found.steps.find(s => s.id === step)!, settingsOf(plan, plan.patches[0]));
  };

  it.each([
    ['etching cream', 'prepare', { preparation: 'etched' }, 'etching'],
    ['sanding', 'prepare', { preparation: 'sanded' }, 'sanding'],
    ['hot wax', 'prepare', { preparation: 'wax-fused' }, 'wax'],
    ['an iron on cloth', 'prepare', { preparation: 'washed-ironed' }, 'hot-tools'],
    ['degreasing with alcohol', 'prepare', { preparation: 'degreased' }, 'solvent'],
    ['spray clear', 'finish', { finish: 'spray-clear' }, 'solvent'],
    ['two-part clear', 'finish', { finish: 'poured-clear' }, 'two-part'],
    ['a heat gun', 'place', { pressing: 'heat-gun' }, 'hot-tools'],
  ])('come with %s', (_, step, part, caution) => {
    expect(at(step, part)).toContain(caution);
  });

  it('are those of the step alone where nothing more can hurt', () => {
    expect(at('prepare', { preparation: 'gel-primer' })).toEqual(['wet-coats']);
    expect(at('place', {})).toEqual([]);
  });
});
