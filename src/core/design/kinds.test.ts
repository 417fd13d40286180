import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { METHODS } from '../methods/index.ts';
import { write } from '../say/index.ts';
import { said } from '../say/testing.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import type { Factor, TrialPlan } from '../trial/index.ts';
import { EXAMPLE_REQUEST, examplePlan } from './example.ts';
import { movePatch, type PlanRequest, planTrial, swapPatches, tellsOf } from './index.ts';

const identity = { createdAt: '2026-05-02T08:00:00.000Z', random: () => 0.3 };
const ask = (part: Partial<PlanRequest>) =>
  planTrial({ ...EXAMPLE_REQUEST, ...part }, STARTER_SHELF, identity);
const plan = (part: Partial<PlanRequest>): TrialPlan => {
  const made = ask(part);
  if (!made.ok) throw new Error(`${write(made.problem.say)} ${write(made.problem.wayOut ?? '')}`);
  return made.value;
};
const LARGE = { w: 500, h: 400, outline: 'rectangle', onePiece: false } as const;
const MANY: Factor[] = [
  { key: 'medium', levels: ['matte-acrylic', 'soft-gel', 'white-pva', 'decoupage-glue'] },
  { key: 'dryHours', levels: [4, 20] },
  { key: 'donor', levels: ['copy-70', 'copy-80', 'smooth-120'] },
  { key: 'preparation', levels: ['none', 'white-coat', 'gel-primer'] },
  { key: 'coatMm', levels: [0.2, 0.5] },
  { key: 'rounds', levels: [1, 2, 3] },
];

