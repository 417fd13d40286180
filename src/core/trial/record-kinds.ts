import * as v from 'valibot';
import { ASPECT_IDS } from '../aspects/index.ts';
import { WEAR_TESTS } from '../factors/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { celsius, humidity, mL, say, write } from '../say/index.ts';
import { SYMPTOM_IDS } from '../symptoms/index.ts';
import { Air, ExpectedAir, idText, iso, patchCode, words } from './parts.ts';
import { BarePatch, Reading } from './reading.ts';
import { Change } from './schema.ts';

/** The most records a trial can have: every step of 400 patches and ten of anything else for each. */
export const MOST_RECORDS = 40_000;

/** The most stretches of expected air at a time. */
export const MOST_EXPECTED = 12;

/** When a photo was taken, as far as its readings go. */
/** `bare`: the ground before anything was laid on it, lit from the side. */
export const PHOTO_STAGES = ['wet', 'dry', 'bare'] as const;

const base = { id: idText, at: iso, patch: v.nullable(patchCode) };
const round = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(50));
const SOURCES = ['hand', 'logger', 'simulated'] as const;
/** Where a measured value comes from; nothing where a hand put it in. */
const source = v.optional(v.picklist(SOURCES));

/** All that is known of one kind of record. */
interface About<R> {
  /** What it says, in a cell of a table. */
  readonly says: (record: R) => string;
  /** What undo calls it at the bench; nothing where undo there passes it over. */
  readonly undo?: (record: R) => string;
  /** The photos it names. */
  readonly photos?: (record: R) => readonly string[];
}

type Loose = Readonly<Record<string, unknown>>;
/** From what a record of a kind said in one version to what it says in the next: once written it is never changed again. */
type Step = (old: Loose) => Loose;

const kind = <K extends string, E extends v.ObjectEntries>(
  name: K,
  entries: E,
  about: About<
    v.InferOutput<v.ObjectSchema<typeof base & { kind: v.LiteralSchema<K, undefined> } & E, undefined>>
  >,
  /** From version 1 to 2, from 2 to 3 …: what is written has the version after the last. */
  steps: readonly Step[] = [],
) => ({
  steps,
  schema: v.object({ ...base, kind: v.literal(name), ...entries }) as unknown as v.ObjectSchema<
    typeof base & { kind: v.LiteralSchema<K, undefined> } & E,
    undefined
  >,
  ...about,
});

const finite = v.pipe(v.number(), v.finite());
const judge = words(40);
const count = v.pipe(v.number(), v.integer(), v.minValue(0));

/**
 * How much a measure is wanted: nothing below `none` and beyond `end`, all from `full` on (to `to`, where more is not
 * better); between them by a power. `weight` among the others.
 */
const Desired = v.pipe(
  v.object({
    none: finite,
    full: finite,
    to: v.optional(finite),
    end: v.optional(finite),
    power: v.pipe(v.number(), v.minValue(0.1), v.maxValue(10)),
    weight: v.pipe(v.number(), v.minValue(0), v.maxValue(10)),
  }),
  v.check(d => d.none !== d.full, 'What counts for nothing and what counts for all cannot be the same.'),
);

/** Air in a cell of a table, which is metric as all of a file is. */
const airWords = (air: { readonly tempC: number; readonly rh: number }): string =>
  write(say`${celsius(air.tempC)} ${humidity(air.rh)}`);

/** What a change of the plan says, in a cell of a table. */
const CHANGED: { readonly [K in Change['what']]: (change: Extract<Change, { what: K }>) => string } = {
  words: c => `called “${c.name}”`,
  tags: c => `filed under ${c.tags.join(', ') || 'nothing'}`,
  batch: c => `${c.patches.length} more patches`,
  drop: c => `left out ${c.patches.join(' ')}`,
  place: c => `moved ${c.places.map(p => p.code).join(' ')}`,
  split: c => `${c.patches.length} patches went to a trial of their own: ${c.patches.join(' ')}`,
  order: c => `made in another order: ${c.patches.join(' ')}`,
  archive: c => (c.archived ? 'put away' : 'taken up again'),
};

