import { describe, expect, it } from 'vitest';
import { badlyPlaced } from './gates.ts';

describe('a card that was found', () => {
  it.each([
    [6, 0, undefined],
    [5.99, 0, 'too-small'],
    [12, 38, undefined],
    [12, 38.1, 'tilted'],
    [12, 60, 'tilted'],
  ])('at %f pixels per mm, %f degrees from above, is refused as %s', (pxPerMm, tiltDeg, code) => {
    const found = badlyPlaced({ pxPerMm, tiltDeg });
    expect(found && !found.ok ? found.problem.code : undefined).toBe(code);
  });
});
