import * as v from 'valibot';

const share = v.pipe(v.number(), v.minValue(0), v.maxValue(1));

/** One change to a picture. The original is kept; what is seen and printed is the original with its list of edits. */
export const Edit = v.variant('kind', [
  v.object({
    kind: v.literal('crop'),
    x: share,
    y: share,
    w: v.pipe(share, v.minValue(0.02)),
    h: v.pipe(share, v.minValue(0.02)),
  }),
  v.object({ kind: v.literal('straighten'), degrees: v.pipe(v.number(), v.minValue(-45), v.maxValue(45)) }),
  v.object({ kind: v.literal('turn'), quarters: v.picklist([1, 2, 3]) }),
  v.object({ kind: v.literal('grey') }),
  v.object({ kind: v.literal('invert') }),
  v.object({ kind: v.literal('lighten'), amount: share }),
  v.object({ kind: v.literal('contrast'), amount: share }),
  /** Everything within `tolerance` (ΔE, CIE 1976) of this linear-light colour becomes paper white. */
  v.object({
    kind: v.literal('background'),
    colour: v.tuple([share, share, share]),
    tolerance: v.pipe(v.number(), v.minValue(1), v.maxValue(80)),
  }),
]);
export type Edit = v.InferOutput<typeof Edit>;

export const FITS = ['fit', 'fill', 'enlarge'] as const;

/** A picture of the maker's own as it is stored; its bytes lie beside it. */
export const Picture = v.object({
  id: v.pipe(v.string(), v.regex(/^[0-9A-Za-z-]{1,40}$/)),
  name: v.pipe(
    v.string(),
    v.trim(),
    v.minLength(1, 'Give the picture a name.'),
    v.maxLength(80, 'Shorten the name.'),
  ),
  addedAt: v.pipe(v.string(), v.isoTimestamp()),
  edits: v.pipe(v.array(Edit), v.maxLength(60)),
  /** The piece it goes on, mm. */
  piece: v.object({
    w: v.pipe(v.number(), v.minValue(5), v.maxValue(2000)),
    h: v.pipe(v.number(), v.minValue(5), v.maxValue(2000)),
  }),
  fit: v.picklist(FITS),
  marginMm: v.pipe(v.number(), v.minValue(0), v.maxValue(500)),
  centreMarks: v.boolean(),
  /** Whether there is writing in it; nothing until the maker was asked. */
  hasText: v.nullable(v.boolean()),
  method: v.string(),
  printer: v.string(),
  donor: v.string(),
  grounds: v.array(v.string()),
});
export type Picture = v.InferOutput<typeof Picture>;
export type Fit = (typeof FITS)[number];
