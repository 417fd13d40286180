import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Span, tidySpans } from './spans.ts';

const spans = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 15 })), { maxLength: 6 })
  .map(list => list.map(([a, long]): Span => [a, a + long]));
const has = (list: readonly Span[], at: number) => list.some(([a, b]) => a <= at && at <= b);
const MOMENTS = Array.from({ length: 200 }, (_, i) => i / 2 - 10);

describe('stretches of time', () => {
  it('put in order hold the same moments and do not touch', () => {
    fc.assert(
      fc.property(spans, list => {
        const tidy = tidySpans(list);
        for (const at of MOMENTS) expect(has(tidy, at)).toBe(has(list, at));
        tidy.forEach((span, i) => {
          if (i) expect(span[0]).toBeGreaterThan(tidy[i - 1][1]);
        });
      }),
    );
  });
});
