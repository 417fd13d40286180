import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { kindOf } from '../findings/kinds/index.ts';
import { chanceFrom } from '../random/index.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import { intraclass, weightedKappa } from './agree.ts';
import {
  agreement,
  blindOrder,
  disagreements,
  gradedAlike,
  isBlind,
  mostPairs,
  nextPair,
  type Pair,
  pairsIn,
  pairsLeft,
  rankingOf,
  soFar,
} from './index.ts';

const times = (a: string, b: string, wins: number, losses = 0, ties = 0): Pair[] => [
  ...Array.from({ length: wins }, (): Pair => ({ a, b, better: 'a', judge: 'x' })),
  ...Array.from({ length: losses }, (): Pair => ({ a, b, better: 'b', judge: 'x' })),
  ...Array.from({ length: ties }, (): Pair => ({ a, b, better: 'neither', judge: 'x' })),
];
const worthOf = (pairs: readonly Pair[], codes = ['a', 'b', 'c', 'd']) => {
  const { order, ties } = rankingOf(codes, pairs, { prior: 0 });
  return { worths: codes.map(c => order.find(o => o.code === c)!.worth), ties };
};

describe('an order by pairs', () => {
  it('has R’s worths: glm without ties', () => {
    const wins = 'ab5 ac4 ba2 ca1 ad6 dc2 bc4 cd5 db1 bd6 cb3 da1'.split(' ');
    const pairs = wins.flatMap(w => times(w[0], w[1], Number(w[2])));
    const R = [1.0567131308, 0.2531703295, -0.1662099729, -1.1436734874];
    worthOf(pairs).worths.forEach((v, i) => {
      expect(v).toBeCloseTo(R[i], 6);
    });
  });

  it('has the maximum of Davidson’s likelihood with ties, as R’s optim finds it', () => {
    const table = 'ab523 ac412 bc334 ad611 bd422 cd323'.split(' ');
    const pairs = table.flatMap(t => times(t[0], t[1], Number(t[2]), Number(t[3]), Number(t[4])));
    const { worths, ties } = worthOf(pairs);
    const R = [1.083564031, -0.046678443, -0.231698383, -0.805187205];
    worths.forEach((v, i) => {
      expect(v).toBeCloseTo(R[i], 4);
    });
    expect(ties).toBeCloseTo(0.952635903, 4);
  });

  it('is finite from the first pair on, surer with every pair, and the same whichever stood left', () => {
    const one = rankingOf(['x', 'y'], times('x', 'y', 1));
    expect(one.order.map(o => o.code)).toEqual(['x', 'y']);
    expect(one.order[0].worth).toBeLessThan(3);
    expect(one.sureOfFirst).toBeGreaterThan(0.5);
    const five = rankingOf(['x', 'y'], times('x', 'y', 5));
    expect(five.sureOfFirst).toBeGreaterThan(one.sureOfFirst);
    const turned = rankingOf(['x', 'y'], times('y', 'x', 0, 5));
    expect(turned.order[0].worth).toBeCloseTo(five.order[0].worth, 8);
    const tied = rankingOf(['x', 'y'], times('x', 'y', 0, 0, 4));
    expect(tied.order[0].worth).toBeCloseTo(0, 8);
    expect(tied.sureOfFirst).toBeCloseTo(0.5, 6);
    expect(tied.ties).toBeGreaterThan(1);
    // Of what is not among them nothing is taken.
    expect(rankingOf(['x', 'y'], times('x', 'z', 3)).order[0].worth).toBe(0);
  });
});

