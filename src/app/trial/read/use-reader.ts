import { useEffect, useRef, useState } from 'react';
import { freshId } from '../../../core/codes/index.ts';
import { Cancelled } from '../../../core/outcome/index.ts';
import { SIMULATED_WORDS } from '../../../core/simulator/index.ts';
import { presentMs, useAppend, workshopOf } from '../../../store/index.ts';
import { type Aim, glossInWorker, lookInWorker, readInWorker } from '../../../workers/index.ts';
import { picturesOn } from '../../workshop/pictures-on.ts';
import type { TrialView } from '../view.tsx';
import { glossWords } from './ground-line.tsx';
import type { Job, Taken } from './job.ts';
import {
  FRESH,
  isPending,
  keptAs,
  keptUnread,
  leftOver,
  lookedAt,
  nextJob,
  notKept,
  ONE_BY_ONE,
  readAs,
  withNew,
  withoutPending,
  withStarted,
} from './reader.model.ts';

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
    setBusy(list.current.some(isPending));
    for (const told of listeners.current) told();
  };
  const change = (id: string, part: Partial<Job>) =>
    put(old => old.map(j => (j.id === id ? { ...j, ...part } : j)));
  const forget = (id: string) => workshopOf(workshop).dropWaiting(plan.id, id).catch(ignore);

  const look = async (job: Job, signal: AbortSignal) => {
    const seen = await lookInWorker(job.file, signal);
    const { selected } = now.current;
    change(
      job.id,
      lookedAt(job, seen, { jobs: list.current, trialled: now.current, selected: selected?.code }),
    );
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
    const came = readAs(job, answers.value, now.current);
    if (!came.keep) return change(job.id, came.change);
    const { drafts, files } = keptAs(job, answers.value, now.current);
    await append(drafts, files);
    await forget(job.id);
    change(job.id, came.done);
  };

  const readBare = async (job: Job, aim: NonNullable<Job['aim']>, signal: AbortSignal) => {
    if (!('code' in aim)) return change(job.id, { state: 'refused', problem: ONE_BY_ONE });
    const carried = { plan, pictures: await picturesOn(now.current) };
    const seen = await glossInWorker(job.file, carried, aim.code, signal);
    if (!seen.ok) return change(job.id, { state: 'refused', problem: seen.problem });
    const { drafts, files } = keptUnread(job, aim.code, view);
    const photo = drafts.find(d => d.kind === 'photo')?.photo ?? job.kept!;
    await append([...drafts, { kind: 'gloss', patch: aim.code, photo, ...seen.value }], files);
    await forget(job.id);
    change(job.id, { state: 'done', share: 1, word: glossWords(seen.value) });
  };

  const pump = async () => {
    if (running.current) return;
    running.current = true;
    for (;;) {
      const job = nextJob(list.current);
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
    put(old => withNew(old, made));
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
        const found = leftOver(left, list.current, now.current);
        if (!found.length) return;
        put(old => [...found, ...old]);
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
      put(withoutPending);
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
      put(old => withStarted(old, ids));
      void pump();
    },
    drop: id => {
      void forget(id);
      put(old => old.filter(j => j.id !== id));
    },
    keepUnread: id => {
      const job = list.current.find(j => j.id === id);
      if (!job?.aim || !('code' in job.aim)) return;
      const { drafts, files } = keptUnread(job, job.aim.code, now.current);
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

const ignore = () => {};

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
