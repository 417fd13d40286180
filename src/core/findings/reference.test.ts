import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { ProblemError } from '../outcome/index.ts';
import { type Found, findingsIn, type Row } from './table.ts';

interface Estimate {
  readonly factor: string;
  readonly a?: string;
  readonly b?: string;
  readonly mean?: string;
  readonly value: number;
  readonly se: number;
  readonly df: number;
}
interface Reference {
  readonly name: string;
  readonly factors: string | readonly string[];
  readonly random: readonly string[];
  readonly pairs: readonly (readonly string[])[];
  readonly rows: readonly Row[];
  readonly estimates: readonly Estimate[];
  readonly variance: Readonly<Record<string, number>>;
}

/** Made and worked out by R: docs/reference/findings.R. */
const SETS: readonly Reference[] = JSON.parse(
  readFileSync(new URL('./fixtures/reference.json', import.meta.url), 'utf8'),
);

function found(set: Reference): Found {
  const answer = findingsIn(
    set.rows,
    {
      factors: Object.fromEntries([set.factors].flat().map(f => [f, 'items'])),
      responses: [{ col: 'score', better: 'high' }],
      random: set.random,
      interactions: set.pairs,
    },
    50,
  );
  if (!answer.ok) throw new ProblemError(answer.problem);
  return answer.value.score;
}

describe('differences, means, their standard errors and degrees of freedom are those of lme4, pbkrtest and emmeans', () => {
  it.each(SETS.map(s => [s.name, s] as const))('%s', (_, set) => {
    const { differences, means, variance } = found(set);
    let compared = 0;
    for (const e of set.estimates) {
      const own =
        e.mean === undefined
          ? differences.find(d => d.factor === e.factor && d.a === e.a && d.b === e.b)
          : means.find(m => Object.keys(m.levels).length === 1 && m.levels[e.factor] === e.mean);
      expect(own, `${e.factor} ${e.mean ?? `${e.a} ${e.b}`}`).toBeDefined();
      expect(Math.abs(own!.value - e.value)).toBeLessThan(1e-3);
      expect(Math.abs(own!.se / e.se - 1)).toBeLessThan(0.02);
      expect(Math.abs(own!.df / e.df - 1)).toBeLessThan(0.05);
      compared++;
    }
    expect(compared).toBeGreaterThan(2);
    for (const [term, value] of Object.entries(set.variance))
      expect(Math.abs((variance[term] ?? 0) - value)).toBeLessThan(0.005 * (value + set.variance.residual));
  });

  it('on eighteen data sets', () => expect(SETS).toHaveLength(18));
});
