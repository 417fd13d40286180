import { describe, expect, it } from 'vitest';
import { ProblemError } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { type Found, findingsIn, type Row } from './table.ts';

const row = (medium: string, hours: number, board: string, score: number | string, part: Row = {}): Row => ({
  ...{ medium, hours: String(hours), board, score: String(score) },
  ...part,
});
const ROLES = {
  factors: { medium: 'items', hours: 'number' },
  responses: [{ col: 'score', better: 'high', bounds: [0, 100] }],
  random: ['board'],
} as const;
const PLAIN = ['one', 'two', 'three'].flatMap((board, b) =>
  ['matte', 'gel'].flatMap((m, i) =>
    [8, 20].map((h, j) => row(m, h, board, 70 + 8 * i + 12 * j + 2 * b + ((i + j + b) % 2))),
  ),
);
const found = (rows: readonly Row[], roles: object = ROLES): Found => {
  const answer = findingsIn(rows, roles, 800);
  if (!answer.ok) throw new ProblemError(answer.problem);
  return answer.value.score;
};
const refused = (rows: readonly Row[], roles: unknown): string => {
  const answer = findingsIn(rows, roles, 50);
  if (answer.ok) throw new Error('was taken');
  return write(answer.problem.say);
};

describe('a table of patches', () => {
  it('gives means, differences, variances and a decision by the names of its columns', () => {
    const f = found(PLAIN);
    expect(f.estimable).toEqual(['medium', 'hours']);
    expect(f.notEstimable).toEqual([]);
    const medium = f.differences.find(d => d.factor === 'medium')!;
    expect([medium.a, medium.b]).toEqual(['matte', 'gel']);
    expect(medium.value).toBeCloseTo(-8, 9);
    expect(medium.p).toBeLessThan(0.001);
    expect(f.differences.find(d => d.factor === 'hours')).toMatchObject({ a: 8, b: 20 });
    expect(f.means.map(m => m.levels)).toContainEqual({ hours: 20 });
    expect(f.variance.board).toBeGreaterThan(1);
    expect(f.best[0].levels).toEqual({ medium: 'gel', hours: 20 });
    expect(f.best[0].probability).toBeGreaterThan(0.75);
    expect(f.best.reduce((sum, b) => sum + b.probability, 0)).toBeCloseTo(1, 9);
    expect(f.best[0].expectedLoss).toBeLessThan(f.best[1].expectedLoss);
    expect(f.sentences[0]).toMatch(/^Take medium gel and hours 20: each at least \d\d % sure\./);
    for (const m of f.means) expect(m.hi).toBeLessThanOrEqual(100);
  });

  it('takes what is better low as it is said', () => {
    const low = found(PLAIN, { ...ROLES, responses: [{ col: 'score', better: 'low' }] });
    expect(low.best[0].levels).toEqual({ medium: 'matte', hours: 8 });
  });

  it('counts what failed by level, apart from how good the rest is', () => {
    const bad = PLAIN.map((r, i) => ({ ...r, bad: r.medium === 'gel' && i % 4 > 1 ? 'yes' : '0' }));
    const f = found(bad, { ...ROLES, failed: 'bad' });
    const gel = f.failure.find(x => x.levels.medium === 'gel')!;
    expect([gel.failed, gel.of]).toEqual([6, 6]);
    expect(gel.value).toBeGreaterThan(0.85);
    expect(gel.hi).toBeLessThan(1);
    expect(f.best[0].levels.medium).toBe('matte');
    expect(f.sentences.join(' ')).toMatch(
      /medium matte is the only one that worked: medium gel failed 6 times in 6\./,
    );
    expect(f.notEstimable.map(n => n.what)).toEqual(['medium: matte against gel']);
    const none = found(PLAIN);
    expect(none.failure[0]).toMatchObject({ failed: 0, of: 6, value: 0, lo: 0 });
    expect(none.failure[0].hi).toBeCloseTo(1 - 0.05 ** (1 / 6), 9);
  });

  it('never gives a number for what cannot be told, and names what is missing', () => {
    // Of the four-patch fraction of three factors one is lost: two of them only ever change together.
    const rows = ['000', '011', '101', '110', '110'].map((l, i) => ({
      ...{ code: `P${i}`, a: l[0], b: l[1], c: l[2] },
      score: ['', '91', '78', '70', '72'][i],
    }));
    const f = found(rows, {
      factors: { a: 'items', b: 'items', c: 'items' },
      responses: [{ col: 'score', better: 'high' }],
    });
    expect(f.estimable).toEqual([]);
    expect(f.differences).toEqual([]);
    expect(f.notEstimable.map(n => n.why).join(' ')).toMatch(/cannot be told apart any more: P0 is missing/);
    expect(f.sentences.join(' ')).toMatch(/1 patch was not measured\./);
  });

  it.each([
    ['all failed', PLAIN.map(r => ({ ...r, bad: '1' })), 'Every patch failed: no option worked.'],
    ['nothing measured', PLAIN.map(r => ({ ...r, score: 'NaN' })), 'No patch was measured.'],
    [
      'one patch',
      PLAIN.slice(0, 1),
      '1 measured patch is too few: at least one more is needed than there are effects.',
    ],
    [
      'one level left',
      PLAIN.filter(r => r.medium === 'gel'),
      'medium has one level only: nothing is compared.',
    ],
  ])('says it of %s', (_, rows, words) => {
    const withBad = rows.map(r => ({ bad: '', ...r }));
    expect(found(withBad, { ...ROLES, failed: 'bad' }).sentences.join(' ')).toContain(words);
  });

  it('says of equal values no more than that nothing is settled', () => {
    const f = found(PLAIN.map(r => ({ ...r, score: '80' })));
    expect(f.differences.every(d => Math.abs(d.value) < 1e-9)).toBe(true);
    expect(f.best.every(b => b.probability < 0.5 && b.expectedLoss < 1)).toBe(true);
    expect(f.sentences.join(' ')).not.toMatch(/Take/);
  });

  it('puts many different numbers into groups of like ones', () => {
    const rows = Array.from({ length: 40 }, (_, i) => row('gel', i, 'one', 50 + i + (i % 3)));
    const f = found(rows, { factors: { hours: 'number' }, responses: [{ col: 'score', better: 'high' }] });
    expect(f.means).toHaveLength(5);
    expect(f.means[0].levels).toEqual({ hours: '0 to 8' });
    expect(f.best[0].levels).toEqual({ hours: '32 to 39' });
  });

  it('names a stray patch, a drift along the work, and scatter that is not the same', () => {
    const base = Array.from(
      { length: 24 },
      (_, i): Row => ({
        ...row(i % 2 ? 'gel' : 'matte', i % 4 > 1 ? 20 : 8, 'one', 70 + ((i * 7) % 5)),
        ...{ code: `P${i}`, order: String(i) },
      }),
    );
    const roles = { ...ROLES, random: [], order: 'order' };
    const words = (rows: readonly Row[]) => found(rows, roles).sentences.join(' ');
    expect(words(base)).not.toMatch(/lies much|came out|less evenly/);
    expect(words(base.map((r, i) => (i === 9 ? { ...r, score: '20' } : r)))).toMatch(
      /P9 \(medium gel, hours 8\) lies much lower/,
    );
    expect(words(base.map((r, i) => ({ ...r, score: String(Number(r.score) + i) })))).toMatch(
      /What was made later came out better/,
    );
    const uneven = base.map((r, i) => ({
      ...r,
      score: String(70 + (i % 2 ? [9, -9, -8, 10][(i >> 1) % 4] : (i >> 2) % 2)),
    }));
    expect(words(uneven)).toMatch(/medium gel comes out less evenly than medium matte/);
  });

  it.each([
    ['no rows', [], ROLES, 'The table has no rows.'],
    ['a column that is not there', PLAIN, { ...ROLES, random: ['shed'] }, 'The table has no column “shed”.'],
    ['no factor', PLAIN, { ...ROLES, factors: {} }, 'The roles are wrong: Name at least one factor.'],
    [
      'an odd kind',
      PLAIN,
      { ...ROLES, factors: { medium: 'colour' } },
      'The roles are wrong: A factor is "items" or "number".',
    ],
    [
      'bounds turned round',
      PLAIN,
      { ...ROLES, responses: [{ col: 'score', better: 'high', bounds: [9, 1] }] },
      'The roles are wrong: Bounds are the lower end, then the upper.',
    ],
    [
      'a first value out of bounds',
      [row('gel', 8, 'one', -1), ...PLAIN],
      ROLES,
      'Row 1 has -1 in “score”, outside of its bounds.',
    ],
    [
      'a value out of bounds',
      [...PLAIN, row('gel', 8, 'one', 101)],
      ROLES,
      'Row 13 has 101 in “score”, outside of its bounds.',
    ],
    [
      'a pair of something else',
      PLAIN,
      { ...ROLES, interactions: [['medium', 'board']] },
      '“board” is not among the factors.',
    ],
    ['an empty factor', PLAIN.map(r => ({ ...r, medium: '' })), ROLES, 'The column “medium” is empty.'],
    ['no roles', PLAIN, 7, /^The roles are wrong/],
  ] as const)('is refused with %s', (_, rows, roles, words) => {
    if (typeof words === 'string') expect(refused(rows, roles)).toBe(words);
    else expect(refused(rows, roles)).toMatch(words);
  });
});
