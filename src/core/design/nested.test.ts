import { describe, expect, it } from 'vitest';
import { parsePlan } from '../bundle/index.ts';
import { METHODS, mirrors } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { compareMethods, requestFor } from '../questions/index.ts';
import { chanceFrom } from '../random/index.ts';
import { write } from '../say/index.ts';
import { agendaOf, USUAL_WORKING } from '../schedule/index.ts';
import { benchSheets, donorSets } from '../sheets/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { chainOf } from '../steps/index.ts';
import { summaryOf } from '../summary/index.ts';
import { readingFor } from '../trial/example.ts';
import { levelMarks, levelNames, methodsOf, NO_LEVEL, settingsOf, type TrialPlan } from '../trial/index.ts';
import { bestFraction } from './exchange.ts';
import { dEfficiency, noticeable, type PlanRequest, planTrial, tellsOf } from './index.ts';

const IDENTITY = { createdAt: '2026-05-01T09:00:00.000Z', random: () => 0.4 };
const METHOD = ['wet-rub', 'tape-lift', 'film-pull'];

/** Wet rub in two mediums and two times beside tape and film, on one birch board. */
function asked(part: Partial<PlanRequest> = {}): PlanRequest {
  const plain = requestFor(METHODS.find(m => m.id === METHOD[0])!, STARTER_SHELF);
  if (!plain.ok) throw new ProblemError(plain.problem);
  const compared = compareMethods(
    {
      ...plain.value,
      name: 'Three ways onto birch',
      factors: [
        { key: 'method', levels: METHOD },
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
        { key: 'dryHours', levels: [8, 20] },
      ],
      board: { ...plain.value.board, w: 400, h: 300 },
      ...part,
    },
    STARTER_SHELF,
  );
  if (!compared.ok) throw new ProblemError(compared.problem);
  return compared.value;
}

function mixed(part: Partial<PlanRequest> = {}): TrialPlan {
  const made = planTrial(asked(part), STARTER_SHELF, IDENTITY);
  if (!made.ok) throw new ProblemError(made.problem);
  return made.value;
}

/** The runs of docs/reference/nested.R: method, medium in the first and third, hours in the first alone. */
const A = [
  [0, 0, 0],
  [0, 0, 1],
  [0, 1, 0],
  [0, 1, 1],
];
const B = [1, NO_LEVEL, NO_LEVEL];
const C = [
  [2, 0, NO_LEVEL],
  [2, 1, NO_LEVEL],
];

describe('settings nested in methods', () => {
  it('have the D-efficiency that R works out', () => {
    const runs = [...A, ...A, B, B, B, C[0], C[1], C[0], C[1], C[0]];
    expect(dEfficiency(runs, [3, 2, 2])).toBeCloseTo(0.79441788078661, 12);
  });

  it('are chosen as well as by trying all choices of ten runs', () => {
    const found = bestFraction(
      { counts: [3, 2, 2], pairs: [], runs: 10, candidates: [...A, B, ...C], restarts: 20 },
      chanceFrom(3),
      () => {},
    );
    expect(found.efficiency).toBeCloseTo(0.7780464696658, 10);
  });

  it('cannot be told apart where one only ever changes with the method', () => {
    expect(dEfficiency([A[0], A[0], [1, 1, 1], [1, 1, 1]], [2, 2, 2])).toBe(0);
  });
});

