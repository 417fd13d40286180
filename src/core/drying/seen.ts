import * as v from 'valibot';

/** What one look, at one piece or at several together, told of a medium: dry after between so many hours of the reference air and coat. */
export const DryingSeen = v.object({
  medium: v.string(),
  from: v.pipe(v.number(), v.minValue(0)),
  /** Nothing where it was never found ready. */
  to: v.nullable(v.number()),
});
export type DryingSeen = v.InferOutput<typeof DryingSeen>;

/**
 * One patch's wait before pulling: the logarithm of minutes of the reference air, what landed, %, and how far, as a
 * logarithm, the wait was from the planned one.
 */
export const ShortWaitSeen = v.object({
  method: v.string(),
  x: v.number(),
  landed: v.number(),
  off: v.optional(v.number()),
});
export type ShortWaitSeen = v.InferOutput<typeof ShortWaitSeen>;

/** What one trial teaches about waiting: of its mediums' drying and of short waits. */
export const Lessons = v.object({ drying: v.array(DryingSeen), shortWaits: v.array(ShortWaitSeen) });
export type Lessons = v.InferOutput<typeof Lessons>;
