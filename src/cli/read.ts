import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { parseArgs } from 'node:util';
import * as v from 'valibot';
import { card, targetOn } from '../core/print/index.ts';
import {
  type Board,
  type Cv,
  cutBoard,
  type Pixels,
  type Reference,
  readCut,
  referenceFrom,
} from '../core/reading/index.ts';
import { inManyHands } from '../workers/many-hands.ts';
import { jsonIn, outputTo, runIfStarted, stop } from './command.ts';
import { loadCv } from './node-cv.ts';
import { decode } from './node-image.ts';
import { type Beside, handFor, handOfCuts, readersBeside } from './read-hands.ts';
import {
  given,
  NO_PHOTO,
  noPhoto,
  type PhotoTask,
  readOne,
  refused,
  type Told,
  told,
  whatever,
} from './read-one.ts';

const USAGE =
  'npm run read -- PHOTO… --kit DIR --out FILE.json [--stage dry|wet] [--blank PHOTO] [--board BOARD.json]';

const number = v.pipe(v.number(), v.finite());
const mm = v.pipe(number, v.minValue(5), v.maxValue(2000));
const Size = v.object({ w: mm, h: mm });
const side = v.pipe(number, v.minValue(20), v.maxValue(100));
const Kit = v.object({ patch: side, tall: v.optional(side) });
const BoardFile = v.object({
  unit: v.literal('mm'),
  size: Size,
  markers: v.pipe(
    v.array(
      v.object({
        id: v.pipe(number, v.integer()),
        x: number,
        y: number,
        size: v.pipe(number, v.minValue(2)),
      }),
    ),
    v.minLength(3),
  ),
  greys: v.optional(v.array(v.object({ x: number, y: number, w: number, h: number, value: number }))),
  patches: v.array(
    v.object({ code: v.string(), x: number, y: number, w: mm, h: mm, reference: v.optional(v.string()) }),
  ),
});

function parsed<S extends v.GenericSchema>(schema: S, file: string, words: string): v.InferOutput<S> {
  try {
    return v.parse(schema, JSON.parse(readFileSync(file, 'utf8')));
  } catch {
    stop(words);
  }
}

/** The falling lines of our own target; another picture has none that are known of. */
function linesOf(dir: string, size: { w: number; h: number }) {
  try {
    const told = JSON.parse(readFileSync(join(dir, 'target.json'), 'utf8')) as { lines?: unknown };
    return Array.isArray(told.lines) && told.lines.length ? targetOn(size.w, size.h).lines : undefined;
  } catch {
    return undefined;
  }
}

async function referenceIn(cv: Cv, file: string, size: { w: number; h: number }, lines?: Reference['lines']) {
  const picture = await decode(file).catch(() => stop(`${file} cannot be opened as a picture.`));
  return referenceFrom(cv, picture, size, lines);
}

async function boardIn(
  cv: Cv,
  file: string,
  own: (size: { w: number; h: number }) => Promise<Reference>,
): Promise<Board> {
  const told = parsed(BoardFile, file, `${file} is not a board: see docs/FORMATS.md.`);
  const patches = [];
  for (const { reference, ...patch } of told.patches) {
    const size = { w: patch.w, h: patch.h };
    patches.push({
      ...patch,
      reference: reference ? await referenceIn(cv, join(dirname(file), reference), size) : await own(size),
    });
  }
  return { ...told, patches };
}

/** The files of a kit, none of which a result may overwrite. */
const KIT_FILES = [
  ...[
    'card.json',
    'card.png',
    'card.pdf',
    'target.json',
    'target.png',
    'target-mirrored.pdf',
    'corners.json',
  ],
  ...[1, 2, 3, 4].map(n => `corner-${n}.png`),
];

/** The pictures that a board's file names, beside it; nothing where it cannot be read. */
function referencesIn(board: string): string[] {
  const told = v.safeParse(BoardFile, jsonIn(board));
  if (!told.success) return [];
  return told.output.patches.flatMap(p => (p.reference ? [join(dirname(board), p.reference)] : []));
}

