import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { answer, comparedIn, type EvidenceRow, poolOf, unsureOf } from '../evidence/index.ts';
import { trapezoidsOf } from '../models/index.ts';
import { chanceFrom } from '../random/index.ts';
import { asRead } from '../say/testing.ts';
import { analyse, type Seen } from './analyse.ts';
import { checksOf } from './checks.ts';
import { dosesIn } from './dose.ts';
import { whatNext } from './index.ts';
import { chanceSentence, factorSentence, failureSentence, pairSentence } from './words.ts';

/** Numbers to five figures, so that a change of a sign, a bound or a constant shows, and another machine's last digit does not. */
const short = (value: unknown): unknown =>
  JSON.parse(JSON.stringify(asRead(value), (_, x) => (typeof x === 'number' ? Number(x.toPrecision(5)) : x)));
const lines = (...parts: unknown[]) => parts.map(p => JSON.stringify(short(p))).join('\n');

describe('what is drawn, digit for digit', () => {
  it('of curves: with a rise, with a fall, with neither, and where patches are missing', async () => {
    const levels = [3, 6, 12, 24, 48];
    const plan = examplePlan({
      factors: [
        { key: 'dryHours', levels },
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
      ],
      interactions: [[0, 1]],
      repeats: 2,
    });
    const chance = chanceFrom(4);
    const shape = (rise: number, fall: number) => (h: number) =>
      84 - rise * Math.max(0, Math.log(11 / h)) - fall * Math.max(0, Math.log(h / 20));
    const doses = [shape(25, 0), shape(0, 22), shape(18, 14), shape(0, 0)].map((of, k) => {
      const patches = plan.patches.map(
        (p, i): Seen => ({
          ...{ code: p.code, levels: p.levels, failed: false, shares: [`${p.board}`] },
          // One medium is missing at some waits: what it adds has to be taken off.
          value:
            k === 2 && p.levels[1] === 1 && i % 3 === 0
              ? undefined
              : of(levels[p.levels[0]]) - 9 * p.levels[1] + 3 * chance.normal(),
        }),
      );
      const analysis = analyse({
        factors: [
          { name: 'Wait', levels: levels.map(String) },
          { name: 'Medium', levels: ['a', 'b'] },
        ],
        ...{ pairs: [[0, 1]], random: ['board'], patches, better: 'high', bounds: [0, 100], draws: 40 },
      });
      const [dose] = dosesIn(plan, analysis);
      return { ...dose, points: dose.points.filter((_, i) => i % 10 === 0) };
    });
    const seen = [0, 0.7, 1.4, 2.1, 2.8].flatMap((x, i) =>
      [0, 1].map(k => ({ x, y: [50, 70, 82, 80, 60][i] + 3 * k })),
    );
    const drawn = trapezoidsOf(seen, 2)!
      .filter((_, i) => i % 80 === 0)
      .map(t => [t.top, t.from, t.to, t.at(0.2), t.at(2.7)]);
    await expect(lines(...doses, ...drawn)).toMatchFileSnapshot('pinned/curves.txt');
  });

  it('of what next: with two things open, with controls, with failures', async () => {
    const plan = examplePlan();
    const found = [3, 4, 5, 6].map(seed => {
      const chance = chanceFrom(seed);
      const patches = plan.patches.map(
        (p, i): Seen => ({
          ...{ code: p.code, levels: p.levels, shares: [`${p.repeat}`] },
          failed: seed === 5 && i % 5 === 0,
          value:
            seed === 5 && i % 5 === 0
              ? undefined
              : [74, 70, 55][p.levels[0]] - 4 * (1 - p.levels[1]) + 4 * chance.normal(),
        }),
      );
      const controls: Seen[] =
        seed === 4
          ? [0, 1].map(k => ({
              code: `K${k}`,
              levels: [],
              shares: [`${k}`],
              failed: k === 1,
              value: k ? undefined : 60,
            }))
          : [];
      const analysis = analyse({
        factors: [
          { name: 'Medium', levels: ['a', 'b', 'c'] },
          { name: 'Wait', levels: ['4', '20'] },
        ],
        ...{ pairs: [], random: ['board'], patches: [...patches, ...controls], better: 'high' },
        ...{ bounds: [0, 100], draws: 900, worlds: 120 },
      });
      return [analysis.decision?.options, analysis.decision?.together, whatNext(analysis) ?? 'nothing'];
    });
    await expect(lines(...found)).toMatchFileSnapshot('pinned/next.txt');
  });

  it('of the evidence over all trials', async () => {
    const thing = (id: string) => ({ id, name: id.toUpperCase(), kind: '' });
    const chance = chanceFrom(8);
    const rows = Array.from({ length: 24 }, (_, i): EvidenceRow => {
      const medium = ['matte', 'gel', 'glue'][i % 3];
      return {
        ...{ trial: `t${i >> 2}`, code: `T${i >> 2}`, at: '2026-03-01T10:00:00.000Z' },
        used: {
          method: thing(i % 8 < 6 ? 'wet' : 'tape'),
          medium: thing(medium),
          donor: thing(i % 5 ? 'copy' : 'film'),
          substrate: thing(i % 4 ? 'birch' : 'slate'),
          preparation: thing(i % 7 ? 'none' : 'primer'),
          printer: thing('laser'),
        },
        ...{ dry: 0.6 * chance.normal(), coat: -1 + 0.2 * chance.normal(), rounds: 1 + (i % 3) },
        varied: i % 2 ? [{ key: 'water', level: i % 4 === 1 ? 'damp' : 'soak', name: 'w' }] : [],
        landed: [0, 1, 2].slice(i % 2).map(() => 70 + 6 * (i % 3) + 5 * chance.normal()),
        failed: i % 6 === 0 ? 1 : 0,
        ...{ judged: 2, kept: 1 },
      };
    });
    const pool = poolOf(rows);
    const made = { used: { ...rows[0].used, substrate: thing('glass') }, dry: 0.3, coat: -0.8, rounds: 3 };
    await expect(
      lines(
        answer(pool, made),
        answer(pool, { ...rows[1], varied: rows[1].varied }),
        [...unsureOf(pool, made)],
        comparedIn(pool, 'wet', 'medium'),
        comparedIn(pool, 'wet', 'water'),
      ),
    ).toMatchFileSnapshot('pinned/evidence.txt');
  });

  it('of a whole analysis: pairs, strips with gaps, settings nested in a method, failures, an uneven scatter', async () => {
    const name = (f: number, l: number) => `${'ABC'[f]}${l + 1}`;
    const points = (v: number) => `${v.toFixed(2)} points`;
    const factors = [
      { name: 'A', levels: ['A1', 'A2', 'A3'] },
      { name: 'B', levels: ['B1', 'B2'] },
      { name: 'C', levels: ['C1', 'C2'] },
    ];
    const made = (
      seed: number,
      of: (levels: readonly number[], i: number, normal: () => number) => Partial<Seen>,
      count = 36,
    ) => {
      const chance = chanceFrom(seed);
      return Array.from({ length: count }, (_, i): Seen => {
        const levels = [i % 3, (i >> 1) % 2, (i >> 2) % 2];
        const own = of(levels, i, () => chance.normal());
        return { ...{ code: `P${i}`, levels, failed: false, shares: [`${i % 4}`], order: i }, ...own };
      });
    };
    const plain = (l: readonly number[], normal: () => number) =>
      70 + 6 * l[0] - 9 * l[1] + 12 * Number(l[0] === 2 && l[1] === 1) + 3 * normal();
    const cases: readonly (Partial<Parameters<typeof analyse>[0]> & { patches: Seen[] })[] = [
      { pairs: [[0, 1]], random: [], patches: made(21, (l, _, normal) => ({ value: plain(l, normal) })) },
      {
        ...{
          pairs: [
            [0, 1],
            [1, 2],
          ],
          random: ['strip'],
          bounds: [0, 100],
        },
        patches: made(22, (l, i, normal) => ({
          value: i % 7 === 3 || (l[0] === 1 && l[1] === 0) ? undefined : 18 + plain(l, normal) - 2 * (i % 4),
        })),
      },
      {
        ...{ pairs: [], random: ['board'], better: 'low' as const, bounds: [0, 1] },
        patches: made(23, (l, i, normal) => ({
          failed: i % 5 === 0 || (l[2] === 1 && i % 3 === 0),
          value: Math.abs(0.04 + 0.05 * l[0] + 0.02 * normal()) * (i % 4 === 1 ? 0 : 1),
        })),
      },
      {
        // Twice the scatter or more at one level, a drift, and one patch far off.
        ...{ pairs: [], random: [] },
        patches: made(24, (l, i, normal) => ({
          value: 60 + 0.4 * i + (l[1] ? 9 : 1.5) * normal() + (i === 13 ? 45 : 0),
        })),
      },
      {
        ...{
          pairs: [],
          random: [],
          nest: {
            by: 0,
            has: [
              [true, true, true],
              [true, false, true],
              [true, true, false],
            ],
          },
        },
        patches: made(25, (l, _, normal) => {
          const levels = [l[0], l[0] === 1 ? -1 : l[1], l[0] === 2 ? -1 : l[2]];
          return { levels, value: 50 + 8 * l[0] + 5 * Math.max(0, levels[1]) + 2 * normal() };
        }),
      },
      { pairs: [], random: [], patches: made(26, () => ({ value: 80 })) },
      { pairs: [], random: [], patches: made(27, (_, i) => ({ failed: true, value: i })) },
    ];
    const found = cases.map(part => {
      const analysis = analyse({
        factors,
        pairs: [],
        random: [],
        better: 'high',
        draws: 300,
        ...part,
      } as never);
      const { means, differences, failing, notTold, told, decision, fit, options } = analysis;
      const pairs = part.pairs ?? [];
      return [
        [analysis.measured, analysis.failures, analysis.missing, told, analysis.why ?? '', options.length],
        means.map(m => [[...m.at], m.n, m.estimate]),
        differences,
        failing,
        notTold,
        fit ? [fit.residualVariance, [...fit.mixed.residuals.slice(0, 5)]] : 'no fit',
        decision
          ? [decision.matters, decision.together, decision.levels, decision.options.slice(0, 4)]
          : 'no decision',
        checksOf(analysis, name),
        factors.map((_, f) => factorSentence(analysis, f, points)),
        pairs.map((_, k) => pairSentence(analysis, k, points) ?? 'nothing'),
        [
          failureSentence(analysis, name) ?? '',
          factors.map((_, f) => chanceSentence(analysis, f, { more: 'works' }, name) ?? ''),
        ],
      ];
    });
    await expect(found.map(f => lines(...f)).join('\n\n')).toMatchFileSnapshot('pinned/analysis.txt');
  });
});
