import * as v from 'valibot';
import { freshId, patchCode, trialCode } from '../codes/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { chanceFrom } from '../random/index.ts';
import { isSpoilt, SCHEMA_VERSION, TrialPlan, type TrialRecord, verdictOf } from '../trial/index.ts';
import { type KeptRecipe, settingsIn } from './kept.ts';

/** What is made by a recipe at one go. */
export interface PieceRun {
  readonly pieces: number;
  /** The picture, mm. */
  readonly w: number;
  readonly h: number;
  /** The maker's own picture that they carry. */
  readonly picture: { readonly id: string; readonly name: string };
}

/** More at one go are no pieces any more but a factory. */
const MOST_PIECES_MADE = 60;
/** Ground round a picture, where its method needs no more, mm. */
const ROUND_MM = 10;

/**
 * Pieces of a recipe as a plan that the bench runs like a trial's: nothing is changed from piece to piece, each lies on a
 * ground of its own. `recipe`: the book it belongs to, which what comes of it is written into.
 * Fails where there are too many, or the size is none that a plan holds.
 */
export function pieceRun(
  kept: KeptRecipe,
  recipe: string,
  { pieces, w, h, picture }: PieceRun,
  identity: { readonly createdAt: string; readonly random: () => number },
): Outcome<TrialPlan> {
  if (!Number.isInteger(pieces) || pieces < 1 || pieces > MOST_PIECES_MADE)
    return bad(
      'pieces',
      `1 to ${MOST_PIECES_MADE} pieces can be made at one go.`,
      'Make them in several goes.',
    );
  const s = settingsIn(kept);
  const code = trialCode(chanceFrom(Math.floor(identity.random() * 2 ** 31)));
  const around = Math.max(ROUND_MM, s.method.aroundMm);
  const tools = [s.pressing, s.rubTool].flatMap(t => t ?? []);
  const plan = {
    schema: SCHEMA_VERSION,
    id: freshId(identity.random),
    code,
    name: kept.name,
    question: '',
    intent: 'crisp',
    method: s.method.id,
    createdAt: identity.createdAt,
    seed: 0,
    real: { recipe },
    ...{ patchMm: w, patchTallMm: h, gutterMm: 0, marginMm: around },
    board: { w: w + 2 * around, h: h + 2 * around, count: pieces, outline: 'rectangle', onePiece: true },
    design: { kind: 'every combination' },
    factors: [],
    usual: {
      ...{ printer: s.printer.id, donor: s.donor.id, medium: s.medium.id },
      ...{ substrate: s.substrate.id, preparation: s.preparation.id },
      ...{ coatMm: s.coatMm, dryHours: s.dryHours, rounds: Math.max(1, s.rounds), copyAgeH: s.copyAgeH },
      ...{ coatWhere: s.coatWhere, water: s.water, removal: s.removal, trim: s.trim },
      ...{ pressing: s.pressing?.id ?? '', rubTool: s.rubTool?.id ?? '', finish: s.finish?.id ?? '' },
    },
    picture: picture.id,
    pictures: [{ ...picture, how: 'whole', at: { x: 0.5, y: 0.5 }, strip: false }],
    repeats: 1,
    air: kept.air,
    used: {
      method: s.method,
      ...{ printers: [s.printer], donors: [s.donor], mediums: [s.medium] },
      ...{ substrates: [s.substrate], preparations: [s.preparation] },
      tools: tools.filter((t, i) => tools.findIndex(o => o.id === t.id) === i),
      finishes: s.finish ? [s.finish] : [],
    },
    patches: Array.from({ length: pieces }, (_, i) => ({
      ...{ code: patchCode(code, i), order: i, board: i, x: around, y: around, repeat: i, levels: [] },
    })),
  };
  const whole = v.safeParse(TrialPlan, plan);
  if (!whole.success) {
    const [issue] = whole.issues;
    return bad(
      'piece-run',
      `This cannot be made so: ${issue.path?.map(p => p.key).join('.')}: ${issue.message}`,
    );
  }
  return good(whole.output);
}

/**
 * How the pieces of a run came out: kept ones are good, spoilt ones are not, of all that are judged or spoilt; and how many
 * are neither yet.
 */
export function cameOut(
  plan: Pick<TrialPlan, 'patches'>,
  records: readonly TrialRecord[],
): { readonly good: number; readonly of: number; readonly open: number } {
  const spoilt = plan.patches.filter(p => isSpoilt(records, p.code));
  const verdicts = plan.patches
    .filter(p => !spoilt.includes(p))
    .flatMap(p => verdictOf(records, p.code)?.verdict ?? []);
  const of = spoilt.length + verdicts.length;
  return { good: verdicts.filter(d => d === 'keep').length, of, open: plan.patches.length - of };
}
