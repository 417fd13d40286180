import type { Does } from '../methods/index.ts';
import { METHODS, type Method, waitsForDrying } from '../methods/index.ts';
import { requestFor } from '../questions/index.ts';
import { type Chance, chanceFrom } from '../random/index.ts';
import { STARTER_SHELF, type Substrate } from '../shelf/index.ts';
import { openMinutes } from '../steps/index.ts';
import type { SymptomId } from '../symptoms/index.ts';
import { lookUp, type PatchSettings } from '../trial/index.ts';
import { coatFactor, dryingFactor } from '../units/index.ts';
import { type PatchHistory, type PatchOutcome, simulateProcess, waysOf } from './process.ts';

/** What goes wrong, what is seen of it, and how it is brought about. */
interface Mishap {
  readonly cause: string;
  readonly symptom: SymptomId;
  readonly can: (m: Method, s: PatchSettings) => boolean;
  readonly make: (made: Making, chance: Chance) => void;
  /** What the simulator calls it when it struck. */
  readonly struck?: readonly string[];
}
/** A piece on its way: what is set, what is done to it. */
interface Making {
  settings: PatchSettings;
  history: { -readonly [K in keyof Omit<PatchHistory, 'settings'>]: PatchHistory[K] };
  backwards: boolean;
}

const has = (m: Method, does: Does) => m.steps.some(s => s.does === does);
const opens = (m: Method) => m.steps.some(s => s.wait.kind === 'open-time');
const mists = (m: Method) => waysOf(m).mists;
const grounds = (m: Method, is: (s: Substrate) => boolean) =>
  STARTER_SHELF.substrates.filter(s => m.takes.substrates.includes(s.kind) && is(s));
const NONE = STARTER_SHELF.preparations.find(p => p.id === 'none')!;

const MISHAPS: readonly Mishap[] = [
  {
    cause: 'too-early',
    symptom: 'bare-patches',
    can: m => waitsForDrying(m) && ['rub', 'peel', 'dissolve'].includes(m.removal) && !mists(m),
    make: (x, c) => {
      x.history.driedHours *= c.between(0.3, 0.6);
    },
    struck: ['early'],
  },
  {
    cause: 'too-early',
    symptom: 'smear',
    can: m => m.removal === 'pull' && !m.usesHeat,
    make: (x, c) => {
      x.history.driedHours *= c.between(0.2, 0.6);
    },
    struck: ['pulled-early'],
  },
  {
    cause: 'pulled-late',
    symptom: 'bare-patches',
    can: m => m.removal === 'pull' && !m.usesHeat,
    make: (x, c) => {
      x.history.driedHours *= c.between(2, 3.2);
    },
    struck: ['pulled-late'],
  },
  {
    cause: 'skinned-over',
    symptom: 'bare-patches',
    can: m => has(m, 'coat') && opens(m),
    make: (x, c) => {
      x.history.placedAfterMin = openMinutes(x.settings, x.history.air) * c.between(1.3, 2.4);
    },
    struck: ['skinned'],
  },
  {
    cause: 'thirsty-ground',
    symptom: 'bare-patches',
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
    symptom: 'bare-patches',
    can: m => has(m, 'coat') && !m.usesHeat && !mists(m) && grounds(m, s => s.gloss > 0.5).length > 0,
    make: (x, c) => {
      const substrate = c.pick(grounds(x.settings.method, s => s.gloss > 0.5));
      x.settings = { ...x.settings, substrate, preparation: NONE };
    },
    struck: ['glossy'],
  },
  {
    cause: 'rubbed-too-hard',
    symptom: 'rubbed-through',
    can: m => m.removal === 'rub',
    make: (x, c) => {
      x.history.rounds = c.whole(5, 6);
      x.history.isHurried = true;
    },
    struck: ['rubbed-through'],
  },
  {
    cause: 'not-enough-rounds',
    symptom: 'veil',
    can: m => m.removal === 'rub',
    make: x => {
      x.history.rounds = 1;
    },
  },
  {
    cause: 'puddled',
    symptom: 'smear',
    can: m => mists(m),
    make: (x, c) => {
      x.settings = { ...x.settings, coatMm: x.settings.coatMm * c.between(1.6, 2.6) };
    },
    struck: ['ran'],
  },
  {
    cause: 'waited-after-misting',
    symptom: 'bare-patches',
    can: m => mists(m) && m.removal === 'peel',
    make: (x, c) => {
      x.history.placedAfterMin = c.between(1, 2.5);
    },
    struck: ['dried-specks'],
  },
  {
    cause: 'heat-low',
    symptom: 'bare-patches',
    can: m => m.usesHeat,
    make: (x, c) => {
      x.history.driedHours *= c.between(0.3, 0.6);
    },
    struck: ['cold'],
  },
  {
    cause: 'heat-high',
    symptom: 'smear',
    can: m => m.usesHeat,
    make: (x, c) => {
      x.history.driedHours *= c.between(1.6, 2.4);
    },
    struck: ['hot'],
  },
  {
    cause: 'not-mirrored',
    symptom: 'backwards',
    can: m => m.removal !== 'none',
    make: x => {
      x.backwards = true;
    },
  },
  {
    cause: 'air-bubbles',
    symptom: 'bare-patches',
    can: m => has(m, 'coat') && opens(m),
    make: x => {
      x.history.isHurried = true;
    },
    struck: ['bubbles'],
  },
  {
    cause: 'creased',
    symptom: 'wrinkle',
    can: m => has(m, 'tape') || m.traits.includes('sheet of tissue'),
    make: x => {
      x.history.isHurried = true;
    },
    struck: ['creased'],
  },
];

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

