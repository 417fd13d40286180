import { describe, expect, it } from 'vitest';
import { write } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { FACTOR_KEYS, FACTORS, factorName, levelName, timeUnit } from './index.ts';

describe('what can be varied', () => {
  it.each(FACTOR_KEYS)('%s has a name of its own, and starting levels that are allowed', key => {
    const kind = FACTORS[key];
    const method = { waitName: 'Wait before pulling' };
    expect(factorName(key, method)).toBe(key === 'dryHours' ? 'Wait before pulling' : kind.name);
    expect(FACTOR_KEYS.filter(k => FACTORS[k].name === kind.name)).toEqual([key]);
    if (kind.levels !== 'numbers') return;
    expect(kind.start.length).toBeGreaterThanOrEqual(6);
    expect(new Set(kind.start).size).toBe(kind.start.length);
    for (const value of kind.start) {
      expect(value).toBeGreaterThanOrEqual(kind.least);
      expect(value).toBeLessThanOrEqual(kind.most);
    }
  });

  it('covers every kind of thing on the shelf', () => {
    const kinds = FACTOR_KEYS.flatMap(key => {
      const kind = FACTORS[key];
      return kind.levels === 'items' ? [kind.shelf] : [];
    });
    expect(new Set(kinds)).toEqual(new Set(Object.keys(STARTER_SHELF)));
  });
});

describe('a level in words', () => {
  it.each([
    ['medium', 'soft-gel', 'Soft gel'],
    ['dryHours', 6, '6 h'],
    ['dryHours', 1.5, '1.5 h'],
    ['dryHours', 0.0125, '45 s'],
    ['dryHours', 0.5, '30 min'],
    ['dryHours', 48, '48 h'],
    ['dryHours', 96, '4 days'],
    ['coatMm', 0.4, '0.4 mm'],
    ['rounds', 1, '1 round'],
    ['rounds', 3, '3 rounds'],
  ] as const)('of %s: %s is “%s”', (key, value, words) => {
    expect(write(levelName(STARTER_SHELF, key, value))).toMatch(new RegExp(`^${words}`));
  });

  it('takes a method’s own choices by their names', () => {
    const options = { trim: [{ id: 'margin', name: '5 mm left round it' }] };
    expect(write(levelName({ options }, 'trim', 'margin'))).toBe('5 mm left round it');
  });

  it('is the id where nothing of that id is known, so that an old plan still reads', () => {
    expect(write(levelName(STARTER_SHELF, 'medium', 'whale-oil'))).toBe('whale-oil');
    expect(write(levelName({}, 'removal', 'gone'))).toBe('gone');
  });
});

describe('the unit of a wait', () => {
  it.each([
    [0.01, 's'],
    [0.05, 'min'],
    [1, 'min'],
    [2, 'h'],
    [60, 'h'],
    [61, 'days'],
  ] as const)('of %d h is %s', (hours, unit) => {
    const found = timeUnit(hours);
    expect(found.unit).toBe(unit);
    expect({ s: 3600, min: 60, h: 1, days: 1 / 24 }[unit] * found.hours).toBeCloseTo(1, 12);
  });
});
