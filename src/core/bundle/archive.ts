import { inflateSync, strFromU8, unzipSync } from 'fflate';
import { bad, good, type Outcome } from '../outcome/index.ts';

/** What an archive may hold, so that none can fill the memory. */
export interface Limits {
  readonly names: RegExp;
  readonly files: number;
  readonly fileBytes: number;
  readonly totalBytes: number;
}

const TABLE = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  return c >>> 0;
});

/**
 * CRC-32 (ISO 3309) of bytes, as 8 hex digits.
 *
 * @example crc32(new TextEncoder().encode('123456789')); // => 'cbf43926'
 */
export function crc32(bytes: Uint8Array): string {
  let crc = 0xffffffff;
  for (const byte of bytes) crc = TABLE[(crc ^ byte) & 0xff] ^ (crc >>> 8);
  return ((crc ^ 0xffffffff) >>> 0).toString(16).padStart(8, '0');
}

interface Entry {
  readonly name: string;
  readonly crc: string;
  readonly size: number;
}

/** A checksum as 8 hex digits. */
export const hex = (crc: number): string => crc.toString(16).padStart(8, '0');

/** What stands before a file in a ZIP. */
export interface LocalHeader {
  readonly name: string;
  readonly isEncrypted: boolean;
  /** Its sizes and checksum stand behind it and not here. */
  readonly isOpen: boolean;
  readonly isDeflated: boolean;
  readonly crc: string;
  readonly size: number;
  readonly packed: number;
  /** Where its bytes begin, from the beginning of the header. */
  readonly length: number;
}

/** The longest name of a file of ours. */
export const MOST_NAME = 100;

/** The local file header (APPNOTE 4.3.7) that begins at a place; nothing where none does, or its name is longer than any of ours. */
export function localHeaderAt(b: Uint8Array, at: number): LocalHeader | undefined {
  if (at + 30 > b.length || b[at] !== 0x50 || b[at + 1] !== 0x4b || b[at + 2] !== 3 || b[at + 3] !== 4)
    return undefined;
  const view = new DataView(b.buffer, b.byteOffset + at);
  const [flags, method, name, extra] = [6, 8, 26, 28].map(k => view.getUint16(k, true));
  const [crc, packed, size] = [14, 18, 22].map(k => view.getUint32(k, true));
  if ((method !== 0 && method !== 8) || name > MOST_NAME || at + 30 + name > b.length) return undefined;
  return {
    name: strFromU8(b.subarray(at + 30, at + 30 + name)),
    isEncrypted: Boolean(flags & 1),
    isOpen: Boolean(flags & 8),
    isDeflated: method === 8,
    ...{ crc: hex(crc), size, packed, length: 30 + name + extra },
  };
}

/** A file of an archive unpacked; nothing where it is damaged. `size` where that is known, so that no more is unpacked. */
export function unpacked(
  bytes: Uint8Array,
  { isDeflated, crc, size }: { isDeflated: boolean; crc: string; size?: number },
): Uint8Array | undefined {
  try {
    const out = size === undefined ? {} : { out: new Uint8Array(size) };
    const file = isDeflated ? inflateSync(bytes, out) : bytes;
    return (size === undefined || file.length === size) && crc32(file) === crc ? file : undefined;
  } catch {
    return undefined;
  }
}

/** The central directory of a ZIP (APPNOTE 4.3.12): names, checksums and sizes; nothing where there is none. */
function directoryOf(b: Uint8Array): Entry[] | undefined {
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
  let end = b.length - 22;
  const last = Math.max(0, end - 65_535);
  while (end >= last && view.getUint32(end, true) !== 0x06054b50) end--;
  if (end < last) return undefined;
  const count = view.getUint16(end + 10, true);
  let at = view.getUint32(end + 16, true);
  const entries: Entry[] = [];
  for (let i = 0; i < count; i++) {
    if (at + 46 > b.length || view.getUint32(at, true) !== 0x02014b50) return undefined;
    const [name, extra, comment] = [28, 30, 32].map(k => view.getUint16(at + k, true));
    entries.push({
      name: strFromU8(b.subarray(at + 46, at + 46 + name)),
      crc: hex(view.getUint32(at + 16, true)),
      size: view.getUint32(at + 24, true),
    });
    at += 46 + name + extra + comment;
  }
  return entries;
}

/** What could be saved of a damaged archive: its whole files, and the names of those that are not. */
export interface Salvaged {
  readonly files: Readonly<Record<string, Uint8Array>>;
  readonly damaged: readonly string[];
}

/**
 * The files of a damaged or cut-off ZIP that are whole, found by what stands before each of them; each is checked by its
 * checksum. Names that are none of ours, doubles and what is too large are passed over.
 */
export function salvage(bytes: Uint8Array, { names, files: most, fileBytes, totalBytes }: Limits): Salvaged {
  const files: Record<string, Uint8Array> = {};
  const seen = new Set<string>();
  let total = 0;
  for (let at = bytes.indexOf(0x50); at >= 0 && at + 30 <= bytes.length; at = bytes.indexOf(0x50, at + 1)) {
    const head = localHeaderAt(bytes, at);
    if (!head || !names.test(head.name) || files[head.name]) continue;
    if (seen.size >= most || head.size > fileBytes || total + head.size > totalBytes) continue;
    seen.add(head.name);
    const from = at + head.length;
    const file = unpacked(bytes.subarray(from, from + head.packed), head);
    if (!file) continue;
    files[head.name] = file;
    total += file.length;
    // Not past its bytes: were its length what is damaged, the next file would be passed over with them.
    at = from - 1;
  }
  const listed = (directoryOf(bytes) ?? []).map(e => e.name).filter(name => names.test(name));
  return { files, damaged: [...new Set([...seen, ...listed])].filter(name => !files[name]) };
}

const BROKEN = 'This file is not a ZIP, or it is damaged.';
const AGAIN = 'Export the trial again and import that.';

/**
 * The files of a ZIP by name, with names, sizes, doubles and every checksum checked before anything is given. One that
 * is `damaged` may hold files that are whole ({@link salvage}).
 */
export function unpack(bytes: Uint8Array, limits: Limits): Outcome<Record<string, Uint8Array>> {
  try {
    const entries = directoryOf(bytes);
    if (!entries) return bad('damaged', BROKEN, AGAIN);
    const total = entries.reduce((sum, e) => sum + e.size, 0);
    if (
      entries.length > limits.files ||
      total > limits.totalBytes ||
      entries.some(e => e.size > limits.fileBytes)
    )
      return bad('too-big', 'This file unpacks to far more than a trial can hold, so it was not opened.');
    const strange = entries.find(e => !limits.names.test(e.name));
    if (strange)
      return bad(
        'foreign',
        `This ZIP holds “${strange.name.slice(0, 60)}”, which Wet Test never writes, so it was not opened.`,
        'Choose a ZIP that Wet Test exported.',
      );
    if (new Set(entries.map(e => e.name)).size !== entries.length)
      return bad('broken', 'This ZIP holds two files of one name, so it was not opened.', AGAIN);
    const files = unzipSync(bytes);
    for (const { name, crc, size } of entries) {
      const file = files[name];
      if (!file || file.length !== size || crc32(file) !== crc)
        return bad('damaged', `“${name}” in this ZIP is damaged: its checksum does not fit.`, AGAIN);
    }
    return good(files);
  } catch {
    return bad('damaged', BROKEN, AGAIN);
  }
}
