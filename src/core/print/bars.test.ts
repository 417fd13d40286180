import { describe, expect, it } from 'vitest';
import { ProblemError } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { corrected } from './index.ts';

const TRUE = { barAcross: 100, barDown: 100 };
const value = (known: typeof TRUE, across: number, down: number) => {
  const found = corrected(known, { across, down });
  if (!found.ok) throw new ProblemError(found.problem);
  return found.value;
};

describe('the correction of a printer by its bars', () => {
  it('is what the first sheet measured', () => {
    expect(value(TRUE, 98, 101)).toEqual({ barAcross: 98, barDown: 101 });
  });
  it('stays when the next sheet, drawn by it, measures true', () => {
    expect(value({ barAcross: 98, barDown: 101 }, 100, 100)).toEqual({ barAcross: 98, barDown: 101 });
  });
  it('goes on from what it was: a printer of 0.97 corrected for 0.98 prints bars of 98.98', () => {
    const bar = (100 * 97) / 98;
    expect(value({ barAcross: 98, barDown: 100 }, bar, 100).barAcross).toBeCloseTo(97, 9);
  });
  it.each([
    [60, 100],
    [100, 0],
    [100, 130],
    [Number.NaN, 100],
  ])('refuses %f × %f mm and says how to print', (across, down) => {
    const found = corrected(TRUE, { across, down });
    expect(found.ok).toBe(false);
    if (!found.ok) expect(write(found.problem.wayOut ?? '')).toContain('fit to page');
  });
  it('refuses small steps that together go too far', () => {
    expect(corrected({ barAcross: 85, barDown: 100 }, { across: 90, down: 100 }).ok).toBe(false);
  });
});
