import fc from 'fast-check';
import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import {
  agree,
  blank,
  celsius,
  colourOff,
  DIMENSIONS,
  dm2,
  give,
  grams,
  humidity,
  joined,
  listed,
  many,
  minutes,
  mL,
  mm,
  mm2,
  named,
  partsOf,
  percent,
  points,
  type Quantity,
  SYSTEMS,
  say,
  sized,
  span,
  sure,
  systemAfter,
  systemName,
  thick,
  timesIn10,
  unitFor,
  upper,
  veil,
  type Words,
  within,
  workMinutes,
  write,
} from './index.ts';
import { KeptWords } from './schema.ts';

const inches = { system: 'imperial' } as const;
const both = (words: Words) => [write(words), write(words, inches)];

describe('a number in a text', () => {
  it.each<[Quantity, string, string]>([
    [mm(40), '40 mm', '1.57 in'],
    [mm(254), '254 mm', '10.00 in'],
    [mm(2.5), '2.5 mm', '0.098 in'],
    [mm(2.54), '2.54 mm', '0.10 in'],
    [mm(60, { by: 40 }), '60 × 40 mm', '2.36 × 1.57 in'],
    [mm(1, { to: 2 }), '1–2 mm', '0.039–0.079 in'],
    [mm(0.456, { places: 2 }), '0.46 mm', '0.018 in'],
    [mm(12.4, { by: 7.6, places: 0 }), '12 × 8 mm', '0.49 × 0.30 in'],
    [mm(1234.5), '1234.5 mm', '48.60 in'],
    [thick(0.25), '0.25 mm', '0.010 in'],
    [thick(0.4), '0.4 mm', '0.016 in'],
    [thick(1), '1 mm', '0.039 in'],
    [mm2(129), '129 mm²', '0.20 in²'],
    [mm2(63.9, { places: 1 }), '63.9 mm²', '0.099 in²'],
    [mm2(64), '64 mm²', '0.10 in²'],
    [dm2(4.06), '4.1 dm²', '62.9 in²'],
    [mL(29.5735, { places: 0 }), '30 mL', '1.00 fl oz'],
    [mL(250), '250 mL', '8.45 fl oz'],
    [grams(80), '80 g', '80 g'],
    [celsius(21), '21 °C', '70 °F'],
    [celsius(20.6, { places: 0 }), '21 °C', '69 °F'],
    [celsius(-10), '-10 °C', '14 °F'],
    [humidity(45), '45 %', '45 %'],
    [blank('temperature'), '____ °C', '____ °F'],
  ])('%o reads %s, or %s', (quantity, metric, imperial) => {
    expect(both(quantity)).toEqual([metric, imperial]);
  });
  it('says the same length in inches, to a thousandth where it is thin and to a hundredth else', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 30_000 }), tenths => {
        const [figure, unit] = write(mm(tenths / 10), inches).split(' ');
        expect(unit).toBe('in');
        expect(Math.abs(Number(figure) - tenths / 254)).toBeLessThanOrEqual(tenths < 25.4 ? 0.00051 : 0.0051);
      }),
    );
  });
  it('has one more set of units by one line: °F with millimetres', () => {
    const reader = { system: 'metric-fahrenheit' } as const;
    expect(write(say`${mm(40)} at ${celsius(21)}`, reader)).toBe('40 mm at 70 °F');
    expect(SYSTEMS.map(s => systemName(s).short)).toEqual(['mm · °C', 'in · °F', 'mm · °F']);
    expect(SYSTEMS.map(s => systemName(s).words)).toEqual([
      ...['millimetres and °C', 'inches and °F', 'millimetres and °F'],
    ]);
    expect(SYSTEMS.map(systemAfter)).toEqual(['imperial', 'metric-fahrenheit', 'metric']);
  });
  it.each<[Words, string]>([
    [percent(85), '85 %'],
    [percent(84.96, { places: 1 }), '85.0 %'],
    [sure(0.854), '85 %'],
    [sure(0.001), '1 %'],
    [sure(1), '99 %'],
    [points(1), '1 point'],
    [points(0.6), '1 point'],
    [points(7.4), '7 points'],
    [points(1, { places: 1 }), '1.0 points'],
    [timesIn10(7), '7.0 times in 10'],
    [veil(0.129), '0.13'],
    [colourOff(3.21), 'ΔE 3.2'],
    [workMinutes(12), '12.0 min'],
    [many(1, 'patch'), '1 patch'],
    [many(2, 'patch'), '2 patches'],
    [many(0, 'sheet'), '0 sheets'],
    [many(2, 'battery'), '2 batteries'],
    [many(2, 'day'), '2 days'],
    [many(3, 'foot', 'feet'), '3 feet'],
    [minutes(90), '1.5 h'],
    [minutes(60, { to: 180 }), '60 min to 3 h'],
    [minutes(750, { places: 1 }), '12.5 h'],
    [minutes(2880, { places: 1 }), '48 h'],
    [minutes(750), '13 h'],
    [give(points(3)), '3 points'],
    [give(mm(3)), '3 mm'],
    [{ ...points(3), bare: true }, '3'],
  ])('%o reads %s', (words, read) => expect(write(words)).toBe(read));
  it('has the marks of a reader’s own language where one is named', () => {
    expect(write(mm(1234.5), { system: 'metric', locale: 'de-DE' })).toBe('1.234,5 mm');
    expect(write(celsius(21.5), { system: 'metric', locale: 'fr-FR' })).toBe('21,5 °C');
  });
  it('is a size of one side where it is square', () => {
    expect(sized({ w: 40, h: 40 })).toEqual(mm(40));
    expect(sized(40)).toEqual(mm(40));
    expect(write(sized({ w: 40, h: 60 }))).toBe('40 × 60 mm');
  });
  it('gives fields the unit, the step and both ways', () => {
    for (const system of SYSTEMS)
      for (const dimension of DIMENSIONS) {
        const unit = unitFor(dimension, system);
        expect(unit.inner(unit.shown(37))).toBeCloseTo(37, 9);
        expect(unit.step).toBeGreaterThan(0);
      }
    expect(unitFor('temperature', 'imperial').shown(0)).toBe(32);
    expect(unitFor('temperature', 'imperial').inner(212)).toBe(100);
    expect([unitFor('length', 'imperial').step, unitFor('thickness', 'imperial').step]).toEqual([
      0.25, 0.002,
    ]);
    expect([unitFor('length', 'metric').per, unitFor('length', 'imperial').per]).toEqual([1, 25.4]);
  });
});