/** What `npm run read` does with its arguments. Throws where it is used wrongly. */
export async function main(args: string[]) {
  const { positionals, values } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      kit: { type: 'string' },
      out: { type: 'string' },
      stage: { type: 'string', default: 'dry' },
      blank: { type: 'string' },
      board: { type: 'string' },
    },
  });
  if (!positionals.length || !values.kit || !values.out || !['dry', 'wet'].includes(values.stage))
    stop(USAGE);
  const dir = values.kit;
  const told = values.board ? referencesIn(values.board) : [];
  const write = outputTo(values.out, [
    ...[...positionals, ...told, ...KIT_FILES.map(name => join(dir, name))],
    ...[values.blank, values.board].flatMap(file => file ?? []),
  ]);
  const { patch, tall = patch } = parsed(
    Kit,
    join(dir, 'card.json'),
    `${dir} is not a kit: make one with "npm run kit -- ${dir}".`,
  );
  const stage = values.stage as 'dry' | 'wet';
  const { cv } = await loadCv();
  const { size: drawn } = parsed(
    v.object({ size: Size }),
    join(dir, 'target.json'),
    `${dir} has no target.json.`,
  );
  const reference = await referenceIn(cv, join(dir, 'target.png'), drawn, linesOf(dir, drawn));
  let blank: Pixels | undefined;
  if (values.blank)
    blank = await decode(values.blank).catch(() => stop(`${values.blank} cannot be opened as a picture.`));
  const ownFor = async (wanted: { w: number; h: number }) =>
    wanted.w === drawn.w && wanted.h === drawn.h
      ? reference
      : referenceIn(cv, join(dir, 'target.png'), wanted, linesOf(dir, wanted));
  const board = values.board ? await boardIn(cv, values.board, ownFor) : undefined;
  const beside = readersBeside((board?.patches.length ?? 1) * positionals.length);
  const say = (file: string, result: object) => console.log(`${file}: ${inWords(result)}`);
  const results: object[] = [];
  if (board)
    for (const file of positionals) {
      const result = { file, ...(await readBoardIn(cv, file, board, stage, beside.hands)) };
      results.push(result);
      say(file, result);
    }
  else {
    const tasks = positionals.map(
      (file): PhotoTask => ({ file, onCard: card(patch, tall), reference, stage, blank }),
    );
    const told = (task: PhotoTask, result: object) => {
      say(task.file, result);
      return { file: task.file, ...result };
    };
    const handOfPhotos = handFor(
      (photo: PhotoTask) => ({ photo }),
      (task, result) => told(task, result as object),
    );
    const hands = beside.hands.map(handOfPhotos);
    results.push(...(await inManyHands(tasks, hands, async task => told(task, await readOne(cv, task)))));
  }
  beside.end();
  write(`${JSON.stringify(results, null, 1)}\n`);
  // A run that found no photo at all was for nothing, and who called it should hear so.
  return results.every(isNoPhoto) ? 1 : 0;
}

/** Whether a file could not even be opened as a picture. */
const isNoPhoto = (result: object) =>
  'refusal' in result && NO_PHOTO.includes((result.refusal as Told | undefined)?.code ?? '');

async function readBoardIn(
  cv: Cv,
  file: string,
  board: Board,
  stage: 'dry' | 'wet',
  hands: Beside['hands'],
): Promise<object> {
  const photo = await decode(file).catch(noPhoto);
  if ('code' in photo) return refused(photo);
  return whatever(async () => {
    const cuts = cutBoard(cv, photo, board, stage);
    if (!cuts.ok) return { ok: false, refusal: refused(told(cuts.problem)).refusal, patches: [] };
    const read = await inManyHands(cuts.value, hands.map(handOfCuts), cut => readCut(cv, cut()));
    return {
      ok: true,
      patches: read.map((one, i) => ({
        code: board.patches[i].code,
        ...(one.ok ? given(one.value) : refused(told(one.problem))),
      })),
    };
  });
}

function inWords(result: object): string {
  if ('patches' in result) return `${(result.patches as object[]).length} patches`;
  if ('landedGive' in result && 'landed' in result)
    return `landed ${result.landed} %, veil ${'veil' in result ? (result.veil ?? 'not given') : 'not given'}`;
  return `refused (${'refusal' in result ? (result.refusal as Told).say : ''})`;
}

await runIfStarted(import.meta.url, main);
