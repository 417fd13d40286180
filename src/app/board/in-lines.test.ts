import { describe, expect, it } from 'vitest';
import { inLines } from './in-lines.ts';

describe('words on a patch', () => {
  it('fill each line before the next is begun, up to its last letter', () => {
    expect(inLines('ab cd ef', 5, 9)).toEqual(['ab cd', 'ef']);
    expect(inLines('ab cd ef', 4, 9)).toEqual(['ab', 'cd', 'ef']);
    expect(inLines('ab cd ef', 8, 1)).toEqual(['ab cd ef']);
  });

  it('say that more would follow, and only where it would', () => {
    expect(inLines('Not enough rounds, or judged while wet', 10, 2)).toEqual(['Not enough', 'rounds, o…']);
    expect(inLines('Not enough rounds, or judged', 10, 3)).toEqual(['Not enough', 'rounds, or', 'judged']);
    expect(inLines('dry, then wet', 5, 1)).toEqual(['dry…']);
    for (const line of inLines('Not enough rounds, or judged while wet', 11, 2))
      expect(line.length).toBeLessThanOrEqual(11);
  });

  it('are cut where one alone is too long, and are none without room or words', () => {
    expect(inLines('undercoated', 5, 2)).toEqual(['unde…']);
    expect(inLines('ab', 5, 0)).toEqual([]);
    expect(inLines('  ', 5, 3)).toEqual([]);
  });
});
