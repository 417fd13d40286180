import { type MeasureSignal, measureSignals } from '../measures/index.ts';
import { type Does, type Method, waitsForDrying } from '../methods/index.ts';
import { type PatchProgress, progressOf, skippedOf } from '../progress/index.ts';
import {
  colourOff,
  grams,
  many,
  minutes,
  mm,
  mm2,
  percent,
  type Quantity,
  thick,
  veil,
} from '../say/index.ts';
import { FINISHES, isOne, MEDIUMS, PREPARATIONS, SUBSTRATES, TOOLS } from '../shelf/index.ts';
import { handsOnMin, isShortWait, openMinutes, waitAfter } from '../steps/index.ts';
import type { SymptomId } from '../symptoms/index.ts';
import {
  about,
  airOf,
  NO_LEVEL,
  type Patch,
  type PatchSettings,
  readingOf,
  readingsOf,
  settingsOf,
  type TrialPlan,
  type TrialRecord,
  verdictOf,
} from '../trial/index.ts';
import { type Air, coatFactor, dryingFactor } from '../units/index.ts';

/** Everything that can speak for or against a cause, as numbers; a signal that is not known is absent. */
export type Signals = Readonly<Partial<Record<SignalKey, number>>>;

export type SignalKey =
  | MeasureSignal
  | 'roundShare'
  | 'streakShare'
  | 'edgeShare'
  | 'cornerShare'
  | 'raggedShare'
  | 'speckleShare'
  | 'largestBareMm2'
  | 'bareCount'
  | 'streakLevel'
  | 'veilDrop'
  | 'lightLoss'
  | 'edgeLoss'
  | 'mirrored'
  | 'lateRatio'
  | 'dryRatio'
  | 'wetMin'
  | 'rounds'
  | 'gsm'
  | 'coated'
  | 'thirst'
  | 'gloss'
  | 'coatMm'
  | 'coatRatio'
  | 'rewets'
  | 'groundLight'
  | 'colourantFits'
  | 'usesWater'
  | 'usesHeat'
  | 'brushed'
  | 'medium'
  | 'removed'
  | 'rubs'
  | 'wets'
  | 'laterBetter'
  | 'earlierBetter'
  | 'pulled'
  | 'solvent'
  | 'folds'
  | 'clearCoats'
  | 'cloth'
  | 'washedGround'
  | 'waitRatio'
  | 'shortLate'
  | 'recoatRatio'
  | 'washHours'
  | 'judgedWet'
  | 'smear'
  | 'smearDown'
  | 'pale'
  | 'lowContrast'
  | 'pressRatio'
  | 'roundDryH'
  | `skip:${Does}`
  | `symptom:${SymptomId}`;

/** What the bare places look like, whatever they come to. */
export const SHAPES: ReadonlySet<SignalKey> = new Set([
  ...(['roundShare', 'streakShare', 'edgeShare'] as const),
  ...(['cornerShare', 'raggedShare', 'speckleShare'] as const),
]);

/** What a signal's value is a number of, for those that are said with one and are no bare ratio. */
const AS_QUANTITY: Partial<Record<SignalKey, (value: number) => Quantity>> = {
  coatMm: thick,
  largestBareMm2: value => mm2(value, { places: 0 }),
  smear: value => mm(value, { places: 2 }),
  stain: value => percent(100 * value, { places: 0 }),
  pale: value => percent(100 * value, { places: 0 }),
  laterBetter: value => percent(100 * value, { places: 0 }),
  earlierBetter: value => percent(100 * value, { places: 0 }),
  tone: colourOff,
  ...{ veil, veilDrop: veil },
  gsm: value => grams(value, { places: 0 }),
  wetMin: minutes,
  ...{ washHours: value => minutes(60 * value), roundDryH: value => minutes(60 * value) },
  rounds: value => many(value, 'round'),
};

/**
 * A signal's value as it is said: a quantity of its own kind, or a bare number of two figures.
 *
 * @example write(saidOf('coatMm', 0.2)); // => '0.2 mm'
 * @example write(saidOf('waitRatio', 1.34)); // => '1.3'
 */
