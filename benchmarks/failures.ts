import { decode, encodeJpeg } from '../src/cli/node-image.ts';
import type { Case } from '../src/core/diagnosis/index.ts';
import { METHODS, type Method, waitsForDrying } from '../src/core/methods/index.ts';
import { card, target } from '../src/core/print/index.ts';
import { requestFor } from '../src/core/questions/index.ts';
import { type Chance, chanceFrom } from '../src/core/random/index.ts';
import { type Cv, readPhoto, referenceOf } from '../src/core/reading/index.ts';
import { STARTER_SHELF, type Substrate } from '../src/core/shelf/index.ts';
import { exampleSettings } from '../src/core/simulator/example.ts';
import { type PatchHistory, photograph, simulateProcess } from '../src/core/simulator/index.ts';
import { type Does, openMinutes } from '../src/core/steps/index.ts';
import { lookUp, type PatchSettings } from '../src/core/trial/index.ts';
import { coatFactor, dryingFactor } from '../src/core/units/index.ts';

/** A simulated piece told as a case: what was read from its photo, what was recorded, and what really was the matter. */
export interface Failure {
  readonly told: Case;
  readonly truth: readonly string[];
  readonly method: string;
  readonly ground: string;
}

/** What goes wrong, how it is brought about, and how much of the picture it takes when it shows. */
interface Mishap {
  readonly cause: string;
  readonly can: (m: Method, s: PatchSettings) => boolean;
  readonly make: (made: Making, chance: Chance) => void;
  /** What the simulator calls it when it struck. */
  readonly struck?: readonly string[];
}
interface Making {
  settings: PatchSettings;
  history: { -readonly [K in keyof Omit<PatchHistory, 'settings'>]: PatchHistory[K] };
  backwards: boolean;
}

const has = (m: Method, does: Does) => m.steps.some(s => s.does === does);
const opens = (m: Method) => m.steps.some(s => s.wait.kind === 'open-time');
const mists = (m: Method) =>
  has(m, 'coat') && !opens(m) && ['pull', 'peel'].includes(m.removal) && !m.usesHeat && !has(m, 'stamp');
const grounds = (m: Method, is: (s: Substrate) => boolean) =>
  STARTER_SHELF.substrates.filter(s => m.takes.substrates.includes(s.kind) && is(s));
const NONE = STARTER_SHELF.preparations.find(p => p.id === 'none')!;

