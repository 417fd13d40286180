import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { before, meet, nearest, type Span, tidySpans, within, without } from './spans.ts';

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

  it('meet where both are', () => {
    fc.assert(
      fc.property(spans, spans, (a, b) => {
        const both = meet(tidySpans(a), tidySpans(b));
        for (const at of MOMENTS) expect(has(both, at)).toBe(has(a, at) && has(b, at));
      }),
    );
  });

  it('can be reached from exactly the moments that are the right time before', () => {
    fc.assert(
      fc.property(
        spans,
        fc.integer({ min: 0, max: 9 }),
        fc.integer({ min: 0, max: 9 }),
        (list, least, more) => {
          const from = before(tidySpans(list), least, least + more);
          for (const at of MOMENTS) {
            const reaches = list.some(([a, b]) => at + least <= b && at + least + more >= a);
            expect(has(from, at)).toBe(reaches);
          }
        },
      ),
    );
  });

  it('lose what is cut out, up to its edges', () => {
    expect(
      without(
        [[0, 10]],
        [
          [3, 4],
          [8, 12],
        ],
      ),
    ).toEqual([
      [0, 3],
      [4, 8],
    ]);
    expect(within([[0, 10]], 2, 5)).toEqual([[2, 5]]);
  });

  it('have a moment nearest to another', () => {
    expect(
      nearest(
        [
          [0, 2],
          [9, 12],
        ],
        5,
      ),
    ).toBe(2);
    expect(
      nearest(
        [
          [0, 2],
          [9, 12],
        ],
        8,
      ),
    ).toBe(9);
    expect(nearest([[0, 2]], 1)).toBe(1);
    expect(nearest([], 1)).toBeUndefined();
  });
});
