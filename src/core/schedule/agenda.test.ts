import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { EXAMPLE_REQUEST, examplePlan } from '../design/example.ts';
import { planTrial } from '../design/index.ts';
import { METHODS, type Method } from '../methods/index.ts';
import { good, ProblemError } from '../outcome/index.ts';
import { deviationsOf, progressOf, windowAfter } from '../progress/index.ts';
import { planned } from '../questions/example.ts';
import { howLong, requestFor } from '../questions/index.ts';
import { write } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { chainOf, goFor } from '../steps/index.ts';
import type { TrialPlan, TrialRecord } from '../trial/index.ts';
import {
  type Agenda,
  agendaOf,
  agendaOfAll,
  dueElsewhere,
  partOf,
  SITTINGS,
  sittingsFrom,
  USUAL_WORKING,
  type Working,
} from './index.ts';
import { placeOf } from './workload-of.ts';

const MIN = 60_000;
const HOUR = 60 * MIN;
const T0 = Date.parse('2026-05-02T09:00:00.000Z');
let count = 0;
const done = (patch: string, step: string, at: number, round = 1): TrialRecord => ({
  id: `d${++count}`,
  at: new Date(at).toISOString(),
  kind: 'step',
  patch,
  step,
  round,
});
const agenda = (
  plan: TrialPlan,
  records: readonly TrialRecord[] = [],
  working: Partial<Working> = {},
  now = T0,
  search = { rounds: 20, seed: 3 },
): Agenda => {
  const found = agendaOf(plan, records, { ...USUAL_WORKING, ...working }, now, search);
  if (!found.ok) throw new Error(`${write(found.problem.say)} ${write(found.problem.wayOut ?? '')}`);
  return found.value;
};
/** A trial of a method whose wait cannot be varied: two finishes. */
function onFinish(method: Method) {
  const plain = requestFor(method, STARTER_SHELF);
  const levels = STARTER_SHELF.finishes.slice(0, 2).map(f => f.id);
  return plain.ok
    ? good({ ...plain.value, name: 'Finishes', factors: [{ key: 'finish' as const, levels }] })
    : plain;
}

function planFor(id: string): TrialPlan {
  const method = METHODS.find(m => m.id === id)!;
  return planned(method.vary.includes('dryHours') ? howLong(method, STARTER_SHELF) : onFinish(method));
}

/** Searched, but not for as long as the app does. */
const SEARCHED = { rounds: 50, seed: 7 };