describe('a text with numbers in it', () => {
  const sentence = say`A board of ${mm(60, { by: 40 })} is too small for ${many(12, 'patch')} of ${mm(40)}.`;
  it('is read in the measures of its reader', () => {
    expect(both(sentence)).toEqual([
      'A board of 60 × 40 mm is too small for 12 patches of 40 mm.',
      'A board of 2.36 × 1.57 in is too small for 12 patches of 1.57 in.',
    ]);
  });
  it('keeps its numbers when it is put into another, stored and read again', () => {
    const kept = JSON.parse(JSON.stringify(say`No: ${sentence}`));
    expect(both(kept)[1]).toContain('2.36 × 1.57 in');
    const schema = KeptWords(200);
    expect(v.is(schema, kept)).toBe(true);
    expect(v.is(schema, 'plain')).toBe(true);
    const rested = say`${sure(0.9, { rests: say`On ${many(12, 'patch')}.` })} sure`;
    expect(v.parse(schema, rested)).toEqual(rested);
    expect(v.is(schema, mm(3))).toBe(true);
    expect(v.is(schema, [{ kind: 'furlong', value: 3 }])).toBe(false);
    expect(v.is(schema, ['x'.repeat(201), mm(3)])).toBe(false);
    expect(v.is(schema, { name: 'A1', of: 'planet' })).toBe(false);
  });
  it('is a plain text where there is nothing in it, and lies flat however it was made', () => {
    expect(say`nothing but text`).toBe('nothing but text');
    expect(say`${'a'} and ${2}`).toBe('a and 2');
    expect(say`${''}`).toBe('');
    expect(say`${mm(2)}`).toEqual(mm(2));
    expect(partsOf(say`a ${say`b ${mm(2)}`} c`)).toEqual(['a b ', mm(2), ' c']);
  });
  it('is joined and counted up', () => {
    expect(write(joined([], ', '))).toBe('');
    expect(write(joined([mm(1), mm(2)], ', '))).toBe('1 mm, 2 mm');
    expect(write(listed(['a']))).toBe('a');
    expect(write(listed(['a', 'b']))).toBe('a and b');
    expect(write(listed([mm(1), mm(2), mm(3)], 'or'))).toBe('1 mm, 2 mm or 3 mm');
    expect(partsOf(listed([]))).toEqual([]);
  });
  it('has names that begin small within a sentence and large at its beginning', () => {
    expect(within('Soft gel medium')).toBe('soft gel medium');
    expect(within('PVA glue')).toBe('PVA glue');
    expect(within('A')).toBe('A');
    expect(within(named('Slate', 'material'))).toEqual(named('slate', 'material'));
    expect(write(within(say`Then ${mm(2)}`))).toBe('then 2 mm');
    expect(write(within(mm(2)))).toBe('2 mm');
    expect(upper('')).toBe('');
    expect(write(upper(say`then ${mm(2)}`))).toBe('Then 2 mm');
    expect(upper(named('slate', 'material'))).toEqual(named('Slate', 'material'));
    expect(upper(mm(2))).toEqual(mm(2));
  });
  it('agrees with what is counted', () => {
    expect([0, 1, 2].map(n => agree(n, 'is', 'are'))).toEqual(['are', 'is', 'are']);
  });
});

describe('a span', () => {
  it.each([
    [0.5, '30 s'],
    [1.49, '89 s'],
    [1.5, '1 min 30 s'],
    [5, '5 min'],
    [9.94, '9 min 55 s'],
    [9.95, '10 min'],
    [89.4, '89 min'],
    [90, '1.5 h'],
    [360, '6 h'],
    [60 * 35.9, '36 h'],
    [60 * 36, '1.5 days'],
    [1440 * 12.4, '12 days'],
    [-90, '1.5 h'],
  ])('of %s minutes is %s', (m, words) => expect(span(m)).toBe(words));
});
