import { strFromU8, strToU8, type Zippable, zipSync } from 'fflate';
import * as v from 'valibot';
import { bad, good, type Outcome, type Progress } from '../outcome/index.ts';
import {
  MOST_RECORDS,
  migrate,
  photosNamed,
  SCHEMA_VERSION,
  type TrialPlan,
  type TrialRecord,
  versioned,
} from '../trial/index.ts';
import { crc32, salvage, unpack } from './archive.ts';
import { checkTrial, parsePlan, parseRecord } from './check.ts';
import { csvFiles } from './csv.ts';
import { imageHead } from './image.ts';

/** A whole trial: plan, records and the photos they name, by id, as image file bytes. */
export interface TrialBundle {
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
  readonly photos: ReadonlyMap<string, Uint8Array>;
  /** Photos that were not there any more when it was exported. */
  readonly missing?: readonly string[];
  /** Photos that are damaged in the file it was read from, and were left out (they are among the missing). */
  readonly lost?: readonly string[];
}

const FORMAT = 'wet-test-trial';
/** How much a trial's archive may hold. */
const LIMITS = {
  names: /^(trial\.json|patches\.csv|records\.csv|readings\.csv|photos\/[0-9A-Za-z-]{1,40}\.(jpg|png|webp))$/,
  files: 5000,
  fileBytes: 60e6,
  totalBytes: 900e6,
};
/** No larger than what is read of a photo that is added by hand, and no side that a browser cannot draw. */
const MOST_PIXELS = 52e6;
const MOST_SIDE = 16_384;
const AGAIN = 'Export the trial again and import that.';

/** Packs a trial as a ZIP: `trial.json`, three CSV tables and the photos (docs/FORMATS.md). A photo that is missing is named inside. */
export function writeBundle(bundle: TrialBundle, exportedAt: string): Uint8Array {
  const { plan, records, photos } = bundle;
  const packed: Record<string, [Uint8Array, { level: 0 }]> = {};
  const list = [...photos].map(([id, bytes]) => {
    const file = `photos/${id}.${imageHead(bytes)?.kind ?? 'jpg'}`;
    packed[file] = [bytes, { level: 0 }];
    return { id, file, crc32: crc32(bytes) };
  });
  const missing = [...new Set([...records.flatMap(photosNamed), ...(bundle.missing ?? [])])].filter(
    id => !photos.has(id),
  );
  const trial = {
    format: FORMAT,
    schema: SCHEMA_VERSION,
    exportedAt,
    plan,
    records: records.map(versioned),
    photos: list,
    ...(missing.length ? { missing } : {}),
  };
  const tables = Object.entries(csvFiles(plan, records)).map(([name, text]) => [name, strToU8(text)]);
  // The trial goes first: of a file that is cut off all that stands before the cut can be read.
  const files: Zippable = {
    'trial.json': strToU8(JSON.stringify(trial, null, 1)),
    ...Object.fromEntries(tables),
    ...packed,
  };
  return zipSync(files, { level: 6, mtime: new Date(exportedAt) });
}

/** The files of a trial's archive; of a damaged one those that are whole, if the trial itself is among them. */
function filesIn(bytes: Uint8Array): Outcome<Readonly<Record<string, Uint8Array>>> {
  const files = unpack(bytes, LIMITS);
  if (files.ok || files.problem.code !== 'damaged') return files;
  const saved = salvage(bytes, LIMITS);
  if (saved.files['trial.json']) return good(saved.files);
  return bad(
    'broken',
    saved.damaged.includes('trial.json')
      ? 'The plan and the records in this file are damaged.'
      : files.problem.say,
    AGAIN,
  );
}

/**
 * Reads a ZIP that {@link writeBundle} made and checks all of it before giving anything: archive, names, sizes,
 * checksums, version, plan, every record, every photo's header. Photos that are damaged are left out and named (`lost`);
 * where plan or records are, it fails. Fails with a sentence; throws only what `tell` throws.
 *
 * @example readBundle(new Uint8Array(4)).problem.code; // => 'broken'
 */
