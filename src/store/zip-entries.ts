import { BlobReader, type Entry, type FileEntry, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import {
  hex,
  type LocalHeader,
  localHeaderAt,
  MOST_NAME,
  unpacked,
  WORKSHOP_NAMES,
} from '../core/bundle/index.ts';
import { bad, good, type Outcome } from '../core/outcome/index.ts';

/** A file in a backup: its bytes, and whether they are those that were written. */
export interface Unpacked {
  readonly bytes: Uint8Array;
  readonly isWhole: boolean;
}

/** The files of a backup, of a damaged or cut-off one those that can be found. */
export interface Unzipped {
  readonly names: readonly string[];
  readonly isDamaged: boolean;
  readonly bytesOf: (name: string) => Promise<Unpacked | undefined>;
}

/** No part of a backup may unpack to more than a trial's own archive may hold. */
const MOST_BYTES = 900e6;
const MOST_FILES = 60_000;
const AGAIN = 'Make the backup again, or choose another.';

/**
 * Opens a backup by its directory; where that is gone or damaged, by what stands before each file. Fails where it is no
 * ZIP of ours: with files that Wet Test never writes, two of one name, or far too much in it.
 */
export async function unzip(file: Blob): Promise<Outcome<Unzipped>> {
  const found = await directoryOf(file);
  if (!found) return good(scanned(await scan(file), file));
  const entries = new Map<string, FileEntry>();
  for (const entry of found) {
    const wrong = wrongWith(entry, entries);
    // What only the directory says, and not the file itself, is damage and nobody's doing.
    if (wrong && !(await isAsItSays(file, entry))) return good(scanned(await scan(file), file));
    if (wrong) return wrong;
    entries.set(entry.filename, entry as FileEntry);
  }
  let salvaged: Promise<Unzipped> | undefined;
  const bytesOf = async (name: string): Promise<Unpacked | undefined> => {
    const entry = entries.get(name);
    if (!entry) return undefined;
    for (const isWhole of [true, false])
      try {
        const bytes = await entry.getData(new Uint8ArrayWriter(), { checkSignature: isWhole });
        if (bytes.length === entry.uncompressedSize) return { bytes, isWhole };
      } catch {
        // Read once more without its checksum, then by what stands before it.
      }
    salvaged ??= scan(file).then(places => scanned(places, file));
    return (await salvaged).bytesOf(name);
  };
  return good({ names: [...entries.keys()], isDamaged: false, bytesOf });
}

/** The entries a backup's directory lists; nothing where there is none that can be read. */
async function directoryOf(file: Blob): Promise<Entry[] | undefined> {
  try {
    const entries = await new ZipReader(new BlobReader(file)).getEntries();
    // In a file that is cut off the last directory may be that of a trial's own ZIP in it, which begins further on.
    return !entries.length || entries.some(e => e.offset === 0) ? entries : undefined;
  } catch {
    return undefined;
  }
}

function wrongWith(entry: Entry, known: ReadonlyMap<string, Entry>): Outcome<never> | undefined {
  const { filename, uncompressedSize, encrypted, directory } = entry;
  if (known.size >= MOST_FILES || uncompressedSize > MOST_BYTES)
    return bad('too-big', 'This file unpacks to far more than a workshop can hold, so it was not opened.');
  if (directory || encrypted || !WORKSHOP_NAMES.test(filename))
    return bad(
      'foreign',
      `This ZIP holds “${filename.slice(0, 60)}”, which Wet Test never writes into a backup, so it was not opened.`,
      'Choose a file that “Back up the workshop” made.',
    );
  if (known.has(filename))
    return bad('broken', 'This ZIP holds two files of one name, so it was not opened.', AGAIN);
  return undefined;
}

/** Whether what stands before the file itself says the same as the directory does of it. */
async function isAsItSays(file: Blob, entry: Entry): Promise<boolean> {
  const head = new Uint8Array(await file.slice(entry.offset, entry.offset + REACH).arrayBuffer());
  const local = localHeaderAt(head, 0);
  return (
    local?.name === entry.filename &&
    (local.isOpen || local.packed === entry.compressedSize) &&
    entry.encrypted === local.isEncrypted
  );
}

/** What stands before a file of a backup, and where its bytes begin in that. */
interface Place extends LocalHeader {
  readonly from: number;
}

/** Bytes of a directory's entry before the name (APPNOTE 4.3.12), and within which any header of ours ends. */
const LISTED = 46;
const REACH = LISTED + MOST_NAME;
const CHUNK = 4 << 20;
const ascii = new TextDecoder('latin1');

/** Whether a directory's entry of a file of ours begins in `b` at `i`. */
function isListed(b: Uint8Array, i: number): boolean {
  if (i + LISTED > b.length || b[i] !== 0x50 || b[i + 1] !== 0x4b || b[i + 2] !== 1 || b[i + 3] !== 2)
    return false;
  const name = b[i + 28] | (b[i + 29] << 8);
  return WORKSHOP_NAMES.test(ascii.decode(b.subarray(i + LISTED, i + LISTED + Math.min(name, MOST_NAME))));
}

/** Looks through all bytes of a file for what stands before files of ours, and where the last of them ends at most. */
async function scan(file: Blob): Promise<{ readonly places: readonly Place[]; readonly end: number }> {
  const places: Place[] = [];
  let end = file.size;
  for (let at = 0; at < file.size; at += CHUNK) {
    // Each chunk with so much of the next that no header lies across its end.
    const bytes = new Uint8Array(await file.slice(at, at + CHUNK + REACH).arrayBuffer());
    const last = Math.min(CHUNK, bytes.length);
    for (let i = bytes.indexOf(0x50); i >= 0 && i < last; i = bytes.indexOf(0x50, i + 1)) {
      const head = localHeaderAt(bytes, i);
      if (head && WORKSHOP_NAMES.test(head.name) && places.length < MOST_FILES)
        places.push({ ...head, from: at + i + head.length });
      else if (end === file.size && isListed(bytes, i)) end = at + i;
    }
  }
  return { places, end };
}

/** Files found by {@link scan}; of two of one name the first that is whole. */
function scanned(
  { places, end }: { readonly places: readonly Place[]; readonly end: number },
  file: Blob,
): Unzipped {
  const bytesOf = async (name: string): Promise<Unpacked | undefined> => {
    let best: Unpacked | undefined;
    for (const [i, place] of places.entries())
      if (place.name === name && !best?.isWhole) {
        const until = place.isOpen ? nextAfter(places, i, end) : place.from + place.packed;
        if (until - place.from > MOST_BYTES) continue;
        const bytes = new Uint8Array(await file.slice(place.from, Math.max(place.from, until)).arrayBuffer());
        best = fileOf(place, bytes) ?? best;
      }
    return best;
  };
  return { names: [...new Set(places.map(p => p.name))], isDamaged: true, bytesOf };
}

/** Where the next file's header begins: no file of ours reaches further. */
const nextAfter = (places: readonly Place[], i: number, end: number): number =>
  places[i + 1] ? places[i + 1].from : end;

/** The file of a place out of the bytes that begin with it: checked by the checksum before or behind it. */
function fileOf(place: Place, bytes: Uint8Array): Unpacked | undefined {
  const asIs = place.isDeflated ? undefined : { bytes, isWhole: false };
  if (!place.isOpen) {
    const plain = bytes.length === place.packed ? unpacked(bytes, place) : undefined;
    return plain ? { bytes: plain, isWhole: true } : asIs;
  }
  // What stands behind it (APPNOTE 4.3.9), with or without its mark: checksum, packed size, size.
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let p = 0; p + 12 <= bytes.length; p++) {
    const q = view.getUint32(p, true) === 0x08074b50 && p + 16 <= bytes.length ? p + 4 : p;
    if (view.getUint32(q + 4, true) !== p) continue;
    const { isDeflated } = place;
    const plain = unpacked(bytes.subarray(0, p), { isDeflated, crc: hex(view.getUint32(q, true)) });
    if (plain) return { bytes: plain, isWhole: true };
  }
  return asIs;
}
