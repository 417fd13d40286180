import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { METHODS } from '../methods/index.ts';
import { skippedOf } from '../progress/index.ts';
import { planned, planOf } from '../questions/example.ts';
import { howLong } from '../questions/index.ts';
import { SITTINGS, USUAL_WORKING } from '../schedule/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { asAdvised, asDue, asForeseen, CAREFUL, CLUMSY, workedThrough } from '../simulator/maker.ts';
import { chainOf } from '../steps/index.ts';
import { settingsOf, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import { type AtHand, begunAt, deskOf, dueFirst, guarded, nameOf, Play, paceOf, whatNext } from './index.ts';
import { soonestFor } from './rules.ts';

const MIN = 60_000;
const HOUR = 60 * MIN;
const T0 = Date.parse('2026-05-02T09:00:00.000Z');
const plan = examplePlan();
const other = examplePlan({ name: 'The other' }, 2);
const [first, second] = [...plan.patches].sort((a, b) => a.order - b.order);
let count = 0;
const done = (patch: string, step: string, at: number, part: object = {}): TrialRecord =>
  ({
    ...{ id: `d${++count}`, at: new Date(at).toISOString(), kind: 'step', patch, step, round: 1 },
    ...part,
  }) as TrialRecord;
const marked = (of: TrialPlan) => of.patches.map(p => done(p.code, 'mark', T0));
const next = (records: readonly TrialRecord[], now: number, options: object = {}) =>
  whatNext([{ plan, records }], USUAL_WORKING, now, options);
const asks = (found: ReturnType<typeof whatNext>) =>
  found.action.kind === 'finished'
    ? 'finished'
    : `${found.action.kind} ${found.action.patch.code} ${found.action.link.step.id}`;

describe('what the bench asks for', () => {
  it('is what is wet, at once', () => {
    const found = next([...marked(plan), done(first.code, 'coat', T0 + MIN)], T0 + 1.2 * MIN);
    expect(asks(found)).toBe(`do ${first.code} place`);
    expect(found.next).toHaveLength(2);
    expect(found.next[0].from).toBeGreaterThan(T0 + 1.2 * MIN);
  });

  it('says of what is late that it is late, not that its window is short', () => {
    const wet = [...marked(plan), done(first.code, 'coat', T0 + MIN)];
    const why = (now: number) => {
      const { action } = next(wet, now);
      return action.kind === 'do' ? action.why : action.kind;
    };
    expect(why(T0 + 1.2 * MIN)).toBe('Its window is short.');
    expect(why(T0 + 3 * HOUR)).toBe('It is late: its window closed. Do it at once or give it up.');
  });

  it('says that the brush has to be washed first, where it was in another medium not long ago', () => {
    const upTo = [...plan.patches].sort((a, b) => a.order - b.order);
    const i = upTo.findIndex(p => p.levels[0] !== first.levels[0]);
    const begun = upTo
      .slice(0, i)
      .flatMap((p, k) => [
        done(p.code, 'coat', T0 + (1 + 2 * k) * MIN),
        done(p.code, 'place', T0 + (2 + 2 * k) * MIN),
      ]);
    const records = [...marked(plan), ...begun];
    const now = T0 + (2 + 2 * i) * MIN;
    const hand: AtHand = { trial: plan.id, patch: upTo[i].code, step: 'coat', round: 1, since: now };
    expect(next(records, now, { atHand: hand }).first).toEqual(['wash']);
    // Hours later it was washed.
    const later = { ...hand, since: now + 2 * HOUR };
    expect(next(records, now + 2 * HOUR, { atHand: later }).first).toEqual([]);
  });

  it('goes on after a step that was left out, and keeps that it was', () => {
    const skip = done(first.code, 'coat', T0 + MIN, { skipped: true });
    const records = [...marked(plan), skip];
    expect(asks(next(records, T0 + 1.5 * MIN))).toBe(`do ${first.code} place`);
    expect(skippedOf(records)).toEqual([{ patch: first.code, step: 'coat', round: 1 }]);
    const undo: TrialRecord = { id: 'u', at: skip.at, kind: 'undo', patch: first.code, of: skip.id };
    expect(skippedOf([...records, undo])).toEqual([]);
  });

  it('shows what waits meanwhile, and is finished when everything is', () => {
    const placed = [...marked(plan), done(first.code, 'coat', T0), done(first.code, 'place', T0 + MIN)];
    const found = next(placed, T0 + 2 * MIN);
    expect(found.waiting[0]).toMatchObject({ patch: first.code });
    expect(found.waiting[0].link.step.id).toBe('wet');
    expect(asks(found)).toBe(`do ${second.code} coat`);
    const all = plan.patches.flatMap(p =>
      chainOf(plan, p).map((l, i) => done(p.code, l.step.id, T0 + i * HOUR, { round: l.round })),
    );
    expect(next(all, T0 + 99 * HOUR)).toMatchObject({ action: { kind: 'finished' }, trial: undefined });
  });

  it('waits where nobody is there, and not while the maker stays', () => {
    const sittings = [{ days: [0, 1, 2, 3, 4, 5, 6], from: '19:00', to: '22:00' }];
    const noon = new Date(2026, 4, 5, 12, 0).getTime();
    const found = whatNext([{ plan, records: [] }], { ...USUAL_WORKING, sittings }, noon);
    expect(found.action).toMatchObject({ kind: 'wait', until: new Date(2026, 4, 5, 19, 0).getTime() });
    const here = { hereUntil: noon + HOUR };
    expect(whatNext([{ plan, records: [] }], { ...USUAL_WORKING, sittings }, noon, here).action.kind).toBe(
      'do',
    );
  });
});

describe('what the hands are at', () => {
  const records = [...marked(plan), done(first.code, 'coat', T0), done(first.code, 'place', T0 + MIN)];
  const hand: AtHand = { trial: plan.id, patch: second.code, step: 'coat', round: 1, since: T0 + 2 * MIN };

  it('stays on the screen, whatever comes due meanwhile', () => {
    const wetted = T0 + MIN;
    for (const minutes of [2, 5, 20, 31]) {
      const found = next(records, wetted + minutes * MIN, { atHand: hand });
      expect(asks(found)).toBe(`do ${second.code} coat`);
      expect(found.isAtHand).toBe(true);
    }
  });

  it('gives way when it is done, or the maker went away for more than half an hour', () => {
    const coated = [...records, done(second.code, 'coat', T0 + 4 * MIN)];
    expect(asks(next(coated, T0 + 4 * MIN, { atHand: hand }))).toBe(`do ${second.code} place`);
    expect(next(coated, T0 + 4 * MIN, { atHand: hand }).isAtHand).toBe(false);
    expect(next(records, hand.since + 30 * MIN, { atHand: hand }).isAtHand).toBe(true);
    expect(next(records, hand.since + 30 * MIN + 1, { atHand: hand }).isAtHand).toBe(false);
    expect(next(records, T0 + 3 * MIN, { atHand: { ...hand, trial: 'gone' } }).isAtHand).toBe(false);
  });

  it('is passed over for what was put aside, until nothing else is left', () => {
    const name = nameOf(hand);
    const found = next(records, T0 + 2 * MIN, { aside: new Set([name]) });
    expect(asks(found)).not.toBe(`do ${second.code} coat`);
    const all = new Set(
      plan.patches.flatMap(p => ['coat', 'wet'].map(step => nameOf({ ...hand, patch: p.code, step }))),
    );
    expect(next(records, T0 + 2 * MIN, { aside: all }).action.kind).not.toBe('finished');
  });

  it('is one thing over all trials, with the trial named', () => {
    const trials = [
      { plan: other, records: marked(other) },
      { plan, records: [...marked(plan), done(first.code, 'coat', T0 + MIN)] },
    ];
    const found = whatNext(trials, USUAL_WORKING, T0 + 1.2 * MIN);
    expect(found.trial?.id).toBe(plan.id);
    expect(asks(found)).toBe(`do ${first.code} place`);
    const held = whatNext(trials, USUAL_WORKING, T0 + 1.2 * MIN, {
      atHand: { trial: other.id, patch: other.patches[3].code, step: 'coat', round: 1, since: T0 + MIN },
    });
    expect(held.trial?.id).toBe(other.id);
    expect(held.waiting[0]).toMatchObject({ patch: first.code, trial: plan });
  });
});

describe('hands that stay with a piece', () => {
  const wax = planOf('wax-bed');
  const [piece, spare] = [...wax.patches].sort((a, b) => a.order - b.order);
  const minutes = settingsOf(wax, piece).dryHours * 60;
  const records = [...marked(wax), ...['coat', 'place', 'burnish'].map(step => done(piece.code, step, T0))];
  const ask = (now: number, options: object = {}) =>
    whatNext([{ plan: wax, records }], USUAL_WORKING, now, options);

  it('do nothing else until its best moment, though there is enough to begin', () => {
    for (const share of [0.05, 0.5, 0.95]) {
      const { action } = ask(T0 + share * minutes * MIN);
      expect(action.kind === 'finished' ? '' : action.patch.code).toBe(piece.code);
      expect(action.kind === 'finished' ? '' : action.link.step.id).toBe('wet');
    }
  });

  it('are free for others once the maker puts it aside', () => {
    const aside = new Set([nameOf({ trial: wax.id, patch: piece.code, step: 'wet', round: 1 })]);
    const { action } = ask(T0 + 0.5 * minutes * MIN, { aside });
    expect(action.kind === 'finished' ? '' : action.patch.code).toBe(spare.code);
  });

  it('count as work when it is planned ahead', () => {
    const desk = deskOf([{ plan: wax, records: marked(wax) }], USUAL_WORKING, T0);
    const line = desk.lines.find(l => l.code === piece.code)!;
    const burnish = line.links.find(l => l.link.step.id === 'burnish')!;
    expect(burnish.hands).toBeCloseTo((0.5 + minutes) * MIN, 3);
    expect(burnish.gap).toMatchObject({ min: 0, aim: 0 });
    expect(desk.held).toBeUndefined();
    const now = deskOf([{ plan: wax, records }], USUAL_WORKING, T0 + MIN);
    expect(now.lines[now.held!].code).toBe(piece.code);
    expect(deskOf([{ plan: wax, records }], USUAL_WORKING, T0 + minutes * MIN).held).toBeUndefined();
  });
});

describe('a press', () => {
  it('keeps when hands began: as the instruction came up, or at the best moment they stood by for', () => {
    expect(begunAt(1000, undefined, 5000)).toBe(1000);
    expect(begunAt(1000, 3000, 5000)).toBe(3000);
    expect(begunAt(4000, 3000, 5000)).toBe(4000);
    expect(begunAt(1000, 8000, 5000)).toBe(5000);
  });
});

describe('a maker’s own pace', () => {
  const taking = (times: number, patches = plan.patches): TrialRecord[] =>
    patches.map((p, i) => {
      const coat = chainOf(plan, p).find(l => l.step.id === 'coat')!.step.handsOnMin * MIN;
      const begun = T0 + i * HOUR;
      return done(p.code, 'coat', begun + coat * times, { begun: new Date(begun).toISOString() });
    });

  it('is what is stated where nothing is known, and follows what was taken', () => {
    expect(paceOf([])).toMatchObject({ mean: 0, sd: 0.35, steps: 0 });
    const slow = paceOf([{ plan, records: taking(2) }]);
    // Twelve steps twice as long, against six of what is stated.
    expect(slow.mean).toBeCloseTo((12 / 18) * Math.log(2), 9);
    expect(slow.steps).toBe(12);
    const steady = paceOf([{ plan, records: taking(1) }]);
    expect(steady.mean).toBeCloseTo(0, 9);
    expect(steady.sd).toBeCloseTo(Math.sqrt((6 * 0.35 ** 2) / 18), 9);
  });

  it('passes over what was pressed through afterwards, and takes what was left lying for an interruption', () => {
    expect(paceOf([{ plan, records: taking(0.1) }]).steps).toBe(0);
    const [long] = taking(30, plan.patches.slice(0, 1));
    const mixed = paceOf([{ plan, records: [...taking(1, plan.patches.slice(1)), long] }]);
    expect(mixed.mean).toBeCloseTo(0, 2);
    expect(mixed.away).toBeCloseTo((0.08 * 25 + 1) / (25 + 12), 9);
    expect(mixed.awayMs).toBeGreaterThan(180_000);
  });
});

describe('the rules', () => {
  const playOf = (records: readonly TrialRecord[], now: number) =>
    Play.of(deskOf([{ plan, records }], USUAL_WORKING, now), [
      [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY],
    ]);

  it('begin nothing whose hands could go past the end of a window, and then wait for that', () => {
    const coatMs = 60_000 * chainOf(plan, second).find(l => l.step.id === 'coat')!.step.handsOnMin;
    const records = [...marked(plan), done(first.code, 'coat', T0), done(first.code, 'place', T0 + MIN)];
    const play = playOf(records, T0 + MIN);
    const line = play.desk.lines.findIndex(l => l.code === first.code);
    // The window of the first is made to end while the coat of the second would be going on.
    play.opens[line] = play.now;
    play.aim[line] = play.now + coatMs / 4;
    play.closes[line] = play.now + coatMs / 2 + 21 * MIN;
    expect(play.desk.lines[dueFirst(play)!.line].code).toBe(second.code);
    expect(play.desk.lines[guarded(play, 1)!.line].code).toBe(second.code);
    const far = guarded(play, 40)!;
    expect(far).toEqual({ line, start: play.now + coatMs / 4 });
  });

  it('count a window as lost only when hands come after its end', () => {
    const records = [...marked(plan), done(first.code, 'coat', T0)];
    const play = playOf(records, T0 + MIN);
    const line = play.desk.lines.findIndex(l => l.code === first.code);
    const intime = play.copy();
    intime.make({ line, start: intime.closes[line] });
    expect(intime.lost).toEqual([]);
    play.make({ line, start: play.closes[line] + 1 });
    expect(play.lost).toEqual([line]);
    expect(play.now).toBe(play.desk.due[line]!.closes + 1 + play.desk.lines[line].links[0].hands);
  });
});

describe('a clumsy maker', () => {
  it('misses no more windows by the app’s advice than by the plain rule, and hardly more than with foresight', () => {
    let [plain, advised, foreseen] = [0, 0, 0];
    for (const id of ['film-pull', 'hot-body', 'tape-lift'])
      for (let seed = 0; seed < 2; seed++) {
        const worked = (adviser: Parameters<typeof workedThrough>[1]) =>
          workedThrough([planOf(id)], adviser, CLUMSY, { seed, start: T0 }).missed;
        plain += worked(asDue(USUAL_WORKING));
        advised += worked(asAdvised(USUAL_WORKING));
        foreseen += worked(asForeseen(USUAL_WORKING, CLUMSY, seed));
      }
    expect(plain).toBeGreaterThan(0);
    expect(advised).toBeLessThanOrEqual(plain);
    expect(advised).toBeLessThanOrEqual(Math.ceil(1.15 * foreseen));
  });

  it('works two trials through as one, none of their actions at the same time', () => {
    const worked = workedThrough(
      [planOf('tape-lift'), planOf('gel-plate')],
      asAdvised(USUAL_WORKING),
      CAREFUL,
      {
        seed: 1,
        start: T0,
      },
    );
    const spans = worked.trials
      .flatMap(t => t.records)
      .flatMap(r => (r.kind === 'step' ? [[Date.parse(r.begun!), Date.parse(r.at)]] : []))
      .sort((a, b) => a[0] - b[0] || a[1] - b[1]);
    for (let i = 1; i < spans.length; i++) expect(spans[i][0]).toBeGreaterThanOrEqual(spans[i - 1][1] - 1);
    expect(worked.missed).toBe(0);
  });
});

describe('which of two trials is begun', () => {
  it('is the one whose bench was set up last, whatever order they are named in', () => {
    const air = (at: number): TrialRecord => ({
      ...{ id: `a${++count}`, at: new Date(at).toISOString(), kind: 'air', patch: null },
      air: plan.air,
    });
    const [early, late] = [
      { plan, records: [air(T0)] },
      { plan: other, records: [air(T0 + MIN)] },
    ];
    for (const trials of [
      [early, late],
      [late, early],
    ])
      expect(whatNext(trials, USUAL_WORKING, T0 + 2 * MIN).trial?.id).toBe(other.id);
  });

  it('is the one where something was done last: taking something back is being there, a note is not', () => {
    const air = (at: number): TrialRecord => ({
      ...{ id: `e${++count}`, at: new Date(at).toISOString(), kind: 'air', patch: null },
      air: plan.air,
    });
    const mark = done(first.code, 'mark', T0);
    const noted = (kind: object): TrialRecord =>
      ({ id: `e${++count}`, at: new Date(T0 + 2 * MIN).toISOString(), patch: first.code, ...kind }) as never;
    const chosen = (last: TrialRecord) =>
      whatNext(
        [
          { plan, records: [air(T0), mark, last] },
          { plan: other, records: [air(T0 + MIN)] },
        ],
        USUAL_WORKING,
        T0 + 3 * MIN,
      ).trial?.id;
    expect(chosen(noted({ kind: 'undo', of: mark.id }))).toBe(plan.id);
    expect(chosen(noted({ kind: 'note', text: 'pale' }))).toBe(other.id);
  });
});

describe('another trial that dries', () => {
  it('keeps nobody from beginning a new one: nobody stands by for hours while there is something to begin', () => {
    const drying = plan.patches.flatMap((p, i) => [
      done(p.code, 'coat', T0 + i * 4 * MIN),
      done(p.code, 'place', T0 + i * 4 * MIN + MIN),
    ]);
    const trials = [
      { plan, records: [...marked(plan), ...drying] },
      { plan: other, records: [] },
    ];
    const found = whatNext(trials, USUAL_WORKING, T0 + 2 * HOUR);
    expect(found.trial?.id).toBe(other.id);
    expect(asks(found)).toMatch(/^do .* mark$/);
  });
});

describe('new work in the evening', () => {
  const working = { ...USUAL_WORKING, sittings: SITTINGS.find(s => s.id === 'days')!.sittings };
  const evening = new Date(2026, 4, 2, 19, 30).getTime();
  const ladder = planned(howLong(METHODS.find(m => m.id === 'wet-rub')!, STARTER_SHELF));

  it('that would be due at night is left for the morning, and says why', () => {
    const half = { ...ladder, patches: ladder.patches.filter(p => p.levels[0] === 2) };
    const fresh = [{ plan: half, records: marked(half) }];
    const at = (hour: number) => whatNext(fresh, working, new Date(2026, 4, 2, hour).getTime()).action;
    const waits = Array.from({ length: 14 }, (_, i) => at(8 + i)).filter(a => a.kind === 'wait');
    expect(waits.length).toBeGreaterThan(0);
    expect(waits.length).toBeLessThan(14);
    for (const { until, why } of waits) {
      expect(why).toContain('when you are not there');
      const then = whatNext(fresh, working, until).action;
      expect(then.kind).toBe('do');
      expect(whatNext(fresh, working, until - 1000).action.kind).toBe('wait');
    }
    // Who is there whenever something is due begins at once.
    expect(whatNext(fresh, USUAL_WORKING, waits[0].until - 1000).action.kind).toBe('do');
  });

  it('that is put aside is not the end of it: what else there is waits for its hour', () => {
    const half = { ...ladder, patches: ladder.patches.filter(p => p.levels[0] === 1) };
    const fresh = [{ plan: half, records: marked(half) }];
    const first = whatNext(fresh, working, evening);
    if (first.action.kind !== 'wait') throw new Error('it does not wait');
    const { patch, link } = first.action;
    const aside = new Set([
      nameOf({ trial: half.id, patch: patch.code, step: link.step.id, round: link.round }),
    ]);
    const { action } = whatNext(fresh, working, evening, { aside });
    expect(action).toMatchObject({ kind: 'wait', until: first.action.until });
    expect(action.kind === 'wait' && action.patch.code).not.toBe(patch.code);
  });

  it('loses no window of a ladder to the night, and nothing is done at night', () => {
    const { missed, trials } = workedThrough([ladder], asAdvised(working), CAREFUL, {
      seed: 1,
      start: evening,
    });
    expect(missed).toBe(0);
    const hours = trials[0].records.map(r => new Date(r.at).getHours());
    expect(hours.filter(h => h < 8 || h > 22)).toEqual([]);
  });

  it.each([
    ['fits at once', 0, { run: 1, min: 2, max: 4, needs: 1 }, 0],
    ['fits just before the end', 0, { run: 1, min: 8, max: 9, needs: 1 }, 0],
    ['waits for the next span', 0, { run: 1, min: 10, max: 11, needs: 1 }, 9],
    ['waits until its window reaches into the next span', 0, { run: 1, min: 10, max: 14, needs: 1 }, 6],
    ['needs time in it', 0, { run: 1, min: 10, max: 14, needs: 2 }, 7],
    ['is begun at once where it never fits', 0, { run: 1, min: 500, max: 501, needs: 1 }, 0],
  ])('%s', (_, from, wait, at) => {
    expect(
      soonestFor(
        [
          [0, 10],
          [20, 30],
        ],
        from,
        wait,
      ),
    ).toBe(at);
  });
});
