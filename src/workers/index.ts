import type { Answer, Compared, EvidenceRow, Made } from '../core/evidence/index.ts';
import type { Findings, OtherScatter, Rehearsal, RehearsalAsk } from '../core/findings/index.ts';
import type { Outcome, Progress } from '../core/outcome/index.ts';
import type { Gloss, GroundColour } from '../core/reading/index.ts';
import type { Agenda } from '../core/schedule/index.ts';
import type { Sheets } from '../core/sheets/index.ts';
import type { TrialPlan, TrialRecord } from '../core/trial/index.ts';
import type { ArtworkApi, Facing, Viewed, Viewing } from './artwork.worker.ts';
import type { BundleApi, TrialFile } from './bundle.worker.ts';
import type { CameraApi } from './camera.worker.ts';
import type { EvidenceApi, Weighed } from './evidence.worker.ts';
import type { AgendaJob, PlanJob } from './jobs.ts';
import type { PlannerApi } from './planner.worker.ts';
import type { Aim, Carried, PatchAnswer, ReaderApi, Seen } from './reader.worker.ts';
import { workerFor } from './run.ts';
import type { SheetsApi } from './sheets.worker.ts';

export type { Viewed, Viewing } from './artwork.worker.ts';
export type { TrialFile } from './bundle.worker.ts';
export type { TrainingPiece } from './camera.worker.ts';
export type { Weighed } from './evidence.worker.ts';
export type { AgendaJob, PlanJob } from './jobs.ts';
export type { Aim, Carried, PatchAnswer, Seen } from './reader.worker.ts';

const reader = workerFor<ReaderApi>(
  () => new Worker(new URL('./reader.worker.ts', import.meta.url), { type: 'module', name: 'reader' }),
  'kept',
  'The image reader stopped.',
);
const planner = workerFor<PlannerApi>(
  () => new Worker(new URL('./planner.worker.ts', import.meta.url), { type: 'module', name: 'planner' }),
  'after each job',
  'The planner stopped.',
);
const sheetMaker = workerFor<SheetsApi>(
  () => new Worker(new URL('./sheets.worker.ts', import.meta.url), { type: 'module', name: 'sheets' }),
  'after each job',
  'The sheets could not be made.',
);
const camera = workerFor<CameraApi>(
  () => new Worker(new URL('./camera.worker.ts', import.meta.url), { type: 'module', name: 'camera' }),
  'after each job',
  'The simulated camera stopped.',
);
/** Kept, so that a picture is decoded once. */
const artwork = workerFor<ArtworkApi>(
  () => new Worker(new URL('./artwork.worker.ts', import.meta.url), { type: 'module', name: 'artwork' }),
  'kept',
  'The picture could not be worked on.',
);
/** Kept, so that trials are weighed once for all that is asked. */
const evidence = workerFor<EvidenceApi>(
  () => new Worker(new URL('./evidence.worker.ts', import.meta.url), { type: 'module', name: 'evidence' }),
  'kept',
  'What is known could not be worked out.',
);
const bundles = workerFor<BundleApi>(
  () => new Worker(new URL('./bundle.worker.ts', import.meta.url), { type: 'module', name: 'bundle' }),
  'after each job',
  'The file could not be worked on.',
);

/** Starts the image library in its worker; resolves when it is ready. Starting it again costs nothing. */
export const warmUpReader = (): Promise<void> => reader.run(async api => api.warmUp());

/** What a photo holds: card, corner pieces, a QR code; and how it looks small. Aborting rejects with Cancelled. */
export const lookInWorker = (photo: Blob, signal: AbortSignal): Promise<Outcome<Seen>> =>
  reader.run(async api => api.look(photo), { signal });

/** Reads one photo of a trial. Cancelling stops the reading at once; then it rejects with Cancelled. */
export const readInWorker = (
  photo: Blob,
  carried: Carried,
  aim: Aim,
  stage: 'wet' | 'dry',
  tell: Progress,
  signal: AbortSignal,
): Promise<Outcome<readonly PatchAnswer[]>> =>
  reader.run(async (api, word) => api.read(photo, carried, aim, stage, word), { tell, signal });

/** Whether what a camera shows would do as a photo of this trial. */
export const aimInWorker = (
  frame: { readonly w: number; readonly h: number; readonly data: Uint8ClampedArray },
  plan: TrialPlan,
): Promise<Outcome<true>> => reader.run(async api => api.aim(frame, plan));

/** How much of a patch's bare ground shines, from a photo lit from the side. */
export const glossInWorker = (
  photo: Blob,
  carried: Carried,
  code: string,
  signal: AbortSignal,
): Promise<Outcome<Gloss>> => reader.run(async api => api.gloss(photo, carried, code), { signal });

/** The colour of a bare ground from a photo through the reading card. */
export const groundInWorker = (photo: Blob, patchMm: number): Promise<Outcome<GroundColour>> =>
  reader.run(async api => api.ground(photo, patchMm));

/** Plans a trial, for designs that take long to search. Aborting rejects with Cancelled. */
export const planInWorker = (
  job: PlanJob,
  tell: Progress,
  signal: AbortSignal,
): Promise<Outcome<TrialPlan>> => planner.run(async (api, word) => api.plan(job, word), { tell, signal });

