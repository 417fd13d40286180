import { freshId } from '../../../core/codes/index.ts';
import type { Outcome, Problem } from '../../../core/outcome/index.ts';
import { guessOf, looksWet } from '../../../core/photos/index.ts';
import type { Trialled } from '../../../core/progress/index.ts';
import { say } from '../../../core/say/index.ts';
import { readingsOf } from '../../../core/trial/index.ts';
import { presentMs, type RecordDraft, StorageError } from '../../../store/index.ts';
import type { PatchAnswer, Seen } from '../../../workers/index.ts';
import { byRecords } from './by-records.ts';
import type { Job, Taken } from './job.ts';

/** A photo as it comes in. */
export const FRESH = { state: 'looking', share: 0, word: '' } as const;

export const NO_PATCH: Problem = { code: 'nothing-read', say: 'No patch in this photo could be read.' };
export const ONE_BY_ONE: Problem = {
  code: 'one-by-one',
  say: 'A bare ground is looked at patch by patch, through the card.',
  wayOut: 'Say which patch lies in the card’s window.',
};

/** Whether a photo is on its way without anybody being asked. */
export const isPending = ({ state }: Job): boolean =>
  state === 'looking' || state === 'waiting' || state === 'reading';

/** The photo that comes next: what is only to be looked at before what is read, so that questions come early. */
export const nextJob = (jobs: readonly Job[]): Job | undefined =>
  jobs.find(j => j.state === 'looking') ?? jobs.find(j => j.state === 'waiting');

/** The list with new photos in it. Where nothing was under way a new go begins: of the one before only what was refused stays. */
export const withNew = (jobs: readonly Job[], made: readonly Job[]): readonly Job[] => [
  ...(jobs.some(isPending) ? jobs : jobs.filter(j => j.state === 'refused')),
  ...made,
];

/** The list after “cancel”: what was under way is cancelled, what was read, refused or asked about stays. */
export const withoutPending = (jobs: readonly Job[]): readonly Job[] =>
  jobs.map(j => (isPending(j) ? { ...j, state: 'cancelled' as const } : j));

/** The list with photos started that were asked about. */
export const withStarted = (jobs: readonly Job[], ids: readonly string[]): readonly Job[] =>
  jobs.map(j => (ids.includes(j.id) ? { ...j, state: 'waiting' as const, problem: undefined } : j));

/** A photo among those that wait to be read, as it is stored. */
interface Left {
  readonly id: string;
  readonly name: string;
  readonly file: Blob;
  readonly takenAt: string | null;
  readonly simulated: boolean;
  readonly stage: Taken['stage'];
  readonly worn?: string;
}

/** Photos that an earlier visit left waiting, as jobs: not those that are here, nor those whose reading was kept. */
export function leftOver(left: readonly Left[], jobs: readonly Job[], { records }: Trialled): Job[] {
  const known = new Set([
    ...jobs.map(j => j.id),
    // One that was read just before the page was closed is among the records.
    ...records.flatMap(r => (r.kind === 'photo' ? [r.photo] : [])),
  ]);
  return left
    .filter(w => !known.has(w.id))
    .map(w => ({
      ...FRESH,
      ...w,
      why: 'It was waiting when this was closed.',
      taken: { stage: w.stage, roundOf: () => 1, ...(w.worn ? { worn: w.worn as never } : {}) },
    }));
}

/** When a photo was taken, ms; now, where it does not say. */
export const takenAtMs = ({ takenAt }: Pick<Job, 'takenAt'>): number =>
  takenAt ? Date.parse(takenAt) : presentMs();

/**
 * A photo after a first look: read where it is sure what it is of and the records agree with how it is said to be; else
 * asked about. `selected` is the patch that is chosen on the page.
 */
