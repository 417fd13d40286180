import { useEffect, useRef, useState } from 'react';
import { freshId } from '../../../core/codes/index.ts';
import { Cancelled, type Problem } from '../../../core/outcome/index.ts';
import { guessOf, looksWet } from '../../../core/photos/index.ts';
import type { Trialled } from '../../../core/progress/index.ts';
import { SIMULATED_WORDS } from '../../../core/simulator/index.ts';
import { readingsOf } from '../../../core/trial/index.ts';
import { presentMs, type RecordDraft, StorageError, useAppend, workshopOf } from '../../../store/index.ts';
import {
  type Aim,
  glossInWorker,
  lookInWorker,
  type PatchAnswer,
  readInWorker,
} from '../../../workers/index.ts';
import { picturesOn } from '../../ui/pictures-on.ts';
import type { TrialView } from '../view.tsx';
import { byRecords } from './by-records.ts';
import { glossWords } from './ground-line.tsx';
import type { Job, Taken } from './job.ts';

/** What to do with the photos of a trial that are on their way. */
export interface Reader {
  /** Calls back whenever a job changes; gives what takes that back. Jobs change several times a second: only who shows them listens. */
  readonly listen: (told: () => void) => () => void;
  readonly jobs: () => readonly Job[];
  readonly busy: boolean;
  readonly cancel: () => void;
  /** Takes photos in: each is looked at, and read if it is sure what it is of. */
  readonly add: (files: readonly (Blob & { readonly name?: string })[], taken: Taken) => void;
  /**
   * Takes in one photo that is held elsewhere under a name of its own; true once it is stored here, or was before. Then
   * it need not be held there any longer.
   */
  readonly keep: (id: string, photo: Blob & { readonly name: string }, taken: Taken) => Promise<boolean>;
  /** Reads a photo that the bench or an earlier go kept. */
  readonly again: (
    photo: string,
    name: string,
    aim: Extract<Aim, { code: string }>,
    file: Blob,
    taken: Taken,
  ) => void;
  readonly change: (
    id: string,
    part: Partial<Pick<Job, 'aim' | 'taken' | 'isWet' | 'wornBy' | 'isSurelyDry'>>,
  ) => void;
  /** Reads what was asked about, as it now stands. */
  readonly start: (ids: readonly string[]) => void;
  readonly drop: (id: string) => void;
  /** Keeps a photo with its patch unread. */
  readonly keepUnread: (id: string) => void;
}

