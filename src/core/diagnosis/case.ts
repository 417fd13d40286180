import * as v from 'valibot';
import { METHODS, type Method, waitsForDrying } from '../methods/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { requestFor } from '../questions/index.ts';
import { type Words, within } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { handled, handsOnMin, isShortWait, openMinutes, waitAfter } from '../steps/index.ts';
import { SYMPTOM_IDS } from '../symptoms/index.ts';
import { lookUp, type PatchSettings } from '../trial/index.ts';
import { type Air, coatFactor, dryingFactor } from '../units/index.ts';
import { CAUSES } from './every-cause.ts';
import { isTroubled, soundRatio, telling, told } from './explain.ts';
import { infer } from './infer.ts';
import { isHeated, type SignalKey, type Signals, settingsSignals } from './signals.ts';

const number = v.pipe(v.number(), v.finite());
const share = v.pipe(v.number(), v.minValue(0), v.maxValue(1));
const maybe = v.optional(v.nullable(v.string()));
const some = v.optional(v.nullable(number));

/** One failure as somebody tells it: what was used and done, what is measured, what is seen. What is missing is the method's usual, or unknown. */
export const Case = v.object({
  id: v.string(),
  method: v.string(),
  ...{ printer: maybe, donor: maybe, medium: maybe, substrate: maybe, preparation: maybe, finish: maybe },
  choices: v.optional(
    v.object({ coatMm: some, rounds: some, removal: maybe, water: maybe, coatWhere: maybe, trim: maybe }),
    {},
  ),
  air: v.optional(v.nullable(v.object({ tempC: number, rh: number }))),
  times: v.optional(
    v.object({
      placedAfterMin: some,
      driedHours: some,
      soakMin: some,
      roundDryHours: some,
      waitSec: some,
      pressSec: some,
      recoatMin: some,
      washedAfterHours: some,
    }),
    {},
  ),
  skipped: v.optional(v.array(v.string()), []),
  artwork: v.optional(v.object({ pale: v.optional(v.nullable(share)), contrast: maybe }), {}),
  reading: v.optional(
    v.nullable(
      v.object({
        landed: some,
        veil: some,
        smear: some,
        smearDown: v.optional(v.nullable(v.union([v.boolean(), number]))),
        stain: some,
        tone: some,
        mirrored: v.optional(v.nullable(v.boolean())),
        landedByTone: v.optional(v.nullable(v.record(v.string(), v.nullable(number)))),
        edges: v.optional(v.nullable(v.record(v.string(), v.nullable(number)))),
        bareShapes: v.optional(v.nullable(v.record(v.string(), number))),
      }),
    ),
  ),
  symptoms: v.optional(v.array(v.string()), []),
  answers: v.optional(v.record(v.string(), v.unknown()), {}),
});
export type Case = v.InferOutput<typeof Case>;

/** A case explained, as plain data. */
export interface ExplainedCase {
  readonly id: string;
  readonly causes: readonly {
    readonly id: string;
    readonly likely: number;
    readonly for: readonly Words[];
    readonly against: readonly Words[];
  }[];
  readonly nothingWrong: number;
  readonly somethingElse: number;
  readonly ask: readonly { readonly question: string; readonly gain: number; readonly words: string }[];
  /** What was said and not understood, in words. */
  readonly notUnderstood: readonly string[];
}

const slug = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

const methodOf = (text: string): Method | undefined =>
  METHODS.find(m => m.id === slug(text)) ??
  METHODS.find(m => slug(m.name) === slug(text)) ??
  METHODS.find(m => slug(m.name).startsWith(slug(text)) || slug(text).startsWith(m.id));

/** Things of the starter shelf by their kind, their id or their name. */
function thingOf<T extends { id: string; name: string }>(
  items: readonly T[],
  kindOf: (item: T) => string,
  said: string,
): T | undefined {
  const own = slug(said);
  return (
    items.find(i => i.id === own) ??
    items.find(i => slug(kindOf(i)) === own) ??
    items.find(i => slug(i.name) === own) ??
    items.find(i => slug(kindOf(i)).includes(own) || own.includes(slug(kindOf(i)))) ??
    items.find(i => slug(i.name).includes(own))
  );
}

interface Understood {
  readonly settings: PatchSettings;
  readonly notUnderstood: string[];
}

