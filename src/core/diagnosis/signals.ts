import { benchOf, openMinutes } from '../schedule/index.ts';
import {
  about,
  airOf,
  type Patch,
  readingOf,
  settingsOf,
  standing,
  type TrialPlan,
  type TrialRecord,
  verdictOf,
} from '../trial/index.ts';
import { dryingFactor } from '../units/index.ts';

/** Everything that can speak for or against a cause, as numbers; a signal that is not known is absent. */
export type Signals = Readonly<Partial<Record<SignalKey, number>>>;

export type SignalKey =
  | 'bareShare'
  | 'roundShare'
  | 'streakShare'
  | 'edgeShare'
  | 'cornerShare'
  | 'raggedShare'
  | 'largestBareMm2'
  | 'bareCount'
  | 'streakLevel'
  | 'veil'
  | 'veilDrop'
  | 'stain'
  | 'tone'
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
  | 'rewets'
  | 'groundLight'
  | 'toner'
  | 'judgedWet'
  | `symptom:${string}`;

const MIN = 60_000;

/** Gathers the signals of one patch from its reading, its verdict, its records and its settings. */
export function signalsOf(plan: TrialPlan, patch: Patch, records: readonly TrialRecord[]): Signals {
  return {
    ...fromSettings(plan, patch),
    ...fromRecords(plan, patch, records),
    ...fromReading(records, patch.code),
    ...fromVerdict(records, patch.code),
  };
}

function fromSettings(plan: TrialPlan, patch: Patch): Signals {
  const s = settingsOf(plan, patch);
  const white = s.preparation.whitens;
  const light = s.substrate.colour[1] * (1 - white) + 0.88 * white;
  return {
    gsm: s.donor.gsm,
    coated: s.donor.coated ? 1 : 0,
    coatMm: s.coatMm,
    rewets: s.medium.rewets,
    thirst: s.substrate.thirst * s.preparation.thirstTimes,
    gloss: s.substrate.gloss * s.preparation.glossTimes,
    groundLight: light,
    toner: s.printer.colourant === 'toner' ? 1 : 0,
  };
}

function fromRecords(plan: TrialPlan, patch: Patch, records: readonly TrialRecord[]): Signals {
  const line = benchOf(plan, records).lines.find(l => l.patch.code === patch.code)!;
  const at = (step: string, round = 1) =>
    line.doneAt[line.chain.findIndex(l => l.step.id === step && l.round === round)];
  const out: { -readonly [K in SignalKey]?: number } = {};
  const [coat, place, wet, rub] = [at('coat'), at('place'), at('wet'), at('rub')];
  const air = airOf(plan, records);
  const s = line.settings;
  if (coat !== undefined && place !== undefined) out.lateRatio = (place - coat) / MIN / openMinutes(s, air);
  if (place !== undefined && wet !== undefined) {
    const need = s.medium.dryHours * dryingFactor(air) * (s.coatMm / 0.3) ** 0.7;
    out.dryRatio = (wet - place) / (60 * MIN) / need;
  }
  if (wet !== undefined && rub !== undefined) out.wetMin = (rub - wet) / MIN;
  const rounds = standing(records).filter(
    r => r.kind === 'step' && r.patch === patch.code && r.step === 'rub',
  ).length;
  if (rounds) out.rounds = rounds;
  return out;
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
  };
  if (reading.landed !== null) {
    out.bareShare = 1 - reading.landed / 100;
    out.edgeLoss = (100 - Math.min(...Object.values(reading.edges))) / 100 - out.bareShare;
  }
  if (streaks.length)
    out.streakLevel = streaks.filter(b => b.along < 25 || b.along > 155).length / streaks.length;
  if (reading.veil !== null) out.veil = reading.veil;
  if (reading.stain !== null) out.stain = reading.stain / 100;
  if (reading.tone !== null) out.tone = reading.tone;
  const { light, dark } = reading.landedByTone;
  if (light !== null && dark !== null) out.lightLoss = (dark - light) / 100;
  const earlier = about(records, code, 'reading')
    .filter(r => r.photo !== found.photo.photo && r.reading.veil !== null)
    .at(-1);
  if (earlier && reading.veil !== null) out.veilDrop = earlier.reading.veil! - reading.veil;
  return out;
}

function fromVerdict(records: readonly TrialRecord[], code: string): Signals {
  const verdict = verdictOf(records, code);
  return Object.fromEntries(verdict?.symptoms.map(id => [`symptom:${id}`, 1]) ?? []);
}