/** Reads photos one after another and keeps photo and reading together, or neither. What waits survives a reload. */
export function useReader(view: TrialView): Reader {
  const { plan, workshop } = view;
  const append = useAppend(workshop, plan.id);
  const [busy, setBusy] = useState(false);
  const list = useRef<readonly Job[]>([]);
  const listeners = useRef(new Set<() => void>());
  const shown = useRef<Pick<Reader, 'listen' | 'jobs'>>({
    listen: told => {
      listeners.current.add(told);
      return () => listeners.current.delete(told);
    },
    jobs: () => list.current,
  });
  const now = useRef(view);
  now.current = view;
  const abort = useRef<AbortController>(undefined);
  const running = useRef(false);

  const put = (change: (old: readonly Job[]) => readonly Job[]) => {
    list.current = change(list.current);
    setBusy(list.current.some(j => PENDING.includes(j.state)));
    for (const told of listeners.current) told();
  };
  const change = (id: string, part: Partial<Job>) =>
    put(old => old.map(j => (j.id === id ? { ...j, ...part } : j)));
  const forget = (id: string) => workshopOf(workshop).dropWaiting(plan.id, id).catch(ignore);

  const look = async (job: Job, signal: AbortSignal) => {
    const seen = await lookInWorker(job.file, signal);
    if (!seen.ok) return change(job.id, { state: 'refused', problem: seen.problem });
    const { thumbnail, size, asJpeg } = seen.value;
    const given = list.current.flatMap(j =>
      j.id !== job.id && j.aim && 'code' in j.aim ? [j.aim.code] : [],
    );
    const { records, selected } = now.current;
    const guess = guessOf(
      { ...job, ...seen.value },
      { plan, records },
      { given, isAlone: job.isAlone, ...(selected && !job.why ? { chosen: selected.code } : {}) },
    );
    const known = { thumbnail, size, file: asJpeg ?? job.file };
    if (!guess.ok) return change(job.id, { ...known, state: 'refused', problem: guess.problem });
    const aim = job.aim ?? guess.value.aim;
    const found =
      'code' in aim
        ? byRecords(job.taken, { plan, records }, aim.code, takenAtMs(job))
        : { taken: job.taken };
    const isWet = found.isWet;
    // What was kept with it is what is so.
    const wornBy = job.kept ? undefined : found.wornBy;
    const isSure = (job.aim ? job.why === undefined : guess.value.isSure) && !isWet && !wornBy;
    const why = job.why ?? guess.value.why;
    change(job.id, { ...known, ...found, aim, why, isWet, wornBy, state: isSure ? 'waiting' : 'asking' });
  };

  const read = async (job: Job, signal: AbortSignal) => {
    const aim = job.aim!;
    const { stage } = job.taken;
    change(job.id, { state: 'reading', word: 'Opening' });
    if (stage === 'bare') return readBare(job, aim, signal);
    const answers = await readInWorker(
      job.file,
      { plan, pictures: await picturesOn(now.current) },
      aim,
      stage,
      (share, word) => change(job.id, { share, word }),
      signal,
    );
    if (!answers.ok) return change(job.id, { state: 'refused', problem: answers.problem });
    const unread = answers.value.flatMap(({ code, answer }) =>
      answer.ok ? [] : [{ code, problem: answer.problem }],
    );
    if (unread.length === answers.value.length)
      return change(job.id, { state: 'refused', problem: unread[0]?.problem ?? NO_PATCH, unread });
    if (asksWhetherWet(job, answers.value))
      return change(job.id, { state: 'asking', isWet: 'by look', why: job.why });
    const { drafts, files } = keptAs(job, answers.value, now.current);
    await append(drafts, files);
    await forget(job.id);
    const n = answers.value.length - unread.length;
    const word = answers.value.length > 1 ? `${n} of ${answers.value.length} patches read and kept` : '';
    change(job.id, { state: 'done', share: 1, word, unread });
  };

  /** One patch of which nobody was asked yet, that looks damp where others like it did not. */
  const asksWhetherWet = (job: Job, [first, ...rest]: readonly PatchAnswer[]) => {
    if (job.taken.stage !== 'dry' || job.isSurelyDry || rest.length || !first.answer.ok) return false;
    const { plan, records } = now.current;
    const others = plan.patches.flatMap(p => readingsOf(records, p.code));
    return looksWet(first.answer.value.reading.darker, others);
  };

  const readBare = async (job: Job, aim: NonNullable<Job['aim']>, signal: AbortSignal) => {
    if (!('code' in aim)) return change(job.id, { state: 'refused', problem: ONE_BY_ONE });
    const carried = { plan, pictures: await picturesOn(now.current) };
    const seen = await glossInWorker(job.file, carried, aim.code, signal);
    if (!seen.ok) return change(job.id, { state: 'refused', problem: seen.problem });
    const { drafts, files } = keptAs(
      job,
      [{ code: aim.code, answer: { ok: false, problem: NO_PATCH } }],
      view,
    );
    const photo = drafts.find(d => d.kind === 'photo')?.photo ?? job.kept!;
    await append([...drafts, { kind: 'gloss', patch: aim.code, photo, ...seen.value }], files);
    await forget(job.id);
    change(job.id, { state: 'done', share: 1, word: glossWords(seen.value) });
  };

  const pump = async () => {
    if (running.current) return;
    running.current = true;
    for (;;) {
      const job =
        list.current.find(j => j.state === 'looking') ?? list.current.find(j => j.state === 'waiting');
      if (!job) break;
      abort.current ??= new AbortController();
      try {
        await (job.state === 'looking' ? look : read)(job, abort.current.signal);
      } catch (error) {
        if (error instanceof Cancelled) change(job.id, { state: 'cancelled' });
        else change(job.id, { state: 'refused', problem: notKept(error) });
      }
    }
    running.current = false;
    abort.current = undefined;
  };

  const jobOf = async (id: string, file: Blob, name: string, taken: Taken): Promise<Job> => ({
    ...{ ...FRESH, id, name: name.slice(0, 200), file, taken },
    ...(await exifOf(file)),
  });
  /** Keeps a photo with those that wait to be read; where nothing can be stored this rejects. */
  const keepWaiting = ({ id, file, takenAt, simulated, name, taken }: Job, place: number) =>
    workshopOf(workshop).keepWaiting({
      ...{ id, file, takenAt, simulated, trial: plan.id, name, stage: taken.stage },
      ...(taken.worn ? { worn: taken.worn } : {}),
      addedAt: `${new Date(presentMs()).toISOString()}${String(place).padStart(4, '0')}`,
    });
  const begin = (made: readonly Job[]) => {
    const isFirst = !list.current.some(j => PENDING.includes(j.state));
    put(old => [...(isFirst ? old.filter(j => j.state === 'refused') : old), ...made]);
    void pump();
  };

  const take = async (files: readonly { file: Blob; name: string }[], taken: Taken) => {
    const made: Job[] = [];
    for (const { file, name } of files) {
      const job = { ...(await jobOf(freshId(Math.random), file, name, taken)), isAlone: files.length === 1 };
      made.push(job);
      // Where nothing can be stored the reading says so when it is to be kept.
      await keepWaiting(job, made.length).catch(ignore);
    }
    begin(made);
  };

  const keep: Reader['keep'] = async (id, photo, taken) => {
    const isHere =
      list.current.some(j => j.id === id) ||
      now.current.records.some(r => r.kind === 'photo' && r.photo === id) ||
      (await workshopOf(workshop).waitingPhotos(plan.id)).some(w => w.id === id);
    if (isHere) return true;
    const job = { ...(await jobOf(id, photo, photo.name, taken)), isAlone: true };
    await keepWaiting(job, 0);
    begin([job]);
    return true;
  };

  // What an earlier visit left waiting is asked about again.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each trial
  useEffect(() => {
    const { queue } = { queue: workshopOf(workshop).waitingPhotos(plan.id) };
    queue.then(
      left => {
        const known = new Set([
          ...list.current.map(j => j.id),
          // One that was read just before the page was closed is among the records.
          ...now.current.records.flatMap(r => (r.kind === 'photo' ? [r.photo] : [])),
        ]);
        const found = left.filter(w => !known.has(w.id));
        if (!found.length) return;
        put(old => [
          ...found.map(w => ({
            ...FRESH,
            ...w,
            why: 'It was waiting when this was closed.',
            taken: { stage: w.stage, roundOf: () => 1, ...(w.worn ? { worn: w.worn as never } : {}) },
          })),
          ...old,
        ]);
        void pump();
      },
      () => {},
    );
    return () => abort.current?.abort();
  }, [workshop, plan.id]);

  return {
    ...shown.current,
    busy,
    cancel: () => {
      put(old => old.map(j => (PENDING.includes(j.state) ? { ...j, state: 'cancelled' as const } : j)));
      abort.current?.abort();
    },
    add: (files, taken) =>
      void take(
        files.map(file => ({ file, name: file.name || 'photo' })),
        taken,
      ),
    keep,
    again: (photo, name, aim, file, taken) => {
      if (!aim.corners && list.current.some(j => j.kept === photo)) return;
      const id = freshId(Math.random);
      const about = { takenAt: null, simulated: false };
      put(old => [...old, { ...FRESH, ...about, id, name, file, taken, aim, kept: photo }]);
      void pump();
    },
    change,
    start: ids => {
      put(old =>
        old.map(j => (ids.includes(j.id) ? { ...j, state: 'waiting' as const, problem: undefined } : j)),
      );
      void pump();
    },
    drop: id => {
      void forget(id);
      put(old => old.filter(j => j.id !== id));
    },
    keepUnread: id => {
      const job = list.current.find(j => j.id === id);
      if (!job?.aim || !('code' in job.aim)) return;
      const { drafts, files } = keptAs(
        job,
        [{ code: job.aim.code, answer: { ok: false, problem: NO_PATCH } }],
        now.current,
      );
      append(drafts, files).then(
        () => {
          void forget(id);
          change(id, { state: 'done', share: 1, word: 'Kept, to be judged by eye', problem: undefined });
        },
        error => change(id, { state: 'refused', problem: notKept(error) }),
      );
    },
  };
}