/** What was used, from the method's usual and what is said; a kind of which the shelf has nothing keeps the usual one's other properties. */
function settingsIn(c: Case, method: Method): Outcome<Understood> {
  const plain = requestFor(method, STARTER_SHELF);
  if (!plain.ok) return plain;
  const usual = lookUp({ ...STARTER_SHELF, method }, { ...plain.value.usual, method: method.id });
  const notUnderstood: string[] = [];
  const take = <T extends { id: string; name: string }>(
    items: readonly T[],
    kindOf: (item: T) => string,
    said: string | null | undefined,
    else_: T,
  ): T => {
    if (!said) return else_;
    const found = thingOf(items, kindOf, said);
    if (!found) notUnderstood.push(`“${said}” is not known here; the usual was taken.`);
    return found ?? else_;
  };
  const kind = (i: { kind: string }) => i.kind;
  const { printers, donors, mediums, substrates, preparations, finishes } = STARTER_SHELF;
  const none = finishes.find(f => f.kind === 'none') ?? finishes[0];
  const finish = take(finishes, kind, c.finish, usual.finish ?? none);
  return good({
    notUnderstood,
    settings: {
      ...usual,
      printer: take(printers, p => p.colourant, c.printer, usual.printer),
      donor: take(donors, kind, c.donor, usual.donor),
      medium: take(mediums, kind, c.medium, usual.medium),
      substrate: take(substrates, kind, c.substrate, usual.substrate),
      preparation: take(preparations, kind, c.preparation, usual.preparation),
      finish,
      coatMm: c.choices.coatMm ?? usual.coatMm,
      rounds: c.choices.rounds ?? usual.rounds,
    },
  });
}

type Writable = { -readonly [K in SignalKey]?: number };

/** The step after which the method's own wait comes. */
const waitedAfter = (method: Method) => method.steps.find(step => step.wait.kind === 'planned');
/** Whether what can be planned of a method is how long it is heated or held hot. */
const heats = (method: Method): boolean => {
  const step = waitedAfter(method);
  return step !== undefined && isHeated(method, step);
};
/** … or how long it lies in water: no air dries it. */
const soaks = (method: Method): boolean => waitedAfter(method)?.does === 'soak';

/** A body heated through has to be used within seconds: after so many minutes it has cooled too far. */
const COOLS_MIN = 1;

/** What the times say against the windows of the method, in the air there was. */
function timeSignals({ times: t, choices }: Case, s: PatchSettings, air: Air): Signals {
  const out: Writable = {};
  const { method } = s;
  if (t.driedHours != null) {
    if (waitsForDrying(method))
      out.dryRatio = t.driedHours / (s.medium.dryHours * dryingFactor(air) * coatFactor(s.coatMm));
    else if (heats(method)) out.pressRatio = t.driedHours / s.dryHours;
    else out.waitRatio = t.driedHours / (s.dryHours * (soaks(method) ? 1 : dryingFactor(air)));
  }
  if (t.soakMin != null) out.wetMin = t.soakMin;
  if (t.roundDryHours != null) out.roundDryH = t.roundDryHours;
  const waits = method.steps.map(step => ({ step, wait: waitAfter(step, s, air) }));
  if (t.placedAfterMin != null) {
    const before = waits[method.steps.findIndex(step => step.does === 'place') - 1];
    // Where nothing stays open for minutes, placing has to follow at once.
    if (before?.step.wait.kind === 'fixed' && before.wait && isShortWait(before.wait.max))
      out.shortLate = t.placedAfterMin / before.wait.max;
    // What was heated through cools from then on.
    else if (before?.step.does === 'heat') out.shortLate = t.placedAfterMin / COOLS_MIN;
    else out.lateRatio = t.placedAfterMin / openMinutes(s, air);
  }
  if (t.waitSec != null) {
    const own = waits.find(w => w.step.wait.kind === 'planned') ?? waits.find(w => w.wait);
    if (own?.wait?.aim)
      out[isHeated(method, own.step) ? 'pressRatio' : 'waitRatio'] = t.waitSec / 60 / own.wait.aim;
    // What had to follow at once.
    const short = waits.find(w => w.step.wait.kind === 'fixed' && w.wait && w.wait.max <= 20);
    if (short?.wait && own?.step.wait.kind !== 'planned') out.shortLate = t.waitSec / 60 / short.wait.max;
  }
  if (t.pressSec != null) {
    const press = waits.find(w => w.step.holds) ?? waits.find(w => w.step.does === 'burnish');
    const usual =
      press && handled(press.step, handsOnMin(press.step, { settings: s, preparedWith: [] }), press.wait);
    if (usual && usual.hands > 0) out.pressRatio = t.pressSec / 60 / usual.hands;
  }
  if (t.recoatMin != null && s.finish?.waitHours) out.recoatRatio = t.recoatMin / 60 / s.finish.waitHours;
  if (t.washedAfterHours != null) out.washHours = t.washedAfterHours;
  if (choices.rounds != null) out.rounds = choices.rounds;
  return out;
}

const SHAPES: Readonly<Record<string, SignalKey>> = {
  round: 'roundShare',
  streak: 'streakShare',
  'edge band': 'edgeShare',
  edge: 'edgeShare',
  corner: 'cornerShare',
  ragged: 'raggedShare',
  speckle: 'speckleShare',
};