describe('the agenda of a trial', () => {
  it.each(METHODS.map(m => m.id))(
    'holds every step of %s once, in order, in its window, one at a time',
    id => {
      const plan = planFor(id);
      const { tasks } = agenda(plan);
      for (const patch of plan.patches) {
        const own = tasks.filter(t => t.patch === patch.code);
        expect(own.map(t => `${t.link.step.id} ${t.link.round}`)).toEqual(
          chainOf(plan, patch).map(l => `${l.step.id} ${l.round}`),
        );
        for (const t of own)
          if (t.window) {
            expect(t.from).toBeGreaterThanOrEqual(t.window.opens - 1);
            expect(t.from).toBeLessThanOrEqual(t.window.closes + 1);
          }
      }
      const goes = new Set(
        progressOf(plan, []).lines.flatMap(line =>
          line.chain.filter(l => goFor(l.step, line).length > 1).map(l => l.step.id),
        ),
      );
      for (let i = 1; i < tasks.length; i++) {
        const [a, b] = [tasks[i - 1], tasks[i]];
        // What happens to a piece as a whole, or is prepared in one go, is one action for all of them.
        if (
          a.from === b.from &&
          a.to === b.to &&
          a.link.step.id === b.link.step.id &&
          goes.has(a.link.step.id)
        )
          continue;
        expect(b.from).toBeGreaterThanOrEqual(a.to - 1);
      }
    },
  );

  it('of several trials has the part of each: its tasks, its end, its work, what is done in one go once', () => {
    const plans = [
      examplePlan({ usual: { ...EXAMPLE_REQUEST.usual, preparation: 'white-coat' } }),
      planFor('film-pull'),
    ];
    expect(plans[0].id).not.toBe(plans[1].id);
    const found = agendaOfAll(
      plans.map(plan => ({ plan, records: [] })),
      USUAL_WORKING,
      T0,
    );
    if (!found.ok) throw new ProblemError(found.problem);
    const parts = plans.map(p => partOf(found.value, p.id));
    expect(parts[0].tasks.length + parts[1].tasks.length).toBe(found.value.tasks.length);
    parts.forEach((part, i) => {
      expect(part.tasks.every(t => t.trial === plans[i].id)).toBe(true);
      expect(part.ends).toBe(Math.max(...part.tasks.map(t => t.to)));
    });
    expect(Math.max(parts[0].ends, parts[1].ends)).toBe(found.value.ends);
    expect(parts[0].handsMin + parts[1].handsMin).toBeCloseTo(found.value.handsMin, 6);
    expect(partOf({ ...found.value, late: ['ZZ-222', plans[0].patches[0].code] }, plans[0].id).late).toEqual([
      plans[0].patches[0].code,
    ]);
  });

  it('marks every piece before anything is coated, then begins patches in the plan’s order', () => {
    const plan = examplePlan();
    const { tasks } = agenda(plan);
    const firstCoat = tasks.findIndex(t => t.link.step.id === 'coat');
    expect(tasks.slice(0, firstCoat).filter(t => t.link.step.id === 'mark')).toHaveLength(
      plan.patches.length,
    );
    const order = new Map(plan.patches.map(p => [p.code, p.order]));
    const coats = tasks.filter(t => t.link.step.id === 'coat').map(t => order.get(t.patch)!);
    expect(coats).toEqual([...coats].sort((a, b) => a - b));
  });

  it('saves washing where the order is free', () => {
    const washes = (order: Working['order']) =>
      agenda(examplePlan(), [], { order }, T0, SEARCHED).extras.filter(e => e.what === 'wash').length;
    expect(washes('free')).toBeLessThan(washes('plan'));
  });

  it('says by how much it could be better at most', () => {
    const { couldBeBetter } = agenda(planFor('film-pull'));
    expect(couldBeBetter).toBeGreaterThanOrEqual(0);
    expect(couldBeBetter).toBeLessThan(1);
  });

  it('lays out prints that must be pulled seconds after placing one inside the other where that is shorter', () => {
    const plan = planFor('film-pull');
    const { tasks } = agenda(plan, [], {}, T0, SEARCHED);
    const pull = (code: string) => tasks.find(t => t.patch === code && t.link.step.id === 'pull')!;
    for (const p of plan.patches)
      expect(pull(p.code).from).toBeLessThanOrEqual(pull(p.code).window!.closes + 1);
  });

  it('keeps an oven to what it holds', () => {
    const plan = planFor('hot-body');
    const { tasks } = agenda(plan, [], { ovenHolds: 1 });
    const heats = tasks.filter(t => t.link.step.id === 'heat');
    for (const heat of heats) {
      const out = tasks.find(t => t.patch === heat.patch && t.link.step.id === 'place')!;
      expect(heats.filter(h => h !== heat && h.from > heat.from && h.from < out.from)).toEqual([]);
    }
  });

  it('lays no more into a tray of water than it takes', () => {
    const plan = planFor('tape-lift');
    const soaks = (trayHolds: number | null) => {
      const { tasks } = agenda(plan, [], { trayHolds });
      return tasks
        .filter(t => t.link.step.does === 'soak')
        .map(s => [s.from, tasks.find(t => t.patch === s.patch && t.from > s.from)!.from] as const);
    };
    const most = (all: ReturnType<typeof soaks>) =>
      Math.max(...all.map(([from]) => all.filter(([a, b]) => a <= from && from < b).length));
    expect(most(soaks(null))).toBeGreaterThan(1);
    expect(most(soaks(1))).toBe(1);
    // What is only dipped on its way lies in no tray.
    const dipped = planFor('ironed-tape');
    const line = progressOf(dipped, []).lines[0];
    const dip = line.chain.find(l => l.step.does === 'soak')!.step;
    expect(placeOf(dip, line, dipped, { ...USUAL_WORKING, trayHolds: 1 })).toBeUndefined();
  });

  it('lets single pieces dry no more at once than there is room for', () => {
    const made = planTrial(
      {
        ...planFor('wet-rub'),
        ...{
          board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
          patchMm: 40,
          marginMm: 8,
          factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
          repeats: 2,
          design: 'every combination',
          budget: 4,
          interactions: [],
          stripKey: null,
          groupKey: null,
          loadSize: null,
          control: false,
        },
      } as Parameters<typeof planTrial>[0],
      STARTER_SHELF,
      { createdAt: new Date(T0).toISOString(), random: () => 0.3 },
    );
    if (!made.ok) throw new ProblemError(made.problem);
    const { tasks } = agenda(made.value, [], { rackHolds: 2 });
    const lies = tasks
      .filter(t => t.link.step.id === 'place')
      .map(t => [t.from, tasks.find(o => o.patch === t.patch && o.link.step.id === 'wet')!.from] as const);
    for (const [from] of lies)
      expect(lies.filter(([a, b]) => a <= from && from < b).length).toBeLessThanOrEqual(2);
  });
});

