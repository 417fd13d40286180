import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import * as v from 'valibot';
import { card, target } from '../core/print/index.ts';
import { type Pixels, readPhoto } from '../core/reading/index.ts';
import { loadCv } from './node-cv.ts';
import { decode } from './node-image.ts';

const USAGE = 'npm run read -- PHOTO… --kit DIR --out FILE.json [--stage dry|wet] [--blank PHOTO]';

function stop(words: string): never {
  console.error(words);
  process.exit(2);
}

/** The patch size a kit was made for, from its `card.json`. */
function kitSize(dir: string): number {
  try {
    return v.parse(
      v.object({ patch: v.pipe(v.number(), v.minValue(20), v.maxValue(100)) }),
      JSON.parse(readFileSync(join(dir, 'card.json'), 'utf8')),
    ).patch;
  } catch {
    stop(`${dir} is not a kit: make one with "npm run kit -- ${dir}".`);
  }
}

async function main() {
  const { positionals, values } = parseArgs({
    allowPositionals: true,
    options: {
      kit: { type: 'string' },
      out: { type: 'string' },
      stage: { type: 'string', default: 'dry' },
      blank: { type: 'string' },
    },
  });
  if (!positionals.length || !values.kit || !values.out || !['dry', 'wet'].includes(values.stage))
    stop(USAGE);
  const size = kitSize(values.kit);
  const stage = values.stage as 'dry' | 'wet';
  const { cv } = await loadCv();
  let blank: Pixels | undefined;
  if (values.blank)
    blank = await decode(values.blank).catch(() => stop(`${values.blank} cannot be opened as a picture.`));
  const results = [];
  for (const file of positionals) {
    const photo = await decode(file).catch(() => undefined);
    const nothing = {
      landed: null,
      bare: [],
      veil: null,
      smear: null,
      stain: null,
      tone: null,
      detail: null,
      mirrored: null,
      turn: null,
      quality: null,
    };
    const refuse = (code: string, say: string, wayOut?: string) => ({
      file,
      ok: false,
      refusal: { code, say, wayOut },
      ...nothing,
    });
    if (!photo)
      results.push(
        refuse('not-a-picture', 'This file cannot be opened as a picture.', 'Use JPEG, PNG or WebP.'),
      );
    else {
      const read = readPhoto(cv, photo, card(size), target(size), { stage, blank });
      if (read.ok) {
        const { maps: _, ...reading } = read.value.reading;
        results.push({ file, ok: true, ...nothing, ...reading });
      } else results.push(refuse(read.problem.code, read.problem.say, read.problem.wayOut));
    }
    const last = results.at(-1)!;
    console.log(
      `${file}: ${'landedGive' in last ? `landed ${last.landed} %, veil ${last.veil ?? 'not given'}` : `refused (${'refusal' in last ? last.refusal.say : ''})`}`,
    );
  }
  writeFileSync(values.out, `${JSON.stringify(results, null, 1)}\n`);
}

await main();
