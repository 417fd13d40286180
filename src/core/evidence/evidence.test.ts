import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { chanceFrom } from '../random/index.ts';
import { write } from '../say/index.ts';
import { readingFor } from '../trial/example.ts';
import { settingsOf, type TrialRecord } from '../trial/index.ts';
import {
  answer,
  comparedIn,
  comparedSentence,
  contradictionsIn,
  disagreementsIn,
  type EvidenceRow,
  evidenceIn,
  failsOf,
  foresee,
  knownIn,
  madeWith,
  poolOf,
  unsureOf,
} from './index.ts';

const thing = (id: string, kind = '') => ({ id, name: id, kind });
const used = (part: Partial<Record<keyof EvidenceRow['used'], string>> = {}): EvidenceRow['used'] => ({
  method: thing(part.method ?? 'wet-rub'),
  medium: thing(part.medium ?? 'matte'),
  donor: thing(part.donor ?? 'copy'),
  substrate: thing(part.substrate ?? 'birch'),
  preparation: thing(part.preparation ?? 'none'),
  printer: thing(part.printer ?? 'laser'),
});
const row = (part: Partial<EvidenceRow>): EvidenceRow => ({
  ...{ trial: 't1', code: 'CX', at: '2026-03-01T10:00:00.000Z', used: used(), dry: 0, coat: -1, rounds: 2 },
  ...{ varied: [], landed: [], failed: 0, judged: 0, kept: 0 },
  ...part,
});
const about = (mean: number, count: number, seed: number, sd = 4): number[] => {
  const chance = chanceFrom(seed);
  return Array.from({ length: count }, () => Math.min(99.5, Math.max(1, mean + sd * chance.normal())));
};
const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;

/** Twenty trials on different things: matte is good everywhere, gel is poor everywhere; on slate gel often fails. */
const many: EvidenceRow[] = Array.from({ length: 20 }, (_, t) => {
  const shared = { trial: `t${t}`, code: `T${t}` };
  const substrate = ['birch', 'slate', 'tile', 'cotton'][t % 4];
  const printer = t % 2 ? 'laser' : 'inkjet';
  return [
    row({ ...shared, used: used({ medium: 'matte', substrate, printer }), landed: about(90, 3, t) }),
    row({
      ...shared,
      used: used({ medium: 'gel', substrate, printer }),
      landed: about(62, substrate === 'slate' ? 1 : 3, 50 + t),
      failed: substrate === 'slate' ? 2 : 0,
    }),
  ];
}).flat();
const pool = poolOf(many);
const ask = (part: Parameters<typeof used>[0]) => ({ used: used(part), dry: 0, coat: -1, rounds: 2 });

