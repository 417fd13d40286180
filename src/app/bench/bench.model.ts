import { type AtHand, type Next, pressed, type Screen } from '../../core/advice/index.ts';
import type { Sign } from '../../core/drying/index.ts';
import type { PatchProgress } from '../../core/progress/index.ts';
import type { Link } from '../../core/steps/index.ts';
import { readingOf, standing, type TrialPlan, type TrialRecord, undoWords } from '../../core/trial/index.ts';
import type { RecordDraft } from '../../store/index.ts';

const MIN = 60_000;
/** After so long away the air of the room is another, and the set-up comes again, ms. */
const AWAY_MS = 12 * 60 * MIN;

/** Whether gloves, window and air come first: nothing was noted of the air yet, or nobody was at the bench for half a day. */
export function needsSetUp(records: readonly TrialRecord[], now: number): boolean {
  const kept = standing(records);
  const lastHere = kept.findLast(r => r.kind === 'air' || r.kind === 'step');
  return !lastHere || !kept.some(r => r.kind === 'air') || now - Date.parse(lastHere.at) >= AWAY_MS;
}

/** Whether a learnt wait is asked for: the trial does not compare waits, and the workshop has waits of its method. */
export const asksForWait = (
  plan: Pick<TrialPlan, 'factors' | 'method'>,
  lessons: readonly { readonly shortWaits: readonly { readonly method: string }[] }[],
): boolean =>
  !plan.factors.some(f => f.key === 'dryHours') &&
  lessons.some(l => l.shortWaits.some(w => w.method === plan.method));

/** Whether a tap at a height of the screen is as good as the control: in the lower half, on nothing that is for pressing. */
export const isLowerTap = (y: number, height: number, isOnControl: boolean): boolean =>
  y > height / 2 && !isOnControl;

/** Pieces of an action that nobody photographed dry yet: what wear takes off them can then not be told. */
export const unseenOf = (records: readonly TrialRecord[], codes: readonly string[]): string[] =>
  codes.filter(code => readingOf(records, code)?.photo.stage !== 'dry');

/** When a piece was worked on last, ms; nothing where it never was. */
export const lastDoneAt = ({ doneAt }: Pick<PatchProgress, 'doneAt'>): number | undefined => {
  const times = doneAt.filter(at => at !== undefined);
  return times.length ? Math.max(...times) : undefined;
};

/** What undo would take back, in words. */
export const undoSays = (r: TrialRecord): string => `${r.patch ?? ''} ${undoWords(r)}`;

/** That pieces were found ready for a step, or not. */
export const foundReady = ({ patches }: Sign, { step, round }: Link, ready: boolean): RecordDraft[] =>
  patches.map(patch => ({ kind: 'ready', patch, ready, step: step.id, round }));

/** What taking something back records, and what the hands are at again then (`now`, ms): a step that was taken back. */
export function undone(undoable: TrialRecord, trial: string, now: number) {
  const { patch } = undoable;
  const draft: RecordDraft = { kind: 'undo', patch, of: undoable.id };
  const again: AtHand | undefined =
    undoable.kind === 'step' && patch
      ? { trial, patch, step: undoable.step, round: undoable.round, since: now }
      : undefined;
  return { draft, again };
}

/** What giving a piece up records that would miss its window: no fault of what was tried. */
export const givenUp = (patch: string): RecordDraft => ({
  ...{ kind: 'spoilt', patch, why: 'Given up: it would have missed its window', slip: true },
});

/** What can have happened to a piece, and whether it was a slip of the hand: that says nothing of what was tried; the rest does. */
export const WHYS: readonly { readonly why: string; readonly slip: boolean }[] = [
  { why: 'It tore', slip: false },
  { why: 'It smeared', slip: false },
  { why: 'It would not work', slip: false },
  { why: 'It slipped from me', slip: true },
  { why: 'I touched it', slip: true },
  { why: 'Wrong side or piece', slip: true },
];

/** What is said over the reasons of one kind. */
export const whyHeading = (slip: boolean): string =>
  slip ? 'My slip: it says nothing of what was tried' : 'It failed: that counts against what was tried';

/** Whether what was written ends what the hands are at; a photo or a note beside the work leaves them at it. */
export const freesHands = (drafts: readonly RecordDraft[]): boolean =>
  drafts.some(d => d.kind === 'step' || d.kind === 'spoilt' || d.kind === 'undo');

/** The name of a step that is kept beside others: which piece, which step, with which others. */
interface Told {
  readonly patch: string;
  readonly link: Link;
  readonly also: readonly string[];
}

const stepDraft = ({ patch, link, also }: Told) => ({
  kind: 'step' as const,
  patch,
  step: link.step.id,
  round: link.round,
  ...(also.length ? { also: [...also] } : {}),
});

/** A step that was done some minutes before `now` (ms) and is told of only now. */
export const toldLate = (told: Told, minutesAgo: number, now: number): RecordDraft => ({
  ...stepDraft(told),
  at: new Date(now - minutesAgo * MIN).toISOString(),
  told: new Date(now).toISOString(),
});

/** Whether a step can have been done so many minutes ago: not before the one before it. */
export const canHaveBeen = (minutesAgo: number, since: number | undefined, now: number): boolean =>
  since === undefined || now - minutesAgo * MIN >= since;

/** A step that is left out on purpose. */
export const leftOut = (told: Told): RecordDraft => ({ ...stepDraft(told), skipped: true });

/**
 * The control was pressed at `now` (ms): what it records is written, and the screen is what it was before where that was
 * refused. Gives what came of it: `nothing` where the press recorded nothing.
 */
export async function pressControl(
  screen: { current: Screen },
  next: Next,
  { now, since, sign }: { now: number; since: number | undefined; sign: Sign | undefined },
  write: (drafts: readonly RecordDraft[]) => Promise<boolean>,
): Promise<'nothing' | 'refused' | 'ready' | 'done'> {
  const before = screen.current;
  const { screen: after, draft } = pressed(before, next, now, since);
  screen.current = after;
  if (!draft) return 'nothing';
  const asked = sign && next.action.kind === 'do' ? foundReady(sign, next.action.link, true) : undefined;
  if (!(await write(asked ?? [draft]))) {
    // What is not written was not pressed.
    screen.current = before;
    return 'refused';
  }
  return asked ? 'ready' : 'done';
}

/** What a key at the bench does: nothing while something is written, with a key held beside it, or where a focused control takes space and enter for itself. */
export function keyDoes<T>(
  keys: Readonly<Record<string, T>>,
  e: {
    readonly key: string;
    readonly isWriting: boolean;
    readonly isWithAnother: boolean;
    readonly isOnControl: boolean;
  },
): T | undefined {
  if (e.isWriting || e.isWithAnother) return undefined;
  const isPress = e.key === ' ' || e.key === 'Enter';
  return isPress && e.isOnControl ? undefined : keys[isPress ? e.key : e.key.toLowerCase()];
}
