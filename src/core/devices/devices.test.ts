import { describe, expect, it } from 'vitest';
import { ProblemError } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { airFromLog, coatThicknessMm, simulatedAir, simulatedGrams } from './index.ts';

const log = (text: string) => {
  const found = airFromLog(text);
  if (!found.ok) throw new ProblemError(found.problem);
  return found.value;
};

describe('a logger’s file', () => {
  it('gives the mean of its last hour', () => {
    const rows = ['2026-05-02T08:00:00Z,10,90', '2026-05-02T09:10:00Z,20,50', '2026-05-02T10:00:00Z,22,54'];
    expect(log(`Time,Temperature (°C),Humidity (%)\n${rows.join('\n')}`)).toEqual({
      air: { tempC: 21, rh: 52 },
      until: Date.parse('2026-05-02T10:00:00Z'),
      rows: 3,
    });
  });

  it('may use semicolons, decimal commas, and lines above its headings', () => {
    expect(log('Shed logger\nno. 4\nWhen;Temp °C;RH %\n1;19,5;61\n2;20,5;63').air).toEqual({
      tempC: 20,
      rh: 62,
    });
  });

  it.each([
    ['the day first, with points', (d: number, h: string) => `${String(d).padStart(2, '0')}.05.2026 ${h}`],
    ['the day first, with strokes', (d: number, h: string) => `${d}/5/2026 ${h}`],
    ['the month first', (d: number, h: string) => `5/${d}/2026 ${h}`],
    ['a year of two figures', (d: number, h: string) => `${d}.5.26 ${h}`],
    ['the year first', (d: number, h: string) => `2026-05-${String(d).padStart(2, '0')} ${h}`],
    ['day and time of day in two columns', (d: number, h: string) => `${d}.05.2026,${h}`],
  ])('may write its times with %s', (_, write) => {
    // Over the turn from the 9th to the 10th, dry at last after a damp day.
    const rows = [...Array(24).keys()].map(k => `${write(9, `${k}:30`)},15,80`);
    rows.push(`${write(10, '0:05')},21,45`, `${write(10, '0:25')},22,47`);
    const head = write(1, '0:00').includes(',') ? 'Date,Time' : 'Date/Time';
    const found = log(`${head},Temperature °C,Humidity %\n${rows.join('\n')}`);
    expect(new Date(found.until!).toString()).toContain('May 10 2026 00:25');
    // The hour before it: 23:30 of the day before, and both of the new day.
    expect(found.air).toEqual({ tempC: 19.3, rh: 57 });
  });

  it('whose times cannot all be read is taken by its last rows', () => {
    const rows = [...Array(20).keys()].map(
      k => `${k === 3 ? 'battery low' : `2026-05-02 10:${10 + k}`},${k},50`,
    );
    const found = log(`Time,Temperature °C,Humidity %\n${rows.join('\n')}`);
    expect(found.until).toBeUndefined();
    expect(found.air.tempC).toBe(16.5);
  });

  it('with times of the morning and the evening tells them apart', () => {
    const rows = ['5/2/2026 11:50 AM,12,70', '5/2/2026 12:10 PM,14,66', '5/2/2026 1:05:30 pm,16,60'];
    const found = log(`Time,Temperature °C,Humidity %\n${rows.join('\n')}`);
    expect(new Date(found.until!).getHours()).toBe(13);
    expect(found.air).toEqual({ tempC: 15, rh: 63 });
  });

  it('may be in °F', () => {
    expect(log('Date\tTemperature °F\tRel. humidity\n2026-05-02 10:00\t68\t40').air).toEqual({
      tempC: 20,
      rh: 40,
    });
  });

  it.each([
    ['no such columns', 'a,b\n1,2', /no columns named temperature and humidity/],
    ['nothing', '', /no columns/],
    ['no rows', 'Time,Temperature,Humidity\n', /no rows with both values/],
    ['words for values', 'Time,Temperature,Humidity\nx,warm,wet', /no rows with both values/],
    ['values no room has', 'Time,Temperature,Humidity\nx,120,40', /120 °C and 40 %, which no room has/],
    ['far too much', `Temperature,Humidity\n${'1'.repeat(5_000_001)}`, /too large/],
  ])('with %s is refused in words', (_, text, words) => {
    const found = airFromLog(text);
    expect(write(found.ok ? '' : found.problem.say)).toMatch(words);
  });
});

describe('a scale', () => {
  it('gives the thickness: 10 g of a medium of 1 g/mL on 100 cm² are 1 mm', () => {
    expect(coatThicknessMm(10, 1, 10_000)).toBeCloseTo(1, 12);
    expect(coatThicknessMm(0.69, 1.08, 1600)).toBeCloseTo(0.4, 2);
  });

  it('cannot tell it without density or area', () => {
    expect(() => coatThicknessMm(1, 0, 100)).toThrow(RangeError);
    expect(() => coatThicknessMm(1, 1, 0)).toThrow(RangeError);
  });

  it('that is simulated scatters about what was meant, and shows the same for the same seed', () => {
    const shown = Array.from({ length: 400 }, (_, seed) => simulatedGrams(0.4, 1.05, 1600, seed));
    expect(shown.reduce((a, b) => a + b, 0) / 400).toBeCloseTo(0.4 * 1.05 * 1.6, 1);
    expect(simulatedGrams(0.4, 1.05, 1600, 7)).toBe(simulatedGrams(0.4, 1.05, 1600, 7));
    expect(new Set(shown).size).toBeGreaterThan(10);
  });
});

describe('the simulated hygrometer', () => {
  it('is warm and dry in the afternoon, the same again at the same moment, and always an air a room can have', () => {
    const at = (iso: string) => simulatedAir(Date.parse(iso), 3);
    expect(at('2026-05-02T15:00:00Z').tempC).toBeGreaterThan(at('2026-05-02T03:00:00Z').tempC);
    expect(at('2026-05-02T15:00:00Z').rh).toBeLessThan(at('2026-05-02T03:00:00Z').rh);
    expect(at('2026-05-02T15:00:00Z')).toEqual(at('2026-05-02T15:00:00Z'));
    for (let h = 0; h < 2000; h += 7) {
      const { tempC, rh } = simulatedAir(h * 3_600_000, 11);
      expect(tempC > 0 && tempC < 40 && rh > 20 && rh < 99).toBe(true);
    }
  });
});