/** Plays a plan through with made-up results. Aborting rejects with Cancelled. */
export const rehearseInWorker = (
  plan: TrialPlan,
  ask: RehearsalAsk,
  tell: Progress,
  signal: AbortSignal,
): Promise<Rehearsal> => planner.run(async (api, word) => api.rehearse(plan, ask, word), { tell, signal });

/** The same with half and twice the scatter. Aborting rejects with Cancelled. */
export const rehearseOthersInWorker = (
  plan: TrialPlan,
  ask: RehearsalAsk,
  tell: Progress,
  signal: AbortSignal,
): Promise<readonly OtherScatter[]> =>
  planner.run(async (api, word) => api.rehearseOthers(plan, ask, word), { tell, signal });

/** Works out what a trial supports. Aborting rejects with Cancelled. */
export const findingsInWorker = (
  plan: TrialPlan,
  records: readonly TrialRecord[],
  tell: Progress,
  signal: AbortSignal,
): Promise<Findings> => planner.run(async (api, word) => api.findings(plan, records, word), { tell, signal });

/** Lays out the work of trials. Aborting rejects with Cancelled. */
export const agendaInWorker = (
  job: AgendaJob,
  tell: Progress,
  signal: AbortSignal,
): Promise<Outcome<Agenda>> => planner.run(async (api, word) => api.agenda(job, word), { tell, signal });

/** Sheets as PDF files, one for each, by one worker. */
export const makePdfs = (all: readonly Sheets[]): Promise<Blob[]> =>
  sheetMaker.run(async api => api.pdfs(all));

/** Letters on sheets that no font has: they print as boxes. */
export const boxesOn = (all: readonly Sheets[]): Promise<string[]> =>
  sheetMaker.run(async api => api.boxes(all));

/** Sheets as a PDF. */
export const makePdf = async (sheets: Sheets): Promise<Blob> => (await makePdfs([sheets]))[0];

/** A picture with its edits: what is measured of it, the donor sheet's view, and how it will look on each ground. */
export const viewPicture = (job: Viewing): Promise<Viewed> => artwork.run(async api => api.view(job));

/** The picture as it goes on the sheet, as a PNG file's bytes. */
export const printPicture = (...job: Parameters<ArtworkApi['print']>): Promise<Uint8Array> =>
  artwork.run(async api => api.print(...job));

/** A picture as it lies on a patch, white where nothing of it is: a PNG file. */
export const patchPicture = (job: Facing): Promise<Blob> => artwork.run(async api => api.face(job));

/** A photo of a patch from the simulated camera. */
export const simulatePhoto = (...job: Parameters<CameraApi['shoot']>): Promise<Blob> =>
  camera.run(async api => api.shoot(...job));

/** A photo of a bare ground by a lamp from the side, from the simulated camera. */
export const simulateGround = (...job: Parameters<CameraApi['shootGround']>): Promise<Blob> =>
  camera.run(async api => api.shootGround(...job));

/** A photo of a whole board from the simulated camera. */
export const simulateBoardPhoto = (...job: Parameters<CameraApi['shootBoard']>): Promise<Blob> =>
  camera.run(async api => api.shootBoard(...job));

/** A piece that failed by a cause, for training the eye. */
export const failOnPurpose = (...job: Parameters<CameraApi['fail']>): ReturnType<CameraApi['fail']> =>
  camera.run(async api => api.fail(...job));

/** What the five steps of a scale look like on a patch, simulated, the worst first. */
export const scaleLooks = (...job: Parameters<CameraApi['scale']>): ReturnType<CameraApi['scale']> =>
  camera.run(async api => api.scale(...job));

/** How a board of a plan would look when it is done, and what would land of each patch. */
export const rehearseLook = (...job: Parameters<CameraApi['rehearse']>): ReturnType<CameraApi['rehearse']> =>
  camera.run(async api => api.rehearse(...job));

/** Opens and checks a trial that was exported, photos decoded; nothing is stored. Aborting rejects with Cancelled. */
export const readTrialFile = (
  file: Blob,
  tell?: Progress,
  signal?: AbortSignal,
): Promise<Outcome<TrialFile>> => bundles.run(async (api, word) => api.read(file, word), { tell, signal });

/** Weighs all trials of a workshop together. */
export const weighEvidence = (rows: readonly EvidenceRow[]): Promise<Weighed> =>
  evidence.run(async api => api.weigh(rows));

/** What is to be expected of a way of making, by what was weighed last. */
export const askEvidence = (made: Made): Promise<Answer | undefined> =>
  evidence.run(async api => api.ask(made));

/** Which level of each of some things is best in a method, by what these rows say. */
export const compareEvidence = (
  rows: readonly EvidenceRow[],
  method: string,
  keys: readonly string[],
): Promise<readonly Compared[]> =>
  evidence.run(async api => {
    await api.weigh(rows);
    const found = await Promise.all(keys.map(key => api.compared(method, key)));
    return found.flatMap(c => c ?? []);
  });