/** Every kind of append-only event of a trial: what it holds, what it says in tables, and whether undo takes it back. */
export const RECORD_KINDS = {
  step: kind(
    'step',
    {
      step: idText,
      round,
      /** When hands began with it, as far as the bench knows: the moment its instruction came up. */
      begun: v.optional(iso),
      /** When it was pressed, where the maker said that it had been done before (`at`). */
      told: v.optional(iso),
      /** Left out on purpose; what follows goes on from here. */
      skipped: v.optional(v.boolean()),
      /** Other patches it was done for in the same go. */
      also: v.optional(v.pipe(v.array(patchCode), v.maxLength(400))),
    },
    {
      says: r =>
        [
          `${r.step} round ${r.round}`,
          ...(r.told ? ['told later'] : []),
          ...(r.skipped ? ['skipped'] : []),
          ...(r.also?.length ? [`with ${r.also.join(' ')}`] : []),
        ].join(', '),
      undo: r => `${r.also ? `and ${r.also.length} more ` : ''}${r.step}`,
    },
  ),
  undo: kind('undo', { of: idText }, { says: r => r.of }),
  air: kind(
    'air',
    {
      air: Air,
      source,
      /** The best short wait learnt for this air, minutes, where the plan leaves it open. */
      waitMin: v.optional(v.pipe(v.number(), v.minValue(0.01), v.maxValue(60))),
    },
    { says: r => `${airWords(r.air)} (${r.source ?? 'hand'})` },
  ),
  /** What the air of the room will be like; takes the place of what was expected before. */
  forecast: kind(
    'forecast',
    { expected: v.pipe(v.array(ExpectedAir), v.maxLength(MOST_EXPECTED)) },
    {
      says: r =>
        r.expected.map(e => `${e.day ?? 'every day'} ${e.from}–${e.to} ${airWords(e.air)}`).join(', ') ||
        'nothing else expected',
    },
  ),
  /** The answer to "is it ready?": whether what the next step waits for has come. */
  ready: kind(
    'ready',
    { ready: v.boolean(), step: idText, round },
    {
      says: r => `${r.ready ? 'ready' : 'not ready'} for ${r.step} round ${r.round}`,
      undo: () => 'ready',
    },
  ),
  /** The coat by weight, grams on one patch. */
  coat: kind(
    'coat',
    { grams: v.pipe(v.number(), v.minValue(0), v.maxValue(10_000)), source },
    { says: r => `${r.grams} g (${r.source ?? 'hand'})`, undo: () => 'weight' },
  ),
  note: kind('note', { text: words(2000) }, { says: r => r.text, undo: () => 'note' }),
  spoilt: kind(
    'spoilt',
    {
      why: words(400),
      /** Whether the maker's own slip spoilt it; false where what was tried failed, nothing where nobody said. */
      slip: v.optional(v.boolean()),
    },
    {
      says: r => `${r.why}${r.slip === undefined ? '' : r.slip ? ' (a slip)' : ' (it failed)'}`,
      undo: () => 'spoilt',
    },
  ),
  photo: kind(
    'photo',
    {
      photo: idText,
      stage: v.picklist(PHOTO_STAGES),
      round: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(6)),
      name: words(200),
      simulated: v.boolean(),
      takenAt: v.nullable(iso),
      /** After which wear test it was taken; without it the patch is as it was made. */
      worn: v.optional(v.picklist(WEAR_TESTS)),
    },
    { says: r => `${r.photo} ${r.stage}${r.worn ? `, worn: ${r.worn}` : ''}`, photos: r => [r.photo] },
  ),
  /** How a picture of the maker's own looks on a patch: the file it is printed from. */
  picture: kind(
    'picture',
    { picture: idText, file: idText },
    { says: r => r.picture, photos: r => [r.file] },
  ),
  reading: kind(
    'reading',
    { photo: idText, reading: Reading, straight: v.nullable(idText) },
    { says: r => r.photo, photos: r => (r.straight ? [r.straight] : []) },
  ),
  /** How much of a bare ground still shone by a lamp from the side, %. */
  gloss: kind(
    'gloss',
    {
      photo: idText,
      gloss: v.pipe(v.number(), v.minValue(0), v.maxValue(100)),
      /** What it may be off by, points. */
      uncertainty: v.pipe(v.number(), v.minValue(0), v.maxValue(100)),
    },
    { says: r => `${r.gloss} % of the ground shines`, undo: () => 'gloss' },
    [({ give, ...rest }) => ({ ...rest, uncertainty: give })],
  ),
  /**
   * What a hand put right in a reading: bare patches that are none, and places drawn that are bare or not; with what
   * comes of it. The machine's own reading stays as it is.
   */
  correction: kind(
    'correction',
    {
      reading: idText,
      /** Bare patches of the reading, by their place in its list, that are not bare. */
      rejected: v.pipe(v.array(count), v.maxLength(5000)),
      drawn: v.pipe(
        v.array(
          v.object({
            isBare: v.boolean(),
            /** Its corners, mm from the picture's top left. */
            outline: v.pipe(v.array(v.object({ x: finite, y: finite })), v.minLength(3), v.maxLength(400)),
          }),
        ),
        v.maxLength(100),
      ),
      landed: v.pipe(v.number(), v.minValue(0), v.maxValue(100)),
      bare: v.pipe(v.array(BarePatch), v.maxLength(5000)),
    },
    { says: r => `${r.reading}: ${r.landed} % landed by hand` },
  ),
  /** What a look at the tell-tale of a cause showed; nothing where it could not be told. */
  answer: kind(
    'answer',
    { cause: idText, yes: v.nullable(v.boolean()) },
    { says: r => `${r.cause}: ${r.yes === null ? 'could not be told' : r.yes ? 'yes' : 'no'}` },
  ),
  /** What the cause of a failure really was, by the maker; nothing where it was none that is known. */
  cause: kind(
    'cause',
    { cause: v.nullable(idText) },
    { says: r => r.cause ?? 'none that is known', undo: () => 'cause' },
  ),
  /** Papers of the trial that were saved to be printed, by name; donor sheets among them or not. */
  papers: kind(
    'papers',
    { names: v.pipe(v.array(words(200)), v.maxLength(40)), donors: v.boolean() },
    { says: r => `saved to print: ${r.names.join(', ')}` },
  ),
  /** What counts as good in this trial, where the maker asks for something else than the intent does. */
  wanted: kind(
    'wanted',
    { wanted: v.nullable(v.record(v.string(), Desired)) },
    { says: r => (r.wanted ? Object.keys(r.wanted).join(', ') : 'as the intent has it') },
  ),
  /** A change of the plan, and why: what was planned before stays as it was written. */
  change: kind(
    'change',
    { change: Change, why: v.optional(words(400)) },
    { says: r => `${CHANGED[r.change.what](r.change as never)}${r.why ? `: ${r.why}` : ''}` },
  ),
  verdict: kind(
    'verdict',
    {
      verdict: v.picklist(['keep', 'fix', 'scrap']),
      grade: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(5)),
      symptoms: v.pipe(v.array(v.picklist(SYMPTOM_IDS)), v.maxLength(60)),
      /** Given without knowing which patch it was. */
      blind: v.optional(v.boolean()),
      judge: v.optional(judge),
    },
    { says: r => `${r.verdict}${r.blind ? ' (blind)' : ''}${r.judge ? `, by ${r.judge}` : ''}` },
  ),
  /** Single aspects of a patch graded 1 to 5: as seen, or as felt with the piece in hand. */
  look: kind(
    'look',
    {
      aspects: v.pipe(
        v.record(v.picklist(ASPECT_IDS), v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(5))),
        v.check(a => Object.keys(a).length > 0, 'Nothing is graded.'),
      ),
      judge: v.optional(judge),
    },
    {
      says: r =>
        Object.entries(r.aspects)
          .map(([id, grade]) => `${id} ${grade}`)
          .join(', '),
      undo: () => 'what you felt',
    },
  ),
  /** So much of the shelf's mediums (mL) and donors (sheets) was taken off it for this trial, by their ids. */
  stock: kind(
    'stock',
    {
      ml: v.record(idText, v.pipe(v.number(), v.minValue(0), v.maxValue(1e5))),
      sheets: v.record(idText, v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(1e5))),
    },
    {
      says: r =>
        [
          ...Object.entries(r.ml).map(([id, ml]) => `${id} ${write(mL(ml, { places: 1 }))}`),
          ...Object.entries(r.sheets).map(([id, n]) => `${id} ${n}`),
        ].join(', '),
    },
  ),
  /** Two patches compared without knowing which they were: which is better, or neither. */
  pair: kind(
    'pair',
    { other: patchCode, better: v.picklist(['this', 'other', 'neither']), judge },
    { says: r => `${r.better} against ${r.other}, by ${r.judge}` },
  ),
  /** From here on it is known which patch is which. */
  unblind: kind('unblind', { judge }, { says: r => `shown to ${r.judge}` }),
} as const;