describe('partial pooling', () => {
  it('expects of what was often made what came of it', () => {
    const matte = answer(pool, ask({ medium: 'matte' }))!;
    const gel = answer(pool, ask({ medium: 'gel' }))!;
    expect(matte.lands.value).toBeGreaterThan(84);
    expect(matte.lands.value).toBeLessThan(96);
    expect(gel.lands.value).toBeGreaterThan(52);
    expect(gel.lands.value).toBeLessThan(72);
    expect(matte.works.value).toBeGreaterThan(0.9);
    const exactly = answer(pool, ask({ medium: 'matte', printer: 'inkjet' }))!.exactly;
    expect(exactly).toEqual({ patches: 15, trials: 5 });
  });

  it('does not take what one day, hand and air did for what things do', () => {
    const apart = (means: readonly number[]) =>
      poolOf(means.map((m, t) => row({ trial: `d${t}`, code: `D${t}`, landed: about(m, 4, t, 1) })));
    const alike = answer(apart([80, 81, 79]), ask({}))!.lands;
    const differ = answer(apart([60, 80, 93]), ask({}))!.lands;
    expect(differ.lo).toBeLessThan(60);
    expect(differ.hi).toBeGreaterThan(90);
    expect(differ.hi - differ.lo).toBeGreaterThan(1.3 * (alike.hi - alike.lo));
    // One trial alone says little of the next, though its own patches hardly differ.
    const once = answer(apart([80]), ask({}))!.lands;
    expect(once.hi - once.lo).toBeGreaterThan(25);
  });

  it('knows a pair that fails though neither does elsewhere', () => {
    const slate = answer(pool, ask({ medium: 'gel', substrate: 'slate' }))!.works.value;
    expect(slate).toBeLessThan(0.6);
    expect(answer(pool, ask({ medium: 'gel', substrate: 'birch' }))!.works.value).toBeGreaterThan(
      slate + 0.2,
    );
    expect(answer(pool, ask({ medium: 'matte', substrate: 'slate' }))!.works.value).toBeGreaterThan(
      slate + 0.2,
    );
  });

  it('is less sure of what it never saw, and says so', () => {
    const seen = answer(pool, ask({ medium: 'matte' }))!;
    const never = answer(pool, ask({ medium: 'lavender oil', donor: 'film' }))!;
    const width = (r: { lo: number; hi: number }) => r.hi - r.lo;
    expect(width(never.lands)).toBeGreaterThan(1.5 * width(seen.lands));
    expect(never.exactly.patches).toBe(0);
    expect(never.things.find(t => t.thing === 'medium')!.count.patches).toBe(0);
    expect(never.teaches.things.some(t => t === 'medium' || t === 'donor')).toBe(true);
    expect(never.teaches.words).toMatch(
      /^Least is known of [a-z ]+: a trial that compares (it|them) with [a-z ]+ would teach most\.$/,
    );
    expect(write(never.sentence)).toMatch(/^It works about .* Where it works, \d+ % lands/);
    for (const r of [never.works, never.lands]) expect(r.lo).toBeLessThanOrEqual(r.value);
  });

  it('draws what was seen once towards what is usual', () => {
    const lucky = poolOf([...many, row({ trial: 'x', used: used({ medium: 'new' }), landed: [99] })]);
    const found = mean(foresee(lucky, ask({ medium: 'new' })).lands);
    expect(found).toBeLessThan(98.2);
    expect(found).toBeGreaterThan(mean(foresee(lucky, ask({ medium: 'gel' })).lands));
    const often = poolOf([
      ...many,
      ...Array.from({ length: 8 }, (_, i) =>
        row({ trial: `x${i}`, used: used({ medium: 'new' }), landed: [99, 98.5, 99] }),
      ),
    ]);
    expect(mean(foresee(often, ask({ medium: 'new' })).lands)).toBeGreaterThan(found);
  });

  it('takes what a whole trial differs by for the trial’s, where others say so', () => {
    const bad = many.map(r => (r.trial === 't0' ? { ...r, landed: r.landed.map(v => v - 45) } : r));
    const found = answer(poolOf(bad), ask({ medium: 'matte' }))!.lands.value;
    expect(found).toBeGreaterThan(78);
  });

  it('learns how a number moves it: too short a time is too short', () => {
    const rows = Array.from({ length: 12 }, (_, t) =>
      [-1.2, 0, 0.6].map((dry, i) =>
        row({ trial: `t${t}`, dry, landed: about([45, 88, 90][i], 2, 7 * t + i) }),
      ),
    ).flat();
    const dried = poolOf(rows);
    const at = (dry: number) => mean(foresee(dried, { ...ask({}), dry }, false).lands);
    expect(at(0)).toBeGreaterThan(at(-1.2) + 25);
    expect(Math.abs(at(0.6) - at(0))).toBeLessThan(10);
  });

  it('is the same again, nothing without evidence, and stays on its scale', () => {
    expect(foresee(poolOf(many), ask({}))).toEqual(foresee(pool, ask({})));
    expect(answer(poolOf([]), ask({}))).toBeUndefined();
    const failedOnly = poolOf([row({ failed: 4 })]);
    expect(answer(failedOnly, ask({}))!.works.value).toBeLessThan(0.6);
    expect(write(answer(failedOnly, ask({}))!.sentence)).not.toMatch(/lands/);
    for (const v of foresee(pool, ask({ medium: '?' })).lands) expect(v >= 0 && v <= 100).toBe(true);
    const unsure = unsureOf(pool, ask({ medium: 'lavender oil' }));
    expect(unsure.get('medium')).toBeGreaterThan(unsure.get('substrate')!);
  });
});