export const saidOf = (signal: SignalKey, value: number): Quantity =>
  AS_QUANTITY[signal]?.(value) ?? {
    ...{ kind: 'number', value },
    places: Math.abs(value) >= 10 ? 0 : Math.abs(value) >= 1 ? 1 : 2,
  };

const MIN = 60_000;
const yes = (is: boolean) => (is ? 1 : 0);

/**
 * Gathers the signals of one patch from its reading, its verdict, its records and its settings.
 *
 * @example signalsOf(plan, patch, records).bareShare.toFixed(2); // => '0.20'
 */
export function signalsOf(plan: TrialPlan, patch: Patch, records: readonly TrialRecord[]): Signals {
  const recorded = fromRecords(plan, patch, records);
  return {
    ...settingsSignals(settingsOf(plan, patch), recorded['skip:prepare'] === 1),
    ...recorded,
    ...fromReading(records, patch.code),
    ...fromGloss(records, patch.code),
    ...fromLadder(plan, patch, records),
    ...fromVerdict(records, patch.code),
  };
}

/** What a photo of the bare ground by a lamp from the side says, instead of what its material usually is. */
function fromGloss(records: readonly TrialRecord[], code: string): Signals {
  const seen = about(records, code, 'gloss').at(-1);
  return seen ? { gloss: seen.gloss / 100 } : {};
}

/** What a ground is that nothing was done to. */
const AS_IT_CAME = { kind: PREPARATIONS.nothing[0], whitens: 0, thirstTimes: 1, glossTimes: 1 } as const;

/** What the settings of a patch say; where preparing its ground was left out, of the ground as it came. */
export function settingsSignals(set: PatchSettings, isUnprepared = false): Signals {
  const s = isUnprepared ? { ...set, preparation: { ...set.preparation, ...AS_IT_CAME } } : set;
  const { method } = s;
  const brushed = !isOne(MEDIUMS.unbrushed, s.medium.kind);
  const white = s.preparation.whitens;
  const light = s.substrate.colour[1] * (1 - white) + 0.88 * white;
  return {
    gsm: s.donor.gsm,
    coated: s.donor.coated ? 1 : 0,
    ...(brushed ? { coatMm: s.coatMm, coatRatio: s.coatMm / method.usual.coatMm } : {}),
    rewets: s.medium.rewets,
    thirst: s.substrate.thirst * s.preparation.thirstTimes,
    gloss: s.substrate.gloss * s.preparation.glossTimes,
    groundLight: light,
    colourantFits: yes(method.takes.colourants.includes(s.printer.colourant)),
    usesWater: yes(method.usesWater),
    usesHeat: yes(method.usesHeat || isOne(TOOLS.heaters, s.pressing?.kind)),
    brushed: yes(brushed),
    medium: yes(!isOne(MEDIUMS.nothing, s.medium.kind)),
    removed: yes(method.removal !== 'none'),
    pulled: yes(method.removal === 'pull'),
    rubs: yes(method.steps.some(step => step.does === 'rub')),
    wets: yes(method.steps.some(step => step.does === 'wet')),
    solvent: yes(isOne(MEDIUMS.solvents, s.medium.kind)),
    folds: yes(
      method.removal === 'pull' ||
        isOne(MEDIUMS.tapes, s.medium.kind) ||
        method.traits.includes('sheet of tissue') ||
        method.steps.some(step => step.does === 'stamp'),
    ),
    clearCoats: s.finish && isOne(FINISHES.clear, s.finish.kind) ? Math.max(1, s.finish.coats) : 0,
    cloth: yes(isOne(SUBSTRATES.cloth, s.substrate.kind)),
    washedGround: yes(isOne(PREPARATIONS.washes, s.preparation.kind)),
  };
}