type Kinds = typeof RECORD_KINDS;
/** One append-only event of a trial. */
export type TrialRecord = { [K in keyof Kinds]: v.InferOutput<Kinds[K]['schema']> }[keyof Kinds];
export type RecordOf<K extends TrialRecord['kind']> = Extract<TrialRecord, { kind: K }>;

const SCHEMAS = Object.values(RECORD_KINDS).map(k => k.schema) as unknown as [Kinds['step']['schema']];
export const TrialRecord = v.variant('kind', SCHEMAS) as unknown as v.GenericSchema<unknown, TrialRecord>;

/** The steps of a kind; none of one that is not known, which is refused for that. */
const stepsOf = (kinds: Readonly<Record<string, { readonly steps: readonly Step[] }>>, kind: unknown) =>
  typeof kind === 'string' && Object.hasOwn(kinds, kind) ? kinds[kind].steps : [];

/**
 * A stored or imported record as this version says it, whatever version wrote it; one that does not say its version is
 * of the first. Fails when a newer Wet Test wrote it. Not checked otherwise.
 *
 * @example recordNow({ kind: 'gloss', gloss: 4, give: 1 }).value; // => { kind: 'gloss', gloss: 4, uncertainty: 1 }
 * @example recordNow({ kind: 'note', version: 7 }).problem.code; // => 'newer'
 */
