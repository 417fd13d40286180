import * as v from 'valibot';

const words = v.pipe(v.string(), v.maxLength(300));

/** What a phone is told of what it is linked to; the server checks it, the pages read it. */
export const LinkAbout = v.object({
  kind: v.picklist(['photos', 'trial']),
  trial: v.pipe(v.string(), v.regex(/^\w{4,40}$/)),
  name: words,
  patches: v.pipe(
    v.array(v.object({ code: v.pipe(v.string(), v.regex(/^[\w-]{1,20}$/)), words })),
    v.maxLength(400),
  ),
});
export type LinkAbout = v.InferOutput<typeof LinkAbout>;
