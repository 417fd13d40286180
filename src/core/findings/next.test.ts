import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { planCost } from '../design/index.ts';
import { chanceFrom } from '../random/index.ts';
import { thick, write } from '../say/index.ts';
import { chainOf } from '../steps/index.ts';
import { readingFor } from '../trial/example.ts';
import { airOf, settingsOf, type TrialRecord } from '../trial/index.ts';
import { type Asked, analyse, type Seen } from './analyse.ts';
import { checksOf } from './checks.ts';
import { choicesOf, findingsCsv, findingsOf, nextSentence, takenBy, tradeOffsIn, whatNext } from './index.ts';
import { KINDS, kindOf } from './kinds/index.ts';
import { pairSentence } from './words.ts';

const plan = examplePlan();
const asked = (patches: readonly Seen[], worlds = 120): Asked => ({
  factors: [
    { name: 'Medium', levels: ['a', 'b', 'c'] },
    { name: 'Wait', levels: ['4', '20'] },
  ],
  pairs: [],
  random: ['board'],
  patches,
  better: 'high',
  bounds: [0, 100],
  draws: 1200,
  worlds,
});
const patches = (of: (levels: readonly number[]) => number, sd: number, seed = 3): Seen[] => {
  const chance = chanceFrom(seed);
  return plan.patches.map(p => ({
    code: p.code,
    levels: p.levels,
    failed: false,
    shares: [`${p.repeat}`],
    value: of(p.levels) + sd * chance.normal(),
  }));
};

describe('what next', () => {
  it('is nothing where all is settled', () => {
    const clear = analyse(asked(patches(([m, w]) => 40 + 20 * m + 15 * w, 1)));
    expect(whatNext(clear)).toBeUndefined();
  });

  it('asks for what is open and not for what is beaten, and says how likely it settles it', () => {
    // The wait and the third medium are plain; between the first two it is close.
    const close = analyse(asked(patches(([m, w]) => [74, 68, 30][m] - 30 * (1 - w), 5, 3)));
    const heard: number[] = [];
    const next = whatNext(close, share => heard.push(share));
    expect(next).toBeDefined();
    expect(next!.combinations.length).toBeGreaterThanOrEqual(2);
    expect(next!.combinations.every(([m, w]) => m < 2 && w === 1)).toBe(true);
    expect(next!.settles).toBeGreaterThan(0.15);
    expect(next!.settles).toBeLessThanOrEqual(1);
    expect(Math.max(...heard)).toBeLessThanOrEqual(1);
    expect(heard.length).toBeGreaterThan(10);
    expect(whatNext(close)).toEqual(next);
  });

  it('promises more of more patches where the scatter is small', () => {
    const sure = (sd: number) =>
      [3, 5, 7].reduce((sum, seed) => {
        const found = whatNext(analyse(asked(patches(([m]) => [74, 68, 40][m], sd, seed))));
        return sum + (found ? found.settles / found.combinations.length : 0);
      }, 0);
    expect(sure(1)).toBeGreaterThan(2 * sure(9));
  });

  it('proposes the fewest that most likely settle it; where none does, what gains most a patch', () => {
    const found = [
      [12, 6, 7],
      [14, 6, 7],
      [12, 6, 5],
    ].map(([gap, sd, seed]) =>
      whatNext(analyse(asked(patches(([m, w]) => [74, 74 - gap, 30][m] - 30 * (1 - w), sd, seed)))),
    );
    const sizes = found.map(n => n?.combinations.length ?? 0);
    const settles = found.map(n => n?.settles ?? 0);
    // None is likely to be settled by sixteen: then the one that gains most a patch, which is a small one.
    expect(settles.filter(s => s > 0).length).toBeGreaterThanOrEqual(2);
    for (const [i, s] of settles.entries())
      if (s > 0) {
        expect(s).toBeGreaterThanOrEqual(0.15);
        expect(sizes[i]).toBeLessThan(s >= 0.6 ? 17 : 9);
      }
  });

  it('sends nobody to work for what sixteen patches hardly settle', () => {
    const open = analyse(asked(patches(([m, w]) => [74, 72, 70][m] - 3 * (1 - w), 9, 5)));
    expect(choicesOf(open).some(c => c.sure < 0.6)).toBe(true);
    expect(whatNext(open)).toBeUndefined();
  });

  it('can be stopped', () => {
    const close = analyse(asked(patches(([m]) => [74, 71, 40][m], 4, 5)));
    expect(() =>
      whatNext(close, () => {
        throw new Error('stopped');
      }),
    ).toThrow('stopped');
  });

  it('is said in words', () => {
    const combinations = [[0], [1], [0], [1]];
    expect(write(nextSentence({ combinations, settles: 0.6, gain: 1 }))).toBe(
      'Four more patches would most likely settle it.',
    );
    expect(write(nextSentence({ combinations, settles: 0.42, gain: 1 }))).toBe(
      'Four more patches settle it in about 4 of 10 cases.',
    );
  });
});

