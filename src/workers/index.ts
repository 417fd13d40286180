import { proxy, type Remote, wrap } from 'comlink';
import type { PlanRequest } from '../core/design/index.ts';
import type { Method } from '../core/methods/index.ts';
import type { Outcome, Progress } from '../core/outcome/index.ts';
import { Cancelled } from '../core/outcome/index.ts';
import type { GroundColour } from '../core/reading/index.ts';
import type { Agenda, Working } from '../core/schedule/index.ts';
import type { Sheets } from '../core/sheets/index.ts';
import type { Shelf } from '../core/shelf/index.ts';
import type { PatchHistory } from '../core/simulator/index.ts';
import type { TrialPlan, TrialRecord } from '../core/trial/index.ts';
import type { ArtworkApi } from './artwork.worker.ts';
import type { CameraApi } from './camera.worker.ts';
import type { PlannerApi } from './planner.worker.ts';
import type { ReadAnswer, ReaderApi } from './reader.worker.ts';
import type { SheetsApi } from './sheets.worker.ts';

export type { Viewed, Viewing } from './artwork.worker.ts';
export type { ReadAnswer } from './reader.worker.ts';

interface Running {
  readonly worker: Worker;
  readonly api: Remote<ReaderApi>;
}

let reader: Running | undefined;

function startReader(): Running {
  const worker = new Worker(new URL('./reader.worker.ts', import.meta.url), {
    type: 'module',
    name: 'reader',
  });
  return { worker, api: wrap<ReaderApi>(worker) };
}

/** Starts the image library in its worker; resolves when it is ready. Starting it again costs nothing. */
export function warmUpReader(): Promise<void> {
  reader ??= startReader();
  return reader.api.warmUp();
}

/**
 * Reads one photo in the worker. Cancelling stops the worker at once; the next call starts a new one.
 * Rejects with {@link Cancelled} when cancelled.
 */
export function readInWorker(
  photo: Blob,
  patchMm: number,
  stage: 'wet' | 'dry',
  tell: Progress,
  signal: AbortSignal,
): Promise<Outcome<ReadAnswer>> {
  reader ??= startReader();
  const running = reader;
  const { word, end } = untilEnded(tell);
  return new Promise((resolve, reject) => {
    const stop = () => {
      running.worker.terminate();
      if (reader === running) reader = undefined;
      reject(new Cancelled());
    };
    if (signal.aborted) return stop();
    signal.addEventListener('abort', stop, { once: true });
    running.worker.addEventListener('error', () => reject(new Error('The image reader stopped.')), {
      once: true,
    });
    running.api
      .read(photo, patchMm, stage, word)
      .then(resolve, reject)
      .finally(() => {
        end();
        signal.removeEventListener('abort', stop);
      });
  });
}

/** The colour of a bare ground from a photo through the reading card. */
export function groundInWorker(photo: Blob, patchMm: number): Promise<Outcome<GroundColour>> {
  reader ??= startReader();
  return reader.api.ground(photo, patchMm);
}

const plannerWorker = () =>
  new Worker(new URL('./planner.worker.ts', import.meta.url), { type: 'module', name: 'planner' });

/** What a plan is made from, and the seed of its names. */
export interface PlanJob {
  readonly request: PlanRequest;
  readonly shelf: Shelf;
  readonly own: readonly Method[];
  readonly createdAt: string;
  readonly identity: number;
}

/**
 * Plans a trial in a worker of its own, for designs that take long to search. Aborting stops the worker at once;
 * then the promise rejects with {@link Cancelled}.
 */
export const planInWorker = (
  job: PlanJob,
  tell: Progress,
  signal: AbortSignal,
): Promise<Outcome<TrialPlan>> => inPlanner(async (api, word) => api.plan(job, word), tell, signal);

/** What the work of a trial is laid out from. */
export interface AgendaJob {
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
  readonly working: Working;
  readonly now: number;
}

/** Lays out the work of a trial thoroughly, in a worker of its own. Aborting rejects with {@link Cancelled}. */
export const agendaInWorker = (
  job: AgendaJob,
  tell: Progress,
  signal: AbortSignal,
): Promise<Outcome<Agenda>> => inPlanner(async (api, word) => api.agenda(job, word), tell, signal);

/** Word of progress comes by another way than the result and may come after it: then nobody is told any more. */
function untilEnded(tell: Progress): { readonly word: Progress; end(): void } {
  let ended = false;
  const word: Progress = proxy((share, words) => {
    if (!ended) tell(share, words);
  });
  return {
    word,
    end: () => {
      ended = true;
    },
  };
}

function inPlanner<T>(
  use: (api: Remote<PlannerApi>, word: Progress) => Promise<T>,
  tell: Progress,
  signal: AbortSignal,
): Promise<T> {
  const worker = plannerWorker();
  const { word, end } = untilEnded(tell);
  return new Promise<T>((resolve, reject) => {
    signal.addEventListener('abort', () => reject(new Cancelled()), { once: true });
    worker.addEventListener('error', () => reject(new Error('The planner stopped.')), { once: true });
    use(wrap<PlannerApi>(worker), word).then(resolve, reject);
  }).finally(() => {
    end();
    worker.terminate();
  });
}

async function once<Api, T>(make: () => Worker, use: (api: Remote<Api>) => Promise<T>): Promise<T> {
  const worker = make();
  try {
    return await use(wrap<Api>(worker));
  } finally {
    worker.terminate();
  }
}

const sheetsWorker = () =>
  new Worker(new URL('./sheets.worker.ts', import.meta.url), { type: 'module', name: 'sheets' });
const cameraWorker = () =>
  new Worker(new URL('./camera.worker.ts', import.meta.url), { type: 'module', name: 'camera' });

/** Sheets as PDF files, one for each, by one worker. */
export const makePdfs = (all: readonly Sheets[]): Promise<Blob[]> =>
  once<SheetsApi, Blob[]>(sheetsWorker, api => api.pdfs(all));

/** Sheets as a PDF. */
export const makePdf = async (sheets: Sheets): Promise<Blob> => (await makePdfs([sheets]))[0];

let artwork: Remote<ArtworkApi> | undefined;

/** The worker that prepares pictures; it is kept, so that a picture is decoded once. */
export function artworkWorker(): Remote<ArtworkApi> {
  artwork ??= wrap<ArtworkApi>(
    new Worker(new URL('./artwork.worker.ts', import.meta.url), { type: 'module', name: 'artwork' }),
  );
  return artwork;
}

/** A photo from the simulated camera. */
export const simulatePhoto = (history: PatchHistory, stage: 'wet' | 'dry', seed: number): Promise<Blob> =>
  once<CameraApi, Blob>(cameraWorker, api => api.shoot(history, stage, seed));
