import { readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { parseArgs } from 'node:util';
import * as v from 'valibot';
import { type Card, card, targetOn } from '../core/print/index.ts';
import {
  type Board,
  type Cv,
  cutBoard,
  type Pixels,
  type ReadPhoto,
  type Reference,
  readCut,
  readPhoto,
  referenceFrom,
} from '../core/reading/index.ts';
import { inManyHands } from '../workers/many-hands.ts';
import { runIfStarted, stop } from './command.ts';
import { loadCv } from './node-cv.ts';
import { decode } from './node-image.ts';
import { type Beside, readersBeside } from './read-hands.ts';

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

const NOTHING = {
  landed: null,
  bare: [],
  veil: null,
  smear: null,
  smearAlong: null,
  stain: null,
  tone: null,
  deltaL: null,
  deltaC: null,
  detail: null,
  edges: null,
  mirrored: null,
  turn: null,
  quality: null,
};
type Told = { code: string; say: string; wayOut?: string };
const refused = ({ code, say, wayOut }: Told) => ({ ok: false, refusal: { code, say, wayOut }, ...NOTHING });
function given({ reading }: ReadPhoto) {
  const { maps: _, ...numbers } = reading;
  return { ok: true, ...NOTHING, ...numbers };
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
  const onCard: Card = card(patch, tall);
  let blank: Pixels | undefined;
  if (values.blank)
    blank = await decode(values.blank).catch(() => stop(`${values.blank} cannot be opened as a picture.`));
  const ownFor = async (wanted: { w: number; h: number }) =>
    wanted.w === drawn.w && wanted.h === drawn.h
      ? reference
      : referenceIn(cv, join(dir, 'target.png'), wanted, linesOf(dir, wanted));
  const board = values.board ? await boardIn(cv, values.board, ownFor) : undefined;
  const beside = board && readersBeside(board.patches.length * positionals.length);
  const results = [];
  for (const file of positionals) {
    const photo = await decode(file).catch(noPhoto);
    const result = {
      file,
      ...(await readOne(
        cv,
        photo,
        board && beside && { board, hands: beside.hands },
        onCard,
        reference,
        stage,
        blank,
      )),
    };
    results.push(result);
    console.log(`${file}: ${inWords(result)}`);
  }
  beside?.end();
  writeFileSync(values.out, `${JSON.stringify(results, null, 1)}\n`);
}

/** Why a file is not looked at. */
const noPhoto = (problem: Error): Told =>
  /pixel limit/.test(problem.message)
    ? {
        code: 'too-large',
        say: 'This picture has more than 60 million pixels.',
        wayOut: 'Save it smaller; 12 million pixels are plenty.',
      }
    : {
        code: 'not-a-picture',
        say: 'This file cannot be opened as a picture.',
        wayOut: 'Use JPEG, PNG or WebP.',
      };

async function readOne(
  cv: Cv,
  photo: Pixels | Told,
  onBoard: { readonly board: Board; readonly hands: Beside['hands'] } | undefined,
  onCard: Card,
  reference: Reference,
  stage: 'dry' | 'wet',
  blank: Pixels | undefined,
) {
  if ('code' in photo) return refused(photo);
  try {
    if (onBoard) {
      const { board, hands } = onBoard;
      const cuts = cutBoard(cv, photo, board, stage);
      if (!cuts.ok) return { ok: false, refusal: refused(cuts.problem).refusal, patches: [] };
      const read = await inManyHands(cuts.value, hands, cut => readCut(cv, cut()));
      return {
        ok: true,
        patches: read.map((one, i) => ({
          code: board.patches[i].code,
          ...(one.ok ? given(one.value) : refused(one.problem)),
        })),
      };
    }
    const read = readPhoto(cv, photo, onCard, reference, { stage, blank });
    return read.ok ? given(read.value) : refused(read.problem);
  } catch (problem) {
    return refused({
      code: 'not-read',
      say: `This photo could not be read: ${problem instanceof Error ? problem.message : problem}.`,
      wayOut: 'Take it again.',
    });
  }
}

function inWords(result: object): string {
  if ('patches' in result) return `${(result.patches as object[]).length} patches`;
  if ('landedGive' in result && 'landed' in result)
    return `landed ${result.landed} %, veil ${'veil' in result ? (result.veil ?? 'not given') : 'not given'}`;
  return `refused (${'refusal' in result ? (result.refusal as Told).say : ''})`;
}

await runIfStarted(import.meta.url, main);