describe('a trial of three methods on one board', () => {
  const plan = mixed();

  it('varies in each what it has: four kinds of wet rub, one of tape, one of film, each twice', () => {
    const kinds = new Map<string, number>();
    for (const p of plan.patches) kinds.set(p.levels.join(), (kinds.get(p.levels.join()) ?? 0) + 1);
    expect([...kinds.keys()].sort()).toEqual([...A.map(String), '1,-1,-1', '2,-1,-1'].sort());
    expect(new Set(kinds.values())).toEqual(new Set([2]));
    const tape = plan.patches.find(p => p.levels[0] === 1)!;
    expect(levelNames(plan, tape)).toEqual(['Tape lift']);
    expect(levelMarks(plan, tape)).toEqual(['A2']);
  });

  it('gives each patch the chain, the sheet and the usual choices of its method', () => {
    const usual = new Map([
      [plan.method, plan.usual],
      ...plan.compared!.map(c => [c.method, c.usual] as const),
    ]);
    for (const patch of plan.patches) {
      const id = METHOD[patch.levels[0]];
      const s = settingsOf(plan, patch);
      expect(s.method.id).toBe(id);
      expect(s.donor.id).toBe(usual.get(id)!.donor);
      if (id !== 'wet-rub') expect(s.dryHours).toBe(usual.get(id)!.dryHours);
      const own = s.method.steps.map(step => step.id);
      expect(chainOf(plan, patch).every(l => own.includes(l.step.id))).toBe(true);
    }
    expect(chainOf(plan, plan.patches.find(p => p.levels[0] === 1)!).some(l => l.step.does === 'tape')).toBe(
      true,
    );
  });

  it('prints mirrored for the methods that turn the picture over, and not for the tape, on sheets of their own', () => {
    const sets = donorSets(plan);
    expect(sets.map(s => s.pieces).reduce((a, b) => a + b)).toBe(plan.patches.length);
    const onCopy = sets.filter(s => s.donor.id === plan.usual.donor);
    expect(onCopy.map(s => [s.isMirrored, s.pieces])).toEqual([
      [true, 8],
      [false, 2],
    ]);
    for (const patch of plan.patches) {
      const { method, donor } = settingsOf(plan, patch);
      expect(mirrors(method, donor.kind)).toBe(patch.levels[0] !== 1);
    }
  });

  it('has a paper bench sheet for each method, with its own columns', () => {
    const pages = benchSheets(plan).pages.map(page =>
      page.marks.flatMap(m => (m.kind === 'text' ? [m.words] : [])),
    );
    const of = (name: string) => pages.find(words => words.some(w => write(w).startsWith(`${name}. Write`)))!;
    for (const method of methodsOf(plan)) {
      const words = of(method.name);
      const own = plan.patches.filter(p => settingsOf(plan, p).method === method).map(p => p.code);
      expect(
        plan.patches
          .map(p => p.code)
          .filter(code => words.includes(code))
          .sort(),
      ).toEqual(own.sort());
      for (const l of chainOf(plan, plan.patches.find(p => p.code === own[0])!))
        expect(words.map(x => write(x))).toContain(l.step.action);
    }
    expect(of('Wet-rub transfer').map(x => write(x))).not.toContain('Pull the film');
  });

  it('counts for what is to be expected of its own method with that one’s patches alone', () => {
    const [tape, rubbed] = [1, 0].map(m => plan.patches.find(p => p.levels[0] === m)!.code);
    const records = [tape, rubbed].flatMap((code, i) => readingFor(code, i, { landed: 40 + i * 50 }));
    expect(summaryOf({ plan, records }, true).results.landed).toEqual([90]);
  });

  it('lays out all chains in one day of work that keeps every window', () => {
    const found = agendaOf(plan, [], USUAL_WORKING, Date.parse('2026-05-02T09:00:00.000Z'));
    if (!found.ok) throw new ProblemError(found.problem);
    const links = plan.patches.reduce((sum, p) => sum + chainOf(plan, p).length, 0);
    expect(found.value.tasks).toHaveLength(links);
    for (const t of found.value.tasks) if (t.window) expect(t.from).toBeLessThanOrEqual(t.window.closes + 1);
    const sorted = [...found.value.tasks].sort((a, b) => a.from - b.from);
    for (const [i, t] of sorted.entries()) if (i) expect(t.from).toBeGreaterThanOrEqual(sorted[i - 1].to - 1);
  });

  it('says what it can tell: the method is judged like any factor', () => {
    const tells = tellsOf(plan);
    expect(tells.noticed.map(n => n.key)).toEqual(['method', 'medium', 'dryHours']);
    expect(tells.noticed.every(n => Number.isFinite(n.points))).toBe(true);
    // By hand: two patches of tape against two of film differ by √(1/2 + 1/2) of the scatter, four against four by √(1/4 + 1/4).
    const unit = plan.noise * noticeable(tells.spare);
    expect(tells.noticed[0].points).toBeCloseTo(unit, 9);
    expect(tells.noticed[1].points).toBeCloseTo(unit * Math.SQRT1_2, 9);
    // Varied in wet rub alone, so it is called what it is there.
    expect(tells.byTest.map(x => write(x)).join()).toContain('Cure time');
  });

  it('opens again, and not when its parts do not fit', () => {
    const again = JSON.parse(JSON.stringify(plan));
    expect(parsePlan(again)).toEqual({ ok: true, value: plan });
    const broken = (change: (p: TrialPlan & { used: { otherMethods: { id: string }[] } }) => void) => {
      const copy = JSON.parse(JSON.stringify(plan));
      change(copy);
      const read = parsePlan(copy);
      return read.ok ? 'opened' : read.problem.say;
    };
    expect(write(broken(p => p.used.otherMethods.pop()))).toMatch(/methods the plan compares/);
    expect(write(broken(p => p.compared!.pop()))).toMatch(/what is usual in a method/);
    expect(write(broken(p => p.used.otherMethods.splice(0, 1, p.used.method as never)))).toMatch(
      /same method twice/,
    );
    expect(write(broken(p => p.patches.find(x => x.levels[1] === NO_LEVEL)!.levels.splice(1, 1, 0)))).toMatch(
      /does not fit its plan/,
    );
    expect(write(broken(p => p.patches.find(x => x.levels[0] === 0)!.levels.splice(1, 1, NO_LEVEL)))).toMatch(
      /does not fit its plan/,
    );
  });

  it('takes the best part of all that there can be, for so many patches as are affordable', () => {
    const few = mixed({ design: 'best fraction', budget: 9 });
    expect(few.patches).toHaveLength(9);
    expect(few.design.efficiency).toBeGreaterThan(0.7);
  });

  it('leaves room for the method that needs the most of it', () => {
    const most = Math.max(...methodsOf(plan).map(m => m.aroundMm));
    expect(most).toBeGreaterThan(0);
    expect(plan.gutterMm).toBeGreaterThanOrEqual(most);
  });
});

describe('what cannot be compared', () => {
  const stopped = (part: Partial<PlanRequest>) => {
    const made = planTrial({ ...asked(), ...part }, STARTER_SHELF, IDENTITY);
    return made.ok ? 'planned' : made.problem.say;
  };

  it('is said: no usual choices, the own method left out, nothing that has the setting', () => {
    expect(write(stopped({ compared: [] }))).toMatch(/What is usual in tape lift is not filled in/);
    expect(write(stopped({ method: 'wax-bed' }))).toMatch(/own method is not among those compared/);
    expect(
      write(
        stopped({
          factors: [
            { key: 'method', levels: METHOD },
            { key: 'coatMm', levels: [0.2, 0.5], of: ['tape-lift'] },
          ],
        }),
      ),
    ).toMatch(/cannot be varied/);
  });

  it('is said of what is kept together but not varied in every method', () => {
    expect(write(stopped({ groupKey: 'dryHours' }))).toMatch(/not varied in every method/);
  });
});
