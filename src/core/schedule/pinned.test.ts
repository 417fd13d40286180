import { describe, expect, it } from 'vitest';
import { EXAMPLE_REQUEST, examplePlan } from '../design/example.ts';
import { progressOf } from '../progress/index.ts';
import { planOf } from '../questions/example.ts';
import { chanceFrom } from '../random/index.ts';
import { write } from '../say/index.ts';
import { waitAfter } from '../steps/index.ts';
import type { TrialPlan, TrialRecord } from '../trial/index.ts';
import {
  agendaOf,
  agendaOfAll,
  forecast,
  nextAction,
  sittingsFrom,
  USUAL_WORKING,
  type Working,
  workloadOf,
} from './index.ts';
import { type Job, lowerBound, type Op, solve, type Workload, whyNot } from './solver/index.ts';
import { HELD } from './workload-of.ts';

/**
 * Days of work as they came out when they were last looked at, action for action. The other tests say what must hold of
 * any schedule; these say that nothing changed unnoticed. After a change that is meant: look at the difference, then `-u`.
 */
const MIN = 60_000;
// By the clock of the place, so that evenings are evenings everywhere.
const T0 = new Date(2026, 4, 4, 17, 0).getTime();
const mins = (ms: number) => Math.round((ms - T0) / 600) / 100;
const EVENINGS: Working['sittings'] = [{ days: [0, 1, 2, 3, 4, 5, 6], from: '17:00', to: '21:30' }];

/** The first so many actions of a plan, done one after the other as the plain rule has them. */
function begun(plan: TrialPlan, actions: number): { records: TrialRecord[]; now: number } {
  const records: TrialRecord[] = [];
  let now = T0;
  for (let i = 0; i < actions; i++) {
    const action = nextAction(progressOf(plan, records), now);
    if (action.kind !== 'do') break;
    now = Math.max(now, action.status.window?.aim ?? now) + action.link.step.handsOnMin * MIN;
    records.push({
      id: `r${i}`,
      at: new Date(now).toISOString(),
      kind: 'step',
      patch: action.patch.code,
      step: action.link.step.id,
      round: action.link.round,
    });
  }
  return { records, now };
}

const agendaLines = (
  trials: readonly { plan: TrialPlan; records: readonly TrialRecord[] }[],
  working: Partial<Working>,
  now: number,
  rounds: number,
): string => {
  const found = agendaOfAll(trials, { ...USUAL_WORKING, ...working }, now, { rounds, seed: 3 });
  if (!found.ok) return `${write(found.problem.say)} ${write(found.problem.wayOut ?? '')}`;
  const { tasks, extras, ends, handsMin, couldBeBetter, late } = found.value;
  return [
    `ends ${mins(ends)} hands ${handsMin.toFixed(2)} could be better ${couldBeBetter.toFixed(5)} late ${late}`,
    ...tasks.map(
      t =>
        `${mins(t.from)}–${mins(t.to)} ${t.patch} ${t.link.step.id} ${t.link.round} ${t.who}${t.window ? ` [${[t.window.opens, t.window.aim, t.window.closes].map(mins)}]` : ''}`,
    ),
    ...extras.map(e => `${mins(e.from)}–${mins(e.to)} ${e.what}`),
  ].join('\n');
};

const DAYS: readonly (readonly [string, () => string])[] = [
  ['rub', () => agendaLines([{ plan: examplePlan(), records: [] }], {}, T0, 4)],
  [
    'rub-free',
    () => agendaLines([{ plan: examplePlan(), records: [] }], { order: 'free', washMin: 4 }, T0, 12),
  ],
  ['rub-evenings', () => agendaLines([{ plan: examplePlan(), records: [] }], { sittings: EVENINGS }, T0, 2)],
  ['rub-helper', () => agendaLines([{ plan: examplePlan(), records: [] }], { helpers: 1 }, T0, 2)],
  [
    'rub-begun',
    () => {
      const plan = examplePlan();
      const { records, now } = begun(plan, 21);
      return agendaLines([{ plan, records }], {}, now, 2);
    },
  ],
  [
    'rub-late',
    () => {
      const plan = examplePlan();
      const { records, now } = begun(plan, 14);
      return agendaLines([{ plan, records }], {}, now + 26 * 60 * MIN, 2);
    },
  ],
  ['pull', () => agendaLines([{ plan: planOf('film-pull'), records: [] }], {}, T0, 3)],
  ['wax', () => agendaLines([{ plan: planOf('wax-bed'), records: [] }], {}, T0, 4)],
  [
    'two trials',
    () =>
      agendaLines(
        [
          { plan: planOf('tape-lift'), records: [] },
          { plan: planOf('gel-plate', 0.7), records: [] },
        ],
        {},
        T0,
        2,
      ),
  ],
  [
    'clear in two parts',
    () =>
      agendaLines(
        [
          {
            plan: examplePlan({
              usual: { ...EXAMPLE_REQUEST.usual, finish: 'poured-clear', rounds: 1 },
              factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
            }),
            records: [],
          },
        ],
        {},
        T0,
        4,
      ),
  ],
  [
    'no time',
    () =>
      agendaLines(
        [{ plan: examplePlan(), records: [] }],
        { sittings: [{ days: [1], from: '17:00', to: '17:01' }] },
        T0,
        2,
      ),
  ],
];