describe('worlds of a decision', () => {
  it('are draws of it: their mean is the value, and what is played scatters about it as patches do', () => {
    const sd = 4;
    const { decision } = analyse({ ...asked(patches(([m]) => [80, 60, 50][m], sd)), bounds: undefined });
    const { worlds, options } = decision!;
    expect(worlds).toHaveLength(120);
    const mean = (of: (i: number) => number) => worlds.reduce((s, _, i) => s + of(i), 0) / worlds.length;
    expect(Math.abs(mean(i => worlds[i].worth[0]) - options[0].value)).toBeLessThan(1.5);
    const chance = chanceFrom(5);
    // Two that work, in the same world.
    const played = worlds
      .flatMap(w =>
        Array.from(
          { length: 20 },
          () => (w.play(0, [0], chance) ?? Number.NaN) - (w.play(0, [0], chance) ?? Number.NaN),
        ),
      )
      .filter(Number.isFinite);
    const spread = Math.sqrt(played.reduce((s, v) => s + v * v, 0) / played.length / 2);
    expect(spread).toBeGreaterThan(0.6 * sd);
    expect(spread).toBeLessThan(2 * sd);
    const shifted = Array.from({ length: 50 }, () => worlds[0].play(0, [50], chance)).find(
      v => v !== undefined,
    );
    expect(Math.abs(shifted! - worlds[0].worth[0])).toBeGreaterThan(25);
    expect(worlds[0].shifts(chance)).toHaveLength(1);
  });

  it('fail as often as it failed', () => {
    const seen = patches(() => 80, 2).map(p =>
      p.levels[0] === 0 && p.shares[0] === '1' ? { ...p, failed: true } : p,
    );
    const { decision, options } = analyse(asked(seen));
    const chance = chanceFrom(1);
    const at = (m: number) => options.findIndex(o => o[0] === m);
    const share = (m: number) =>
      decision!.worlds
        .flatMap(w => Array.from({ length: 10 }, () => w.play(at(m), [0], chance)))
        .filter(v => v === undefined).length /
      (10 * decision!.worlds.length);
    expect(share(0)).toBeGreaterThan(share(2) + 0.1);
    expect(share(2)).toBeLessThan(0.35);
  });
});