describe('planned anew from what really happened', () => {
  const plan = examplePlan();
  const marks = plan.patches.map(p => done(p.code, 'mark', T0));
  const [first, second] = [...plan.patches].sort((a, b) => a.order - b.order);

  it('treats a patch whose window is closed as due now, and says that it is late', () => {
    const records = [...marks, done(first.code, 'coat', T0)];
    const later = agenda(plan, records, {}, T0 + 2 * HOUR);
    expect(later.late).toEqual([first.code]);
    expect(later.tasks[0]).toMatchObject({ patch: first.code, from: T0 + 2 * HOUR });
  });

  it('is done early without harm: what comes after is planned from then', () => {
    const placed = [...marks, done(first.code, 'coat', T0), done(first.code, 'place', T0 + MIN)];
    const early = [...placed, done(first.code, 'wet', T0 + 2 * HOUR)];
    const next = agenda(plan, early, {}, T0 + 2 * HOUR).tasks.find(t => t.patch === first.code)!;
    expect(next.link.step.id).toBe('rub');
    expect(next.from - T0 - 2 * HOUR).toBeLessThan(10 * MIN);
  });

  it('leaves a spoilt patch out', () => {
    const records: TrialRecord[] = [
      ...marks,
      { id: 'sp', at: new Date(T0).toISOString(), kind: 'spoilt', patch: second.code, why: 'dropped' },
    ];
    expect(agenda(plan, records).tasks.some(t => t.patch === second.code)).toBe(false);
  });

  it('takes longer when the helper is gone', () => {
    const film = planFor('wet-rub');
    expect(agenda(film, [], { helpers: 1 }).ends).toBeLessThanOrEqual(agenda(film).ends);
    expect(new Set(agenda(examplePlan(), [], { helpers: 1 }).tasks.map(t => t.who)).size).toBe(2);
  });

  it('is finished when everything is', () => {
    const all = plan.patches.flatMap(p =>
      chainOf(plan, p).map((l, i) => done(p.code, l.step.id, T0 + i * HOUR, l.round)),
    );
    expect(agenda(plan, all).tasks).toEqual([]);
  });

  it('keeps what was done outside its window as a deviation', () => {
    const records = [...marks, done(first.code, 'coat', T0), done(first.code, 'place', T0 + 30 * MIN)];
    const [late] = deviationsOf(plan, records);
    expect(late).toMatchObject({ patch: first.code, step: 'place' });
    expect(late.byMin).toBeGreaterThan(15);
    const soon = deviationsOf(plan, [...records, done(first.code, 'wet', T0 + HOUR)]).at(-1)!;
    expect(soon).toMatchObject({ step: 'wet' });
    expect(soon.byMin).toBeLessThan(0);
  });
});

describe('several trials', () => {
  it('share one pair of hands: nothing overlaps, and each keeps its own order', () => {
    const [a, b] = [examplePlan(), examplePlan({ name: 'Kit bags' }, 5)];
    const found = agendaOfAll(
      [
        { plan: a, records: [] },
        { plan: b, records: [] },
      ],
      USUAL_WORKING,
      T0,
    );
    if (!found.ok) throw new ProblemError(found.problem);
    const { tasks } = found.value;
    expect(tasks).toHaveLength(agenda(a).tasks.length + agenda(b).tasks.length);
    for (let i = 1; i < tasks.length; i++) expect(tasks[i].from).toBeGreaterThanOrEqual(tasks[i - 1].to - 1);
    for (const plan of [a, b]) {
      const order = new Map(plan.patches.map(p => [p.code, p.order]));
      const coats = tasks.filter(t => t.trial === plan.id && t.link.step.id === 'coat');
      expect(coats.map(t => order.get(t.patch))).toEqual(
        plan.patches.map(p => p.order).sort((x, y) => x - y),
      );
    }
  });

  it('call for hands at another’s bench when their best moment has come', () => {
    const [here, other] = [examplePlan(), examplePlan({ name: 'Kit bags' }, 5)];
    const patch = other.patches[0].code;
    const records = ['mark', 'coat', 'place'].map(s => done(patch, s, T0));
    const trials = [
      { plan: here, records: [] },
      { plan: other, records },
    ];
    expect(dueElsewhere(trials, here.id, T0 + HOUR)).toEqual([]);
    expect(dueElsewhere(trials, here.id, T0 + 30 * HOUR)).toMatchObject([{ patch, what: 'Wet the paper' }]);
    expect(dueElsewhere(trials, other.id, T0 + 30 * HOUR)).toEqual([]);
  });

  it('and none are no work', () => {
    const none = agendaOfAll([], USUAL_WORKING, T0);
    expect(none.ok && none.value.tasks).toEqual([]);
  });
});