function readingSignals(reading: Case['reading']): Signals {
  const out: Writable = {};
  if (!reading) return out;
  if (reading.landed != null) out.bareShare = Math.max(0, 1 - reading.landed / 100);
  if (reading.veil != null) out.veil = reading.veil;
  if (reading.smear != null) out.smear = reading.smear;
  if (reading.smearDown != null) out.smearDown = Number(reading.smearDown);
  // In percent, as readings give it.
  if (reading.stain != null) out.stain = reading.stain / 100;
  if (reading.tone != null) out.tone = reading.tone;
  if (reading.mirrored != null) out.mirrored = Number(reading.mirrored);
  const { light, dark } = reading.landedByTone ?? {};
  if (light != null && dark != null) out.lightLoss = (dark - light) / 100;
  const edges = Object.values(reading.edges ?? {}).filter(e => e !== null);
  if (edges.length && out.bareShare !== undefined)
    out.edgeLoss = (100 - Math.min(...edges)) / 100 - out.bareShare;
  if (reading.bareShapes) {
    const all = Object.values(reading.bareShapes).reduce((a, b) => a + b, 0) || 1;
    for (const key of Object.values(SHAPES)) out[key] = 0;
    for (const [shape, part] of Object.entries(reading.bareShapes)) {
      const key = SHAPES[shape.replace(/[-_]/g, ' ')];
      if (key) out[key] = (out[key] ?? 0) + part / Math.max(1, all);
    }
  }
  return out;
}

/** Yes, no, or nothing where nobody could tell. */
function yesIn(answer: unknown): boolean | undefined {
  if (typeof answer === 'boolean') return answer;
  const text = String(answer).trim().toLowerCase();
  if (/^(yes|y|true|1)$/.test(text)) return true;
  return /^(no|n|false|0)$/.test(text) ? false : undefined;
}

/** The question about a cause's tell-tale. */
const questionOf = (cause: string): string => `check:${cause}`;

/**
 * A failure as somebody tells it, explained: the causes that may be at work, what speaks for and against each, and what to
 * look at next. Fails where the case has not the form of one, or its method is not known.
 *
 * @example explainCase({ id: 'a', method: 'spell' }).ok; // => false
 */
export function explainCase(data: unknown): Outcome<ExplainedCase> {
  const parsed = v.safeParse(Case, data);
  if (!parsed.success) {
    const [issue] = parsed.issues;
    const at = issue.path?.map(p => String(p.key)).join('.') ?? '';
    return bad('case', `A case is not filled in right${at && ` at ${at}`}: ${issue.message}`);
  }
  const c = parsed.output;
  const method = methodOf(c.method);
  if (!method) return bad('method', `Case ${c.id}: the method “${c.method}” is not known here.`);
  const understood = settingsIn(c, method);
  if (!understood.ok) return understood;
  const { settings, notUnderstood } = understood.value;
  const air = c.air ?? { tempC: 21, rh: 45 };
  const symptoms = c.symptoms.map(slug);
  const strange = symptoms.filter(s => !(SYMPTOM_IDS as readonly string[]).includes(s));
  const skipped = c.skipped.flatMap((said): SignalKey[] => {
    const own = slug(said);
    const step =
      method.steps.find(s => s.id === own || s.does === own || slug(s.action) === own) ??
      // What the ground is prepared by may be told by its name.
      method.steps.find(
        s => s.does === 'prepare' && slug(settings.preparation.kind).split('-').includes(own),
      );
    if (!step) notUnderstood.push(`“${said}” is no step of ${within(method.name)}.`);
    return step ? [`skip:${step.does}`] : [];
  });
  const signals = telling({
    ...settingsSignals(settings, skipped.includes('skip:prepare')),
    ...timeSignals(c, settings, air),
    ...readingSignals(c.reading),
    ...Object.fromEntries(skipped.map(key => [key, 1])),
    ...(c.artwork.pale != null ? { pale: c.artwork.pale } : {}),
    ...(c.artwork.contrast ? { lowContrast: Number(c.artwork.contrast === 'low') } : {}),
    ...Object.fromEntries(
      symptoms.filter(s => !strange.includes(s)).map(s => [`symptom:${s}` as SignalKey, 1]),
    ),
  });
  const answers = Object.entries(c.answers).map(([question, answer]) => ({
    cause: question.replace(/^check:/, ''),
    yes: yesIn(answer),
  }));
  const wrong = isTroubled(signals);
  const found = infer(CAUSES, signals, answers, soundRatio(signals));
  return good({
    id: c.id,
    causes: wrong
      ? told(found, signals).map(e => ({
          id: e.cause.id,
          likely: e.likely,
          for: e.for.map(f => f.say),
          against: e.against.map(f => f.say),
        }))
      : [],
    nothingWrong: wrong ? found.nothingWrong : 1 - NOT_SEEN,
    somethingElse: wrong ? found.somethingElse : NOT_SEEN,
    ask: wrong
      ? found.ask
          .slice(0, 5)
          .map(a => ({ question: questionOf(a.cause.id), gain: a.gain, words: a.cause.check }))
      : [],
    notUnderstood: [...notUnderstood, ...strange.map(s => `“${s}” is no symptom that is known here.`)],
  });
}

/** Something may be wrong that nobody measured or saw. */
const NOT_SEEN = 0.03;