const MISHAPS: readonly Mishap[] = [
  {
    cause: 'too-early',
    can: m => waitsForDrying(m) && ['rub', 'peel', 'dissolve'].includes(m.removal) && !mists(m),
    make: (x, c) => {
      x.history.driedHours *= c.between(0.3, 0.6);
    },
    struck: ['early'],
  },
  {
    cause: 'too-early',
    can: m => m.removal === 'pull' && !m.usesHeat,
    make: (x, c) => {
      x.history.driedHours *= c.between(0.2, 0.6);
    },
    struck: ['pulled-early'],
  },
  {
    cause: 'pulled-late',
    can: m => m.removal === 'pull' && !m.usesHeat,
    make: (x, c) => {
      x.history.driedHours *= c.between(2, 3.2);
    },
    struck: ['pulled-late'],
  },
  {
    cause: 'skinned-over',
    can: m => has(m, 'coat') && opens(m),
    make: (x, c) => {
      x.history.placedAfterMin = openMinutes(x.settings, x.history.air) * c.between(1.3, 2.4);
    },
    struck: ['skinned'],
  },
  {
    cause: 'thirsty-ground',
    can: m => has(m, 'coat') && !m.usesHeat && !mists(m) && grounds(m, s => s.thirst > 0.65).length > 0,
    make: (x, c) => {
      const { method } = x.settings;
      const substrate = c.pick(grounds(method, s => s.thirst > 0.65));
      x.settings = { ...x.settings, substrate, preparation: NONE, coatMm: x.settings.coatMm * 0.45 };
    },
    struck: ['thirsty'],
  },
  {
    cause: 'glossy-ground',
    can: m => has(m, 'coat') && !m.usesHeat && !mists(m) && grounds(m, s => s.gloss > 0.5).length > 0,
    make: (x, c) => {
      const substrate = c.pick(grounds(x.settings.method, s => s.gloss > 0.5));
      x.settings = { ...x.settings, substrate, preparation: NONE };
    },
    struck: ['glossy'],
  },
  {
    cause: 'rubbed-too-hard',
    can: m => m.removal === 'rub',
    make: (x, c) => {
      x.history.rounds = c.whole(5, 6);
      x.history.isHurried = true;
    },
    struck: ['rubbed-through'],
  },
  {
    cause: 'not-enough-rounds',
    can: m => m.removal === 'rub',
    make: x => {
      x.history.rounds = 1;
    },
  },
  {
    cause: 'puddled',
    can: m => mists(m),
    make: (x, c) => {
      x.settings = { ...x.settings, coatMm: x.settings.coatMm * c.between(1.6, 2.6) };
    },
    struck: ['ran'],
  },
  {
    cause: 'waited-after-misting',
    can: m => mists(m) && m.removal === 'peel',
    make: (x, c) => {
      x.history.placedAfterMin = c.between(1, 2.5);
    },
    struck: ['dried-specks'],
  },
  {
    cause: 'heat-low',
    can: m => m.usesHeat,
    make: (x, c) => {
      x.history.driedHours *= c.between(0.3, 0.6);
    },
    struck: ['cold'],
  },
  {
    cause: 'heat-high',
    can: m => m.usesHeat,
    make: (x, c) => {
      x.history.driedHours *= c.between(1.6, 2.4);
    },
    struck: ['hot'],
  },
  {
    cause: 'not-mirrored',
    can: m => m.removal !== 'none',
    make: x => {
      x.backwards = true;
    },
  },
  {
    cause: 'air-bubbles',
    can: m => has(m, 'coat') && opens(m),
    make: x => {
      x.history.isHurried = true;
    },
    struck: ['bubbles'],
  },
  {
    cause: 'creased',
    can: m => has(m, 'tape') || m.traits.includes('sheet of tissue'),
    make: x => {
      x.history.isHurried = true;
    },
    struck: ['creased'],
  },
];

const PATCH = 30;
/** So often the bench knows when things were done; else only what was planned is known. */
const TIMED = 0.75;

/**
 * A piece made up from a seed, by a method in turn: sound, with one thing that went wrong, or with two (`wrong`: 0, 1, 2),
 * photographed and read. Nothing where nothing of it shows, or the photo is refused.
 */
