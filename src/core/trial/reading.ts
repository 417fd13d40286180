import * as v from 'valibot';
import { MEASURE_FIELDS } from '../measures/index.ts';
import { words } from './parts.ts';

const BareShape = v.picklist(['round', 'streak', 'edge band', 'corner', 'ragged', 'speckle']);
const within = (lo: number, hi: number) => v.pipe(v.number(), v.minValue(lo), v.maxValue(hi));
const percent = within(0, 100);
/** A place on a picture, mm from its top left; a little outside where a patch does not lie straight. */
const place = within(-50, 250);
const maybe = <S extends v.GenericSchema>(schema: S) => v.nullable(schema);

const side = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(1000));
/** A per-pixel result kept beside a reading: a byte for each of `w` × `h` pixels in base64, row by row. */
const Map8 = v.pipe(
  v.object({ w: side, h: side, pxPerMm: within(0.05, 100), data: words(1_400_000) }),
  v.check(
    map => map.data.length === 4 * Math.ceil((map.w * map.h) / 3) && /^[A-Za-z0-9+/]*={0,2}$/.test(map.data),
    'A map is not as large as it says.',
  ),
);

/** The maps of a reading: what each pixel is, and how veiled. Kept apart from the record and fetched when looked at. */
export const ReadingMaps = v.object({ state: Map8, veil: Map8 });
export type ReadingMaps = v.InferOutput<typeof ReadingMaps>;

export const BarePatch = v.object({
  x: place,
  y: place,
  area: within(0, 50_000),
  shape: BareShape,
  /** Distance of its nearest point from the picture's edge, mm. */
  edge: place,
  /** Direction of its long axis, degrees from the x axis, 0–180. */
  along: within(0, 180),
});

/** A ground that lacks so much of its light under the picture may be damp: water fills its pores and less comes back. */
export const LOOKS_WET = 0.12;

/** Numbers measured from one photo (docs/READINGS.md). */
export const Reading = v.object({
  ...MEASURE_FIELDS,
  visible: percent,
  bare: v.pipe(v.array(BarePatch), v.maxLength(5000)),
  /** Share landed within light, middle and dark tones of the picture, %. */
  landedByTone: v.object({ light: maybe(percent), mid: maybe(percent), dark: maybe(percent) }),
  edges: v.object({ top: percent, right: percent, bottom: percent, left: percent }),
  mirrored: v.boolean(),
  turn: v.picklist([0, 90, 180, 270]),
  quality: v.object({
    pxPerMm: within(0, 2000),
    blurMm: within(0, 100),
    tiltDeg: within(-90, 90),
    glare: within(0, 1),
    residualMm: within(0, 100),
    light: within(0, 100),
  }),
  notes: v.pipe(v.array(words(300)), v.maxLength(40)),
  /** By how much of its light the ground is darker under the picture than round it: damp, or soaked with medium. */
  darker: v.optional(within(0, 1)),
  /** Without a card: somebody set the corners of the picture. */
  byHand: v.optional(v.boolean()),
  maps: v.optional(ReadingMaps),
});

export type BarePatch = v.InferOutput<typeof BarePatch>;
export type Reading = v.InferOutput<typeof Reading>;
