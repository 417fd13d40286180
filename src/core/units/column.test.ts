import { describe, expect, it } from 'vitest';
import { ProblemError } from '../outcome/index.ts';
import { columnOf } from './column.ts';

const valuesOf = (...texts: (string | undefined)[]) => {
  const column = columnOf('minutes', texts);
  return column.ok ? column.value.values : column.problem.say;
};

describe('numbers in a table', () => {
  it('are read as they are written, with either decimal sign, signs, spaces and per cent', () => {
    expect(valuesOf('12', '-3', '+0.5', '.5', '1e3', ' 7 ', '1 234', '−2')).toEqual([
      12, -3, 0.5, 0.5, 1000, 7, 1234, -2,
    ]);
    expect(valuesOf('12,5', '0,123', ',5', '1.234,5', '7')).toEqual([12.5, 0.123, 0.5, 1234.5, 7]);
    expect(valuesOf('85 %', '85%', '7.5 %')).toEqual([85, 85, 7.5]);
    expect(valuesOf('', undefined, '  ')).toEqual([Number.NaN, Number.NaN, Number.NaN]);
  });

  it('with commas are what all of the column goes with', () => {
    expect(valuesOf('1,234', '2,100.5')).toEqual([1234, 2100.5]);
    expect(valuesOf('1,234', '1,234,567')).toEqual([1234, 1_234_567]);
    expect(valuesOf('1,234', '900.25')).toEqual([1234, 900.25]);
    expect(valuesOf('1,234', '12,5')).toEqual([1.234, 12.5]);
    expect(valuesOf('1,234', '0,250')).toEqual([1.234, 0.25]);
  });

  it('that may be two things are asked about, not guessed', () => {
    expect(valuesOf('900', '1,234')).toBe('Row 2 has “1,234” in “minutes”, which may be 1234 or 1.234.');
    expect(valuesOf('1,234', '12,5', '7.25')).toMatch(/may be/);
    expect(valuesOf('12,345')).toMatch(/12345 or 12\.345/);
    expect(valuesOf('1234,567')).toEqual([1234.567]);
  });

  it('that are none are said, with where they stand', () => {
    const column = columnOf('score', ['3', 'n/a', '4', '1.2.3']);
    if (!column.ok) throw new ProblemError(column.problem);
    expect(column.value.values).toEqual([3, Number.NaN, 4, Number.NaN]);
    expect(column.value.strange).toEqual([
      { row: 1, text: 'n/a' },
      { row: 3, text: '1.2.3' },
    ]);
  });
});
