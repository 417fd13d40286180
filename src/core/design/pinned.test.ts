import { describe, expect, it } from 'vitest';
import { METHODS } from '../methods/index.ts';
import { howLong } from '../questions/index.ts';
import { chanceFrom } from '../random/index.ts';
import { write } from '../say/index.ts';
import { asRead } from '../say/testing.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { EXAMPLE_REQUEST, examplePlan } from './example.ts';
import {
  allCombinations,
  bestFraction,
  chanceOf,
  dEfficiency,
  fPower,
  insideBoard,
  mixingOf,
  movePatch,
  noticeable,
  type PlanRequest,
  piecesFor,
  planCost,
  planTrial,
  pooledNoise,
  smallestBoard,
  swapPatches,
  tellsOf,
  tPower,
} from './index.ts';

/**
 * Plans as they came out when they were last looked at, patch for patch. The other tests say what must hold of any
 * plan; these say that nothing changed unnoticed. After a change that is meant: look at the difference, then `-u`.
 */
const WIDE = { w: 500, h: 400, outline: 'rectangle', onePiece: false } as const;
const MEDIUM = { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] } as const;
const HOURS = { key: 'dryHours', levels: [4, 20] } as const;
const ROUNDS = { key: 'rounds', levels: [1, 2, 3] } as const;
const PREPARATION = { key: 'preparation', levels: ['none', 'white-coat', 'gel-primer'] } as const;
const asked = (part: object) => ({ ...EXAMPLE_REQUEST, ...part }) as PlanRequest;

const REQUESTS: Readonly<Record<string, object>> = {
  usual: {},
  'with a control on two boards': { control: true, repeats: 4 },
  'a ladder': { design: 'ladder', factors: [{ key: 'dryHours', levels: [4, 8, 16, 32] }], repeats: 3 },
  strips: {
    design: 'strips',
    stripKey: 'preparation',
    factors: [PREPARATION, HOURS],
    board: { ...WIDE, w: 360, h: 130 },
  },
  'made together': { groupKey: 'medium', factors: [MEDIUM, ROUNDS], repeats: 2, board: WIDE },
  loads: {
    factors: [MEDIUM, HOURS],
    repeats: 3,
    loadSize: 4,
    board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
    marginMm: 8,
  },
  'a fraction': {
    design: 'best fraction',
    factors: [MEDIUM, HOURS, ROUNDS, PREPARATION],
    interactions: [[0, 1]],
    budget: 14,
    repeats: 1,
    board: WIDE,
  },
  'single pieces made together': {
    groupKey: 'medium',
    factors: [MEDIUM, HOURS],
    repeats: 3,
    board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
    marginMm: 8,
  },
  'loads that cannot be told from levels': {
    factors: [MEDIUM, HOURS],
    repeats: 1,
    loadSize: 2,
    board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
    marginMm: 8,
  },
  'uneven loads': {
    factors: [MEDIUM, ROUNDS],
    repeats: 3,
    loadSize: 5,
    board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
    marginMm: 8,
  },
  'two papers': {
    factors: [{ key: 'donor', levels: ['copy-80', 'smooth-120'] }, HOURS],
    repeats: 3,
    board: WIDE,
  },
  'each once': { factors: [MEDIUM, HOURS, ROUNDS], repeats: 1, board: WIDE },
  'strips on several boards': {
    design: 'strips',
    stripKey: 'preparation',
    factors: [PREPARATION, HOURS],
    repeats: 4,
    board: { ...WIDE, w: 360, h: 130 },
  },
  'a small fraction in its own boards': {
    design: 'best fraction',
    factors: [MEDIUM, HOURS, ROUNDS, PREPARATION],
    budget: 9,
    repeats: 1,
    board: { w: 200, h: 140, outline: 'rectangle', onePiece: false },
  },
  'a large fraction': {
    design: 'best fraction',
    factors: [MEDIUM, HOURS, ROUNDS, PREPARATION],
    interactions: [
      [0, 1],
      [1, 2],
    ],
    budget: 30,
    control: true,
    repeats: 1,
    board: WIDE,
  },
  oval: { board: { w: 420, h: 380, outline: 'ellipse', onePiece: false } },
};

