import { EXAMPLE_REQUEST } from '../src/core/design/example.ts';
import { planTrial } from '../src/core/design/index.ts';
import { commonCause, explained } from '../src/core/diagnosis/index.ts';
import { ProblemError } from '../src/core/outcome/index.ts';
import { type Chance, chanceFrom } from '../src/core/random/index.ts';
import { STARTER_SHELF } from '../src/core/shelf/index.ts';
import { readingFor } from '../src/core/trial/example.ts';
import type { Patch, TrialPlan, TrialRecord } from '../src/core/trial/index.ts';

const HOUR = 3_600_000;

/** What can be wrong with a whole part of a trial, and which patches that part is. */
type Part = 'board' | 'batch' | 'printer' | 'sitting' | 'none';
const PARTS: readonly Part[] = ['board', 'batch', 'printer', 'sitting', 'none'];

/** Trials by chance with one board, batch, printer or sitting gone wrong, or none: how often it is named, how often falsely. */
export function benchCommon(say: (line: string) => void, trials: number) {
  const counts = Object.fromEntries(PARTS.map(p => [p, { right: 0, other: 0, none: 0, all: 0 }])) as Record<
    Part,
    { right: number; other: number; none: number; all: number }
  >;
  for (let seed = 0; seed < trials; seed++) {
    const part = PARTS[seed % PARTS.length];
    const { plan, records, is } = trialOf(seed, part);
    const found = commonCause(plan, records);
    const count = counts[part];
    count.all++;
    if (!found) count.none++;
    else if (is(new Set(found.patches))) count.right++;
    else count.other++;
  }
  for (const part of PARTS) {
    const c = counts[part];
    say(
      part === 'none'
        ? `nothing in common: something was named in ${c.other + c.right} of ${c.all}`
        : `${part.padEnd(8)}: named right ${c.right} of ${c.all}, another ${c.other}, nothing ${c.none}`,
    );
  }
  const wrong = PARTS.filter(p => p !== 'none').map(p => counts[p]);
  const [right, all] = [wrong.reduce((s, c) => s + c.right, 0), wrong.reduce((s, c) => s + c.all, 0)];
  say(
    `in all: named right ${((100 * right) / all).toFixed(0)} % (asked: 90), false alarm ${((100 * (counts.none.all - counts.none.none)) / counts.none.all).toFixed(0)} % (at most 5)`,
  );
}

/** How long it takes to explain one patch, with the next question, and all of a trial of about sixty. */
export function benchExplaining(say: (line: string) => void) {
  const { plan, records } = Array.from({ length: 9 }, (_, k) => trialOf(k, 'board', 10)).find(
    t => t.plan.patches.length >= 60,
  )!;
  const patches = plan.patches.slice(0, 60);
  const took = (work: () => unknown) => {
    const times = Array.from({ length: 5 }, () => {
      const from = performance.now();
      work();
      return performance.now() - from;
    });
    return times.sort((a, b) => a - b)[2].toFixed(0);
  };
  say(`${patches.length} patches, ${records.length} records; median of five:`);
  say(
    `  one explanation with its next question ${took(() => explained(plan, patches[7], records))} ms (asked: 50)`,
  );
  const asked = (yes: boolean) => {
    const { ask } = explained(plan, patches[7], records);
    const answer: TrialRecord = {
      ...{ id: 'answer', at: records[0].at, kind: 'answer', patch: patches[7].code },
      ...{ cause: ask[0]?.cause.id ?? 'air-bubbles', yes },
    };
    return explained(plan, patches[7], [...records, answer]);
  };
  say(`  a question answered, and the next one ${took(() => asked(true))} ms (200)`);
  say(
    `  all of them, and what they have in common ${took(() => {
      for (const p of patches) explained(plan, p, records);
      commonCause(plan, records);
    })} ms (1000)`,
  );
}

/** One trial: its plan and what was read, and whether patches are just those that went wrong. */
function trialOf(seed: number, part: Part, repeats = 4) {
  const chance = chanceFrom(7919 * seed + 13);
  // The first draws of seeds near each other are alike.
  for (let i = 0; i < 8; i++) chance.next();
  const [laser] = STARTER_SHELF.printers;
  const planned = planTrial(
    {
      ...EXAMPLE_REQUEST,
      factors: [
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
        { key: 'printer', levels: [laser.id, 'old-laser'] },
        ...(chance.next() < 0.5 ? [{ key: 'dryHours' as const, levels: [8, 24] }] : []),
      ],
      repeats,
      board: { w: 180, h: 130, outline: 'rectangle', onePiece: false },
    },
    {
      ...STARTER_SHELF,
      printers: [...STARTER_SHELF.printers, { ...laser, id: 'old-laser', name: 'The old laser printer' }],
    },
    { createdAt: '2026-05-02T08:00:00.000Z', random: () => chance.next() },
  );
  if (!planned.ok) throw new ProblemError(planned.problem);
  const made = planned.value;
  // A further batch of some, as a trial that was gone on with has.
  const added = new Set(chance.shuffle(made.patches.map(p => p.code)).slice(0, made.patches.length / 3));
  const plan: TrialPlan = {
    ...made,
    patches: made.patches.map(p => (added.has(p.code) ? { ...p, batch: 1 } : p)),
  };
  const boards = [...new Set(plan.patches.map(p => p.board))];
  // Sittings are by chance: not the order, not the boards.
  const later = new Set(chance.shuffle(plan.patches.map(p => p.code)).slice(0, plan.patches.length / 2));
  const pick = chance.pick(boards);
  const printer = chance.whole(0, 1);
  const inPart: Record<Part, (p: Patch) => boolean> = {
    board: p => p.board === pick,
    batch: p => p.batch === 1,
    printer: p => p.levels[1] === printer,
    sitting: p => later.has(p.code),
    none: () => false,
  };
  // Levels differ by some points: one that differs by far more has gone wrong, and saying so is no false alarm.
  const effects = plan.factors.map(f => f.levels.map(() => 3 * chance.normal()));
  const loss = chance.between(22, 45);
  const landedOf = (p: Patch, c: Chance) => {
    const own = 90 + p.levels.reduce((sum, l, f) => sum + effects[f][l], 0) + 5 * c.normal();
    const stray = c.next() < 0.04 ? 50 * c.next() : 0;
    return Math.max(0, Math.min(100, own - stray - (inPart[part](p) ? loss + 6 * c.normal() : 0)));
  };
  const day = Date.parse('2026-05-02T08:00:00Z');
  const records = plan.patches.flatMap((p, i): TrialRecord[] => [
    {
      ...{ id: `pl${p.code}`, kind: 'step', patch: p.code, step: 'place', round: 1 },
      at: new Date(day + (later.has(p.code) ? 48 * HOUR : 0) + i * 60_000).toISOString(),
    },
    ...readingFor(p.code, i, { landed: landedOf(p, chance) }),
  ]);
  const wrong = plan.patches.filter(inPart[part]).map(p => p.code);
  const is = (codes: ReadonlySet<string>) =>
    codes.size === wrong.length && wrong.every(code => codes.has(code));
  return { plan, records, is };
}
