import * as v from 'valibot';
import { freshId, patchCode, trialCode } from '../codes/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { chanceFrom } from '../random/index.ts';
import type { Shelf } from '../shelf/index.ts';
import {
  Air,
  FACTOR_NAMES,
  Factor,
  INTENTS,
  SCHEMA_VERSION,
  type TrialPlan,
  TrialPlan as TrialPlanSchema,
  Usual,
} from '../trial/index.ts';
import { boardGrid, smallestBoard } from './grid.ts';
import { placeRuns } from './randomise.ts';
import { ruleNotes } from './rules.ts';

const size = (name: string, lo: number, hi: number) =>
  v.pipe(
    v.number(`Give ${name} as a number.`),
    v.minValue(lo, `Make ${name} at least ${lo} mm.`),
    v.maxValue(hi, `Make ${name} at most ${hi} mm.`),
  );

/** What the maker asks for; {@link planTrial} turns it into a plan. */
export const PlanRequest = v.object({
  name: v.pipe(
    v.string(),
    v.trim(),
    v.minLength(1, 'Give the trial a name.'),
    v.maxLength(80, 'Shorten the name to 80 letters.'),
  ),
  question: v.pipe(v.string(), v.maxLength(400, 'Shorten the question to 400 letters.')),
  intent: v.picklist(INTENTS),
  seed: v.pipe(v.number(), v.integer()),
  patchMm: size('the patch', 20, 100),
  gutterMm: size('the gutter', 8, 100),
  marginMm: size('the margin', 5, 200),
  board: v.object({ w: size('the board’s width', 30, 3000), h: size('the board’s height', 30, 3000) }),
  factors: v.pipe(
    v.array(Factor),
    v.minLength(1, 'Choose at least one thing to vary.'),
    v.maxLength(3, 'Vary at most three things at once.'),
  ),
  usual: Usual,
  repeats: v.pipe(
    v.number(),
    v.integer(),
    v.minValue(1, 'Make each at least once.'),
    v.maxValue(10, 'At most 10 repeats.'),
  ),
  air: Air,
});
export type PlanRequest = v.InferOutput<typeof PlanRequest>;

const MOST_PATCHES = 400;
const MOST_BOARDS = 40;

/**
 * Lays out a trial: every combination × repeats, on as few boards as hold them, places and order
 * randomised from the seed. The same request, seed, time and identity give the same plan.
 * Fails with a sentence and a way out for empty names, bad sizes, a board too small, a hard stop.
 */
export function planTrial(
  request: PlanRequest,
  shelf: Shelf,
  identity: { readonly createdAt: string; readonly random: () => number },
): Outcome<TrialPlan> {
  const parsed = v.safeParse(PlanRequest, request);
  if (!parsed.success) {
    const issue = parsed.issues[0];
    const factor =
      issue.path?.[0]?.key === 'factors' ? request.factors[Number(issue.path[1]?.key)] : undefined;
    return factor
      ? bad('levels', `${FACTOR_NAMES[factor.key]} needs two to four levels, each filled in.`)
      : bad('request', issue.message);
  }
  const { factors, patchMm, gutterMm, marginMm, board, usual, repeats, air, seed } = parsed.output;
  if (new Set(factors.map(f => f.key)).size !== factors.length)
    return bad('same-factor', 'The same thing is varied twice.', 'Choose another for one of them.');
  const stop = ruleNotes(shelf, usual, factors, air).find(note => note.severity === 'stop');
  if (stop) return bad('rule', stop.say);

  const grid = boardGrid(board, patchMm, gutterMm, marginMm);
  const counts = factors.map(f => f.levels.length);
  const wanted = counts.reduce((a, b) => a * b, 1) * repeats;
  if (wanted > MOST_PATCHES)
    return bad(
      'too-many',
      `That makes ${wanted} patches; ${MOST_PATCHES} is the most.`,
      'Take fewer levels or repeats.',
    );
  const boards = Math.ceil(wanted / Math.max(1, grid.places.length));
  if (!grid.places.length || boards > MOST_BOARDS) {
    const needed = smallestBoard(wanted, patchMm, gutterMm, marginMm);
    return bad(
      'board-too-small',
      `A board of ${board.w} × ${board.h} mm is too small for ${wanted} patches of ${patchMm} mm.`,
      `${needed.w} × ${needed.h} mm would hold them all.`,
    );
  }
  const code = trialCode(chanceFrom(Math.floor(identity.random() * 2 ** 31)));
  const patches = placeRuns(counts, repeats, grid.places, chanceFrom(seed)).map(run => ({
    code: patchCode(code, run.order),
    order: run.order,
    board: run.board,
    x: grid.places[run.place].x,
    y: grid.places[run.place].y,
    repeat: run.repeat,
    levels: [...run.levels],
  }));
  const plan = {
    ...parsed.output,
    schema: SCHEMA_VERSION,
    id: freshId(identity.random),
    code,
    method: 'wet-rub',
    createdAt: identity.createdAt,
    board: { ...board, count: boards },
    used: usedItems(shelf, usual, factors),
    patches,
  };
  const checked = v.safeParse(TrialPlanSchema, plan);
  if (!checked.success) return bad('plan', `The plan does not hold together: ${checked.issues[0].message}`);
  const missing = missingItem(checked.output);
  return missing
    ? bad('not-on-shelf', `${missing} is not on your shelf.`, 'Choose another.')
    : good(checked.output);
}

function usedItems(shelf: Shelf, usual: Usual, factors: readonly Factor[]): TrialPlan['used'] {
  const chosen = (key: 'medium' | 'donor' | 'preparation') => {
    const varied = factors.find(f => f.key === key);
    return varied ? varied.levels : [usual[key]];
  };
  const keep = <T extends { id: string }>(items: readonly T[], ids: readonly unknown[]) =>
    items.filter(item => ids.includes(item.id));
  return {
    printers: keep(shelf.printers, [usual.printer]),
    donors: keep(shelf.donors, chosen('donor')),
    mediums: keep(shelf.mediums, chosen('medium')),
    substrates: keep(shelf.substrates, [usual.substrate]),
    preparations: keep(shelf.preparations, chosen('preparation')),
  };
}

/** An id that the plan names and its own copy of the shelf does not hold, or nothing. */
export function missingItem(plan: TrialPlan): string | undefined {
  const { used, usual, factors } = plan;
  const varied = (key: string) => factors.find(f => f.key === key)?.levels;
  const lists: [readonly { id: string }[], readonly unknown[]][] = [
    [used.printers, [usual.printer]],
    [used.substrates, [usual.substrate]],
    [used.donors, varied('donor') ?? [usual.donor]],
    [used.mediums, varied('medium') ?? [usual.medium]],
    [used.preparations, varied('preparation') ?? [usual.preparation]],
  ];
  for (const [items, ids] of lists)
    for (const id of ids) if (!items.some(item => item.id === id)) return String(id);
  return undefined;
}