describe('a fraction', () => {
  it('covers six things in 24 patches, all effects told apart', () => {
    const made = plan({ factors: MANY, design: 'best fraction', budget: 24, board: LARGE });
    expect(made.patches).toHaveLength(24);
    expect(made.design.efficiency).toBeGreaterThan(0.9);
    expect(tellsOf(made).spare).toBeGreaterThan(0);
  });

  it('never holds a combination that a rule stops', () => {
    const made = plan({
      factors: [...MANY, { key: 'printer', levels: ['office-laser', 'cabin-inkjet'] }],
      overrides: ['inkjet-rubbed-wet', 'donor-refuses-colourant'],
      design: 'best fraction',
      budget: 30,
      board: LARGE,
    });
    expect(made.patches).toHaveLength(30);
    const donors: Factor = { key: 'donor', levels: ['copy-80', 'dissolving', 'quick-release'] };
    const stopped = plan({
      factors: [MANY[0], donors, { key: 'printer', levels: ['office-laser', 'cabin-inkjet'] }],
      overrides: ['inkjet-rubbed-wet'],
      design: 'best fraction',
      budget: 16,
      board: LARGE,
    });
    for (const patch of stopped.patches) {
      const inkjet = patch.levels[2] === 1;
      if (inkjet) expect(patch.levels[1]).toBe(0);
    }
    expect(stopped.design.leftOut.map(l => l.why).join()).toMatch(/gums it up/);
    expect(stopped.design.leftOut.reduce((sum, l) => sum + l.count, 0)).toBe(8);
  });

  it('asks for enough patches, and says how many that is', () => {
    const made = ask({ factors: MANY, design: 'best fraction', budget: 8, board: LARGE });
    expect(said(!made.ok && made.problem.say)).toMatch(/at least 12 patches; you can afford 8/);
  });

  it('of more combinations than can be listed is made from a sample of them', () => {
    const eight: Factor[] = [
      ...MANY,
      { key: 'copyAgeH', levels: [1, 24, 100, 700] },
      { key: 'substrate', levels: ['birch-ply', 'white-wood', 'watercolour-card', 'cotton'] },
    ];
    const made = plan({ factors: eight, design: 'best fraction', budget: 28, board: LARGE });
    expect(made.patches).toHaveLength(28);
    expect(made.design.efficiency).toBeGreaterThan(0.85);
  });

  it('says what is mixed up, and stops saying it of a pair that was chosen', () => {
    const five: Factor[] = [
      { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
      { key: 'dryHours', levels: [12, 20] },
      { key: 'donor', levels: ['copy-70', 'copy-80'] },
      { key: 'preparation', levels: ['none', 'gel-primer'] },
      { key: 'coatMm', levels: [0.2, 0.5] },
    ];
    const plain = tellsOf(plan({ factors: five, design: 'best fraction', budget: 8, board: LARGE }));
    expect(plain.cannot.map(x => write(x)).join(' ')).toMatch(/mixed up with .* acting together/);
    const chosen = plan({
      factors: five,
      design: 'best fraction',
      budget: 12,
      interactions: [[0, 1]],
      board: LARGE,
    });
    expect(
      tellsOf(chosen)
        .can.map(x => write(x))
        .join(' '),
    ).toMatch(/medium works differently with another cure time/);
  });
});

describe('order and places', () => {
  it('leave no level only at the edge or only late, whatever the seed', () => {
    fc.assert(
      fc.property(fc.integer(), seed => {
        const made = plan({
          seed,
          factors: MANY.slice(0, 3),
          repeats: 1,
          board: { ...LARGE, w: 330, h: 230 },
        });
        const grid = new Map(made.patches.map(p => [p.code, p]));
        const xs = made.patches.map(p => p.x);
        const ys = made.patches.map(p => p.y);
        made.factors.forEach((factor, f) => {
          factor.levels.forEach((_, level) => {
            const own = [...grid.values()].filter(p => p.levels[f] === level);
            const inner = own.filter(
              p =>
                p.x > Math.min(...xs) &&
                p.x < Math.max(...xs) &&
                p.y > Math.min(...ys) &&
                p.y < Math.max(...ys),
            );
            expect(inner.length).toBeGreaterThan(0);
            expect(Math.min(...own.map(p => p.order))).toBeLessThan(made.patches.length * 0.6);
          });
        });
      }),
      { numRuns: 12 },
    );
  });

  it('give every board its share of every level', () => {
    const made = plan({ repeats: 4, board: { ...EXAMPLE_REQUEST.board } });
    expect(made.board.count).toBe(2);
    for (const board of [0, 1])
      for (const [f, factor] of made.factors.entries())
        factor.levels.forEach((_, level) => {
          const n = made.patches.filter(p => p.board === board && p.levels[f] === level).length;
          expect(n).toBe(12 / factor.levels.length);
        });
  });

  it('keep a group together in time and count what that saves', () => {
    const made = plan({ groupKey: 'medium' });
    const tells = tellsOf(made);
    expect(tells.changes!.grouped).toBeLessThan(tells.changes!.shuffled);
    expect(tells.noticed[0].points).toBeGreaterThan(tells.noticed[0].apart);
    expect(tells.cannot.map(x => write(x)).join(' ')).toMatch(/made in groups/);
  });

  it('put a control on every board', () => {
    const made = plan({ control: true, repeats: 4, board: { ...EXAMPLE_REQUEST.board } });
    for (let board = 0; board < made.board.count; board++)
      expect(made.patches.filter(p => p.board === board && p.levels.length === 0)).toHaveLength(1);
  });
});

describe('strips', () => {
  const strips: Partial<PlanRequest> = {
    factors: [MANY[3], { key: 'dryHours', levels: [4, 20] }],
    design: 'strips',
    stripKey: 'preparation',
    repeats: 2,
    board: { w: 360, h: 130, outline: 'rectangle', onePiece: false },
  };

  it('give each strip one level and every other combination inside it', () => {
    const made = plan(strips);
    const byStrip = new Map([0, 1, 2, 3, 4, 5].map(s => [s, made.patches.filter(p => p.strip === s)]));
    expect(made.patches.every(p => byStrip.has(p.strip!))).toBe(true);
    expect(byStrip.size).toBe(6);
    for (const patches of byStrip.values()) {
      expect(new Set(patches.map(p => p.levels[0])).size).toBe(1);
      expect(patches.map(p => p.levels[1]).sort()).toEqual([0, 1]);
      expect(new Set(patches.map(p => p.x)).size).toBe(1);
    }
  });

  it('are judged against strips, so less surely than what changes inside them', () => {
    const tells = tellsOf(plan({ ...strips, repeats: 4 }));
    expect(tells.noticed[0].points).toBeGreaterThan(tells.noticed[1].points);
    expect(tells.cannot.map(x => write(x)).join(' ')).toMatch(/4 strips of each/);
  });

  it('need two of each kind, a board, and room', () => {
    const once = ask({ ...strips, repeats: 1 });
    expect(said(!once.ok && once.problem.say)).toMatch(/at least twice/);
    const small = ask({ ...strips, board: { ...LARGE, w: 70, h: 70 } });
    if (small.ok) throw new Error('was planned');
    expect(write(small.problem.say)).toMatch(/A strip has to hold 2 patches/);
    expect(write(small.problem.wayOut ?? '')).toMatch(/Take a board of \d+ × \d+ mm/);
    expect(plan({ ...strips, board: { ...LARGE, ...small.problem.board } }).patches).toHaveLength(
      plan(strips).patches.length,
    );
    const oval = ask({ ...strips, board: { ...LARGE, w: 70, h: 70, outline: 'ellipse' } });
    expect(!oval.ok && [oval.problem.wayOut, oval.problem.board]).toEqual([
      'Take a larger board, or vary fewer things inside a strip.',
      undefined,
    ]);
    const none = ask({ ...strips, stripKey: null });
    expect(said(!none.ok && none.problem.say)).toMatch(/whole strips/);
    const tiles = ask({ ...strips, board: { ...LARGE, onePiece: true } });
    expect(said(!tiles.ok && tiles.problem.say)).toMatch(/no strips/);
  });
});

describe('ladders, tiles and ovals', () => {
  it('a ladder takes one number and nothing else', () => {
    const made = plan({ design: 'ladder', factors: [{ key: 'dryHours', levels: [2, 4, 8, 16, 32] }] });
    expect(made.patches).toHaveLength(10);
    const two = ask({ design: 'ladder' });
    expect(said(!two.ok && two.problem.say)).toMatch(/A ladder has one thing/);
  });

  it('tiles carry one patch each, in random order', () => {
    const made = plan({
      board: { w: 100, h: 100, outline: 'rectangle', onePiece: true },
      patchMm: 60,
      control: true,
    });
    expect(made.patches).toHaveLength(14);
    expect(new Set(made.patches.map(p => p.board)).size).toBe(14);
    expect(made.board.count).toBe(14);
    const small = ask({ board: { w: 60, h: 60, outline: 'rectangle', onePiece: true }, patchMm: 60 });
    expect(said(!small.ok && small.problem.say)).toMatch(
      /A piece of 60 × 60 mm is too small for a patch of 60 mm/,
    );
  });

  it('an oval board takes fewer, all inside it', () => {
    const oval = { w: 380, h: 300, outline: 'ellipse', onePiece: false } as const;
    const made = plan({ board: oval });
    for (const p of made.patches)
      for (const [dx, dy] of [
        [0, 0],
        [40, 0],
        [0, 40],
        [40, 40],
      ])
        expect(((p.x + dx - 190) / 190) ** 2 + ((p.y + dy - 150) / 150) ** 2).toBeLessThanOrEqual(1);
  });

  it('film work gets its margin of bare substrate', () => {
    const film = METHODS.find(m => m.id === 'film-pull')!;
    const made = ask({
      method: 'film-pull',
      factors: [{ key: 'dryHours', levels: [0.004, 0.0125] }],
      usual: {
        ...EXAMPLE_REQUEST.usual,
        printer: 'chart-printer',
        donor: 'clear-film',
        medium: 'film-gel',
        substrate: 'white-wood',
        dryHours: 0.0125,
      },
      board: LARGE,
    });
    expect(made.ok && [made.value.gutterMm, made.value.marginMm]).toEqual([film.aroundMm, film.aroundMm]);
  });
});

describe('what cannot be planned', () => {
  it.each([
    [
      'every combination stopped',
      { usual: { ...EXAMPLE_REQUEST.usual, printer: 'cabin-inkjet' } },
      /runs with the water/,
    ],
    [
      'one level stopped',
      { factors: [{ key: 'medium', levels: ['soft-gel', 'film-gel'] }] },
      /Clear alcohol gel for film cannot be tried here/,
    ],
    [
      'a factor the method does not have',
      { method: 'carbon-trace', factors: [{ key: 'medium', levels: ['a', 'b'] }] },
      /cannot be varied with carbon trace/,
    ],
    ['a time out of range', { factors: [{ key: 'dryHours', levels: [4, 900] }] }, /from 4 s to 10 days/],
    ['an unknown method', { method: 'sea-magic' }, /not known here/],
    [
      'a missing usual number',
      { usual: { ...EXAMPLE_REQUEST.usual, coatMm: 0 } },
      /Coat thickness is not filled in/,
    ],
    [
      'a choice the method does not offer',
      { factors: [{ key: 'water', levels: ['damp', 'salted'] }] },
      /salted/,
    ],
    [
      'two pieces, one of them stopped',
      {
        factors: [{ key: 'printer', levels: ['office-laser', 'cabin-inkjet'] }],
        repeats: 1,
      },
      /cannot be tried here|Only one patch is left/,
    ],
    [
      'strips on more boards than anyone has',
      {
        factors: [
          { key: 'preparation', levels: ['none', 'sanded', 'white-coat', 'gel-primer', 'gesso'] },
          { key: 'dryHours', levels: [4, 20] },
        ],
        design: 'strips',
        stripKey: 'preparation',
        repeats: 10,
        board: { w: 70, h: 114, outline: 'rectangle', onePiece: false },
      },
      /That takes \d+ boards|\d+ patches; \d+ is the most/,
    ],
    ['a group that is not varied', { groupKey: 'donor' }, /made together but is not varied/],
  ] as [string, Partial<PlanRequest>, RegExp][])('%s has its own sentence', (_, part, words) => {
    const made = ask(part);
    expect(said(!made.ok && made.problem.say)).toMatch(words);
  });

  it('but a maker who wants to see it fail may', () => {
    const made = ask({
      usual: { ...EXAMPLE_REQUEST.usual, printer: 'cabin-inkjet' },
      overrides: ['inkjet-rubbed-wet'],
    });
    expect(made.ok).toBe(true);
    const harmful = ask({
      usual: { ...EXAMPLE_REQUEST.usual, printer: 'cabin-inkjet', donor: 'dissolving' },
      overrides: ['inkjet-rubbed-wet', 'dissolving-in-inkjet', 'donor-refuses-colourant'],
    });
    expect(said(!harmful.ok && harmful.problem.say)).toMatch(/gums it up/);
  });
});

describe('patches on the board', () => {
  const made = examplePlan();
  const [a, b] = made.patches;

  it('swap places and nothing else', () => {
    const swapped = swapPatches(made, a.code, b.code);
    const now = swapped.ok && swapped.value.patches.find(p => p.code === a.code)!;
    expect(now && [now.x, now.y, now.levels]).toEqual([b.x, b.y, a.levels]);
  });

  it('move where there is room, and say why where there is none', () => {
    const free = movePatch(made, a.code, { board: 0, x: a.x + 1, y: a.y });
    expect(free.ok).toBe(true);
    const out = movePatch(made, a.code, { board: 0, x: 2, y: 2 });
    expect(said(!out.ok && out.problem.say)).toMatch(/closer than 12 mm to the edge/);
    const onOther = movePatch(made, a.code, { board: 0, x: b.x + 5, y: b.y });
    expect(said(!onOther.ok && onOther.problem.say)).toMatch(new RegExp(`closer than 8 mm to ${b.code}`));
  });

  it('cannot be moved when they, the board or the other one are not in the plan', () => {
    for (const [result, words] of [
      [movePatch(made, 'ZZ-ZZZ', { board: 0, x: 20, y: 20 }), /not in the plan/],
      [movePatch(made, a.code, { board: made.board.count, x: a.x, y: a.y }), /no such board/],
      [movePatch(made, a.code, { board: -1, x: a.x, y: a.y }), /no such board/],
      [swapPatches(made, a.code, 'ZZ-ZZZ'), /not in the plan/],
    ] as const)
      expect(said(!result.ok && result.problem.say)).toMatch(words);
  });

  it('stay in their strip', () => {
    const strips = plan({
      factors: [MANY[3], { key: 'dryHours', levels: [4, 20] }],
      design: 'strips',
      stripKey: 'preparation',
      board: { w: 360, h: 130, outline: 'rectangle', onePiece: false },
    });
    const one = strips.patches[0];
    const other = strips.patches.find(p => p.strip !== one.strip)!;
    const swapped = swapPatches(strips, one.code, other.code);
    expect(said(!swapped.ok && swapped.problem.say)).toMatch(/different strips/);
    // With the other's place free, it may still not go there; a little aside in its own strip it may.
    const free = { ...strips, patches: strips.patches.filter(p => p !== other) };
    const across = movePatch(free, one.code, { board: other.board, x: other.x, y: other.y });
    expect(said(!across.ok && across.problem.say)).toMatch(/another strip/);
    const aside = movePatch(strips, one.code, { board: one.board, x: one.x, y: one.y + 0.5 });
    expect(aside.ok).toBe(true);
  });

  it('of strips with a control have one control on every board, in one of its strips', () => {
    const strips = plan({
      factors: [MANY[3], { key: 'dryHours', levels: [4, 20] }],
      design: 'strips',
      stripKey: 'preparation',
      control: true,
      board: { w: 420, h: 190, outline: 'rectangle', onePiece: false },
    });
    for (let board = 0; board < strips.board.count; board++) {
      const here = strips.patches.filter(p => p.board === board);
      const controls = here.filter(p => p.levels.length === 0);
      expect(controls).toHaveLength(1);
      expect(here.some(p => p.levels.length && p.strip === controls[0].strip)).toBe(true);
    }
  });
});