export async function failureFrom(cv: Cv, seed: number, wrong: number): Promise<Failure | undefined> {
  const chance = chanceFrom(seed);
  // The first draws of seeds that follow each other are alike.
  for (let i = 0; i < 8; i++) chance.next();
  const method = METHODS[seed % METHODS.length];
  const asked = requestFor(method, STARTER_SHELF);
  if (!asked.ok) return undefined;
  const usual = lookUp({ ...STARTER_SHELF, method }, { ...asked.value.usual, method: method.id });
  const air = { tempC: chance.between(16, 27), rh: chance.between(35, 70) };
  const settings = exampleSettings({ ...usual, method });
  const made: Making = {
    settings,
    history: {
      ...{ air, placedAfterMin: chance.between(0.15, 0.35) * Math.min(4, openMinutes(settings, air)) },
      ...{ driedHours: 0, rounds: Math.max(3, usual.rounds), patchMm: PATCH, seed: seed * 31 + 7 },
    },
    backwards: false,
  };
  if (mists(method)) made.history.placedAfterMin = 0.15;
  const enough = () => {
    const s = made.settings;
    return waitsForDrying(method)
      ? s.medium.dryHours * dryingFactor(air) * coatFactor(s.coatMm) * 1.25
      : method.usual.dryHours * (method.usesHeat || has(method, 'tape') ? 1 : dryingFactor(air) ** 0.8);
  };
  const can = MISHAPS.filter(m => m.can(method, settings));
  const chosen: Mishap[] = [];
  while (chosen.length < wrong) {
    const left = can.filter(m => !chosen.some(o => o.cause === m.cause || clash(o, m)));
    if (!left.length) return undefined;
    chosen.push(chance.pick(left));
  }
  // What changes the materials comes first: how long is long enough follows from them.
  const early = chosen.filter(m => m.cause.endsWith('-ground') || m.cause === 'puddled');
  for (const m of early) m.make(made, chance);
  made.history.driedHours = enough();
  for (const m of chosen.filter(x => !early.includes(x))) m.make(made, chance);
  const outcome = simulateProcess({ ...made.history, settings: made.settings });
  if (chosen.some(m => m.struck && !m.struck.some(s => outcome.struck.includes(s)))) return undefined;
  const [picture, onCard] = [target(PATCH), card(PATCH)];
  const { substrate, preparation } = made.settings;
  const shot = photograph(outcome, picture, onCard, substrate, preparation, {
    ...{ seed: seed * 17 + 3, stage: 'dry', backwards: made.backwards },
  });
  const photo = await decode(await encodeJpeg(shot.photo, 85));
  const read = readPhoto(cv, photo, onCard, referenceOf(picture), { stage: 'dry' });
  if (!read.ok) return undefined;
  return {
    told: toldAs(seed, made, read.value.reading, chance.next() < TIMED),
    truth: chosen.map(m => m.cause),
    ...{ method: method.name, ground: substrate.name },
  };
}

/** Two that are about the same wait cannot both be. */
const clash = (a: Mishap, b: Mishap) => {
  const same = (x: string[]) => x.includes(a.cause) && x.includes(b.cause);
  return (
    same(['too-early', 'pulled-late']) ||
    same(['heat-low', 'heat-high']) ||
    same(['rubbed-too-hard', 'not-enough-rounds']) ||
    same(['thirsty-ground', 'glossy-ground']) ||
    same(['rubbed-too-hard', 'air-bubbles']) ||
    same(['puddled', 'waited-after-misting'])
  );
};

type Read = Extract<Awaited<ReturnType<typeof readPhoto>>, { ok: true }>['value']['reading'];

function toldAs(seed: number, { settings: s, history: h }: Making, reading: Read, isTimed: boolean): Case {
  const area = reading.bare.reduce((sum, b) => sum + b.area, 0) || 1;
  const bareShapes: Record<string, number> = {};
  for (const b of reading.bare) bareShapes[b.shape] = (bareShapes[b.shape] ?? 0) + b.area / area;
  return {
    id: String(seed),
    method: s.method.id,
    ...{ printer: s.printer.id, donor: s.donor.id, medium: s.medium.id },
    ...{ substrate: s.substrate.id, preparation: s.preparation.id },
    choices: { coatMm: s.coatMm, rounds: has(s.method, 'rub') ? h.rounds : undefined },
    air: h.air,
    times: isTimed
      ? {
          placedAfterMin: opens(s.method) || mists(s.method) ? h.placedAfterMin : undefined,
          driedHours: h.driedHours,
        }
      : {},
    skipped: [],
    artwork: {},
    reading: {
      ...{ landed: reading.landed, veil: reading.veil, smear: reading.smear, stain: reading.stain },
      ...{ tone: reading.tone, mirrored: reading.mirrored, bareShapes },
      smearDown: reading.smearAlong === null ? null : Number(Math.abs(reading.smearAlong - 90) < 30),
      landedByTone: reading.landedByTone,
      edges: reading.edges,
    },
    symptoms: [],
    answers: {},
  };
}