export function lookedAt(
  job: Job,
  seen: Outcome<Seen>,
  { jobs, trialled, selected }: { jobs: readonly Job[]; trialled: Trialled; selected: string | undefined },
): Partial<Job> {
  if (!seen.ok) return { state: 'refused', problem: seen.problem };
  const { thumbnail, size, asJpeg } = seen.value;
  const given = jobs.flatMap(j => (j.id !== job.id && j.aim && 'code' in j.aim ? [j.aim.code] : []));
  const guess = guessOf({ ...job, ...seen.value }, trialled, {
    given,
    ...(job.isAlone ? { isAlone: true } : {}),
    ...(selected && !job.why ? { chosen: selected } : {}),
  });
  const known = { thumbnail, size, file: asJpeg ?? job.file };
  if (!guess.ok) return { ...known, state: 'refused', problem: guess.problem };
  const aim = job.aim ?? guess.value.aim;
  const found =
    'code' in aim ? byRecords(job.taken, trialled, aim.code, takenAtMs(job)) : { taken: job.taken };
  const { isWet } = found;
  // What was kept with it is what is so.
  const wornBy = job.kept ? undefined : found.wornBy;
  const isSure = (job.aim ? job.why === undefined : guess.value.isSure) && !isWet && !wornBy;
  const why = job.why ?? guess.value.why;
  return { ...known, ...found, aim, why, isWet, wornBy, state: isSure ? 'waiting' : 'asking' };
}

/** Whether it is asked if a photo was wet: one patch said to be dry, of which nobody was asked, that looks damp where others like it did not. */
export function asksWhetherWet(
  job: Job,
  [first, ...rest]: readonly PatchAnswer[],
  { plan, records }: Trialled,
): boolean {
  if (job.taken.stage !== 'dry' || job.isSurelyDry || rest.length || !first?.answer.ok) return false;
  return looksWet(
    first.answer.value.reading.darker,
    plan.patches.flatMap(p => readingsOf(records, p.code)),
  );
}

/** What becomes of a photo that was read: refused where no patch of it was, asked whether it was wet, else to be kept. */
export function readAs(
  job: Job,
  answers: readonly PatchAnswer[],
  trialled: Trialled,
):
  | { readonly keep: false; readonly change: Partial<Job> }
  | { readonly keep: true; readonly done: Partial<Job> } {
  const unread = answers.flatMap(({ code, answer }) =>
    answer.ok ? [] : [{ code, problem: answer.problem }],
  );
  if (unread.length === answers.length)
    return {
      keep: false,
      change: { state: 'refused', problem: unread[0]?.problem ?? NO_PATCH, unread },
    };
  if (asksWhetherWet(job, answers, trialled))
    return { keep: false, change: { state: 'asking', isWet: 'by look', why: job.why } };
  const word =
    answers.length > 1 ? `${answers.length - unread.length} of ${answers.length} patches read and kept` : '';
  return { keep: true, done: { state: 'done', share: 1, word, unread } };
}

/** What is recorded of a photo that was read: it with each patch's reading; or it alone, where there is none. */
export function keptAs(job: Job, answers: readonly PatchAnswer[], trialled: Trialled) {
  const photo = job.kept ?? job.id;
  const files = new Map<string, Blob>(job.kept ? [] : [[photo, job.file]]);
  const isAlone = answers.length === 1;
  const drafts = answers.flatMap(({ code, answer }, i): RecordDraft[] => {
    if (!answer.ok && !isAlone) return [];
    // Of a board each patch may have been through something else.
    const { stage, worn, roundOf } = byRecords(job.taken, trialled, code, takenAtMs(job)).taken;
    const about: RecordDraft = {
      ...{ kind: 'photo', patch: code, photo, stage, round: roundOf(code), name: job.name },
      simulated: job.simulated,
      takenAt: job.takenAt,
      ...(worn ? { worn } : {}),
    };
    const first = job.kept ? [] : [about];
    if (!answer.ok) return first;
    // One that is read anew gets a picture of its own: the earlier reading keeps the one it was read from.
    const straight = `${photo}s${job.kept ? freshId(Math.random).slice(0, 8) : isAlone ? '' : i}`;
    files.set(straight, answer.value.straight);
    return [...first, { kind: 'reading', patch: code, photo, reading: answer.value.reading, straight }];
  });
  return { drafts, files };
}

/** What is recorded of a photo of one patch that is kept unread. */
export const keptUnread = (job: Job, code: string, trialled: Trialled) =>
  keptAs(job, [{ code, answer: { ok: false, problem: NO_PATCH } }], trialled);

/** A photo that could not be stored, in words. */
export const notKept = (error: unknown): Problem => {
  if (error instanceof StorageError)
    return { ...error.problem, say: say`This photo was not kept. ${error.problem.say}` };
  const why = error instanceof Error ? error.message : 'something failed';
  return { code: 'failed', say: `This photo was not kept: ${why}.`, wayOut: 'Try it again.' };
};
