import { describe, expect, it } from 'vitest';
import { EXAMPLE_REQUEST, examplePlan } from '../design/example.ts';
import { planOf } from '../questions/example.ts';
import type { Tool } from '../shelf/index.ts';
import { settingsOf, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import { agendaOf, USUAL_WORKING, type Working, workingWith, workloadOf } from './index.ts';
import { workloadOfAll } from './workload-of.ts';

const MIN = 60_000;
const T0 = Date.parse('2026-05-02T09:00:00.000Z');
let count = 0;
const done = (patch: string, step: string, at: number, round = 1): TrialRecord => ({
  id: `q${++count}`,
  at: new Date(at).toISOString(),
  kind: 'step',
  patch,
  step,
  round,
});
const plan = examplePlan();
const [first, second] = [...plan.patches].sort((a, b) => a.order - b.order);
const marks = (of: TrialPlan = plan) => of.patches.map(p => done(p.code, 'mark', T0));
const asked = (records: readonly TrialRecord[] = [], working: Partial<Working> = {}, now = T0) =>
  workloadOf(plan, records, { ...USUAL_WORKING, ...working }, now);
const jobOf = (p: ReturnType<typeof asked>, patch: string) =>
  p.problem.jobs.find(
    j => p.tasks.get(j.id)![0].patch === patch && p.tasks.get(j.id)!.length === j.ops.length,
  )!;

describe('a trial as a question for the scheduler', () => {
  it('has one job for the marking of all and one for each patch', () => {
    const { problem, tasks } = asked();
    expect(problem.jobs).toHaveLength(plan.patches.length + 1);
    const [marking] = problem.jobs;
    expect(tasks.get(marking.id)).toHaveLength(plan.patches.length);
    expect(marking.ops[0].hands).toBe(Math.round(plan.patches.length * 0.4 * MIN));
    expect(marking.turn!.number).toBeLessThan(Math.min(...problem.jobs.slice(1).map(j => j.turn!.number)));
    expect(asked(marks()).problem.jobs).toHaveLength(plan.patches.length);
  });

  it('gives turns in the plan’s order, or by board where the order is free', () => {
    const { problem } = asked(marks());
    expect(problem.jobs.map(j => j.turn!.number).sort((a, b) => a - b)).toEqual(
      plan.patches.map((_, i) => i),
    );
    expect(new Set(asked(marks(), { order: 'free' }).problem.jobs.map(j => j.turn!.number)).size).toBe(1);
  });

  it('dips the brush into the patch’s own medium, and only where something is brushed', () => {
    const job = jobOf(asked(marks()), first.code);
    const brushes = job.ops.map(op => op.brush);
    expect(brushes[job.ops.findIndex(o => o.id === 'coat')]).toBe(settingsOf(plan, first).medium.id);
    expect(brushes.filter(Boolean)).toHaveLength(1);
  });

  it('takes the window of what is under way from when it really happened', () => {
    const records = [...marks(), done(first.code, 'coat', T0 + MIN)];
    const job = jobOf(asked(records, {}, T0 + 2 * MIN), first.code);
    expect(job.turn).toBeUndefined();
    expect(job.first!.from).toBe(T0 + MIN);
    expect(job.first!.to).toBeGreaterThan(T0 + 2 * MIN);
    expect(job.ops[0].id).toBe('place');
  });

  it('has whole milliseconds everywhere', () => {
    const records = [...marks(), done(first.code, 'coat', T0 + 777)];
    for (const job of asked(records, {}, T0 + 1001).problem.jobs) {
      const times = [
        ...job.ops.flatMap(o => [o.hands, ...(o.gap ? Object.values(o.gap) : [])]),
        ...(job.first ? Object.values(job.first) : []),
      ];
      for (const t of times) expect(Number.isInteger(t)).toBe(true);
    }
  });

  it('knows the maker to be there as long as they stand at the bench', () => {
    const weekend = [{ days: [0], from: '10:00', to: '11:00' }];
    const away = asked([], { sittings: weekend }).problem.hands[0].there;
    const here = workloadOf(plan, [], { ...USUAL_WORKING, sittings: weekend }, T0, {
      hereUntil: T0 + 30 * MIN,
    }).problem.hands[0].there;
    expect(away.some(([a, b]) => a <= T0 && T0 < b)).toBe(false);
    expect(here.some(([a, b]) => a <= T0 && T0 + 30 * MIN <= b)).toBe(true);
  });

  it('remembers what the brush was in, but not for ever', () => {
    const records = [...marks(), done(first.code, 'coat', T0)];
    const all = (now: number) => workloadOfAll([{ plan, records }], USUAL_WORKING, now).problem.hands;
    expect(all(T0 + 5 * MIN)[0].brush).toBe(settingsOf(plan, first).medium.id);
    expect(all(T0 + 90 * MIN)[0].brush).toBeUndefined();
    const helped = workloadOfAll([{ plan, records }], { ...USUAL_WORKING, helpers: 1 }, T0 + MIN).problem
      .hands;
    expect(helped.map(h => Boolean(h.brush))).toEqual([true, false]);
  });

  it('remembers a batch that is mixed while it can be used', () => {
    const mixed: TrialPlan = {
      ...plan,
      used: {
        ...plan.used,
        mediums: plan.used.mediums.map(m => ({ ...m, kind: 'two-part clear' as const, openMin: 20 })),
      },
    };
    const same = mixed.patches.filter(
      p => settingsOf(mixed, p).medium.id === settingsOf(mixed, first).medium.id,
    );
    const records = [
      ...marks(mixed),
      done(same[0].code, 'coat', T0),
      done(same[1].code, 'coat', T0 + 5 * MIN),
    ];
    const left = (now: number) => workloadOfAll([{ plan: mixed, records }], USUAL_WORKING, now).problem.made!;
    expect(left(T0 + 6 * MIN)).toMatchObject([{ used: 2, until: T0 + 20 * MIN }]);
    expect(left(T0 + 30 * MIN)).toEqual([]);
  });

  it('puts two trials together without mixing up their turns, and takes the smaller oven', () => {
    const other = examplePlan({ name: 'Kit bags', loadSize: 2 }, 9);
    const { problem, tasks } = workloadOfAll(
      [
        { plan, records: [] },
        { plan: other, records: [] },
      ],
      USUAL_WORKING,
      T0,
    );
    expect(new Set(problem.jobs.map(j => j.turn!.queue)).size).toBe(2);
    expect(new Set(problem.jobs.map(j => j.id)).size).toBe(problem.jobs.length);
    expect(problem.places.oven).toBe(2);
    expect(new Set([...tasks.values()].flat().map(t => t.trial))).toEqual(new Set([plan.id, other.id]));
  });

  it('leaves out what is spoilt or finished', () => {
    const spoilt: TrialRecord = {
      id: 'x1',
      at: new Date(T0).toISOString(),
      kind: 'spoilt',
      patch: second.code,
      why: 'slipped',
    };
    const p = asked([...marks(), spoilt]);
    expect([...p.tasks.values()].flat().some(t => t.patch === second.code)).toBe(false);
  });
});

describe('how a maker works', () => {
  const tool = (kind: Tool['kind'], part: Partial<Tool>): Tool => ({
    id: kind.replace(' ', '-'),
    name: kind,
    note: '',
    kind,
    washMin: 0,
    holds: 1,
    ...part,
  });
  const tools = [
    tool('bristle brush', { washMin: 6 }),
    tool('foam brush', { washMin: 5 }),
    tool('sponge', { washMin: 0.1 }),
    tool('oven', { holds: 8 }),
  ];

  it('is taken from the tools where it is left open: the brush washed quickest, what the oven holds', () => {
    expect(workingWith(USUAL_WORKING, tools)).toMatchObject({ washMin: 5, ovenHolds: 8 });
  });
  it('is what the maker said where they said it, and usual where there are no such tools', () => {
    expect(workingWith({ ...USUAL_WORKING, washMin: 0, ovenHolds: 1 }, tools)).toMatchObject({
      washMin: 0,
      ovenHolds: 1,
    });
    expect(workingWith(USUAL_WORKING, [])).toMatchObject({ washMin: 2, ovenHolds: 3 });
  });
  it('goes into the question for the scheduler', () => {
    const { problem } = workloadOf(examplePlan(), [], workingWith(USUAL_WORKING, tools), T0);
    expect(problem.wash).toBe(5 * 60_000);
    expect(problem.places.oven).toBe(8);
  });
});

describe('a brush', () => {
  const brushes = (part: Partial<typeof EXAMPLE_REQUEST.usual>) => {
    const plan = examplePlan({ usual: { ...EXAMPLE_REQUEST.usual, ...part } });
    const { problem } = workloadOf(plan, [], USUAL_WORKING, T0);
    return new Set(problem.jobs.flatMap(j => j.ops.flatMap(op => op.brush ?? [])));
  };
  it('is dipped into primer and varnish', () => {
    expect(brushes({ preparation: 'gesso' })).toContain('preparation gesso');
    expect(brushes({ finish: 'water-varnish' })).toContain('finish water-varnish');
  });
  it('is not used for sanding, wax or a spray, so that nothing has to be washed for them', () => {
    for (const part of [{ preparation: 'sanded' }, { finish: 'clear-wax' }, { finish: 'spray-clear' }])
      expect([...brushes(part)].filter(b => /^(preparation|finish)/.test(b))).toEqual([]);
  });
});

describe('what has two parts', () => {
  const plan = examplePlan({ usual: { ...EXAMPLE_REQUEST.usual, finish: 'poured-clear', rounds: 1 } });
  const { problem } = workloadOf(plan, [], USUAL_WORKING, T0);

  it('is mixed once for several patches, also as a finish, and used while it pours', () => {
    const batches = problem.jobs.flatMap(j =>
      j.ops.flatMap(op => (op.id === 'finish' ? (op.batch ?? []) : [])),
    );
    expect(batches).toHaveLength(plan.patches.length);
    expect(new Set(batches.map(b => b.key))).toEqual(new Set(['finish poured-clear']));
    expect(batches[0].lasts).toBe(20 * MIN);
  });

  it('and is not mixed for anything else', () => {
    const others = problem.jobs.flatMap(j => j.ops.filter(op => op.id !== 'finish'));
    expect(others.some(op => op.batch)).toBe(false);
  });
});

describe('hands, tools and pieces as they are', () => {
  const opsOf = (of: TrialPlan, patch: string, records: readonly TrialRecord[] = [], now = T0) => {
    const asked = workloadOf(of, records, USUAL_WORKING, now);
    const job = asked.problem.jobs.find(j => j.id === `${of.id} ${patch}`)!;
    return { ...asked, job, op: (id: string) => job.ops.find(o => o.id === id)! };
  };

  it('burnishing occupies the hands until its best moment, and what follows may come at once', () => {
    const wax = planOf('wax-bed');
    const patch = wax.patches[0];
    const { op } = opsOf(wax, patch.code);
    const minutes = settingsOf(wax, patch).dryHours * 60;
    expect(op('burnish').hands).toBe(Math.round((0.5 + minutes) * MIN));
    expect(op('burnish').gap).toEqual({ min: 0, aim: 0, max: Math.round(minutes * 0.3 * MIN) });
    // Dampened paper lies by itself.
    expect(op('wet').hands).toBe(0.5 * MIN);
    expect(op('wet').gap).toMatchObject({ min: 0.5 * MIN, aim: 2 * MIN });
  });

  it('what is being burnished now keeps the hands until then', () => {
    const wax = planOf('wax-bed');
    const patch = wax.patches[0];
    const minutes = settingsOf(wax, patch).dryHours * 60;
    const records = [...marks(wax), ...['coat', 'place', 'burnish'].map(step => done(patch.code, step, T0))];
    const now = T0 + 2 * MIN;
    const { job, tasks } = opsOf(wax, patch.code, records, now);
    expect(job.ops[0]).toMatchObject({ id: 'held', hands: Math.round((minutes - 2) * MIN) });
    expect(job.first).toEqual({ from: now, aim: now, to: now });
    expect(tasks.get(job.id)).toHaveLength(job.ops.length - 1);
    const plan = agendaOf(wax, records, USUAL_WORKING, now);
    const own = plan.ok ? plan.value.tasks.filter(t => t.patch === patch.code) : [];
    expect(own[0].link.step.id).toBe('wet');
    expect(own[0].from).toBeGreaterThanOrEqual(T0 + Math.round(minutes * MIN));
    // Nothing else is begun meanwhile.
    if (plan.ok) expect(Math.min(...plan.value.tasks.map(t => t.from))).toBe(T0 + Math.round(minutes * MIN));
  });

  it('the gel plate holds one print from the paint on it until the substrate has been pressed on', () => {
    const gel = planOf('gel-plate');
    const { job, problem } = opsOf(gel, gel.patches[0].code);
    expect(problem.places['gel plate']).toBe(1);
    expect(job.ops.map(o => [o.id, o.place ?? ''])).toEqual(
      job.ops.map(o => [o.id, ['coat', 'print-down', 'lift'].includes(o.id) ? 'gel plate' : '']),
    );
    expect(job.ops.filter(o => o.place)).toHaveLength(3);
  });

  it('there is one iron', () => {
    const tape = planOf('ironed-tape');
    const { op, problem } = opsOf(tape, tape.patches[0].code);
    const { tool } = op('place');
    expect(tool).toBeDefined();
    expect(problem.places[tool!]).toBe(1);
    expect(op('lift').tool).toBeUndefined();
  });

  it('a ground that is prepared in one go is one action for all that are still to be prepared', () => {
    const primed = examplePlan({ usual: { ...EXAMPLE_REQUEST.usual, preparation: 'gesso' } });
    const all = opsOf(primed, primed.patches[0].code).op('prepare');
    const words = (asked: ReturnType<typeof opsOf>) =>
      new Set(asked.problem.jobs.flatMap(j => j.ops.flatMap(o => o.together ?? [])));
    const fresh = opsOf(primed, primed.patches[0].code);
    expect(words(fresh).size).toBe(primed.board.count);
    const single = primed.used.preparations.find(p => p.id === 'gesso')!.minutes;
    const onBoard = primed.patches.filter(p => p.board === primed.patches[0].board).length;
    expect(all.hands).toBe(Math.round(single * (1 + 0.25 * (onBoard - 1)) * MIN));
    const half = primed.patches.slice(0, 4).map(p => done(p.code, 'prepare', T0 + MIN));
    const left = opsOf(primed, primed.patches[5].code, [...marks(primed), ...half], T0 + 2 * MIN).op(
      'prepare',
    );
    expect(left.hands).toBeLessThan(all.hands);
  });

  it('waits in which something dries follow the air, others do not', () => {
    const damp = examplePlan();
    const cold = { ...damp, air: { ...damp.air, tempC: 12, rh: 80 } };
    const at = (of: TrialPlan, step: string) => opsOf(of, of.patches[0].code).op(step).gap!;
    expect(at(cold, 'rub').aim).toBeGreaterThan(1.3 * at(damp, 'rub').aim);
    expect(at(cold, 'wet')).toEqual(at(damp, 'wet'));
  });
});
