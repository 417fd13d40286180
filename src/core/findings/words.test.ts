import { describe, expect, it } from 'vitest';
import { write } from '../say/index.ts';
import { type Analysis, type Asked, analyse } from './analyse.ts';
import { checksOf } from './checks.ts';
import {
  chanceSentence,
  choicesOf,
  factorSentence,
  failureSentence,
  headline,
  isEither,
  surePercent,
} from './words.ts';

interface Level {
  readonly best: number;
  readonly loss: number;
  readonly value?: number;
}
const points = (v: number) => `${Math.round(10 * v) / 10} points`;

/** An analysis of which only the decision is known: for each factor its levels and the chance that it matters. */
function decided(
  factors: readonly (readonly Level[])[],
  {
    matters = factors.map(() => 0.9999),
    draws = 20_000,
    ...rest
  }: { matters?: readonly number[]; draws?: number } & Partial<Record<keyof Analysis, unknown>> = {},
): Analysis {
  const names = 'abcdef';
  return {
    asked: {
      factors: factors.map((levels, f) => ({
        name: `Factor ${f}`,
        levels: levels.map((_, l) => `${names[l]}${f}`),
      })),
      patches: [],
      bounds: [0, 100],
    },
    ...{ told: factors.map((_, f) => f), notTold: [], differences: [], failing: [], failures: 0, means: [] },
    decision: {
      levels: factors.map(levels => levels.map(l => ({ value: 50, ...l }))),
      matters,
      draws,
    },
    ...rest,
  } as unknown as Analysis;
}

describe('the choice of a level', () => {
  it('is the one most often the best; of two as often, the one of which less is lost', () => {
    const [plain] = choicesOf(
      decided([
        [
          { best: 0.2, loss: 3 },
          { best: 0.7, loss: 1 },
          { best: 0.1, loss: 9 },
        ],
      ]),
    );
    expect([plain.level, plain.sure, plain.loss]).toEqual([1, 0.7, 1]);
    const [tied] = choicesOf(
      decided([
        [
          { best: 0.5, loss: 4 },
          { best: 0.5, loss: 2 },
        ],
      ]),
    );
    expect(tied.level).toBe(1);
    const [first] = choicesOf(
      decided([
        [
          { best: 0.5, loss: 2 },
          { best: 0.5, loss: 4 },
        ],
      ]),
    );
    expect(first.level).toBe(0);
  });

  it('keeps open what is the best one time in ten, the likeliest first, and knows nothing of what was never measured', () => {
    const [choice] = choicesOf(
      decided([
        [
          { best: 0.1, loss: 5 },
          { best: 0.099, loss: 4 },
          { best: 0.3, loss: 2 },
          { best: 0.501, loss: 1 },
          { best: Number.NaN, loss: Number.NaN },
        ],
      ]),
    );
    expect(choice.open).toEqual([3, 2, 0]);
  });

  it('is firm from 95 in 100 on, if the patches are thirty times likelier with a difference than without', () => {
    const firm = (best: number, matters: number, draws = 20_000) =>
      choicesOf(
        decided(
          [
            [
              { best, loss: 1 },
              { best: 1 - best, loss: 9 },
            ],
          ],
          { matters: [matters], draws },
        ),
      )[0].firm;
    // 270 to one, of which the prior's nine to one are none of the patches' doing.
    expect([firm(0.95, 270.1 / 271.1), firm(0.949, 270.1 / 271.1)]).toEqual([true, false]);
    expect(firm(0.99, 269 / 270)).toBe(false);
    // So few draws cannot tell thirty to one.
    expect([firm(0.99, 1, 134), firm(0.99, 1, 137)]).toEqual([false, true]);
  });

  it('is none without a decision', () => {
    expect(choicesOf({ decision: undefined, told: [0] })).toEqual([]);
  });
});