const ONE_BY_ONE: Problem = {
  code: 'one-by-one',
  say: 'A bare ground is looked at patch by patch, through the card.',
  wayOut: 'Say which patch lies in the card’s window.',
};

const PENDING: readonly Job['state'][] = ['looking', 'waiting', 'reading'];
const FRESH = { state: 'looking', share: 0, word: '' } as const;
const ignore = () => {};
const NO_PATCH: Problem = { code: 'nothing-read', say: 'No patch in this photo could be read.' };

/** What is recorded of a photo that was read: it with each patch's reading; or it alone, where there is none. */
function keptAs(job: Job, answers: readonly PatchAnswer[], trialled: Trialled) {
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

/** When a photo was taken, ms; now, where it does not say. */
const takenAtMs = ({ takenAt }: Job) => (takenAt ? Date.parse(takenAt) : presentMs());

const notKept = (error: unknown): Problem => {
  if (error instanceof StorageError)
    return { ...error.problem, say: `This photo was not kept. ${error.problem.say}` };
  const why = error instanceof Error ? error.message : 'something failed';
  return { code: 'failed', say: `This photo was not kept: ${why}.`, wayOut: 'Try it again.' };
};

/** What a photo's EXIF says of itself; nothing when there is none. */
async function exifOf(file: Blob): Promise<{ simulated: boolean; takenAt: string | null }> {
  try {
    const exifr = (await import('exifr')).default;
    const tags = await exifr.parse(file, ['ImageDescription', 'DateTimeOriginal']);
    const taken = tags?.DateTimeOriginal;
    return {
      simulated: String(tags?.ImageDescription ?? '').startsWith(SIMULATED_WORDS),
      takenAt: taken instanceof Date && !Number.isNaN(taken.getTime()) ? taken.toISOString() : null,
    };
  } catch {
    return { simulated: false, takenAt: null };
  }
}
