import { useRef, useState } from 'react';
import { codeIn, freshId } from '../../../core/codes/index.ts';
import type { Does } from '../../../core/methods/index.ts';
import { Cancelled, type Problem } from '../../../core/outcome/index.ts';
import { progressOf } from '../../../core/progress/index.ts';
import { seedOf } from '../../../core/random/index.ts';
import { SIMULATED_WORDS } from '../../../core/simulator/index.ts';
import {
  airOf,
  type Patch,
  pictureOn,
  settingsOf,
  shortSide,
  type WearTest,
} from '../../../core/trial/index.ts';
import { type RecordDraft, StorageError, useAppend } from '../../../store/index.ts';
import { readInWorker, simulatePhoto } from '../../../workers/index.ts';
import type { TrialView } from '../view.tsx';

/** One photo on its way from file to reading. */
export interface Job {
  readonly id: string;
  readonly patch: string;
  readonly name: string;
  readonly state: 'waiting' | 'reading' | 'done' | 'refused' | 'cancelled';
  readonly share: number;
  readonly word: string;
  readonly problem?: Problem;
}

interface Wanted {
  readonly patch: Patch;
  readonly file: Blob;
  readonly name: string;
}

/** Reads photos one after another and keeps photo and reading together, or neither. */
export function useReader(view: TrialView) {
  const { plan, records, selected, workshop } = view;
  const append = useAppend(workshop, plan.id);
  const [jobs, setJobs] = useState<readonly Job[]>([]);
  const [busy, setBusy] = useState(false);
  const abort = useRef<AbortController>(undefined);
  const change = (id: string, part: Partial<Job>) =>
    setJobs(old => old.map(j => (j.id === id ? { ...j, ...part } : j)));

  const readOne = async (
    job: Job,
    wanted: Wanted,
    stage: 'wet' | 'dry',
    roundOf: (patch: string) => number,
    worn: WearTest | undefined,
    signal: AbortSignal,
  ) => {
    change(job.id, { state: 'reading', word: 'Opening' });
    const isMeasured = !pictureOn(plan, wanted.patch);
    if (!isMeasured && !(await opens(wanted.file)))
      return change(job.id, { state: 'refused', problem: NO_PICTURE });
    const answer = isMeasured
      ? await readInWorker(
          wanted.file,
          shortSide(plan),
          stage,
          (share, word) => change(job.id, { share, word }),
          signal,
        )
      : undefined;
    if (answer && !answer.ok) return change(job.id, { state: 'refused', problem: answer.problem });
    const about = await exifOf(wanted.file);
    const photo = freshId(Math.random);
    const straight = `${photo}s`;
    const files = new Map([
      [photo, wanted.file],
      ...(answer ? [[straight, answer.value.straight] as const] : []),
    ]);
    const drafts: RecordDraft[] = [
      {
        kind: 'photo',
        patch: wanted.patch.code,
        photo,
        stage,
        round: roundOf(wanted.patch.code),
        name: wanted.name,
        simulated: about.simulated,
        takenAt: about.takenAt,
        ...(worn ? { worn } : {}),
      },
      ...(answer
        ? [
            {
              kind: 'reading',
              patch: wanted.patch.code,
              photo,
              reading: answer.value.reading,
              straight,
            } as const,
          ]
        : []),
    ];
    await append(drafts, files);
    change(job.id, { state: 'done', share: 1, word: answer ? '' : 'Kept, to be judged by eye' });
  };

  const begin = () => {
    abort.current = new AbortController();
    setBusy(true);
    return abort.current;
  };

  const run = async (
    list: readonly Wanted[],
    stage: 'wet' | 'dry',
    roundOf: (patch: string) => number,
    worn: WearTest | undefined,
    control: AbortController = begin(),
  ) => {
    const queue = list.map(w => ({
      wanted: w,
      job: {
        id: freshId(Math.random),
        patch: w.patch.code,
        name: w.name,
        state: 'waiting',
        share: 0,
        word: '',
      } as Job,
    }));
    setJobs(queue.map(q => q.job));
    for (const { job, wanted } of queue) {
      try {
        await readOne(job, wanted, stage, roundOf, worn, control.signal);
      } catch (error) {
        if (error instanceof Cancelled) change(job.id, { state: 'cancelled' });
        else
          change(job.id, {
            state: 'refused',
            problem: notKept(error),
          });
      }
    }
    setBusy(false);
  };

  /** Which patch each file is of: by the code in its name, else the selected patch, then on in the order of work. */
  const assign = (files: readonly File[]): Wanted[] => {
    const order = [...plan.patches].sort((a, b) => a.order - b.order);
    let at = Math.max(
      0,
      order.findIndex(p => p.code === selected?.code),
    );
    return files.map(file => {
      const code = codeIn(
        file.name,
        plan.patches.map(p => p.code),
      );
      const patch = plan.patches.find(p => p.code === code) ?? order[at++ % order.length];
      return { patch, file, name: file.name.slice(0, 200) };
    });
  };

  return {
    jobs,
    busy,
    cancel: () => abort.current?.abort(),
    readFiles: (
      files: readonly File[],
      stage: 'wet' | 'dry',
      roundOf: (patch: string) => number,
      worn?: WearTest,
    ) => run(assign(files), stage, roundOf, worn),
    /** A practice photo of this patch, made from what was really recorded, or from the plan where nothing was. */
    simulate: async (patch: Patch, stage: 'wet' | 'dry', round: number) => {
      const control = begin();
      const name = `${patch.code}-simulated.jpg`;
      try {
        const seed = seedOf(`${patch.code}${round}${stage}${records.length}`);
        const file = await simulatePhoto(historyOf(view, patch, round), stage, seed);
        await run([{ patch, file, name }], stage, () => round, undefined, control);
      } catch (error) {
        const say = `The simulated camera failed: ${error instanceof Error ? error.message : 'no reason given'}.`;
        setJobs([
          {
            id: name,
            patch: patch.code,
            name,
            state: 'refused',
            share: 0,
            word: '',
            problem: { code: 'camera', say },
          },
        ]);
        setBusy(false);
      }
    },
  };
}

const NO_PICTURE: Problem = {
  code: 'not-a-picture',
  say: 'This file cannot be opened as a picture.',
  wayOut: 'Use JPEG, PNG or WebP.',
};

/** Whether a file is a picture that this browser can show. */
async function opens(file: Blob): Promise<boolean> {
  try {
    (await createImageBitmap(file)).close();
    return true;
  } catch {
    return false;
  }
}

const notKept = (error: unknown): Problem => {
  if (error instanceof StorageError)
    return { ...error.problem, say: `This photo was not kept. ${error.problem.say}` };
  const why = error instanceof Error ? error.message : 'something failed';
  return { code: 'failed', say: `This photo was not kept: ${why}.`, wayOut: 'Try it again.' };
};

function historyOf({ plan, records }: TrialView, patch: Patch, round: number) {
  const line = progressOf(plan, records).lines.find(l => l.patch.code === patch.code)!;
  const at = (does: Does) => line.doneAt[line.chain.findIndex(l => l.step.does === does)];
  const [coat, place, wet] = [at('coat'), at('place'), at('wet')];
  const settings = settingsOf(plan, patch);
  return {
    settings,
    air: airOf(plan, records),
    placedAfterMin: coat !== undefined && place !== undefined ? (place - coat) / 60_000 : 1.2,
    driedHours: place !== undefined && wet !== undefined ? (wet - place) / 3_600_000 : settings.dryHours,
    rounds: round,
    patchMm: shortSide(plan),
    seed: seedOf(`${plan.id}${patch.code}`),
  };
}

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