describe('trade-offs', () => {
  const world = (worth: number[]) => ({ worth, play: () => 0, shifts: () => [] });
  const options = plan.patches
    .map(p => p.levels)
    .filter((l, i, all) => all.findIndex(o => o.join() === l.join()) === i);
  const said = options.map(() => ({ best: 0, loss: 0, value: 50, lo: 40, hi: 60 }));
  const air = airOf(plan, []);

  it('leave the best and what is better in anything else, and beat what is worse in all', () => {
    // The longer wait takes more hours; of one wait nothing but the medium's price differs.
    const worth = options.map(([m, w]) => 50 + 10 * w - m);
    const found = tradeOffsIn(plan, options, { options: said, worlds: [world(worth)] }, air);
    const taken = found.map(t => t.hours);
    for (const [i, t] of found.entries()) {
      const beaten = found.some(
        (o, j) =>
          j !== i &&
          worth[j] >= worth[i] &&
          o.cost <= t.cost * 1.005 &&
          o.minutes <= t.minutes * 1.005 &&
          o.hours <= t.hours * 1.005 &&
          (worth[j] > worth[i] || o.cost < t.cost * 0.995 || o.hours < t.hours * 0.995),
      );
      expect(t.front).toBe(beaten ? 0 : 1);
    }
    expect(Math.max(...taken) - Math.min(...taken)).toBeCloseTo(16, 1);
    expect(found.some(t => t.front === 1)).toBe(true);
  });

  it('are as unsure as the draws: half the worlds, half the chance', () => {
    const up = options.map((_, i) => (i === 0 ? 99 : 50));
    const down = options.map((_, i) => (i === 0 ? 1 : 50));
    const found = tradeOffsIn(plan, options, { options: said, worlds: [world(up), world(down)] }, air);
    expect(found[0].front).toBeGreaterThanOrEqual(0.5);
    expect(found.every(t => t.front >= 0 && t.front <= 1)).toBe(true);
  });

  it('count what is as good and cheaper, though it takes as long, as better; and what is only as good as no better', () => {
    // Of one wait the mediums differ in price alone.
    const worlds = [world(options.map(() => 50))];
    const found = tradeOffsIn(plan, options, { options: said, worlds }, air);
    const short = Math.min(...found.map(t => t.hours));
    const [cheap, dear] = found.filter(t => t.hours === short).sort((p, q) => p.cost - q.cost);
    expect(cheap.cost).toBeLessThan(dear.cost * 0.99);
    expect([cheap.hours, cheap.minutes]).toEqual([dear.hours, dear.minutes]);
    expect([cheap.front, dear.front]).toEqual([1, 0]);
  });

  it('cost what the whole plan costs, the ground left out', () => {
    const all = plan.patches.reduce((sum, p) => sum + takenBy(plan, p, air).cost, 0);
    const bill = planCost(plan);
    const ground = bill.lines.find(l => l.what === plan.used.substrates[0].name)!.price;
    const sheets = bill.lines.filter(l => /sheet/.test(write(l.amount))).reduce((s, l) => s + l.price, 0);
    // A plan pays for whole sheets, a patch for its share of one.
    expect(all).toBeLessThan(bill.total - ground + 1e-9);
    expect(all).toBeGreaterThan(bill.total - ground - sheets);
    // Marking is the trial's, not the method's.
    const [first] = plan.patches;
    const chain = chainOf(plan, first).filter(l => l.step.does !== 'mark');
    const stated = chain.reduce((sum, l) => sum + l.step.handsOnMin, 0);
    expect(takenBy(plan, first, air).minutes).toBeGreaterThanOrEqual(stated - 0.01);
    expect(takenBy({ ...plan, wear: ['tape'] }, first, air).minutes).toBeCloseTo(
      takenBy(plan, first, air).minutes,
      9,
    );
    const marked = {
      ...plan.used.method,
      steps: plan.used.method.steps.map(s => (s.does === 'mark' ? { ...s, handsOnMin: 90 } : s)),
    };
    expect(takenBy({ ...plan, used: { ...plan.used, method: marked } }, first, air).minutes).toBeLessThan(60);
    const thick = takenBy({ ...plan, usual: { ...plan.usual, coatMm: 0.8 } }, plan.patches[0], air);
    expect(thick.cost).toBeGreaterThan(takenBy(plan, plan.patches[0], air).cost);
    expect(settingsOf(plan, plan.patches[0]).coatMm).toBeLessThan(0.8);
  });
});