export function readBundle(bytes: Uint8Array, tell: Progress = () => {}): Outcome<TrialBundle> {
  tell(0, 'Unpacking');
  const files = filesIn(bytes);
  if (!files.ok) return files;
  tell(0.4, 'Checking the plan');
  const envelope = envelopeOf(files.value['trial.json']);
  if (!envelope.ok) return envelope;
  const plan = parsePlan(envelope.value.plan);
  if (!plan.ok) return plan;
  const list = envelope.value.records;
  if (!Array.isArray(list)) return bad('broken', 'The trial’s records are missing.');
  if (list.length > MOST_RECORDS)
    return bad('too-big', `This trial has ${list.length} records, far more than work on it can leave.`);
  const records: TrialRecord[] = [];
  for (const [i, item] of list.entries()) {
    if (i % 500 === 0) tell(0.5 + (0.3 * i) / list.length, 'Checking the records');
    const record = parseRecord(item);
    if (!record.ok) return record;
    records.push(record.value);
  }
  tell(0.8, 'Checking the photos');
  const found = photosOf(envelope.value.photos, files.value);
  if (!found.ok) return found;
  const { photos, lost } = found.value;
  const gone = v.safeParse(Missing, envelope.value.missing ?? []);
  if (!gone.success) return bad('broken', 'The list of missing photos is damaged.');
  const missing = [...new Set([...gone.output, ...lost])];
  const whole = checkTrial(plan.value, records, new Set([...photos.keys(), ...missing]));
  if (!whole.ok) return whole;
  return good({
    ...{ plan: plan.value, records, photos },
    ...(missing.length ? { missing } : {}),
    ...(lost.length ? { lost } : {}),
  });
}

const Missing = v.pipe(v.array(v.pipe(v.string(), v.regex(/^[0-9A-Za-z-]{1,40}$/))), v.maxLength(5000));

/** What stands in `trial.json`, brought up to this version. */
function envelopeOf(file: Uint8Array | undefined): Outcome<Record<string, unknown>> {
  const foreign = bad('foreign', 'This ZIP holds no Wet Test trial.', 'Choose a ZIP that Wet Test exported.');
  if (!file) return foreign;
  let data: unknown;
  try {
    data = JSON.parse(strFromU8(file));
  } catch {
    return bad('broken', 'The trial in this file cannot be read: it is damaged.', AGAIN);
  }
  // The envelope has not changed since version 1; the plan inside is migrated by itself.
  const same = (envelope: Record<string, unknown>) => envelope;
  const current = migrate(data, { 1: same, 2: same });
  if (!current.ok) return current;
  return current.value.format === FORMAT ? current : foreign;
}

/** The photos a trial lists, and the names of those whose file is damaged or not there. */
function photosOf(
  list: unknown,
  files: Readonly<Record<string, Uint8Array>>,
): Outcome<{ readonly photos: Map<string, Uint8Array>; readonly lost: readonly string[] }> {
  if (!Array.isArray(list)) return bad('broken', 'The list of photos is missing.');
  const photos = new Map<string, Uint8Array>();
  const lost: string[] = [];
  for (const item of list as Record<string, unknown>[]) {
    const id = typeof item?.id === 'string' ? item.id : '';
    if (typeof item?.file !== 'string' || !/^[0-9A-Za-z-]{1,40}$/.test(id))
      return bad('missing-photo', `The photo ${id.slice(0, 40)} is missing from the file.`, AGAIN);
    if (photos.has(id) || lost.includes(id))
      return bad('bad-photo', `Two photos have the same name (${id}).`, AGAIN);
    const bytes = files[item.file];
    const head = bytes && item.crc32 === crc32(bytes) ? imageHead(bytes) : undefined;
    if (!bytes || !head) {
      lost.push(id);
      continue;
    }
    if (head.w * head.h > MOST_PIXELS || Math.max(head.w, head.h) > MOST_SIDE)
      return bad(
        'bad-photo',
        `The photo ${id} says it is ${head.w} × ${head.h} pixels: too large to be opened.`,
      );
    photos.set(id, bytes);
  }
  return good({ photos, lost });
}
