// Makes the demo workshop "Gannet Slip": plans, records, simulated photos, and readings by the real reader.
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { loadCv } from '../src/cli/node-cv.ts';
import { decode, encodeJpeg } from '../src/cli/node-image.ts';
import { writeBundle } from '../src/core/bundle/index.ts';
import { type PlanRequest, planTrial, STARTING_REQUEST } from '../src/core/design/index.ts';
import { explain } from '../src/core/diagnosis/index.ts';
import { card, target } from '../src/core/print/index.ts';
import { alsoNow, progressOf } from '../src/core/progress/index.ts';
import { chanceFrom, seedOf } from '../src/core/random/index.ts';
import { readPhoto, referenceOf } from '../src/core/reading/index.ts';
import { nextAction } from '../src/core/schedule/index.ts';
import { STARTER_SHELF } from '../src/core/shelf/index.ts';
import { photograph, SIMULATED_WORDS, simulateProcess, withExif } from '../src/core/simulator/index.ts';
import { handsOnMin } from '../src/core/steps/index.ts';
import { type Patch, settingsOf, type TrialPlan, type TrialRecord } from '../src/core/trial/index.ts';

const OUT = 'public/demo';
/** The moment the demo is made for; the app moves it to the moment it is opened. */
const NOW = Date.parse('2026-05-20T17:30:00.000Z');
const HOUR = 3_600_000;

const { usual } = STARTING_REQUEST;

function plan(request: Partial<PlanRequest>, at: number, seed: number): TrialPlan {
  const chance = chanceFrom(seed);
  const made = planTrial(
    { ...STARTING_REQUEST, seed, air: { tempC: 17, rh: 58 }, ...request },
    STARTER_SHELF,
    { createdAt: new Date(at).toISOString(), random: () => chance.next() },
  );
  if (!made.ok) throw new Error(made.problem.say);
  return made.value;
}

/** Plays the bench from `start` until `end`, a little late at every step, as people are. */
function work(trial: TrialPlan, start: number, end: number): TrialRecord[] {
  const chance = chanceFrom(trial.seed + 5);
  const records: TrialRecord[] = [];
  let number = 0;
  const add = (at: number, draft: object) =>
    records.push({
      id: `d${String(++number).padStart(4, '0')}`,
      at: new Date(at).toISOString(),
      ...draft,
    } as TrialRecord);
  add(start, { kind: 'air', patch: null, air: trial.air });
  for (let now = start; ; ) {
    const bench = progressOf(trial, records);
    const action = nextAction(bench, now);
    if (action.kind === 'finished') break;
    const slip =
      action.link.step.id === 'place' && chance.next() < 0.25
        ? chance.between(2, 5)
        : chance.between(0.1, 0.6);
    const also = alsoNow(bench, action.patch.code, action.link);
    const go = bench.lines.filter(l => [action.patch.code, ...also].includes(l.patch.code));
    const work = go.reduce((sum, line) => sum + handsOnMin(action.link.step, line), 0);
    now = Math.max(now, action.status.window?.aim ?? now) + (work * chance.between(0.8, 1.2) + slip) * 60_000;
    if (now > end) break;
    add(now, {
      kind: 'step',
      patch: action.patch.code,
      step: action.link.step.id,
      round: action.link.round,
      ...(also.length ? { also } : {}),
    });
  }
  return records;
}

function historyOf(trial: TrialPlan, records: readonly TrialRecord[], patch: Patch, rounds: number) {
  const line = progressOf(trial, records).lines.find(l => l.patch.code === patch.code)!;
  const at = (step: string) => line.doneAt[line.chain.findIndex(l => l.step.id === step)]!;
  return {
    settings: settingsOf(trial, patch),
    air: trial.air,
    placedAfterMin: (at('place') - at('coat')) / 60_000,
    driedHours: (at('wet') - at('place')) / HOUR,
    rounds,
    patchMm: trial.patchMm,
    seed: seedOf(`gannet ${patch.code}`),
  };
}

