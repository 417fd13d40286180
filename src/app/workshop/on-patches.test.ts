import { describe, expect, it } from 'vitest';
import { applyEdits, measurePicture, onPatch, printSize } from '../../core/artwork/index.ts';
import { seenOn } from './on-patches.ts';

describe('what of a picture lies on a patch', () => {
  const room = { w: 40, h: 40 };
  const piece = { w: 200, h: 200 };
  // Left half black with white lines of two pixels, right half plain white.
  const side = 400;
  const pixels = {
    ...{ w: side, h: side },
    data: Uint8ClampedArray.from({ length: side * side * 4 }, (_, i) => {
      const x = (i >> 2) % side;
      return i % 4 === 3 || x >= side / 2 || x % 20 < 2 ? 255 : 0;
    }),
  };
  const factsAt = (how: 'whole' | 'detail', x: number) => {
    const size = how === 'whole' ? printSize(1, room, 'fit', 0) : printSize(1, piece, 'fit', 0);
    const { edits, widthMm } = seenOn([], onPatch(1, room, how, { x, y: 0.5 }, size));
    return { widthMm, facts: measurePicture(applyEdits(pixels, edits), widthMm) };
  };

  it('is all of it at the width that it has there', () => {
    expect(factsAt('whole', 0).widthMm).toBeCloseTo(40, 6);
  });

  it('is the part alone, as wide as the patch, with what that part shows', () => {
    const [left, right] = [factsAt('detail', 0), factsAt('detail', 1)];
    expect([left.widthMm, right.widthMm]).toEqual([40, 40]);
    expect(right.facts).not.toEqual(left.facts);
    expect(right.facts.backgroundShare).toBe(1);
    expect(left.facts.backgroundShare).toBeLessThan(1);
  });
});
