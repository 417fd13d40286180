// Makes the demo workshop "Gannet Slip": plans, records, simulated photos, and readings by the real reader.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { loadCv } from '../src/cli/node-cv.ts';
import { decode, encodeJpeg } from '../src/cli/node-image.ts';
import { writeBundle } from '../src/core/bundle/index.ts';
import { planTrial, STARTING_REQUEST } from '../src/core/design/index.ts';
import { explain } from '../src/core/diagnosis/index.ts';
import { card } from '../src/core/print/index.ts';
import { progressOf } from '../src/core/progress/index.ts';
import { chanceFrom, seedOf } from '../src/core/random/index.ts';
import {
  boardOf,
  type Cv,
  type Pixels,
  type ReadPhoto,
  type Reference,
  readBoard,
  readPhoto,
  referenceOfFace,
} from '../src/core/reading/index.ts';
import { STARTER_SHELF } from '../src/core/shelf/index.ts';
import {
  historyOf,
  type Printed,
  photograph,
  photographBoard,
  printedFace,
  SIMULATED_WORDS,
  simulateProcess,
  withExif,
} from '../src/core/simulator/index.ts';
import {
  cardSizes,
  carrierOf,
  faceOf,
  type Patch,
  pictureOn,
  pictureRoom,
  type Reading,
  type TrialPlan,
  type TrialRecord,
  type WearTest,
} from '../src/core/trial/index.ts';
import { play } from './play.ts';
import { type DemoTrial, HOUR, TRIALS } from './scenario.ts';

const OUT = 'public/demo';
/** The moment the demo is made for; the app moves it to the moment it is opened. */
const NOW = Date.parse('2026-05-20T17:30:00.000Z');
/** So many trials are there before the first view shows; the others come in behind it. */
const FIRST = 3;
/** How fine the maker's own pictures are drawn, px/mm. */
const PRINT_PX = 12;

function planned({ request, seed, planned: ago }: DemoTrial): TrialPlan {
  const chance = chanceFrom(seed);
  const made = planTrial(
    { ...STARTING_REQUEST, seed, air: { tempC: 17, rh: 58 }, ...request },
    STARTER_SHELF,
    { createdAt: new Date(NOW - ago * HOUR).toISOString(), random: () => chance.next() },
  );
  if (!made.ok) throw new Error(`${request.name}: ${made.problem.say}`);
  return made.value;
}

/** A trial being made: its records grow, its photos are kept by name. */
class Making {
  readonly photos = new Map<string, Uint8Array>();
  private readonly pictures = new Map<string, Pixels>();
  private readonly references = new Map<string, Reference>();
  private number = 0;
  constructor(
    private readonly cv: Cv,
    readonly trial: DemoTrial,
    readonly plan: TrialPlan,
    readonly records: TrialRecord[],
  ) {}

  /** Draws the pictures that patches carry, as they are printed. */
  async drawPictures() {
    for (const picture of this.plan.pictures ?? []) {
      const room = pictureRoom(this.plan, picture);
      const png = await sharp(readFileSync(`demo/${picture.id}.svg`), { density: 200 })
        .resize(Math.round(room.w * PRINT_PX), Math.round(room.h * PRINT_PX), {
          fit: 'contain',
          background: '#fff',
        })
        .png()
        .toBuffer();
      const file = `${picture.id}-file`;
      this.photos.set(file, new Uint8Array(png));
      this.pictures.set(picture.id, await decode(new Uint8Array(png)));
      const at = this.plan.createdAt;
      this.records.unshift({
        id: `pic-${picture.id}`,
        at,
        patch: null,
        kind: 'picture',
        picture: picture.id,
        file,
      });
    }
  }

  private printed(patch: Patch): Printed {
    return printedFace(faceOf(this.plan, patch), this.pictures.get(pictureOn(this.plan, patch)?.id ?? ''));
  }

  private reference(patch: Patch): Reference {
    const key = pictureOn(this.plan, patch)?.id ?? 'target';
    const known = this.references.get(key);
    if (known) return known;
    const made = referenceOfFace(this.cv, faceOf(this.plan, patch), this.pictures.get(key));
    this.references.set(key, made);
    return made;
  }

