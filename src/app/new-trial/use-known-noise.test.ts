import { describe, expect, it } from 'vitest';
import { STARTING_REQUEST } from '../../core/design/index.ts';
import { scatterBasis } from './use-known-noise.ts';

describe('what an assumed scatter rests on', () => {
  it('is the maker’s own trials where it is theirs, a guess where nothing is known, else what was written', () => {
    expect(scatterBasis(3.2, { points: 3.2, trials: 1 })).toMatch(/in a trial of yours$/);
    expect(scatterBasis(3.2, { points: 3.2, trials: 4 })).toMatch(/in 4 trials of yours$/);
    expect(scatterBasis(STARTING_REQUEST.noise, undefined)).toMatch(/^a guess/);
    expect(scatterBasis(STARTING_REQUEST.noise, { points: 3.2, trials: 4 })).toBe('as it was written down');
    expect(scatterBasis(9, undefined)).toBe('as it was written down');
  });
});