describe('the headline', () => {
  const sure = (best: number, loss: number): Level[] => [
    { best, loss },
    { best: 1 - best, loss: 30 },
  ];

  it('says what to take, how sure, and what is lost where it is wrong', () => {
    expect(write(headline(decided([sure(0.86, 0.28)]), points))).toBe(
      'Take a0: 86 % sure. If that is wrong you lose about 2 points.',
    );
    // The least sure counts; what is lost is the mean.
    expect(write(headline(decided([sure(0.9, 0.5), sure(0.8, 0.2)]), points))).toBe(
      'Take a0 and a1: each at least 80 % sure. If that is wrong you lose about 3 points.',
    );
  });

  it('speaks of no loss where it is next to sure', () => {
    expect(write(headline(decided([sure(0.985, 0.1)]), points))).toBe('Take a0: 99 % sure.');
    expect(write(headline(decided([sure(0.98, 0.1)]), points))).toMatch(
      /^Take a0: 98 % sure\. If .* 5 points\.$/,
    );
  });

  it('says what is open, and where it does not matter', () => {
    expect(write(headline(decided([sure(0.79, 2), sure(0.8, 0.2)]), points))).toBe(
      'Take a1: 80 % sure. If that is wrong you lose about 1 points. Not settled: a0 or b0.',
    );
    const even = decided([
      [
        { best: 0.5, loss: 0.9 },
        { best: 0.3, loss: 0.8 },
        { best: 0.2, loss: 0.99 },
      ],
    ]);
    expect(write(headline(even, points))).toBe('a0, b0 or c0: either will do, as far as it is known.');
  });

  it('calls it even only if less than a hundredth of the scale is to be lost by any open level', () => {
    const of = (loss: number, bounds?: readonly [number, number]) => {
      const analysis = decided([
        [
          { best: 0.6, loss: 0.1 },
          { best: 0.4, loss },
        ],
      ]);
      const own = { ...analysis, asked: { ...analysis.asked, bounds } } as Analysis;
      return isEither(own, choicesOf(own)[0]);
    };
    expect([of(0.99, [0, 100]), of(1, [0, 100]), of(1, [0, 101]), of(1, [1, 101])]).toEqual([
      true,
      false,
      true,
      false,
    ]);
    expect(of(0, undefined)).toBe(false);
  });

  it('never says that it is quite sure, or quite unsure', () => {
    expect([0, 0.004, 0.5, 0.996, 1].map(surePercent)).toEqual([1, 1, 50, 99, 99]);
  });
});