describe('the next pair', () => {
  const mine = (pairs: readonly Pair[]) => pairs.map(p => ({ ...p, judge: 'me' }));
  const play = (truth: readonly number[], seed: number, most = 200) => {
    const codes = truth.map((_, i) => `p${i}`);
    const chance = chanceFrom(seed);
    const pairs: Pair[] = [];
    for (let i = 0; i < most; i++) {
      const next = nextPair(codes, pairs, 'me');
      if (!next) break;
      const by = truth[codes.indexOf(next.a)] - truth[codes.indexOf(next.b)] + 0.5 * chance.normal();
      pairs.push({ ...next, better: Math.abs(by) < 0.3 ? 'neither' : by > 0 ? 'a' : 'b', judge: 'me' });
    }
    return { pairs, ranking: rankingOf(codes, pairs) };
  };

  it('leads to the right order in fewer than all pairs three times, and then stops', () => {
    let right = 0;
    for (let seed = 1; seed <= 8; seed++) {
      const truth = [0, 4, 8, 12, 16, 20].map((v, i) => v + 0.1 * i);
      const { pairs, ranking } = play(truth, seed);
      expect(pairs.length).toBeLessThan(45);
      if (ranking.order.map(o => o.code).join() === 'p5,p4,p3,p2,p1,p0') right++;
    }
    expect(right).toBeGreaterThanOrEqual(7);
  });

  it('asks again for one that was judged before, the other way round, every sixth time', () => {
    const codes = ['a', 'b', 'c', 'd'];
    const six: Pair[] = ['ab', 'cd', 'ac', 'bd', 'ad', 'bc'].map(p => ({
      a: p[0],
      b: p[1],
      better: 'a',
      judge: 'me',
    }));
    expect(nextPair(codes, six, 'me')).toEqual({ a: 'b', b: 'a' });
    expect(nextPair(codes, six.slice(0, 5), 'me')).not.toEqual({ a: 'b', b: 'a' });
    // Another judge's pairs are not hers.
    expect(nextPair(codes, six, 'you')).not.toEqual({ a: 'b', b: 'a' });
  });

  it('leaves out no patch, whoever judges: each is compared at least twice', () => {
    for (const codes of ['abc', 'abcdef', 'abcdefghijkl'].map(all => all.split('')))
      for (const better of ['a', 'b', 'neither'] as const) {
        const pairs: Pair[] = [];
        for (let next = nextPair(codes, pairs, 'me'); next; next = nextPair(codes, pairs, 'me'))
          pairs.push({ ...next, better, judge: 'me' });
        for (const code of codes)
          expect(pairs.filter(p => p.a === code || p.b === code).length, code).toBeGreaterThanOrEqual(2);
      }
  });

  it('puts twelve patches in order in forty presses or fewer, for a judge who is steady', () => {
    for (let seed = 1; seed <= 5; seed++) {
      const chance = chanceFrom(seed);
      const truth = Array.from({ length: 12 }, () => 100 * chance.next());
      const { pairs, ranking } = play(truth, seed);
      expect(pairs.length).toBeLessThanOrEqual(40);
      const order = ranking.order.map(o => truth[Number(o.code.slice(1))]);
      const turned = order.flatMap((v, i) => order.slice(i + 1).filter(w => w > v));
      expect(turned.length).toBeLessThanOrEqual(2);
    }
  });

  it('ends after a stated number, however unsure the judge, and says so; another judge has as many of their own', () => {
    const codes = ['a', 'b', 'c', 'd', 'e'];
    const pairs: Pair[] = [];
    const whole = (judge: string) => {
      const before = pairs.length;
      for (;;) {
        const next = nextPair(codes, pairs, judge);
        expect(pairsLeft(codes, pairs, judge)).toBe(next ? mostPairs(5) - (pairs.length - before) : 0);
        if (!next) return pairs.length - before;
        pairs.push({ ...next, better: 'neither', judge });
      }
    };
    expect([mostPairs(1), mostPairs(2), mostPairs(5), mostPairs(12)]).toEqual([0, 2, 10, 39]);
    expect(soFar(codes, pairs, 'me')).toBe('No pair yet, 10 at the most.');
    expect(whole('me')).toBe(10);
    expect(soFar(codes, pairs, 'me')).toMatch(/more than 10 pairs would hardly tell more.*50 % sure/);
    expect(whole('you')).toBe(10);
    const clear = 'abcde'
      .split('')
      .flatMap((x, i, all) => all.slice(i + 1).flatMap(y => mine(times(x, y, 3))));
    expect(soFar(codes, clear, 'me')).toMatch(/settled after 30 pairs/);
    expect(soFar(codes, clear.slice(0, 1), 'me')).toBe('1 pair, 9 more at the most.');
  });

  it('is none of one patch, nor when all were seen three times', () => {
    expect(nextPair(['a'], [], 'me')).toBeUndefined();
    expect(nextPair(['a', 'b'], mine(times('a', 'b', 1, 1, 1)), 'me')).toBeUndefined();
  });
});

