import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { migrate, SCHEMA_VERSION, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import { checkTrial, parsePlan, parseRecord } from './check.ts';
import { csvFiles } from './csv.ts';

/** A whole trial: plan, records and the photos they name, by id, as image file bytes. */
export interface TrialBundle {
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
  readonly photos: ReadonlyMap<string, Uint8Array>;
}

const FORMAT = 'wet-test-trial';
const MOST_FILE = 60e6;
const MOST_TOTAL = 900e6;
const MOST_FILES = 5000;
const NAME =
  /^(trial\.json|patches\.csv|records\.csv|readings\.csv|photos\/[0-9A-Za-z-]{1,40}\.(jpg|png|webp))$/;

/** The kind of an image file by its first bytes, or nothing. */
export function imageKind(bytes: Uint8Array): 'jpg' | 'png' | 'webp' | undefined {
  if (bytes[0] === 0xff && bytes[1] === 0xd8) return 'jpg';
  if (bytes[0] === 0x89 && bytes[1] === 0x50 && bytes[2] === 0x4e) return 'png';
  if (strFromU8(bytes.subarray(0, 4)) === 'RIFF' && strFromU8(bytes.subarray(8, 12)) === 'WEBP')
    return 'webp';
  return undefined;
}

/** CRC-32 (ISO 3309) of bytes, as 8 hex digits. */
export function crc32(bytes: Uint8Array): string {
  let crc = 0xffffffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let k = 0; k < 8; k++) crc = (crc >>> 1) ^ (0xedb88320 & -(crc & 1));
  }
  return ((crc ^ 0xffffffff) >>> 0).toString(16).padStart(8, '0');
}

/** Packs a trial as a ZIP: `trial.json`, three CSV tables and the photos (docs/FORMATS.md). */
export function writeBundle(bundle: TrialBundle, exportedAt: string): Uint8Array {
  const { plan, records, photos } = bundle;
  const files: Record<string, Uint8Array | [Uint8Array, { level: 0 }]> = {};
  const list = [...photos].map(([id, bytes]) => {
    const file = `photos/${id}.${imageKind(bytes) ?? 'jpg'}`;
    files[file] = [bytes, { level: 0 }];
    return { id, file, crc32: crc32(bytes) };
  });
  const trial = { format: FORMAT, schema: SCHEMA_VERSION, exportedAt, plan, records, photos: list };
  files['trial.json'] = strToU8(JSON.stringify(trial, null, 1));
  for (const [name, text] of Object.entries(csvFiles(plan, records))) files[name] = strToU8(text);
  return zipSync(files, { level: 6, mtime: new Date(exportedAt) });
}

/**
 * Reads a ZIP that {@link writeBundle} made and checks all of it before giving anything: archive, names,
 * sizes, version, plan, every record, every photo. Fails with a sentence; never throws.
 */
export function readBundle(bytes: Uint8Array): Outcome<TrialBundle> {
  const files = unpack(bytes);
  if (!files.ok) return files;
  const text = files.value['trial.json'];
  if (!text)
    return bad('foreign', 'This ZIP holds no Wet Test trial.', 'Choose a ZIP that Wet Test exported.');
  let data: unknown;
  try {
    data = JSON.parse(strFromU8(text));
  } catch {
    return bad(
      'broken',
      'The trial in this file cannot be read: it is damaged.',
      'Export it again and import that.',
    );
  }
  // The envelope has not changed since version 1; the plan inside is migrated by itself.
  const current = migrate(data, { 1: envelope => envelope });
  if (!current.ok) return current;
  if (current.value.format !== FORMAT)
    return bad('foreign', 'This ZIP holds no Wet Test trial.', 'Choose a ZIP that Wet Test exported.');
  const plan = parsePlan(current.value.plan);
  if (!plan.ok) return plan;
  if (!Array.isArray(current.value.records)) return bad('broken', 'The trial’s records are missing.');
  const records: TrialRecord[] = [];
  for (const item of current.value.records) {
    const record = parseRecord(item);
    if (!record.ok) return record;
    records.push(record.value);
  }
  const photos = photosOf(current.value.photos, files.value);
  if (!photos.ok) return photos;
  const whole = checkTrial(plan.value, records, new Set(photos.value.keys()));
  return whole.ok ? good({ plan: plan.value, records, photos: photos.value }) : whole;
}

function unpack(bytes: Uint8Array): Outcome<Record<string, Uint8Array>> {
  let total = 0;
  let count = 0;
  let strange: string | undefined;
  try {
    const files = unzipSync(bytes, {
      filter: file => {
        count++;
        total += file.originalSize;
        if (!NAME.test(file.name)) strange ??= file.name;
        return (
          strange === undefined &&
          count <= MOST_FILES &&
          total <= MOST_TOTAL &&
          file.originalSize <= MOST_FILE
        );
      },
    });
    if (count > MOST_FILES || total > MOST_TOTAL)
      return bad('too-big', 'This file unpacks to far more than a trial can hold, so it was not opened.');
    if (strange !== undefined)
      return bad(
        'foreign',
        `This ZIP holds “${strange.slice(0, 60)}”, which Wet Test never writes, so it was not opened.`,
        'Choose a ZIP that Wet Test exported.',
      );
    return good(files);
  } catch {
    return bad(
      'broken',
      'This file is not a ZIP, or it is damaged.',
      'Export the trial again and import that.',
    );
  }
}

function photosOf(list: unknown, files: Record<string, Uint8Array>): Outcome<Map<string, Uint8Array>> {
  if (!Array.isArray(list)) return bad('broken', 'The list of photos is missing.');
  const photos = new Map<string, Uint8Array>();
  for (const item of list as Record<string, unknown>[]) {
    const bytes = typeof item?.file === 'string' ? files[item.file] : undefined;
    if (!bytes || typeof item.id !== 'string')
      return bad(
        'missing-photo',
        `The photo ${String(item?.id).slice(0, 40)} is missing from the file.`,
        'Export the trial again and import that.',
      );
    if (!imageKind(bytes)) return bad('bad-photo', `The photo ${item.id} is not a picture.`);
    if (item.crc32 !== crc32(bytes))
      return bad('bad-photo', `The photo ${item.id} is damaged.`, 'Export the trial again and import that.');
    photos.set(item.id, bytes);
  }
  return good(photos);
}
