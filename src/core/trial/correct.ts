import type { BarePatch, Reading, ReadingMaps } from './reading.ts';
import type { RecordOf } from './record-kinds.ts';

type Correction = RecordOf<'correction'>;
/** What a hand puts right in a reading. */
export type HandWork = Pick<Correction, 'rejected' | 'drawn'>;
type Point = Correction['drawn'][number]['outline'][number];

const LANDED = 1;
const BARE = 2;

/**
 * What of a picture landed, %, and its bare patches, after a hand has said which of the machine's bare patches are none
 * and drawn where it is bare (`isBare`) or not. Of a place that is drawn only what is inked, can be seen, and was taken
 * for the other counts; areas by the map of the reading, 4 px/mm.
 *
 * @example corrected({ landed: 80, bare: [] }, { state: { w: 2, h: 1, pxPerMm: 1, data: 'AQE=' } }, { rejected: [], drawn: [] }).landed; // => 80
 */
export function corrected(
  reading: Pick<Reading, 'landed' | 'bare'>,
  maps: Pick<ReadingMaps, 'state'>,
  { rejected, drawn }: HandWork,
): { readonly landed: number; readonly bare: BarePatch[] } {
  const { w, h, pxPerMm, data } = maps.state;
  const state = Uint8Array.from(atob(data), c => c.charCodeAt(0));
  const mm2 = 1 / pxPerMm ** 2;
  const seen = state.reduce((n, s) => n + (s === LANDED || s === BARE ? 1 : 0), 0) * mm2;
  // A bare patch in the midst of what was drawn as landed goes with it; the map tells how much of it that was.
  const drawnOver = reading.bare.map(b => drawn.some(d => !d.isBare && isInside(b, d.outline)));
  let back = reading.bare.reduce(
    (sum, b, i) => sum + (rejected.includes(i) && !drawnOver[i] ? b.area : 0),
    0,
  );
  const bare = reading.bare.filter((_, i) => !rejected.includes(i) && !drawnOver[i]);
  for (const { isBare, outline } of drawn) {
    let [n, sx, sy] = [0, 0, 0];
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const i = y * w + x;
        if (state[i] !== (isBare ? LANDED : BARE)) continue;
        const at = { x: (x + 0.5) / pxPerMm, y: (y + 0.5) / pxPerMm };
        if (!isInside(at, outline)) continue;
        state[i] = isBare ? BARE : LANDED;
        n++;
        sx += at.x;
        sy += at.y;
      }
    const area = n * mm2;
    back += isBare ? -area : area;
    if (isBare && area >= 1)
      bare.push(drawnPatch(outline, { x: sx / n, y: sy / n }, area, w / pxPerMm, h / pxPerMm));
  }
  const landed = (reading.landed ?? 0) + (seen > 0 ? (100 * back) / seen : 0);
  return { landed: Math.round(Math.min(100, Math.max(0, landed)) * 10) / 10, bare };
}

function drawnPatch(outline: readonly Point[], at: Point, area: number, w: number, h: number): BarePatch {
  const edge = Math.max(0, Math.min(...outline.map(p => Math.min(p.x, p.y, w - p.x, h - p.y))));
  const [xx, xy, yy] = outline.reduce(
    (s, p) => [s[0] + (p.x - at.x) ** 2, s[1] + (p.x - at.x) * (p.y - at.y), s[2] + (p.y - at.y) ** 2],
    [0, 0, 0],
  );
  const along = ((Math.atan2(2 * xy, xx - yy) / 2) * 180) / Math.PI;
  const one = (v: number) => Math.round(v * 10) / 10;
  return {
    ...{ x: one(at.x), y: one(at.y), area: one(area), shape: 'ragged', edge: one(edge) },
    along: Math.round((along + 180) % 180),
  };
}

/** Whether a point lies within an outline, by the crossings of a ray (even–odd rule). */
function isInside(p: Point, outline: readonly Point[]): boolean {
  let isIn = false;
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [a, b] = [outline[i], outline[j]];
    if (a.y > p.y !== b.y > p.y && p.x < ((b.x - a.x) * (p.y - a.y)) / (b.y - a.y) + a.x) isIn = !isIn;
  }
  return isIn;
}