function fromRecords(plan: TrialPlan, patch: Patch, records: readonly TrialRecord[]): Signals {
  const line = progressOf(plan, records).lines.find(l => l.patch.code === patch.code)!;
  const at = (does: Does) => line.doneAt[line.chain.findIndex(l => l.step.does === does)];
  const out: { -readonly [K in SignalKey]?: number } = {};
  const [place, wet, rub] = [at('place'), at('wet'), at('rub')];
  const air = airOf(plan, records);
  const s = line.settings;
  if (place !== undefined && wet !== undefined && waitsForDrying(line.settings.method)) {
    const need = s.medium.dryHours * dryingFactor(air) * coatFactor(s.coatMm);
    const dried = (wet - place) / (60 * MIN) / need;
    // What was looked at and found dry was dry, whatever its jar says.
    out.dryRatio = foundReady(line, records, wet) ? Math.max(1, dried) : dried;
  }
  if (wet !== undefined && rub !== undefined) out.wetMin = (rub - wet) / MIN;
  Object.assign(out, fromWaits(line, air, out.dryRatio === undefined));
  for (const { step } of skippedOf(records).filter(k => k.patch === patch.code)) {
    const does = line.chain.find(l => l.step.id === step)?.step.does;
    if (does) out[`skip:${does}`] = 1;
  }
  const rounds = line.chain.filter((l, i) => l.step.does === 'rub' && line.doneAt[i] !== undefined).length;
  if (rounds) out.rounds = rounds;
  return out;
}

/** Whether a piece was found ready to be wetted, by the last look before it was (ms). */
function foundReady({ patch, chain }: PatchProgress, records: readonly TrialRecord[], wet: number): boolean {
  const first = chain.find(l => l.step.does === 'wet');
  const looks = about(records, patch.code, 'ready').filter(
    r => r.step === first?.step.id && r.round === first.round && Date.parse(r.at) <= wet,
  );
  return looks.at(-1)?.ready ?? false;
}

/** Whether the wait after a step is how long the piece is heated or held hot. */
export const isHeated = (method: Method, step: Method['steps'][number]): boolean =>
  method.usesHeat && (step.holds === true || step.does === 'heat');

/** How the waits between steps were kept; the planned one only where no drying of a coat stands for it. */
function fromWaits(line: PatchProgress, air: Air, withPlanned: boolean): Signals {
  const { chain, doneAt, settings, plannedMin } = line;
  const out: { -readonly [K in SignalKey]?: number } = {};
  chain.forEach(({ step }, i) => {
    const [from, to] = [doneAt[i], doneAt[i + 1]];
    const wait = waitAfter(step, settings, air, plannedMin);
    if (from === undefined || to === undefined || !wait) return;
    // What is kept is when the next step was done; it was begun up to as much earlier as it usually takes.
    const most = (to - from) / MIN;
    const waited = Math.max(0, most - handsOnMin(chain[i + 1].step, line));
    // Pressed at the moment the clock counts down to, or when the work was over: both kept that wait.
    const nearest = Math.min(most, Math.max(waited, wait.aim));
    if (step.wait.kind === 'open-time') out.lateRatio = waited / openMinutes(settings, air);
    if (step.wait.kind === 'planned' && withPlanned) {
      const ratio = nearest / wait.aim;
      // Where the wait is how long it is heated, too little of it is no drying cut short; what was heated and came late
      // may as well have cooled.
      if (isHeated(settings.method, step)) out.pressRatio = step.holds ? ratio : Math.min(1, ratio);
      else out.waitRatio = ratio;
    }
    if (step.wait.kind === 'fixed' && isShortWait(wait.max))
      out.shortLate = Math.max(out.shortLate ?? 0, waited / wait.max);
    if (step.wait.kind === 'finish' && chain[i + 1].step.id === step.id)
      out.recoatRatio = Math.min(out.recoatRatio ?? Number.POSITIVE_INFINITY, nearest / wait.aim);
  });
  const wash = chain.findIndex(l => l.step.wears === 'wash');
  // It cures from when it was last worked on; hanging and looking do not begin that anew.
  const made = chain.findLastIndex(
    (l, i) => i < wash && doneAt[i] !== undefined && MAKES.includes(l.step.does),
  );
  const [washed, ready] = [doneAt[wash], doneAt[made]];
  if (washed !== undefined && ready !== undefined) out.washHours = (washed - ready) / (60 * MIN);
  return out;
}