/** The same with tools, actions that are one for several pieces, many brushes and places taken from the start. */
function withTools(seed: number): Workload {
  const work = madeUp(seed);
  const chance = chanceFrom(seed + 1000);
  const shared = { id: 'all', hands: 6, together: 'piece', gap: { min: 5, aim: 9, max: 60 } };
  return {
    ...work,
    jobs: work.jobs.map((job, j) => ({
      ...job,
      ops: [
        ...(seed % 3 === 0 && j < 3 ? [{ ...shared, place: 'oven' }] : []),
        ...job.ops.map(op => ({
          ...op,
          ...(chance.next() < 0.4 ? { tool: 'iron' } : {}),
          ...(chance.next() < 0.5 ? { brush: chance.pick(['a', 'b', 'c', 'd']) } : {}),
        })),
      ],
    })),
    hands: work.hands.map((h, i) => ({ ...h, ...(seed % 2 && i === 0 ? { brush: 'c' } : {}) })),
    places: { oven: 3, iron: 1 },
    wash: 2 + (seed % 3),
    ...(seed % 4 === 1 ? { lying: { j1: 'oven' } } : {}),
  };
}

/** Small made-up work of every kind. */
function madeUp(seed: number): Workload {
  const chance = chanceFrom(seed);
  const jobs = Array.from({ length: 3 + (seed % 4) }, (_, j): Job => {
    const ops = Array.from({ length: chance.whole(1, 4) }, (__, k): Op => {
      const min = chance.whole(0, 60);
      const aim = min + chance.whole(0, 40);
      return {
        id: `o${k}`,
        hands: chance.whole(2, 15),
        ...(chance.next() < 0.7
          ? { gap: { min, aim, max: aim + chance.whole(5, 200), ...(seed % 3 ? {} : { until: aim + 4 }) } }
          : {}),
        ...(chance.next() < 0.6 ? { brush: chance.pick(['a', 'b']) } : {}),
        ...(chance.next() < 0.25 ? { place: 'oven' } : {}),
        ...(chance.next() < 0.2 ? { batch: { key: 'mix', make: 3, lasts: 40, serves: 2 } } : {}),
      };
    });
    return {
      id: `j${j}`,
      ops,
      ...(seed % 5 === 1 && j === 0 ? { first: { from: 5, aim: 20, to: 80 } } : {}),
      ...(seed % 2 && j ? { turn: { queue: 'q', number: j, begins: 0 } } : {}),
    };
  });
  const there =
    seed % 4 === 3
      ? ([
          [0, 90],
          [200, 320],
          [500, 4000],
        ] as const)
      : ([[0, 1e6]] as const);
  return {
    jobs,
    hands: Array.from({ length: 1 + (seed % 7 === 0 ? 1 : 0) }, (_, h) => ({
      name: `h${h}`,
      there,
      ...(seed % 6 === 2 ? { brush: 'b' } : {}),
    })),
    now: seed % 3 === 0 ? 4 : 0,
    places: { oven: 1 + (seed % 2) },
    wash: seed % 2 ? 3 : 0,
    ...(seed % 9 === 4 ? { lying: { j0: 'oven' } } : {}),
    ...(seed % 8 === 5
      ? { made: [{ batch: { key: 'mix', make: 3, lasts: 40, serves: 2 }, ready: 0, until: 30, used: 1 }] }
      : {}),
  };
}