describe('what is best over all trials', () => {
  it('names the better medium and how sure, and nothing of what was never compared', () => {
    const found = comparedIn(pool, 'wet-rub', 'medium')!;
    expect(found.levels[0].id).toBe('matte');
    expect(found.levels[0].best).toBeGreaterThan(0.95);
    expect(found.levels.reduce((s, l) => s + l.best, 0)).toBeCloseTo(1, 6);
    expect(write(comparedSentence(found))).toMatch(
      /^matte rather than gel: 9\d % sure, from 120 patches in 20 trials\.$/,
    );
    expect(comparedIn(pool, 'wet-rub', 'donor')).toBeUndefined();
    expect(comparedIn(pool, 'tape-lift', 'medium')).toBeUndefined();
  });

  it('takes all else as it was most often: what is best there is best', () => {
    const on = (substrate: string, a: number, b: number, count: number, from: number) =>
      Array.from({ length: 6 }, (_, t) => [
        row({
          trial: `${substrate}${t}`,
          used: used({ medium: 'a', substrate }),
          landed: about(a, count, from + t),
        }),
        row({
          trial: `${substrate}${t}`,
          used: used({ medium: 'b', substrate }),
          landed: about(b, count, from + 9 + t),
        }),
      ]).flat();
    const both = poolOf([...on('slate', 45, 90, 2, 1), ...on('birch', 90, 45, 5, 40)]);
    expect(comparedIn(both, 'wet-rub', 'medium')!.levels[0].id).toBe('a');
    const turned = poolOf([...on('slate', 45, 90, 5, 1), ...on('birch', 90, 45, 2, 40)]);
    expect(comparedIn(turned, 'wet-rub', 'medium')!.levels[0].id).toBe('b');
  });

  it('is not settled where nothing differs', () => {
    const same = many.map(r => ({
      ...r,
      failed: 0,
      landed: about(80, 3, r.trial.length * 31 + r.landed.length),
    }));
    const found = comparedIn(poolOf(same), 'wet-rub', 'medium')!;
    expect(found.levels[0].best).toBeLessThan(0.9);
    expect(
      write(comparedSentence({ ...found, levels: found.levels.map(l => ({ ...l, best: 0.5 })) })),
    ).toMatch(/^Not settled: .* \(50 %\), .* \(50 %\), from/);
  });

  it('answers the disagreements it has trials for, and says “not yet” of the rest', () => {
    const varied = (level: string) => [{ key: 'dryHours', level, name: `${level} h` }];
    const rows = Array.from({ length: 6 }, (_, t) => [
      row({ trial: `w${t}`, varied: varied('4'), dry: -0.8, landed: about(48, 2, t) }),
      row({ trial: `w${t}`, varied: varied('24'), dry: 0.8, landed: about(90, 2, 20 + t) }),
    ]).flat();
    const all = disagreementsIn(poolOf([...many, ...rows]));
    expect(all).toHaveLength(12);
    const said = (id: string) => all.find(d => d.id === id)!;
    expect(write(said('how-long-dry').sentence)).toMatch(/^24 h rather than 4 h: \d\d % sure/);
    expect(said('any-glue')).toMatchObject({ known: true });
    expect(said('fresh-copies')).toMatchObject({
      known: false,
      sentence: 'Not yet: no trial of yours compares it.',
    });
  });

  it('are answered only by trials that varied what they are about, not by what came along, and with what failed', () => {
    const level = (key: string, id: string) => ({ key, level: id, name: id });
    const trim = ['trimmed', 'margin'].flatMap(t =>
      ['0.3', '0.8'].map(c =>
        row({
          trial: 'tr',
          varied: [level('trim', t), level('coatMm', c)],
          landed: about(t === 'trimmed' ? 90 : 60, 3, Number(c) * 10),
        }),
      ),
    );
    const all = disagreementsIn(poolOf(trim));
    const said = (id: string) => all.find(d => d.id === id)!;
    expect(write(said('trim-or-margin').sentence)).toMatch(/^trimmed rather than margin: \d\d % sure/);
    expect(write(said('trim-or-margin').sentence)).not.toContain('0.8');
    expect(said('flawless-or-broken').known).toBe(false);
    // Two trials that each used one paper compare none.
    const apart = ['copy', 'heavy'].map((donor, i) =>
      row({ trial: `p${i}`, used: used({ donor }), landed: about(90 - 30 * i, 4, i) }),
    );
    expect(disagreementsIn(poolOf(apart)).find(d => d.id === 'which-paper')!.known).toBe(false);
    // A wait of which all failed is a wait that was tried.
    const waits = [
      row({ trial: 'w', varied: [level('dryHours', '5 h')], dry: -0.8, failed: 5 }),
      row({ trial: 'w', varied: [level('dryHours', '8 h')], dry: -0.4, failed: 5 }),
      row({ trial: 'w', varied: [level('dryHours', '24 h')], dry: 0.8, landed: about(88, 5, 3) }),
    ];
    const dry = disagreementsIn(poolOf(waits)).find(d => d.id === 'how-long-dry')!;
    expect(write(dry.sentence)).toMatch(
      /^24 h rather than (5 h or 8 h|8 h or 5 h): \d\d % sure, from 15 patches in 1 trial\.$/,
    );
  });
});