async function photographAll(trial: TrialPlan, records: TrialRecord[]) {
  const { cv } = await loadCv();
  const photos = new Map<string, Uint8Array>();
  const [c, picture] = [card(trial.patchMm), target(trial.patchMm)];
  const last = Math.max(...records.map(r => Date.parse(r.at)));
  let number = 0;
  const shoot = async (patch: Patch, round: number, at: number) => {
    const history = historyOf(trial, records, patch, round);
    const shot = photograph(
      simulateProcess(history),
      picture,
      c,
      history.settings.substrate,
      history.settings.preparation,
      { seed: seedOf(`${patch.code}${round}`), stage: 'dry', pxPerMm: 10 },
    );
    const jpeg = withExif(new Uint8Array(await encodeJpeg(shot.photo, 80)), SIMULATED_WORDS, new Date(at));
    const read = readPhoto(cv, await decode(jpeg), c, referenceOf(picture), { stage: 'dry' });
    if (!read.ok) throw new Error(`${patch.code}: ${read.problem.say}`);
    const id = `p${String(++number).padStart(3, '0')}`;
    photos.set(id, jpeg);
    photos.set(`${id}s`, new Uint8Array(await encodeJpeg(read.value.straight, 85)));
    const base = { at: new Date(at).toISOString(), patch: patch.code };
    records.push({
      id: `${id}a`,
      ...base,
      kind: 'photo',
      photo: id,
      stage: 'dry',
      round,
      name: `${patch.code}-round${round}.jpg`,
      simulated: true,
      takenAt: base.at,
    });
    records.push({
      id: `${id}b`,
      ...base,
      kind: 'reading',
      photo: id,
      reading: read.value.reading,
      straight: `${id}s`,
    });
    console.log(
      patch.code,
      'round',
      round,
      'landed',
      shot.landed.toFixed(1),
      '→',
      read.value.reading.landed,
      'veil',
      shot.veil.toFixed(3),
      '→',
      read.value.reading.veil,
    );
    return read.value.reading;
  };
  const ordered = [...trial.patches].sort((a, b) => a.order - b.order);
  for (const [i, patch] of ordered.entries()) {
    if (i < 3) await shoot(patch, 1, last - 2 * HOUR + i * 60_000);
    const reading = await shoot(patch, 2, last + (i + 1) * 2 * 60_000);
    const poor = reading.landed! < 70;
    const veiled = reading.veil! > 0.12;
    records.push({
      id: `v${String(i).padStart(3, '0')}`,
      at: new Date(last + HOUR + i * 60_000).toISOString(),
      patch: patch.code,
      kind: 'verdict',
      verdict: poor ? 'scrap' : veiled || reading.landed! < 90 ? 'fix' : 'keep',
      grade: Math.max(1, Math.min(5, Math.round((reading.landed! - 45) / 11) - (veiled ? 1 : 0))),
      symptoms: [
        ...(reading.landed! < 92 ? ['bare-patches' as const] : []),
        ...(veiled ? ['veil' as const] : []),
        ...(reading.landed! < 60 ? ['rolled-off' as const] : []),
      ],
    });
  }
  console.log('causes:', ordered.map(p => explain(trial, p, records)[0]?.cause.id ?? '-').join(' '));
  return photos;
}

async function main() {
  mkdirSync(OUT, { recursive: true });
  const finishedAt = NOW - 74 * HOUR;
  const finished = plan(
    {
      name: 'Berth plates: medium and cure time',
      question:
        'Which medium holds on bare birch plywood, and is one evening long enough before the paper comes off?',
      factors: [
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel', 'white-pva'] },
        { key: 'dryHours', levels: [5, 22] },
      ],
    },
    finishedAt,
    4711,
  );
  const drying = plan(
    {
      name: 'Hook plates: a primer under the print',
      question:
        'Does a clear gel primer on birch give fewer bare patches than nothing, with thin or thick coats?',
      factors: [
        { key: 'preparation', levels: ['none', 'gel-primer'] },
        { key: 'coatMm', levels: [0.3, 0.6] },
      ],
      board: { w: 180, h: 130, outline: 'rectangle', onePiece: false },
      usual: { ...usual, dryHours: 20 },
      repeats: 1,
    },
    NOW - 11 * HOUR,
    2209,
  );
  const planned = plan(
    {
      name: 'Bulkhead tiles: which paper rubs off best',
      question: 'Thin cheap paper, ordinary copy paper or heavy smooth paper on etched tile?',
      intent: 'worn',
      factors: [
        { key: 'donor', levels: ['copy-70', 'copy-80', 'smooth-120'] },
        { key: 'rounds', levels: [1, 2, 3] },
      ],
      board: { w: 240, h: 240, outline: 'rectangle', onePiece: false },
      usual: { ...usual, substrate: 'white-tile', medium: 'soft-gel' },
    },
    NOW - 2 * HOUR,
    815,
  );

  const records = work(finished, finishedAt, NOW);
  const photos = await photographAll(finished, records);
  const trials = [
    { file: 'berth-plates.zip', plan: finished, records, photos },
    {
      file: 'hook-plates.zip',
      plan: drying,
      records: work(drying, NOW - 10 * HOUR, NOW - 0.4 * HOUR),
      photos: new Map<string, Uint8Array>(),
    },
    { file: 'bulkhead-tiles.zip', plan: planned, records: [], photos: new Map<string, Uint8Array>() },
  ];
  for (const trial of trials)
    writeFileSync(join(OUT, trial.file), writeBundle(trial, new Date(NOW).toISOString()));
  writeFileSync(
    join(OUT, 'index.json'),
    `${JSON.stringify({ madeFor: new Date(NOW).toISOString(), trials: trials.map(t => t.file) }, null, 1)}\n`,
  );
}

await main();
