import type { Air, ExpectedAir } from '../units/index.ts';
import { type RecordOf, type TrialRecord, undoWords } from './record-kinds.ts';
import { remembering } from './remember.ts';
import type { TrialPlan } from './schema.ts';

/**
 * Records that still stand: in order of time, without the undone ones and without the undos.
 *
 * @example standing([{ ...records[0] }, { id: 'u', at: records[0].at, kind: 'undo', patch: null, of: 'm1' }]); // => []
 */
export const standing = remembering((records): readonly TrialRecord[] => {
  const undone = new Set(records.flatMap(r => (r.kind === 'undo' ? [r.of] : [])));
  return records
    .filter(r => r.kind !== 'undo' && !undone.has(r.id))
    .sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : a.id < b.id ? -1 : Number(a.id > b.id)));
});

/**
 * The last record that can be undone, or nothing.
 *
 * @example lastUndoable(records).id; // => 'm1'
 */
export const lastUndoable = (records: readonly TrialRecord[]): TrialRecord | undefined =>
  standing(records)
    .filter(r => undoWords(r) !== undefined)
    .at(-1);

/**
 * The air that was noted last, or the plan's.
 *
 * @example airOf(plan, records) === plan.air; // => true
 */
export const airOf = (plan: TrialPlan, records: readonly TrialRecord[]): Air =>
  (standing(records).findLast(r => r.kind === 'air') as RecordOf<'air'> | undefined)?.air ?? plan.air;

/**
 * The air that is expected, as it was said last.
 *
 * @example expectedIn(records); // => []
 */
export const expectedIn = (records: readonly TrialRecord[]): readonly ExpectedAir[] =>
  (standing(records).findLast(r => r.kind === 'forecast') as RecordOf<'forecast'> | undefined)?.expected ??
  [];

/**
 * What the maker wants of this trial, where that is not what its intent asks; by measure.
 *
 * @example wantedIn(records); // => undefined
 */
export const wantedIn = (records: readonly TrialRecord[]): RecordOf<'wanted'>['wanted'] | undefined =>
  (standing(records).findLast(r => r.kind === 'wanted') as RecordOf<'wanted'> | undefined)?.wanted ??
  undefined;

/**
 * The files that the pictures of a trial are printed from, by the pictures' ids.
 *
 * @example pictureFiles(records).size; // => 0
 */
export const pictureFiles = (records: readonly TrialRecord[]): ReadonlyMap<string, string> =>
  new Map(standing(records).flatMap(r => (r.kind === 'picture' ? [[r.picture, r.file]] : [])));

/**
 * Standing records of one kind about one patch, oldest first.
 *
 * @example about(records, patch.code, 'photo').length; // => 1
 */
export const about = <K extends TrialRecord['kind']>(
  records: readonly TrialRecord[],
  patch: string,
  kind: K,
): RecordOf<K>[] => standing(records).filter((r): r is RecordOf<K> => r.kind === kind && r.patch === patch);

/**
 * Photos of a patch with something on it, oldest first; not those of its bare ground.
 *
 * @example photosOf(records, patch.code).length; // => 1
 */
export const photosOf = (records: readonly TrialRecord[], patch: string): RecordOf<'photo'>[] =>
  about(records, patch, 'photo').filter(p => p.stage !== 'bare');

/**
 * Records without those of practice photos, which the simulated camera made up, and what was read from them.
 *
 * @example withoutPractice(records).length; // => 1
 */
export function withoutPractice(records: readonly TrialRecord[]): readonly TrialRecord[] {
  const made = new Set(records.flatMap(r => (r.kind === 'photo' && r.simulated ? [r.photo] : [])));
  return made.size ? records.filter(r => !('photo' in r && made.has(r.photo))) : records;
}

/** A reading with the photo it is from; `machine` is the reading before a hand put something right in it. */
export interface ReadPhoto {
  readonly reading: RecordOf<'reading'>;
  readonly photo: RecordOf<'photo'>;
  readonly machine?: RecordOf<'reading'>['reading'];
}

/**
 * All readings of a patch with their photos, oldest first, worn ones among them; as they stand with what a hand put right
 * in them.
 *
 * @example readingsOf(records, patch.code).length; // => 1
 */
export function readingsOf(records: readonly TrialRecord[], patch: string): ReadPhoto[] {
  const photos = about(records, patch, 'photo');
  const corrections = about(records, patch, 'correction');
  return about(records, patch, 'reading').flatMap(reading => {
    const photo = photos.find(p => p.photo === reading.photo);
    if (!photo) return [];
    const right = corrections.findLast(c => c.reading === reading.id);
    if (!right) return [{ reading, photo }];
    const { landed, bare } = right;
    return [
      {
        reading: { ...reading, reading: { ...reading.reading, landed, bare } },
        photo,
        machine: reading.reading,
      },
    ];
  });
}

/**
 * A patch's reading that counts: the last one from a dry photo, else the last one of all, of the patch as it was made:
 * what wear took off is another question. One from a practice photo counts only where there is no other.
 *
 * @example readingOf(records, patch.code).reading.reading.landed; // => 80
 */
export function readingOf(records: readonly TrialRecord[], patch: string): ReadPhoto | undefined {
  const pairs = readingsOf(records, patch).filter(p => !p.photo.worn);
  const real = pairs.filter(p => !p.photo.simulated);
  const counts = real.length ? real : pairs;
  return counts.findLast(p => p.photo.stage === 'dry') ?? counts.at(-1);
}

/**
 * A patch's verdict that counts: the last one.
 *
 * @example verdictOf(records, patch.code); // => undefined
 */
export const verdictOf = (records: readonly TrialRecord[], patch: string): RecordOf<'verdict'> | undefined =>
  about(records, patch, 'verdict').at(-1);

/**
 * A patch's aspects as last graded, 1–5; those that were not are not in it.
 *
 * @example aspectsOf(records, patch.code); // => {}
 */
export const aspectsOf = (records: readonly TrialRecord[], patch: string): RecordOf<'look'>['aspects'] =>
  Object.assign({}, ...about(records, patch, 'look').map(r => r.aspects));

/**
 * Whether the person wrote the patch off.
 *
 * @example isSpoilt(records, patch.code); // => false
 */
export const isSpoilt = (records: readonly TrialRecord[], patch: string): boolean =>
  about(records, patch, 'spoilt').length > 0;