describe('what is known', () => {
  it('is counted: kept where it was judged, worked where not; the most solid first', () => {
    const found = knownIn([
      row({ landed: [80, 90], judged: 3, kept: 2, failed: 1 }),
      row({ trial: 't2', code: 'KN', at: '2026-05-01T10:00:00.000Z', landed: [70], judged: 3, kept: 3 }),
      row({ used: used({ substrate: 'slate' }), landed: [50, 60], failed: 1 }),
    ]);
    expect(found.map(k => k.sentence)).toEqual([
      'matte on birch, wet-rub: 5 of 6 kept in 2 trials.',
      'matte on slate, wet-rub: 2 of 3 worked in 1 trial.',
    ]);
    // What failed landed nothing: (80 + 90 + 70 + 0) / 4.
    expect(found[0]).toMatchObject({ landed: 60, trials: ['CX', 'KN'], last: '2026-05-01T10:00:00.000Z' });
  });

  it('puts what more trials tell before what more patches tell, and else goes by its words', () => {
    const on = (substrate: string, trial: string, landed: number[]) =>
      row({ trial, code: trial, used: used({ substrate }), landed, judged: 0, kept: 0, failed: 0 });
    const found = knownIn([
      on('tile', 't1', [80]),
      on('cork', 't1', [80]),
      on('slate', 't1', [70, 70, 70, 70, 70]),
      on('linen', 't1', [60]),
      on('linen', 't2', [60]),
    ]);
    expect(found.map(k => k.substrate)).toEqual(['linen', 'slate', 'cork', 'tile']);
    expect(found.map(k => [k.trials.length, k.tried, k.worked])).toEqual([
      [2, 2, 2],
      [1, 5, 5],
      [1, 1, 1],
      [1, 1, 1],
    ]);
  });

  it('shows trials that say the opposite of each other, and only those that say it clearly', () => {
    const pair = (trial: string, a: number, b: number) => [
      row({ trial, code: trial, used: used({ medium: 'a' }), landed: [a, a + 2, a - 2] }),
      row({ trial, code: trial, used: used({ medium: 'b' }), landed: [b, b + 2, b - 2] }),
    ];
    expect(contradictionsIn([...pair('CX', 90, 60), ...pair('KN', 60, 90)])).toEqual([
      {
        trials: ['CX', 'KN'],
        sentence:
          'Trial CX says a rather than b, trial KN the opposite: something else differed between them.',
      },
    ]);
    // A single patch of a side says nothing; two do.
    const few = (count: number) => (r: EvidenceRow) => ({ ...r, landed: r.landed.slice(0, count) });
    const clear = [...pair('CX', 95, 30), ...pair('KN', 30, 95)];
    expect(contradictionsIn(clear.map(few(2)))).toHaveLength(1);
    expect(contradictionsIn(clear.map((r, i) => few(i % 2 ? 1 : 3)(r)))).toEqual([]);
    expect(contradictionsIn(clear.map((r, i) => few(i % 2 ? 3 : 1)(r)))).toEqual([]);
    // Failing tells too: four of four against none of four, the other way round in the other trial.
    const fails = (trial: string, a: number, b: number) =>
      [a, b].map((failed, i) =>
        row({
          ...{ trial, code: trial, used: used({ medium: i ? 'b' : 'a' }), failed },
          landed: about(80, 6 - failed, i),
        }),
      );
    expect(contradictionsIn([...fails('CX', 0, 6), ...fails('KN', 6, 0)])).toHaveLength(1);
    expect(contradictionsIn([...fails('CX', 0, 2), ...fails('KN', 2, 0)])).toEqual([]);
    // Each trial speaks for itself, whatever a third says.
    expect(contradictionsIn([...clear, ...pair('MW', 60, 61)])).toHaveLength(1);
    // In whatever order they stand in a trial; of what only some of its patches varied too.
    expect(contradictionsIn([...pair('CX', 90, 60).reverse(), ...pair('KN', 60, 90)])).toHaveLength(1);
    const water = (trial: string, damp: number, soak: number) => [
      ...[['damp', damp] as const, ['soak', soak] as const].map(([level, v]) =>
        row({
          trial,
          code: trial,
          varied: [{ key: 'water', level, name: level }],
          landed: [v, v + 2, v - 2],
        }),
      ),
      row({ trial, code: trial, landed: [50, 52] }),
    ];
    expect(write(contradictionsIn([...water('CX', 90, 60), ...water('KN', 60, 90)])[0].sentence)).toMatch(
      /^Trial CX says damp rather than soak, trial KN the opposite/,
    );
    expect(contradictionsIn([...pair('CX', 90, 60), ...pair('KN', 80, 60)])).toEqual([]);
    expect(contradictionsIn([...pair('CX', 90, 60), ...pair('KN', 79, 80)])).toEqual([]);
  });

  it('finds none in 19 of 20 workshops in which nothing differs, though some patches fail and much is compared', () => {
    const told = Array.from({ length: 300 }, (_, w) => {
      const c = chanceFrom(700 + w);
      const rows = Array.from({ length: 8 }, (_, t) =>
        ['a', 'b', 'c'].flatMap(medium =>
          ['birch', 'slate'].map(substrate => {
            const failed = Array.from({ length: 4 }, () => c.next() < 0.12).filter(Boolean).length;
            const landed = Array.from(
              { length: 4 - failed },
              () => 100 / (1 + Math.exp(-2.4 - 0.55 * c.normal())),
            );
            return row({ trial: `t${t}`, code: `T${t}`, used: used({ medium, substrate }), landed, failed });
          }),
        ),
      ).flat();
      return contradictionsIn(rows).length > 0;
    }).filter(Boolean).length;
    expect(told / 300).toBeLessThanOrEqual(0.05);
  });

  it('how often a method fails starts at one in twenty', () => {
    expect(failsOf([], 'wet-rub')).toBeCloseTo(0.05, 9);
    expect(failsOf([row({ landed: [1, 2, 3], failed: 17 })], 'wet-rub')).toBeCloseTo(18 / 40, 9);
    expect(failsOf([row({ failed: 17 })], 'tape-lift')).toBeCloseTo(0.05, 9);
  });
});