describe('days of work, action for action', () => {
  it.each(DAYS)('%s', async (name, make) => {
    await expect(make()).toMatchFileSnapshot(`pinned/${name.replace(/ /g, '-')}.txt`);
  });

  it.each([
    ['made-up', madeUp, 32],
    ['with-tools', withTools, 16],
  ] as const)('of %s work of every kind', async (name, make, count) => {
    const lines = Array.from({ length: count }, (_, seed) => {
      const work = make(seed);
      const found = solve(work, { rounds: 10, seed: seed + 1, prove: 3 });
      const bound = lowerBound(work).toFixed(3);
      if (!found.ok)
        return `${seed} ${found.problem.code} ${found.problem.job} ${JSON.stringify(whyNot(work, found.problem.job ?? ''))} ${bound}`;
      const { starts, busy, end, off, cost, washes } = found.value;
      return `${seed} ${JSON.stringify(starts)} end ${end} off ${off} cost ${cost} washes ${washes} bound ${bound} ${busy.map(items => items.map(b => `${b.from}-${b.to}${b.what[0]}`).join(' ')).join(' | ')}`;
    });
    await expect(lines.join('\n')).toMatchFileSnapshot(`pinned/${name}.txt`);
  });

  it('of what is left of a trial', async () => {
    const plan = examplePlan({ usual: { ...EXAMPLE_REQUEST.usual, preparation: 'white-coat' } });
    const lines = [0, 9, 15, 24, 40].flatMap(count => {
      const { records, now } = begun(plan, count);
      const { problem, late } = workloadOf(
        plan,
        records,
        { ...USUAL_WORKING, sittings: EVENINGS, rackHolds: 4 },
        now,
        { hereUntil: now + 60 * MIN },
      );
      return [
        `${count} late ${late} places ${JSON.stringify(problem.places)} wash ${problem.wash} lying ${JSON.stringify(problem.lying)}`,
        JSON.stringify(
          problem.jobs.map(j => ({ ...j, first: j.first && [j.first.from, j.first.aim].map(mins) })),
        ),
        JSON.stringify(problem.hands.map(h => h.there.slice(0, 3).map(span => span.map(mins)))),
      ];
    });
    await expect(lines.join('\n')).toMatchFileSnapshot('pinned/left.txt');
  });

  it('of a piece that is in the hands now, and of one that lies in the press', () => {
    const plan = planOf('wax-bed');
    const { records, now } = begun(plan, 400);
    // Every moment at which something was just done: what is held is held until its best moment.
    const held = records.flatMap(r => {
      const at = Date.parse(r.at) + 1000;
      const upTo = records.filter(other => Date.parse(other.at) <= at);
      const { problem } = workloadOf(plan, upTo, USUAL_WORKING, at, { hereUntil: at + 1000 });
      return problem.jobs.flatMap(j =>
        j.ops[0]?.id === HELD
          ? [{ hands: j.ops[0].hands, gap: j.ops[0].gap, step: r.kind === 'step' && r.step, patch: r.patch }]
          : [],
      );
    });
    expect(now).toBeGreaterThan(T0);
    expect(held.length).toBeGreaterThan(0);
    for (const { hands, gap, step, patch } of held) {
      const line = progressOf(plan, []).lines.find(l => l.patch.code === patch)!;
      const link = line.chain.find(l => l.step.id === step)!;
      expect(link.step.holds).toBeTruthy();
      const wait = waitAfter(link.step, line.settings, plan.air, line.plannedMin)!;
      expect(hands).toBe(Math.round(wait.aim * MIN) - 1000);
      expect(gap).toEqual({ min: 0, aim: 0, max: Math.round((wait.max - wait.aim) * MIN) });
    }
  });

  it('forecasts the end and the work of a day, and of what is left of it', () => {
    const plan = examplePlan();
    const whole = forecast(plan, [], T0);
    const { records, now } = begun(plan, 21);
    const left = forecast(plan, records, now);
    const work = records.reduce(
      (sum, r) =>
        sum +
        (r.kind === 'step'
          ? (progressOf(plan, []).lines[0].chain.find(l => l.step.id === r.step)?.step.handsOnMin ?? 0)
          : 0),
      0,
    );
    expect([mins(whole.endsAt), whole.handsOnMin, mins(left.endsAt), left.handsOnMin]).toMatchInlineSnapshot(`
      [
        1354.05,
        166.8,
        1354.05,
        151,
      ]
    `);
    expect(whole.handsOnMin - left.handsOnMin).toBeCloseTo(work, 6);
    const all = progressOf(plan, []).lines.flatMap(l =>
      l.chain.map(({ step, round }, i): TrialRecord => {
        const id = `${l.patch.code} ${i}`;
        const at = new Date(T0 + i).toISOString();
        return { id, at, kind: 'step', patch: l.patch.code, step: step.id, round };
      }),
    );
    const over = T0 + 5 * MIN;
    expect(forecast(plan, all, over)).toEqual({ endsAt: over, handsOnMin: 0 });
  });

  it('of sittings', async () => {
    const lines = [
      [{ days: [1, 3], from: '22:00', to: '02:00' }],
      [
        { days: [0, 6], from: '09:00', to: '12:00' },
        { days: [6], from: '11:30', to: '15:00' },
      ],
      [{ days: [1], from: '08:00', to: '08:00' }],
    ].map(s =>
      JSON.stringify(
        sittingsFrom(s, T0)
          .slice(0, 6)
          .map(span => span.map(mins)),
      ),
    );
    await expect(lines.join('\n')).toMatchFileSnapshot('pinned/sittings.txt');
  });

  it('says of one trial what it says of it among others', () => {
    const plan = examplePlan();
    const alone = agendaOf(plan, [], USUAL_WORKING, T0);
    const among = agendaOfAll([{ plan, records: [] }], USUAL_WORKING, T0);
    expect(alone).toEqual(among);
  });
});