describe('what a trial can be judged by', () => {
  const at = '2026-03-02T10:00:00.000Z';
  const verdict = (patch: string, grade: 1 | 3 | 5, what: 'keep' | 'fix' | 'scrap'): TrialRecord => ({
    id: `v${patch}`,
    at,
    patch,
    kind: 'verdict',
    verdict: what,
    grade,
    symptoms: [],
  });
  const [a, b, c] = plan.patches.map(p => p.code);

  it('grades are classes: only their order counts', () => {
    const values = kindOf('grade').values(plan, [
      verdict(a, 1, 'fix'),
      verdict(b, 3, 'fix'),
      verdict(c, 5, 'keep'),
    ]);
    expect([a, b, c].map(p => values.get(p))).toEqual([
      expect.closeTo(10 / 6, 6),
      expect.closeTo(5, 6),
      expect.closeTo(50 / 6, 6),
    ]);
    const ties = kindOf('grade').values(plan, [verdict(a, 3, 'fix'), verdict(b, 3, 'fix')]);
    expect([...ties.values()]).toEqual([5, 5]);
  });

  it('what is kept counts against what is not; what was spoilt by a slip does not count', () => {
    const slip: TrialRecord = { id: 's', at, patch: c, kind: 'spoilt', why: 'dropped', slip: true };
    const records = [verdict(a, 5, 'keep'), verdict(b, 3, 'fix'), verdict(c, 5, 'keep'), slip];
    const keep = kindOf('keep');
    expect([...keep.values(plan, records).keys()]).toEqual([a]);
    const failed = keep.failed!(plan, records);
    expect([a, b, c].map(failed)).toEqual([false, true, false]);
  });

  it('minutes of work are those of the hands; being called away is not work', () => {
    const [first] = [...plan.patches].sort((x, y) => x.order - y.order);
    const steps = plan.used.method.steps;
    let time = Date.parse('2026-03-02T08:00:00.000Z');
    const stamp = (min: number) => {
      time += min * 60_000;
      return new Date(time).toISOString();
    };
    const records = (away: number): TrialRecord[] => {
      time = Date.parse('2026-03-02T08:00:00.000Z');
      const chain = steps.filter(s => !s.onlyIfPrepared && !s.onlyIfFinished);
      return chain.flatMap((s, i) => {
        const begun = stamp(30);
        return [
          {
            id: `r${i}`,
            at: stamp(i === 1 ? 2 + away : 2),
            patch: first.code,
            kind: 'step',
            step: s.id,
            round: 1,
            begun,
          },
        ] as TrialRecord[];
      });
    };
    const minutes = (of: TrialRecord[]) => kindOf('minutes').values(plan, of).get(first.code);
    const quiet = minutes(records(0));
    if (quiet !== undefined) {
      expect(quiet).toBeGreaterThan(4);
      expect(minutes(records(120))).toBeLessThan(quiet + 10);
    }
    expect(kindOf('minutes').values(plan, []).size).toBe(0);
  });

  it('each says what it is once, and better in one way', () => {
    expect(new Set(KINDS.map(k => k.id)).size).toBe(KINDS.length);
    expect(kindOf('minutes').goal).toBe('less');
    expect(kindOf('landed').goal).toBe('more');
    expect(kindOf('veil').goal).toBe('less');
  });

  it('come into the findings: grades and keeping beside what was read', () => {
    const read = plan.patches.flatMap((p, i) =>
      readingFor(p.code, i, { landed: 60 + 10 * p.levels[0], veil: 0.1 }),
    );
    const judged = plan.patches.map(p =>
      verdict(p.code, ([1, 3, 5] as const)[p.levels[0]], p.levels[0] === 2 ? 'keep' : 'fix'),
    );
    const { effects } = findingsOf(plan, [...read, ...judged]);
    const grade = effects.find(e => e.measure === 'grade' && e.factor === 0)!;
    expect(grade.best).toBe(2);
    const keep = effects.find(e => e.measure === 'keep' && e.factor === 0)!;
    expect(keep.best).toBe(2);
    expect(write(keep.sentence)).toMatch(
      /0 of 4, .* 0 of 4, .* 4 of 4\. .* most likely is kept more often: 9\d % sure\.$/,
    );
    expect(keep.levels.every(l => l.lo >= 0 && l.hi <= 10)).toBe(true);
    const landed = effects.find(e => e.measure === 'landed' && e.factor === 0)!;
    expect(landed.dots).toHaveLength(12);
    expect(landed.dots.find(d => d.code === a)?.value).toBe(60 + 10 * plan.patches[0].levels[0]);
  });
});

describe('controls', () => {
  it('tell boards apart, and nothing of the factors', () => {
    const base = patches(([m]) => [80, 70, 60][m], 1.5, 4).map((p, i) => ({ ...p, shares: [`${i % 2}`] }));
    const seen = base.map(p => ({ ...p, value: p.value! + (p.shares[0] === '1' ? 12 : 0) }));
    const controls: Seen[] = ['0', '1'].flatMap(board =>
      [1, 2, 3].map(i => ({
        code: `K${board}${i}`,
        levels: [],
        failed: false,
        shares: [board],
        value: 50 + (board === '1' ? 12 : 0) + 0.3 * i,
      })),
    );
    const plain = analyse(asked(seen));
    const helped = analyse(asked([...seen, ...controls]));
    expect(helped.measured).toBe(plain.measured);
    expect(helped.missing).toBe(0);
    for (const [i, d] of helped.differences.entries())
      expect(d.value).toBeCloseTo(plain.differences[i].value, 0);
    expect(helped.options).toEqual(plain.options);
    const board = (a: ReturnType<typeof analyse>) => a.fit!.variances[0]!;
    expect(board(helped)).toBeGreaterThan(30);
    // A control that is far off moves no mean of a level.
    const off = analyse(asked([...seen, ...controls.map(c => ({ ...c, value: c.value! - 40 }))]));
    for (const [i, m] of off.means.entries())
      expect(m.estimate.value).toBeCloseTo(helped.means[i].estimate.value, 6);
    expect(off.decision!.options[0].value).toBeGreaterThan(60);
  });
});

