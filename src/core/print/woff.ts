import { unzlibSync } from 'fflate';

/**
 * Unpacks a WOFF 1 font (W3C WOFF File Format 1.0) to the plain TrueType file that PDF writers need.
 * Anything that is not WOFF 1 comes back unchanged. Throws when a table is damaged.
 */
export function trueTypeOf(font: Uint8Array): Uint8Array {
  const from = new DataView(font.buffer, font.byteOffset, font.byteLength);
  if (from.getUint32(0) !== 0x774f4646) return font;
  const count = from.getUint16(12);
  const tables = Array.from({ length: count }, (_, i) => {
    const at = 44 + i * 20;
    const [offset, packed, size] = [from.getUint32(at + 4), from.getUint32(at + 8), from.getUint32(at + 12)];
    const raw = font.subarray(offset, offset + packed);
    return { tag: from.getUint32(at), checksum: from.getUint32(at + 16), bytes: packed < size ? unzlibSync(raw) : raw };
  });
  const head = 12 + 16 * count;
  const padded = (n: number) => (n + 3) & ~3;
  const out = new Uint8Array(tables.reduce((sum, t) => sum + padded(t.bytes.length), head));
  const to = new DataView(out.buffer);
  const power = 2 ** Math.floor(Math.log2(count));
  to.setUint32(0, from.getUint32(4));
  to.setUint16(4, count);
  to.setUint16(6, power * 16);
  to.setUint16(8, Math.log2(power));
  to.setUint16(10, (count - power) * 16);
  let offset = head;
  tables.forEach((table, i) => {
    const at = 12 + i * 16;
    to.setUint32(at, table.tag);
    to.setUint32(at + 4, table.checksum);
    to.setUint32(at + 8, offset);
    to.setUint32(at + 12, table.bytes.length);
    out.set(table.bytes, offset);
    offset += padded(table.bytes.length);
  });
  return out;
}