const linesOf = (part: object): string => {
  const plan = examplePlan(part as Partial<PlanRequest>);
  const tells = tellsOf(plan);
  return [
    `board ${JSON.stringify(plan.board)} design ${JSON.stringify({ ...plan.design, leftOut: plan.design.leftOut?.length })}`,
    ...plan.patches.map(p =>
      [p.code, p.order, p.board, p.x, p.y, p.repeat, p.levels.join(','), p.strip ?? '', p.group ?? ''].join(
        ' ',
      ),
    ),
    JSON.stringify(asRead(tells), (_, v) => (typeof v === 'number' ? Number(v.toPrecision(9)) : v), 1),
    JSON.stringify(
      asRead(planCost(plan)),
      (_, v) => (typeof v === 'number' ? Number(v.toPrecision(9)) : v),
      1,
    ),
  ].join('\n');
};

describe('plans, patch for patch', () => {
  it.each(Object.entries(REQUESTS))('%s', async (name, part) => {
    await expect(linesOf(part)).toMatchFileSnapshot(`pinned/${name.replace(/ /g, '-')}.txt`);
  });

  it('of every method', async () => {
    const lines = METHODS.flatMap(method => {
      const request = howLong(method, STARTER_SHELF);
      if (!request.ok) return [`${method.id}: ${write(request.problem.say)}`];
      const chance = chanceFrom(5);
      const made = planTrial(request.value, STARTER_SHELF, {
        createdAt: '2026-05-02T08:00:00.000Z',
        random: () => chance.next(),
      });
      if (!made.ok) return [`${method.id}: ${write(made.problem.say)}`];
      const { patches, board } = made.value;
      return [
        `${method.id} ${board.w} × ${board.h} × ${board.count}: ${patches.map(p => `${p.code} ${p.order} ${p.x} ${p.y} ${p.levels}`).join('; ')}`,
        `${tellsOf(made.value).noticed.map(n => n.points.toFixed(6))} ${planCost(made.value).total.toFixed(4)}`,
      ];
    });
    await expect(lines.join('\n')).toMatchFileSnapshot('pinned/methods.txt');
  });
});