  private history(patch: Patch, round: number, at: number, worn: readonly WearTest[]) {
    // The air of the time, not that of later.
    const until = this.records.filter(r => Date.parse(r.at) <= at);
    const made = historyOf({ plan: this.plan, records: until }, patch.code, { round, at, worn });
    return this.trial.fate?.(made, patch, this.plan) ?? made;
  }

  private async keep(jpeg: Uint8Array): Promise<string> {
    const id = `p${String(++this.number).padStart(3, '0')}`;
    this.photos.set(id, jpeg);
    return id;
  }

  private async add(
    patch: Patch,
    read: ReadPhoto,
    photo: { id: string; straight: string; name: string; round: number; at: number; worn?: WearTest },
  ) {
    this.photos.set(photo.straight, new Uint8Array(await encodeJpeg(read.straight, 80)));
    const base = { at: new Date(photo.at).toISOString(), patch: patch.code };
    this.records.push({
      ...{
        id: `${photo.straight}a`,
        ...base,
        kind: 'photo',
        photo: photo.id,
        stage: 'dry',
        round: photo.round,
      },
      ...{ name: photo.name, simulated: true, takenAt: base.at },
      ...(photo.worn ? { worn: photo.worn } : {}),
    });
    const { id, straight } = photo;
    this.records.push({
      id: `${straight}b`,
      ...base,
      kind: 'reading',
      photo: id,
      reading: read.reading,
      straight,
    });
  }

  /** One patch through the card. */
  async shoot(
    patch: Patch,
    round: number,
    at: number,
    worn: readonly WearTest[] = [],
  ): Promise<Reading | undefined> {
    const history = this.history(patch, round, at, worn);
    const [size] = cardSizes(this.plan);
    const onCard = card(size.w, size.h);
    const { substrate, preparation } = history.settings;
    const shot = photograph(simulateProcess(history), this.printed(patch), onCard, substrate, preparation, {
      ...{ seed: seedOf(`${patch.code}${round}${worn}${at}`), stage: 'dry', pxPerMm: 9, falloff: 0.25 },
    });
    const jpeg = withExif(new Uint8Array(await encodeJpeg(shot.photo, 78)), SIMULATED_WORDS, new Date(at));
    const read = readPhoto(this.cv, await decode(jpeg), onCard, this.reference(patch), { stage: 'dry' });
    if (!read.ok) {
      console.log(patch.code, read.problem.say);
      return undefined;
    }
    const id = await this.keep(jpeg);
    const last = worn.at(-1);
    const name = `${patch.code}-${last ?? `round${round}`}.jpg`;
    await this.add(patch, read.value, {
      id,
      straight: `${id}s`,
      name,
      round,
      at,
      ...(last ? { worn: last } : {}),
    });
    const { landed, veil, smear } = read.value.reading;
    console.log(
      patch.code,
      'round',
      round,
      worn.join(),
      `${shot.landed.toFixed(1)} → ${landed}`,
      veil,
      smear,
    );
    return read.value.reading;
  }

  /** A whole board in one photo. */
  async shootBoard(board: number, round: (patch: Patch) => number, at: number) {
    const own = this.plan.patches.filter(p => p.board === board);
    const patches = own.map(p => {
      const history = this.history(p, round(p), at, []);
      const { substrate, preparation } = history.settings;
      return {
        x: p.x,
        y: p.y,
        outcome: simulateProcess(history),
        printed: this.printed(p),
        substrate,
        preparation,
      };
    });
    const { w, h } = carrierOf(this.plan, board);
    const photo = photographBoard(
      { size: { w, h }, patches },
      { seed: seedOf(`${this.plan.id}${board}`), stage: 'dry', pxPerMm: 8.5, tiltDeg: 9, falloff: 0.25 },
    );
    const jpeg = withExif(new Uint8Array(await encodeJpeg(photo, 74)), SIMULATED_WORDS, new Date(at));
    const read = readBoard(
      this.cv,
      await decode(jpeg),
      boardOf(this.plan, board, p => this.reference(p)),
      'dry',
    );
    if (!read.ok) throw new Error(`${this.plan.name}: ${read.problem.say}`);
    const id = await this.keep(jpeg);
    for (const [i, { code, read: one }] of read.value.entries()) {
      const patch = own.find(p => p.code === code)!;
      if (!one.ok) console.log(code, one.problem.say);
      else {
        const name = `board-${board + 1}.jpg`;
        await this.add(patch, one.value, { id, straight: `${id}s${i}`, name, round: round(patch), at });
        const { landed, veil, smear } = one.value.reading;
        console.log(code, 'board', board + 1, landed, veil, smear);
      }
    }
  }