describe('sittings', () => {
  beforeEach(() => {
    vi.stubEnv('TZ', 'Europe/London');
  });
  afterEach(() => {
    vi.unstubAllEnvs();
  });
  const night = [{ days: [0, 1, 2, 3, 4, 5, 6], from: '00:30', to: '03:30' }];
  const long = (from: string) => {
    const now = Date.parse(from);
    const [a, b] = sittingsFrom(night, now).find(([x]) => x >= now)!;
    return (b - a) / HOUR;
  };

  it('are an hour shorter in the night the clocks go forward, and longer when they go back', () => {
    expect(long('2026-03-28T12:00:00Z')).toBe(2);
    expect(long('2026-03-29T12:00:00Z')).toBe(3);
    expect(long('2026-10-24T12:00:00Z')).toBe(4);
  });

  it('go past midnight where they end before they begin', () => {
    const now = Date.parse('2026-06-01T12:00:00Z');
    const span = sittingsFrom([{ days: [1], from: '22:00', to: '01:00' }], now).find(([a]) => a >= now)!;
    expect(new Date(span[0]).toISOString()).toBe('2026-06-01T21:00:00.000Z');
    expect((span[1] - span[0]) / HOUR).toBe(3);
  });

  it('hold all hands-on work, while drying runs on overnight and over a change of the clocks', () => {
    const evenings = SITTINGS.find(s => s.id === 'evenings')!.sittings;
    const now = Date.parse('2026-10-24T08:30:00Z');
    const { tasks } = agenda(
      examplePlan({ factors: [{ key: 'dryHours', levels: [20, 24] }] }),
      [],
      { sittings: evenings },
      now,
    );
    const there = sittingsFrom(evenings, now);
    for (const t of tasks) expect(there.some(([a, b]) => a <= t.from && t.to <= b)).toBe(true);
    for (const t of tasks.filter(x => x.link.step.id === 'wet' && x.link.round === 1))
      expect(t.window!.aim - t.window!.opens).toBeGreaterThan(HOUR);
  });

  it('that are too short say which window cannot be kept, and what would help', () => {
    const plan = planFor('film-pull');
    const found = agendaOf(
      plan,
      [],
      { ...USUAL_WORKING, sittings: [{ days: [6], from: '10:00', to: '10:01' }] },
      T0,
    );
    expect(found.ok).toBe(false);
    if (found.ok) return;
    expect(write(found.problem.say).length).toBeGreaterThan(20);
    expect(write(found.problem.wayOut ?? '')).toMatch(/What would make it fit:.*at other times/);
  });

  it('name the wait when nobody is there to end it', () => {
    // Coated late in the evening with twelve hours to dry, and nobody there before the evening after next.
    const plan = examplePlan({ factors: [{ key: 'dryHours', levels: [10, 12] }], repeats: 1 });
    const found = agendaOf(
      plan,
      [],
      { ...USUAL_WORKING, sittings: [{ days: [6], from: '19:00', to: '20:30' }] },
      T0,
    );
    expect(write(found.ok ? '' : found.problem.say)).toMatch(
      /the wait after “Place the print” may be .* no hands are there/,
    );
    expect(write(found.ok ? '' : (found.problem.wayOut ?? ''))).toMatch(/at other times/);
  });
});

describe('the agenda where other air is expected', () => {
  const plan = planned(onFinish(METHODS.find(m => m.id === 'wet-rub')!));
  const evening = new Date(2026, 4, 2, 20).getTime();
  const cold = { tempC: 9, rh: 80 };
  const said = (day: string | null): TrialRecord => ({
    ...{ id: 'f', at: new Date(evening - HOUR).toISOString(), kind: 'forecast', patch: null },
    expected: [{ day, from: '21:00', to: '08:00', air: cold }],
  });
  const washed = ({ tasks }: Agenda) => tasks.filter(t => t.link.step.does === 'wet' && t.link.round === 1);

  it('waits for what dries in a cold night as long as it takes there', () => {
    const records = [said(null)];
    const [usual, night] = [agenda(plan, [], {}, evening), agenda(plan, records, {}, evening)];
    const hours = (a: Agenda) => (washed(a)[0].from - evening) / HOUR;
    expect(hours(night)).toBeGreaterThan(1.2 * hours(usual));
    const { lines, airs } = progressOf(plan, records);
    for (const task of washed(night)) {
      const line = lines.find(l => l.patch.code === task.patch)!;
      const placed = night.tasks.find(t => t.patch === task.patch && t.link.step.does === 'place')!;
      const window = windowAfter(line, placed.link, placed.to, airs)!;
      // What it was planned for and when it is differ by little: the air of the hours was found by planning anew.
      expect(Math.abs(task.window!.aim - window.aim)).toBeLessThan(0.03 * (window.aim - placed.to));
      expect(task.from).toBeGreaterThanOrEqual(window.opens);
      expect(task.from).toBeLessThanOrEqual(window.closes);
    }
  });

  it('is as ever for a night that is over', () => {
    const starts = (a: Agenda) => a.tasks.map(t => t.from);
    expect(starts(agenda(plan, [said('2026-04-20')], {}, evening))).toEqual(
      starts(agenda(plan, [], {}, evening)),
    );
  });
});