describe('what is refused, word for word', () => {
  const REFUSED: Readonly<Record<string, object>> = {
    'board too small': { board: { w: 50, h: 50, outline: 'rectangle', onePiece: false } },
    'oval too small': { board: { w: 60, h: 60, outline: 'ellipse', onePiece: false } },
    'piece too small': { board: { w: 30, h: 30, outline: 'rectangle', onePiece: true } },
    'strip too small': {
      design: 'strips',
      stripKey: 'preparation',
      factors: [PREPARATION, HOURS],
      board: { w: 60, h: 60, outline: 'rectangle', onePiece: false },
    },
    'too few for the effects': { design: 'best fraction', factors: [MEDIUM, HOURS, ROUNDS], budget: 4 },
    'too many': {
      repeats: 10,
      factors: [{ key: 'dryHours', levels: [1, 2, 3, 4, 5, 6, 7, 8] }, ROUNDS, PREPARATION],
    },
    'a ladder of two': { design: 'ladder', factors: [MEDIUM, HOURS] },
    'strips of what is not varied': { design: 'strips', stripKey: 'finish', factors: [MEDIUM, HOURS] },
    'strips of one thing': { design: 'strips', stripKey: 'medium', factors: [MEDIUM] },
    'strips on single pieces': {
      design: 'strips',
      stripKey: 'medium',
      factors: [MEDIUM, HOURS],
      board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
    },
    'grouped by what is not varied': { groupKey: 'finish', factors: [MEDIUM, HOURS] },
    'the same level twice': { factors: [{ key: 'dryHours', levels: [4, 4] }] },
    'the same thing twice': { factors: [HOURS, HOURS] },
    'as many as may be': {
      repeats: 10,
      factors: [{ key: 'dryHours', levels: [1, 2, 3, 4, 5, 6, 7, 8] }, ROUNDS],
      board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
      marginMm: 8,
    },
    'larger than the paper that is varied': {
      patchMm: 100,
      factors: [{ key: 'donor', levels: ['copy-80', 'dissolving'] }, HOURS],
      board: { w: 900, h: 900, outline: 'rectangle', onePiece: false },
      shrink: 'dissolving',
    },
    'larger than a paper that is not needed': {
      patchMm: 100,
      factors: [MEDIUM, HOURS],
      board: { w: 900, h: 900, outline: 'rectangle', onePiece: false },
      shrink: 'dissolving',
    },
    'larger than its sheet': {
      patchMm: 190,
      board: { w: 600, h: 600, outline: 'rectangle', onePiece: false },
    },
    'strips once only': {
      design: 'strips',
      stripKey: 'preparation',
      factors: [PREPARATION, HOURS],
      repeats: 1,
      board: WIDE,
    },
    'a ladder of choices': { design: 'ladder', factors: [MEDIUM] },
    'an interaction with itself': {
      factors: [MEDIUM, HOURS],
      interactions: [[1, 1]],
      design: 'best fraction',
      budget: 8,
    },
    'an interaction with what is not varied': {
      factors: [MEDIUM, HOURS],
      interactions: [[0, 2]],
      design: 'best fraction',
      budget: 8,
    },
    'a medium that is not there': {
      factors: [{ key: 'medium', levels: ['matte-acrylic', 'nowhere'] }, HOURS],
    },
    'a usual medium that is not there': {
      usual: { ...EXAMPLE_REQUEST.usual, medium: 'nowhere' },
      factors: [HOURS],
    },
    'a usual medium that is not needed': { usual: { ...EXAMPLE_REQUEST.usual, medium: 'nowhere' } },
    'a usual medium that only the control needs': {
      usual: { ...EXAMPLE_REQUEST.usual, medium: 'nowhere' },
      control: true,
    },
    'a choice the method does not give': { factors: [{ key: 'removal', levels: ['rub', 'nowhere'] }, HOURS] },
    'what the method does not vary': { factors: [{ key: 'trim', levels: ['a', 'b'] }] },
    'a level below its range': { factors: [{ key: 'rounds', levels: [0, 2] }] },
    'a level above its range': { factors: [{ key: 'rounds', levels: [2, 99] }] },
    'a level that is not filled in': { factors: [{ key: 'rounds', levels: [2, ''] }] },
    'one level': { factors: [{ key: 'rounds', levels: [2] }] },
    'a usual wait of nothing': { usual: { ...EXAMPLE_REQUEST.usual, dryHours: Number.NaN } },
    'a method that is not known': { method: 'nowhere' },
    'a margin that eats the board': { marginMm: 150 },
    'a gutter that eats the board': { gutterMm: 99 },
  };
  it('with its way out', async () => {
    const lines = Object.entries(REFUSED).map(([name, part]) => {
      // One paper in a sheet that is narrow one way and long the other.
      const { shrink, ...request } = part as { shrink?: string };
      const donors = STARTER_SHELF.donors.map(d =>
        d.id === shrink ? { ...d, sheet: { w: 110, h: 300 } } : d,
      );
      const made = planTrial(
        asked(request),
        { ...STARTER_SHELF, donors },
        {
          createdAt: '2026-05-02T08:00:00.000Z',
          random: () => 0.4,
        },
      );
      return made.ok
        ? `${name}: taken, ${made.value.patches.length}`
        : `${name}: ${JSON.stringify(asRead(made.problem))}`;
    });
    await expect(lines.join('\n')).toMatchFileSnapshot('pinned/refused.txt');
  });
});