  /** What a maker would say of a patch who looks at its numbers. */
  judge(patch: Patch, reading: Reading, at: number, number: number) {
    const landed = reading.landed ?? 0;
    const veiled = (reading.veil ?? 0) > 0.12;
    const smeared = (reading.smear ?? 0) > 0.4;
    this.records.push({
      ...{ id: `v${String(number).padStart(3, '0')}`, at: new Date(at).toISOString(), patch: patch.code },
      kind: 'verdict',
      verdict: landed < 70 ? 'scrap' : veiled || smeared || landed < 90 ? 'fix' : 'keep',
      grade: Math.max(1, Math.min(5, Math.round((landed - 45) / 11) - (veiled || smeared ? 1 : 0))),
      symptoms: [
        ...(landed < 92 ? ['bare-patches' as const] : []),
        ...(veiled ? ['veil' as const] : []),
        ...(smeared ? ['smear' as const] : []),
        ...(landed < 60 ? ['rolled-off' as const] : []),
      ],
    });
  }
}

/** Photographs, reads and judges what was made. */
async function lookAt(making: Making) {
  const { trial, plan, records } = making;
  if (!trial.photos) return;
  const ordered = [...plan.patches].sort((a, b) => a.order - b.order);
  const last = Math.max(...records.filter(r => r.kind === 'step').map(r => Date.parse(r.at)));
  const { lines } = progressOf(plan, records);
  const most = (code: string) => lines.find(l => l.patch.code === code)!.settings.rounds;
  if (trial.days) {
    for (const day of trial.days)
      for (const [i, patch] of ordered.entries())
        await making.shoot(patch, 1, last + day * 24 * HOUR + i * 120_000);
    return;
  }
  if (trial.photos === 'board')
    for (let board = 0; board < plan.board.count; board++)
      await making.shootBoard(board, p => most(p.code), last + HOUR + board * 600_000);
  for (const [i, patch] of ordered.entries()) {
    if (trial.photos === 'card') {
      if (trial.rounds && i < 3)
        for (let round = 1; round <= Math.min(trial.rounds, most(patch.code) - 1); round++)
          await making.shoot(patch, round, last - (3 - round) * HOUR + i * 60_000);
      await making.shoot(patch, most(patch.code), last + (i + 1) * 120_000);
      if (trial.worn) await making.shoot(patch, most(patch.code), last + 26 * HOUR + i * 120_000, trial.worn);
    }
    const found = records.findLast(
      (r): r is Extract<TrialRecord, { kind: 'reading' }> => r.kind === 'reading' && r.patch === patch.code,
    );
    if (trial.judged && found) making.judge(patch, found.reading, last + 3 * HOUR + i * 60_000, i);
  }
  console.log('causes:', ordered.map(p => explain(plan, p, records)[0]?.cause.id ?? '-').join(' '));
}

async function main() {
  mkdirSync(OUT, { recursive: true });
  const { cv } = await loadCv();
  const only = process.argv[2];
  for (const trial of TRIALS) {
    if (only && !trial.file.includes(only)) continue;
    const plan = planned(trial);
    const { begun, until = 0, airs } = trial;
    const records = begun === undefined ? [] : play(plan, NOW - begun * HOUR, NOW - until * HOUR, airs);
    console.log(`\n${plan.name}: ${plan.patches.length} patches, ${records.length} records`);
    const making = new Making(cv, trial, plan, records);
    await making.drawPictures();
    await lookAt(making);
    const bundle = writeBundle({ plan, records, photos: making.photos }, new Date(NOW).toISOString());
    writeFileSync(join(OUT, trial.file), bundle);
    console.log(trial.file, `${Math.round(bundle.length / 1024)} kB`);
  }
  const index = { madeFor: new Date(NOW).toISOString(), first: FIRST, trials: TRIALS.map(t => t.file) };
  writeFileSync(join(OUT, 'index.json'), `${JSON.stringify(index, null, 1)}\n`);
}

await main();