describe('agreement', () => {
  const pair = (a: string, b: string, better: Pair['better'], judge = 'me'): Pair => ({
    a,
    b,
    better,
    judge,
  });
  it('is weighted kappa as R works it out', () => {
    const x = [0, 0, 1, 2, 2, 1, 0, 2, 1, 0];
    const y = [0, 1, 1, 2, 1, 1, 0, 2, 0, 0];
    expect(
      weightedKappa(
        x.map((v, i) => [v, y[i]] as const),
        3,
      ),
    ).toBeCloseTo(0.7619047619, 9);
    expect(
      weightedKappa(
        [
          [1, 1],
          [1, 1],
        ],
        3,
      ),
    ).toBeUndefined();
  });

  it('of grades is the intraclass correlation that was published, and as R has it', () => {
    // Shrout and Fleiss 1979, table 2: six targets, four judges, ICC(2,1) = .29.
    const published = [
      [9, 2, 5, 8],
      [6, 1, 3, 2],
      [8, 4, 6, 8],
      [7, 1, 2, 6],
      [10, 5, 6, 9],
      [6, 2, 4, 7],
    ];
    expect(intraclass(published)).toBeCloseTo(0.28976378, 7);
    // psych::ICC of R, Single_random_raters.
    const two = [
      [5, 4],
      [3, 3],
      [4, 4],
      [2, 1],
      [5, 5],
      [1, 2],
      [3, 4],
      [4, 4],
    ];
    expect(intraclass(two)).toBeCloseTo(0.861386, 6);
    expect(intraclass([[2, 2]])).toBeUndefined();
    expect(
      intraclass([
        [3, 3],
        [3, 3],
      ]),
    ).toBeUndefined();
  });

  it('of grades goes by the patches that every judge graded, the last grade of each', () => {
    const graded = (patch: string, judge: string, grade: number, i = 0): TrialRecord => ({
      id: `${patch}${judge}${i}`,
      at: `2026-05-02T10:00:0${i}.000Z`,
      ...{ kind: 'verdict', patch, verdict: 'keep', grade, symptoms: [], blind: true, judge },
    });
    const records = ['CX-2AA', 'CX-2AB', 'CX-2AC', 'CX-2AD'].flatMap((code, i) => [
      graded(code, 'Ida', i + 1),
      graded(code, 'Per', 5 - i),
      graded(code, 'Per', i + 1, 1),
    ]);
    const found = gradedAlike([...records, graded('CX-2AE', 'Ida', 1)])!;
    expect(found).toMatchObject({ patches: 4, judges: ['Ida', 'Per'], icc: 1 });
    expect(found.words).toBe('Ida and Per grade very much alike, over 4 patches that each of them graded.');
    expect(gradedAlike(records.slice(0, 9))).toBeUndefined();
    expect(gradedAlike(records.filter(r => r.kind === 'verdict' && r.judge === 'Ida'))).toBeUndefined();
    const against = records.filter(r => !r.id.endsWith('Per1'));
    expect(gradedAlike(against)!.words).toContain('hardly alike');
  });

  it('counts a pair that was turned round as the same, of one judge or between two', () => {
    const self = agreement([pair('a', 'b', 'a'), pair('b', 'a', 'b'), pair('a', 'b', 'neither')], 'self');
    expect(self).toMatchObject({ pairs: 2, words: 'Asked again, the same answer came 1 time in 2.' });
    // Asked nine times, eight times again: no more can be alike.
    const often = agreement(
      Array.from({ length: 9 }, () => pair('a', 'b', 'a')),
      'self',
    );
    expect(often).toMatchObject({
      pairs: 8,
      alike: 1,
      words: 'Asked again, the same answer came 8 times in 8.',
    });
    const both = agreement([pair('a', 'b', 'a'), pair('a', 'b', 'b'), pair('b', 'a', 'a', 'you')], 'others');
    expect(both).toMatchObject({ pairs: 1, alike: 1 });
    const two = agreement(
      [pair('a', 'b', 'a'), pair('a', 'b', 'a', 'you'), pair('c', 'd', 'a', 'you')],
      'others',
    );
    expect(two).toMatchObject({ pairs: 1, alike: 1 });
    expect(agreement([pair('a', 'b', 'a')], 'self').kappa).toBeUndefined();
  });
});