describe('arithmetic, digit for digit', () => {
  const short = (v: number) => Number(v.toPrecision(8));
  it('of power, boards, mixing, pieces and fractions', async () => {
    const lines: unknown[] = [];
    for (const df of [1, 3, 10, 40])
      for (const shift of [0, 0.5, 2, 3.5])
        lines.push(['t', df, shift, short(tPower(shift, df)), short(tPower(shift, df, 0.1))]);
    for (const [n, a, b] of [
      [2, 1, 8],
      [5, 2, 9],
      [12, 3, 20],
      [0, 2, 6],
    ])
      lines.push(['f', n, a, b, short(fPower(n, a, b)), short(fPower(n, a, b, 0.01))]);
    for (const df of [1, 2, 6, 30])
      lines.push(['noticeable', df, short(noticeable(df)), short(noticeable(df, 0.9, 0.1))]);
    for (const [want, made, hits, seen] of [
      [1, 3, 2, 4],
      [2, 5, 0, 0],
      [3, 4, 9, 10],
      [0, 2, 1, 1],
    ])
      lines.push(['pieces', want, made, hits, seen, short(chanceOf(want, made, hits, seen))]);
    lines.push(['piecesFor', piecesFor(3, 7, 10), piecesFor(1, 0, 0), piecesFor(2, 9, 10)]);
    for (const outline of ['rectangle', 'ellipse'] as const)
      for (const count of [1, 3, 12])
        lines.push(['smallest', outline, count, smallestBoard(count, 40, 12, 10, outline)]);
    for (const [x, y] of [
      [10, 10],
      [100, 60],
      [0, 0],
      [179, 60],
    ])
      lines.push(['inside', x, y, insideBoard({ w: 220, h: 160, outline: 'ellipse' }, x, y, 40, 5)]);
    lines.push(
      mixingOf(
        [
          [0, 0, 0],
          [0, 1, 1],
          [1, 0, 1],
          [1, 1, 0],
        ],
        [2, 2, 2],
      ),
    );
    const chance = chanceFrom(9);
    const fraction = bestFraction(
      {
        counts: [2, 3, 2],
        pairs: [[0, 1]],
        runs: 9,
        candidates: allCombinations([2, 3, 2]),
        restarts: 6,
      },
      chance,
    );
    lines.push(fraction.runs, short(fraction.efficiency));
    lines.push(short(dEfficiency(fraction.runs, [2, 3, 2], [[0, 1]])));
    lines.push(
      pooledNoise([
        { residualSd: 4, degreesOfFreedom: 6 },
        { residualSd: 7, degreesOfFreedom: 3 },
      ]),
    );
    await expect(lines.map(l => JSON.stringify(asRead(l))).join('\n')).toMatchFileSnapshot(
      'pinned/arithmetic.txt',
    );
  });

  it('of moves and swaps on the board', async () => {
    const plan = examplePlan({ board: WIDE });
    const [a, b, c] = plan.patches;
    const two = examplePlan({ repeats: 4 });
    const [x] = two.patches;
    // Where on its own board nothing lies, but on the other something does.
    const taken = two.patches.filter(p => p.board === x.board);
    const y =
      two.patches.find(p => p.board !== x.board && !taken.some(q => q.x === p.x && q.y === p.y)) ??
      two.patches[1];
    const tried = [
      swapPatches(plan, a.code, b.code),
      swapPatches(plan, a.code, 'ZZ-999'),
      movePatch(plan, a.code, { x: 400, y: 300, board: 0 }),
      movePatch(plan, a.code, { x: c.x + 5, y: c.y, board: 0 }),
      movePatch(plan, a.code, { x: 480, y: 10, board: 0 }),
      movePatch(plan, 'ZZ-999', { x: 10, y: 10, board: 0 }),
      // No board before the first or after the last; what lies on another board is not in the way.
      movePatch(plan, a.code, { x: 400, y: 300, board: -1 }),
      movePatch(plan, a.code, { x: 400, y: 300, board: plan.board.count }),
      movePatch(two, x.code, { x: y.x, y: y.y, board: x.board }),
      movePatch(two, x.code, { x: y.x, y: y.y, board: y.board }),
    ].map(found =>
      found.ok ? found.value.patches.slice(0, 4).map(p => [p.code, p.x, p.y, p.order]) : found.problem,
    );
    await expect(tried.map(l => JSON.stringify(asRead(l))).join('\n')).toMatchFileSnapshot(
      'pinned/moves.txt',
    );
  });
});