/** What a piece cures from. */
const MAKES: readonly Does[] = [
  ...(['coat', 'place', 'wet', 'rub', 'peel', 'pull', 'lift', 'stick'] as const),
  ...(['clear', 'fuse', 'finish'] as const),
];

/** How much better patches of the same trial did that waited longer, and those that waited less, where waits are compared: shares of the picture. */
function fromLadder(plan: TrialPlan, patch: Patch, records: readonly TrialRecord[]): Signals {
  const f = plan.factors.findIndex(x => x.key === 'dryHours');
  const landedOf = (p: Patch) => readingOf(records, p.code)?.reading.reading.landed ?? undefined;
  const own = landedOf(patch);
  if (f < 0 || own === undefined || !patch.levels.length || patch.levels[f] === NO_LEVEL) return {};
  const hours = (p: Patch) => Number(plan.factors[f].levels[p.levels[f]]);
  const alike = (p: Patch) => p.levels.every((level, k) => k === f || level === patch.levels[k]);
  const rungs = plan.patches.filter(
    p => p.levels.length && p.levels[f] !== NO_LEVEL && landedOf(p) !== undefined,
  );
  // With the other choices the same, where there are such; else all of them.
  const like = rungs.filter(alike);
  const better = (isThere: (p: Patch) => boolean): number | undefined => {
    const among = like.some(isThere) ? like.filter(isThere) : rungs.filter(isThere);
    const means = [...new Set(among.map(hours))].map(rung => {
      const own = among.filter(p => hours(p) === rung);
      return own.reduce((sum, p) => sum + landedOf(p)!, 0) / own.length;
    });
    return means.length ? (Math.max(...means) - own) / 100 : undefined;
  };
  const [later, earlier] = [better(p => hours(p) > hours(patch)), better(p => hours(p) < hours(patch))];
  return {
    ...(later === undefined ? {} : { laterBetter: later }),
    ...(earlier === undefined ? {} : { earlierBetter: earlier }),
  };
}

function fromReading(records: readonly TrialRecord[], code: string): Signals {
  const found = readingOf(records, code);
  if (!found) return {};
  const { reading } = found.reading;
  const area = reading.bare.reduce((sum, b) => sum + b.area, 0);
  const shareOf = (shape: string) =>
    area ? reading.bare.filter(b => b.shape === shape).reduce((sum, b) => sum + b.area, 0) / area : 0;
  const streaks = reading.bare.filter(b => b.shape === 'streak');
  const out: { -readonly [K in SignalKey]?: number } = {
    mirrored: reading.mirrored ? 1 : 0,
    judgedWet: found.photo.stage === 'wet' ? 1 : 0,
    bareCount: reading.bare.length,
    largestBareMm2: reading.bare[0]?.area ?? 0,
    roundShare: shareOf('round'),
    streakShare: shareOf('streak'),
    edgeShare: shareOf('edge band'),
    cornerShare: shareOf('corner'),
    raggedShare: shareOf('ragged'),
    speckleShare: shareOf('speckle'),
    ...measureSignals(reading),
  };
  if (out.bareShare !== undefined)
    out.edgeLoss = (100 - Math.min(...Object.values(reading.edges))) / 100 - out.bareShare;
  if (streaks.length)
    out.streakLevel = streaks.filter(b => b.along < 25 || b.along > 155).length / streaks.length;
  const { light, dark } = reading.landedByTone;
  if (light !== null && dark !== null) out.lightLoss = (dark - light) / 100;
  const earlier = readingsOf(records, code)
    .filter(r => r.photo !== found.photo && !r.photo.worn && r.reading.reading.veil !== null)
    .at(-1);
  if (earlier && reading.veil !== null) out.veilDrop = earlier.reading.reading.veil! - reading.veil;
  return out;
}

function fromVerdict(records: readonly TrialRecord[], code: string): Signals {
  const verdict = verdictOf(records, code);
  return Object.fromEntries(verdict?.symptoms.map(id => [`symptom:${id}`, 1]) ?? []);
}