describe('what is said of a factor', () => {
  const two = (best: number, matters: number): [readonly Level[][], { matters: number[] }] => [
    [
      [
        { best, loss: 0.2, value: 91 },
        { best: 1 - best, loss: 6, value: 84 },
      ],
    ],
    { matters: [matters] },
  ];
  const difference = { factor: 0, a: 1, b: 0, value: -8, lo: -11, hi: -5 };

  it('is as firm as the choice is', () => {
    const [levels, known] = two(0.97, 0.9999);
    expect(write(factorSentence(decided(levels, known), 0, points))).toBe(
      'a0 is better than b0, by about 7 points.',
    );
    expect(write(factorSentence(decided(two(0.97, 0.9)[0], { matters: [0.9] }), 0, points))).toBe(
      'a0 most likely is better than b0: 97 % sure, by about 7 points.',
    );
    expect(write(factorSentence(decided(two(0.79, 0.5)[0], { matters: [0.5] }), 0, points))).toBe(
      'a0 or b0: not settled; the likeliest is a0, 79 % sure.',
    );
  });

  it('gives the measured difference with half its interval, whichever way round it was taken', () => {
    const [levels, known] = two(0.97, 0.9999);
    const words = 'a0 is better than b0, by about 7 points (measured: 8 points, give or take 3 points).';
    expect(write(factorSentence(decided(levels, { ...known, differences: [difference] }), 0, points))).toBe(
      words,
    );
    const turned = { ...difference, a: 0, b: 1, value: 8, lo: 5, hi: 11 };
    expect(write(factorSentence(decided(levels, { ...known, differences: [turned] }), 0, points))).toBe(
      words,
    );
    const other = { ...difference, factor: 1 };
    expect(write(factorSentence(decided(levels, { ...known, differences: [other] }), 0, points))).not.toMatch(
      /measured/,
    );
    expect(
      write(factorSentence(decided(levels, { ...known, differences: [difference], failures: 2 }), 0, points)),
    ).toMatch(/\(of those that worked: 8 points/);
  });

  it('is against every other where there are more, by the one of which least is lost', () => {
    const three = decided([
      [
        { best: 0.02, loss: 20, value: 60 },
        { best: 0.97, loss: 0.1, value: 90 },
        { best: 0.01, loss: 10, value: 80 },
      ],
    ]);
    expect(write(factorSentence(three, 0, points))).toBe(
      'b0 is better than every other, by about 10 points.',
    );
    const lonely = decided([
      [
        { best: 1, loss: 0 },
        { best: Number.NaN, loss: Number.NaN, value: Number.NaN },
      ],
    ]);
    expect(write(factorSentence(lonely, 0, points))).toBe('Only a0 was tried.');
  });

  it('names the only one that worked', () => {
    const [levels, known] = two(0.97, 0.9999);
    const failing = [
      { factor: 0, level: 0, failed: 1, of: 4 },
      { factor: 0, level: 1, failed: 4, of: 4 },
    ];
    expect(write(factorSentence(decided(levels, { ...known, failing, failures: 5 }), 0, points))).toBe(
      'a0 is the only one that worked: b0 failed 4 times in 4.',
    );
    const almost = [failing[0], { ...failing[1], failed: 3 }];
    expect(
      write(factorSentence(decided(levels, { ...known, failing: almost, failures: 4 }), 0, points)),
    ).toMatch(/better/);
  });

  it('says what cannot be told apart, and by which missing patches', () => {
    const blind = decided([[{ best: 1, loss: 0 }], [{ best: 1, loss: 0 }]], {
      told: [],
      notTold: [{ factor: 0, levels: [0], from: [1] }],
    });
    const gone = (n: number) =>
      factorSentence(
        {
          ...blind,
          asked: {
            ...blind.asked,
            patches: Array.from({ length: n }, (_, i) => ({
              code: `P${i}`,
              levels: [0, 0],
              value: undefined,
            })),
          },
        } as unknown as Analysis,
        0,
        points,
      );
    expect(write(gone(0))).toBe('Factor 0 and factor 1 cannot be told apart.');
    expect(write(gone(1))).toBe('Factor 0 and factor 1 cannot be told apart: P0 is missing.');
    expect(write(gone(6))).toBe(
      'Factor 0 and factor 1 cannot be told apart: P0, P1, P2, P3, P4, P5 are missing.',
    );
    expect(write(gone(8))).toMatch(/P5 and 2 more are missing\.$/);
  });
});

describe('what is said of failures', () => {
  const of = (a: number, b: number) =>
    failureSentence(
      decided(
        [
          [
            { best: 1, loss: 0 },
            { best: 0, loss: 1 },
          ],
        ],
        {
          failures: a + b,
          failing: [
            { factor: 0, level: 0, failed: a, of: 4 },
            { factor: 0, level: 1, failed: b, of: 4 },
          ],
        },
      ),
      (f, l) => `${'ab'[l]}${f}`,
    );

  it('is level by level from a quarter of difference on', () => {
    expect(write(of(1, 2))).toBe('3 of 8 failed: a0 1 of 4, b0 2 of 4.');
    expect(write(of(2, 2))).toBe('4 of 8 failed.');
    expect(write(of(0, 0))).toBe('');
  });

  it('is how often it worked where yes or no is what was asked', () => {
    const failing = [
      { factor: 0, level: 0, failed: 1, of: 4 },
      { factor: 0, level: 1, failed: 3, of: 4 },
      { factor: 0, level: 2, failed: 0, of: 0 },
    ];
    const levels = (best: number) => [
      [
        { best, loss: 0 },
        { best: 1 - best, loss: 1 },
      ],
    ];
    const words = (best: number) =>
      chanceSentence(decided(levels(best), { failing }), 0, { more: 'is kept' }, (_, l) => 'abc'[l]);
    expect(write(words(0.8))).toBe('a 3 of 4, b 1 of 4. a most likely is kept: 80 % sure.');
    expect(write(words(0.79))).toBe('a 3 of 4, b 1 of 4. Not settled: a or b.');
  });
});

describe('checks of what was fitted', () => {
  // Where the line lies is R's: rstudent() with Bonferroni over twelve, and the F test of lm(y ~ a + b) against
  // lm(y ~ a * b), each at a chance of 0.01.
  const asked = (
    factors: readonly (readonly number[])[],
    values: readonly number[],
    order?: readonly number[],
  ): Asked => ({
    factors: factors.map((_, f) => ({ name: `F${f}`, levels: ['low', 'high'] })),
    ...{ pairs: [], random: [], better: 'high' },
    patches: values.map((value, i) => ({
      ...{ code: `P${i}`, levels: factors.map(f => f[i]), value, shares: [] },
      ...(order ? { order: order[i] } : {}),
    })) as unknown as Asked['patches'],
  });
  // Of lm(resid ~ order).
  const DRIFTS = 0.07844;
  const said = (a: Asked) =>
    checksOf(analyse(a), (f, l) => `${f}/${l}`)
      .map(x => write(x))
      .join(' ');
  const uneven = [0, 0, 0, 1, 1, 1, 1, 1, 1, 1, 1, 1];
  const plain = [70, 73, 69, 80, 84, 79, 82, 85, 78, 81, 83, 80];
  const at = (i: number, value: number) => plain.map((v, k) => (k === i ? value : v));

  it('name a patch that is astray, by its own leverage', () => {
    expect(said(asked([uneven], at(2, 57.4)))).toMatch(/^P2 \(0\/0\) lies much lower/);
    expect(said(asked([uneven], at(2, 57.7)))).not.toMatch(/astray|lies much/);
    expect(said(asked([uneven], at(5, 93.6)))).toMatch(/^P5 \(0\/1\) lies much higher/);
    expect(said(asked([uneven], at(5, 93.3)))).not.toMatch(/lies much/);
  });

  it('say that levels do not add up, and that what came later came out otherwise', () => {
    const a = [0, 0, 0, 0, 0, 0, 1, 1, 1, 1, 1, 1];
    const b = [0, 0, 0, 1, 1, 1, 0, 0, 0, 1, 1, 1];
    const made = [70, 72, 71, 80, 81, 79, 75, 77, 76, 85, 86, 84];
    const bent = (d: number) =>
      said(
        asked(
          [a, b],
          made.map((v, i) => (i > 8 ? v + d : v)),
        ),
      );
    expect(bent(3.95)).toMatch(/does not simply add up/);
    expect(bent(3.8)).not.toMatch(/add up/);
    const even = [70.1, 69.8, 70.3, 69.9, 70.2, 69.7, 80.2, 79.7, 80.1, 80.3, 79.8, 79.9];
    const order = [1, 3, 5, 7, 9, 11, 2, 4, 6, 8, 10, 12];
    const later = (s: number) =>
      said(
        asked(
          [a],
          even.map((v, i) => v + s * order[i]),
          order,
        ),
      );
    expect(later(DRIFTS + 0.003)).toMatch(/made later came out better/);
    expect(later(DRIFTS - 0.003)).not.toMatch(/made later/);
    expect(later(-DRIFTS - 0.1)).toMatch(/made later came out worse/);
  });
});
