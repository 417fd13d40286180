import { describe, expect, it } from 'vitest';
import { outsideWords } from './outside.ts';
import { moment } from './time.ts';

const at = (day: number, hour: number, minute = 0) => new Date(2026, 4, day, hour, minute).getTime();

describe('a moment as people say it', () => {
  it('is the time alone on the same day, with the day on any other', () => {
    expect(moment(at(2, 14, 5), at(2, 9))).toMatch(/14.05|2.05/);
    expect(moment(at(3, 0, 5), at(2, 23, 55))).toMatch(/3/);
    expect(moment(at(3, 0, 5), at(2, 23, 55)).length).toBeGreaterThan(
      moment(at(2, 23, 58), at(2, 23, 55)).length,
    );
  });
});

describe('how far outside a window', () => {
  it('is said with its direction', () => {
    expect(outsideWords(3)).toBe('3 min too late');
    expect(outsideWords(-0.25)).toBe('15 s too soon');
    expect(outsideWords(150)).toBe('2.5 h too late');
  });
});