/** Causes that a simulated piece can be made to fail by. */
export const MISHAP_CAUSES: readonly string[] = [...new Set(MISHAPS.map(m => m.cause))];

/** A simulated piece with what really was the matter with it. */
export interface FailedPiece {
  readonly settings: PatchSettings;
  readonly history: Omit<PatchHistory, 'settings'>;
  readonly outcome: PatchOutcome;
  readonly backwards: boolean;
  readonly causes: readonly string[];
  readonly symptoms: readonly SymptomId[];
  /** Minutes that its coat stays open; nothing where none does. */
  readonly opens: boolean;
  readonly mists: boolean;
}

/**
 * A piece made up from a seed: sound, with one thing that went wrong, or with two (`wrong`: 0, 1, 2), of `cause` where
 * that is asked for; of a method in turn. Nothing where that cannot happen in this method, or nothing came of it.
 */
export function failedPiece(
  seed: number,
  { wrong, cause, mm }: { readonly wrong: 0 | 1 | 2; readonly cause?: string; readonly mm: number },
): FailedPiece | undefined {
  const chance = chanceFrom(seed);
  // The first draws of seeds that follow each other are alike.
  for (let i = 0; i < 8; i++) chance.next();
  const method = METHODS[seed % METHODS.length];
  const asked = requestFor(method, STARTER_SHELF);
  if (!asked.ok) return undefined;
  const usual = lookUp({ ...STARTER_SHELF, method }, { ...asked.value.usual, method: method.id });
  const air = { tempC: chance.between(16, 27), rh: chance.between(35, 70) };
  const made: Making = {
    settings: usual,
    history: {
      ...{ air, placedAfterMin: chance.between(0.15, 0.35) * Math.min(4, openMinutes(usual, air)) },
      ...{ driedHours: 0, rounds: Math.max(3, usual.rounds), patchMm: mm, seed: seed * 31 + 7 },
    },
    backwards: false,
  };
  if (mists(method)) made.history.placedAfterMin = 0.15;
  const chosen = chosenFrom(
    MISHAPS.filter(m => m.can(method, usual)),
    wrong,
    cause,
    chance,
  );
  if (!chosen) return undefined;
  // What changes the materials comes first: how long is long enough follows from them.
  const early = chosen.filter(m => m.cause.endsWith('-ground') || m.cause === 'puddled');
  for (const m of early) m.make(made, chance);
  made.history.driedHours = longEnough(made.settings, air);
  for (const m of chosen.filter(x => !early.includes(x))) m.make(made, chance);
  const outcome = simulateProcess({ ...made.history, settings: made.settings });
  if (chosen.some(m => m.struck && !m.struck.some(s => outcome.struck.includes(s)))) return undefined;
  // An edge that came up by chance is a cause that nobody asked for.
  if (outcome.struck.includes('edge') && !chosen.some(m => m.struck?.includes('edge'))) return undefined;
  return {
    ...made,
    outcome,
    causes: chosen.map(m => m.cause),
    symptoms: [...new Set(chosen.map(m => m.symptom))],
    ...{ opens: opens(method), mists: mists(method) },
  };
}

function chosenFrom(can: readonly Mishap[], wrong: number, cause: string | undefined, chance: Chance) {
  const chosen: Mishap[] = [];
  while (chosen.length < wrong) {
    const left = can.filter(
      m =>
        (cause === undefined || chosen.length > 0 || m.cause === cause) &&
        !chosen.some(o => o.cause === m.cause || clash(o, m)),
    );
    if (!left.length) return undefined;
    chosen.push(chance.pick(left));
  }
  return chosen;
}

/** Hours after which all is well: a quarter more than a coat needs to dry, or the method's own wait in this air. */
const longEnough = (s: PatchSettings, air: PatchHistory['air']): number =>
  waitsForDrying(s.method)
    ? s.medium.dryHours * dryingFactor(air) * coatFactor(s.coatMm) * 1.25
    : s.method.usual.dryHours * (s.method.usesHeat || has(s.method, 'tape') ? 1 : dryingFactor(air) ** 0.8);