export function recordNow(
  data: unknown,
  kinds: Readonly<Record<string, { readonly steps: readonly Step[] }>> = RECORD_KINDS,
): Outcome<unknown> {
  if (typeof data !== 'object' || data === null) return good(data);
  const { version = 1, ...record } = data as Loose;
  const steps = stepsOf(kinds, record.kind);
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    return bad('bad-record', 'A record does not say rightly which version it is.');
  if (version > steps.length + 1)
    return bad(
      'newer',
      'A record was made by a newer Wet Test.',
      'Update Wet Test, then open it again: nothing of it is lost.',
    );
  return good(steps.slice(version - 1).reduce<Loose>((old, step) => step(old), record));
}

/**
 * A record as it is written: with its version, where its kind has had more than one.
 *
 * @example versioned({ id: 'n', at: '', kind: 'note', patch: null, text: 'hm' }).version; // => undefined
 */
export function versioned<R extends { readonly kind: string }>(record: R): R & { readonly version?: number } {
  const { length } = stepsOf(RECORD_KINDS, record.kind);
  return length ? { ...record, version: length + 1 } : record;
}

const aboutOf = (record: TrialRecord) => RECORD_KINDS[record.kind] as unknown as About<TrialRecord>;

/**
 * What a record says, in a cell of a table.
 *
 * @example recordWords(records[0]); // => 'mark round 1'
 */
export const recordWords = (record: TrialRecord): string => aboutOf(record).says(record);

/**
 * What undo at the bench calls a record; nothing where undo passes it over.
 *
 * @example undoWords(records[0]); // => 'mark'
 */
export const undoWords = (record: TrialRecord): string | undefined => aboutOf(record).undo?.(record);

/**
 * The photos that a record names.
 *
 * @example photosNamed(records[1]); // => ['p1']
 */
export const photosNamed = (record: TrialRecord): readonly string[] => aboutOf(record).photos?.(record) ?? [];