describe('what a trial adds', () => {
  const plan = examplePlan();
  const read = plan.patches.flatMap((p, i) =>
    readingFor(p.code, i, { landed: i === 0 ? 10 : 70 + p.levels[0], veil: 0.1 }),
  );

  it('is a row for each way its patches were made, with what came of them', () => {
    const at = '2026-06-05T10:00:00.000Z';
    const verdict: TrialRecord = {
      ...{ id: 'v', at, patch: plan.patches[1].code, kind: 'verdict' },
      ...{ verdict: 'keep', grade: 5, symptoms: [] },
    };
    const rows = evidenceIn(plan, [...read, verdict]);
    expect(rows).toHaveLength(6);
    expect(rows.reduce((s, r) => s + r.landed.length, 0)).toBe(11);
    expect(rows.reduce((s, r) => s + r.failed, 0)).toBe(1);
    expect(rows.reduce((s, r) => s + r.kept, 0)).toBe(1);
    // What failed was judged by that.
    expect(rows.reduce((s, r) => s + r.judged, 0)).toBe(2);
    expect(rows.every(r => r.varied.every(v => v.key === 'dryHours'))).toBe(true);
    expect(rows[0].at).toBe(at);
    expect(evidenceIn(plan, [])).toEqual([]);
  });

  it('a wait counts by the share of what the coat needs in that air', () => {
    const s = settingsOf(plan, plan.patches[0]);
    const dry = (hours: number, times = 1) => madeWith({ ...s, dryHours: hours }, times).dry;
    expect(dry(20) - dry(10)).toBeCloseTo(Math.log(2), 9);
    expect(dry(20, 2)).toBeCloseTo(dry(10), 9);
    // A thicker coat needs longer.
    expect(madeWith({ ...s, coatMm: 1.2 }, 1).dry).toBeLessThan(madeWith(s, 1).dry);
    expect(dry(0.0001)).toBe(-2);
    const film = {
      ...s,
      method: { ...s.method, steps: s.method.steps.filter(x => x.wait.kind !== 'planned') },
    };
    expect(madeWith(film, 1).dry).toBe(0);
  });
});
