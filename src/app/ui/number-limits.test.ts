import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { checkItem, rangeOf, SHELF_FIELDS, SHELF_KINDS, STARTER_SHELF } from '../../core/shelf/index.ts';
import { NUMBER_LIMITS, type NumberLimit, type NumberLimitName, readTyped } from './number-limits.ts';

const names = Object.keys(NUMBER_LIMITS) as NumberLimitName[];
const typed = (name: NumberLimitName, text: string) => readTyped(text, NUMBER_LIMITS[name]);

describe('a field for a number', () => {
  it.each(names)('%s: takes its range to both ends, and says it of all else', name => {
    const limit: NumberLimit = NUMBER_LIMITS[name];
    for (const end of [limit.least, limit.most])
      for (const text of [String(end), String(end).replace('.', ',')])
        expect(typed(name, text), text).toEqual({ is: 'number', value: end });
    const far = Math.max(1, Math.abs(limit.most));
    for (const text of [
      String(limit.most + far),
      String(limit.least - far),
      '1e6',
      'a',
      '12a',
      '--1',
      '1.2.3',
      '1,234.5',
      '.',
      '-',
    ])
      expect(typed(name, text), text).toEqual({
        is: 'wrong',
        say: expect.stringMatching(/^(Write a number, in digits\. )?From .+ to .+\.$/),
      });
    expect(typed(name, '  ')).toEqual(
      limit.optional
        ? { is: 'empty' }
        : { is: 'wrong', say: expect.stringMatching(/^Write a number\. From /) },
    );
    if (limit.whole) expect(typed(name, `${limit.least + 0.5}`).is).toBe('wrong');
    else expect(typed(name, `${limit.least + (limit.most - limit.least) / 4}`).is).toBe('number');
  });

  it('reads point and comma alike, typeset minus and spaces too', () => {
    for (const text of ['0.4', '0,4', ' 0,4 ', ',4', '.4'])
      expect(typed('coatMm', text)).toEqual({ is: 'number', value: 0.4 });
    expect(typed('degrees', '−12,5')).toEqual({ is: 'number', value: -12.5 });
    expect(typed('roomC', '0')).toEqual({ is: 'number', value: 0 });
    expect(typed('copyAgeH', '1 000')).toEqual({ is: 'number', value: 1000 });
    expect(typed('roomC', '')).toMatchObject({ is: 'wrong' });
  });

  it('keeps and says a length in the maker’s unit', () => {
    const inches = (text: string) =>
      readTyped(
        text,
        NUMBER_LIMITS.boardMm,
        mm => mm / 25.4,
        inch => inch * 25.4,
      );
    expect(inches('10')).toEqual({ is: 'number', value: 254 });
    expect(inches('0.5')).toEqual({ is: 'wrong', say: 'From 0.787402 to 118.11.' });
    // The end of the range as it is shown can be typed.
    expect(inches('0.787402').is).toBe('number');
    expect(inches('118.11').is).toBe('number');
  });

  it('has the range of the shelf for what is on it: what the field takes can be kept, and nothing else', () => {
    let numbers = 0;
    for (const kind of SHELF_KINDS)
      for (const { key, type, label } of SHELF_FIELDS[kind]) {
        if (!['number', 'length', 'volume', 'size'].includes(type)) continue;
        const range = rangeOf(kind, key);
        if (!range) throw new Error(`${kind} ${key} has no range`);
        numbers++;
        const [item] = STARTER_SHELF[kind];
        const withOne = (n: number) =>
          checkItem(kind, { ...item, [key]: type === 'size' ? { w: n, h: n } : n }).ok;
        expect([range.least, range.most].map(withOne), `${kind}: ${label}`).toEqual([true, true]);
        expect([range.least - 1e-3, range.most + 1].map(withOne), `${kind}: ${label}`).toEqual([
          false,
          false,
        ]);
        expect(readTyped(String(range.most), range).is).toBe('number');
        expect(readTyped(String(range.most * 2 + 1), range).is).toBe('wrong');
      }
    expect(numbers).toBeGreaterThan(30);
  });

  it('is the only kind there is: nothing in the interface reads a number in its own way', () => {
    const files = readdirSync('src/app', { recursive: true, encoding: 'utf8' }).filter(f =>
      f.endsWith('.tsx'),
    );
    expect(files.length).toBeGreaterThan(150);
    for (const file of files) {
      const text = readFileSync(`src/app/${file}`, 'utf8');
      const own = file.endsWith('number-field.tsx');
      expect(/type="number"|NumberInput|inputMode="decimal"/.test(text), file).toBe(own);
    }
  });
});