describe('a blind order', () => {
  it('holds each once, is the judge’s own and the same again', () => {
    const codes = Array.from({ length: 20 }, (_, i) => `c${i}`);
    const mine = blindOrder('t', 'me', codes);
    expect([...mine].sort()).toEqual([...codes].sort());
    expect(mine).not.toEqual(codes);
    expect(blindOrder('t', 'me', codes)).toEqual(mine);
    expect(blindOrder('t', 'you', codes)).not.toEqual(mine);
  });
});

describe('what was judged in a trial', () => {
  const at = (n: number) => `2026-06-0${n}T08:00:00.000Z`;
  const verdict = (id: string, n: number, part: object): TrialRecord =>
    ({
      id,
      at: at(n),
      kind: 'verdict',
      patch: 'K7-3AF',
      verdict: 'keep',
      grade: 4,
      symptoms: [],
      ...part,
    }) as TrialRecord;
  const pair = (id: string, n: number, better: 'this' | 'other' | 'neither'): TrialRecord => ({
    ...{ id, at: at(n), kind: 'pair', patch: 'K7-3AF', other: 'K7-22P', better, judge: 'me' },
  });
  const shown: TrialRecord = { id: 'u', at: at(5), kind: 'unblind', patch: null, judge: 'me' };

  it('is blind from the first blind verdict or pair until it is shown', () => {
    expect(isBlind([verdict('v', 1, {})])).toBe(false);
    expect(isBlind([verdict('v', 1, { blind: true })])).toBe(true);
    expect(isBlind([pair('p', 1, 'this'), shown])).toBe(false);
    expect(isBlind([shown, pair('p', 6, 'this')])).toBe(true);
    expect(isBlind([pair('p', 1, 'this'), { id: 'x', at: at(2), kind: 'undo', patch: null, of: 'p' }])).toBe(
      false,
    );
  });

  it('has its pairs as they were said', () => {
    const found = pairsIn([pair('1', 1, 'this'), pair('2', 2, 'other'), pair('3', 3, 'neither'), shown]);
    expect(found.map(p => p.better)).toEqual(['a', 'b', 'neither']);
    expect(found[0]).toMatchObject({ a: 'K7-3AF', b: 'K7-22P', judge: 'me' });
  });

  it('disagrees where little was kept or nearly all was scrapped', () => {
    const of = (landed: number, what: 'keep' | 'fix' | 'scrap') =>
      disagreements(['K7-3AF'], [...readingFor('K7-3AF', 1, { landed }), verdict('v', 9, { verdict: what })]);
    expect(of(69, 'keep')).toEqual([{ code: 'K7-3AF', verdict: 'keep', landed: 69 }]);
    expect(of(70, 'keep')).toEqual([]);
    expect(of(95.1, 'scrap')).toHaveLength(1);
    expect(of(95, 'scrap')).toEqual([]);
    expect(of(10, 'fix')).toEqual([]);
  });

  it('becomes a finding: how often each is better than one taken at random', () => {
    const plan = examplePlan();
    const worth = (code: string) => -plan.patches.find(p => p.code === code)!.levels[0];
    const codes = plan.patches.map(p => p.code);
    let n = 0;
    const pairs = codes.flatMap((a, i) =>
      codes.slice(i + 1, i + 5).map((b): TrialRecord => {
        const by = worth(a) - worth(b);
        const better = by > 0 ? 'this' : by < 0 ? 'other' : 'neither';
        return { id: `p${n++}`, at: at(1), kind: 'pair', patch: a, other: b, better, judge: 'me' };
      }),
    );
    const values = kindOf('pairs').values(plan, pairs);
    expect(values.size).toBe(12);
    const mean = (m: number) => {
      const own = plan.patches.filter(p => p.levels[0] === m).map(p => values.get(p.code)!);
      return own.reduce((a, b) => a + b, 0) / own.length;
    };
    expect(mean(0)).toBeGreaterThan(mean(1) + 1);
    expect(mean(1)).toBeGreaterThan(mean(2) + 1);
    expect([...values.values()].reduce((a, b) => a + b, 0) / 12).toBeCloseTo(5, 6);
    // With too few there is no order.
    expect(kindOf('pairs').values(plan, pairs.slice(0, 3)).size).toBe(0);
  });
});