describe('the figures as a table', () => {
  it('have a row for each level, and run no formula', () => {
    const level = { level: 0, name: '=1+1', mean: 1, lo: 0, hi: 2, n: 3 };
    const text = findingsCsv({
      effects: [
        {
          measure: 'landed',
          factor: 0,
          name: 'Medium',
          levels: [level, { ...level, level: 1, name: thick(0.4) }],
          dots: [],
          sentence: '',
          best: 0,
          sure: 0.9,
        },
      ],
    });
    expect(text.split('\n')[0]).toBe('measure,factor,level,mean,lo,hi,patches,best,sure');
    expect(text.split('\n')[2]).toBe('landed,Medium,0.4 mm,1,0,2,3,,');
    expect(text.split('\n')[1]).toBe(`landed,Medium,"'=1+1",1,0,2,3,likeliest,0.9`);
  });
});

describe('two factors together', () => {
  const both = (joint: number): Asked => ({
    ...asked(
      [6, 7, 8].flatMap(seed =>
        patches(([m, w]) => 70 + 6 * m + 5 * w + (m === 2 && w === 1 ? joint : 0), 2, seed).map(p => ({
          ...p,
          code: `${p.code}${seed}`,
        })),
      ),
    ),
    bounds: undefined,
    pairs: [[0, 1]],
  });
  const words = (v: number) => `${v.toFixed(0)} points`;
  it('are said to go together where they do, with how', () => {
    const found = analyse(both(-30));
    expect(found.decision!.together[0]).toBeGreaterThan(0.97);
    const said = pairSentence(found, 0, words)!;
    expect(write(said)).toMatch(/^Medium works differently with another wait: /);
    expect(write(said)).toMatch(
      /[abc] has \d+ points (more|less) than c at 4, and \d+ points (more|less) than c at 20\.$/,
    );
  });

  it('are not where they only add up', () => {
    const found = analyse(both(0));
    expect(found.decision!.together[0]).toBeLessThan(0.9);
    expect(write(pairSentence(found, 0, words) ?? '')).toMatch(
      /no sign that one works differently|is not settled\.$/,
    );
  });

  it('are missed by a model of sums, which says so', () => {
    const sums = (of: Asked) =>
      checksOf(analyse({ ...of, pairs: [] }), (f, l) => `${f} ${l}`)
        .map(x => write(x))
        .join(' ');
    expect(sums(both(-30))).toMatch(/does not simply add up from its levels/);
    expect(sums(both(0))).not.toMatch(/add up/);
    const known = checksOf(analyse(both(-30)), (f, l) => `${f} ${l}`)
      .map(x => write(x))
      .join(' ');
    expect(known).not.toMatch(/add up|follow from/);
  });

  it('come into the findings of a trial that asked for it', () => {
    const made = examplePlan({ interactions: [[0, 1]], repeats: 3 });
    const read = made.patches.flatMap((p, i) =>
      readingFor(p.code, i, {
        landed: 60 + 8 * p.levels[0] + (p.levels[0] === 2 && p.levels[1] === 1 ? -25 : 0) + (i % 3),
        veil: 0.1,
      }),
    );
    const { pairs, leftOut } = findingsOf(made, read);
    expect(pairs).toHaveLength(1);
    expect(pairs[0].cells).toHaveLength(6);
    expect(pairs[0].names).toEqual(['Medium', 'Cure time']);
    expect(write(pairs[0].sentence)).toMatch(/^Medium works differently with another cure time: /);
    expect(leftOut).toEqual([]);
  });
});

describe('patches that are left out', () => {
  it('say why', () => {
    const at = '2026-06-02T10:00:00.000Z';
    const read = plan.patches
      .slice(0, 9)
      .flatMap((p, i) => readingFor(p.code, i, { landed: i === 3 ? 5 : 80, veil: 0.1 }))
      .map((r, i) => (i === 0 && r.kind === 'photo' ? { ...r, stage: 'wet' as const } : r));
    const code = (i: number) => plan.patches[i].code;
    const spoilt = (i: number, slip?: boolean): TrialRecord => ({
      ...{ id: `s${i}`, at, patch: code(i), kind: 'spoilt', why: 'torn' },
      ...(slip === undefined ? {} : { slip }),
    });
    const { leftOut } = findingsOf(plan, [...read, spoilt(1, true), spoilt(2), spoilt(4, false)]);
    const why = new Map(leftOut.map(l => [l.patch, l.why]));
    expect([0, 1, 2, 3, 4, 9, 5].map(i => why.get(code(i)))).toEqual([
      'only a wet photo',
      'left out: a slip',
      'left out: written off',
      'failed',
      'failed',
      'no reading',
      undefined,
    ]);
  });
});
