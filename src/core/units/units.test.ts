import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  clock,
  coatFactor,
  dryingFactor,
  dryingRange,
  length,
  measured,
  REFERENCE_AIR,
  saturationPressure,
  span,
  temperature,
  thickness,
  vapourPressureDeficit,
  volume,
} from './index.ts';

describe('the air', () => {
  it('has the saturation pressures of the published tables', () => {
    // WMO-No. 8 (CIMO guide), over water: 0 °C 0.6112 kPa, 20 °C 2.3337 kPa, 30 °C 4.2345 kPa (±0.1 %).
    expect(saturationPressure(0)).toBeCloseTo(0.6112, 4);
    expect(saturationPressure(20)).toBeCloseTo(2.333, 2);
    expect(saturationPressure(30)).toBeCloseTo(4.234, 2);
  });
  it('has a deficit of 1.364 kPa at 21 °C and 45 %', () => {
    expect(vapourPressureDeficit(REFERENCE_AIR)).toBeCloseTo(1.3645, 4);
    expect(dryingFactor(REFERENCE_AIR)).toBe(1);
  });
  it('is not all: a coat twice as thick takes longer, but not twice as long', () => {
    expect(coatFactor(0.3)).toBe(1);
    expect(coatFactor(0.6)).toBeGreaterThan(1.5);
    expect(coatFactor(0.6)).toBeLessThan(2);
  });
  it('slows drying when damp or cold, within limits', () => {
    expect(dryingFactor({ tempC: 21, rh: 80 })).toBeCloseTo(55 / 20, 5);
    expect(dryingFactor({ tempC: 5, rh: 95 })).toBe(6);
    expect(dryingFactor({ tempC: 45, rh: 5 })).toBe(0.5);
    const range = dryingRange(8, { tempC: 12, rh: 70 });
    expect(range.lo).toBeLessThan(range.mid);
    expect(range.hi).toBeGreaterThan(range.mid);
  });
});

describe('measures', () => {
  it('keep coats apart that differ by a hundredth of a millimetre', () => {
    expect(thickness(0.25, 'metric', 'en')).toBe('0.25 mm');
    expect(thickness(1, 'metric', 'en')).toBe('1 mm');
    expect(thickness(0.25, 'imperial', 'en')).toBe('0.010 in');
    expect(thickness(0.4, 'imperial', 'en')).toBe('0.016 in');
  });
  it('switch between millimetres and inches, °C and °F, mL and fl oz', () => {
    expect(length(40, 'metric', 'en')).toBe('40 mm');
    expect(length(254, 'imperial', 'en')).toBe('10.00 in');
    expect(temperature(21, 'imperial', 'en')).toBe('70 °F');
    expect(volume(29.5735, 'imperial', 'en')).toBe('1.00 fl oz');
    expect(volume(3.85, 'metric', 'en')).toBe('3.9 mL');
  });
  it.each([
    [
      'A board of 60 × 40 mm is too small for 12 patches of 40 mm.',
      'A board of 2.36 × 1.57 in is too small for 12 patches of 1.57 in.',
    ],
    ['Coat the cloth 1–2 mm thick.', 'Coat the cloth 0.039–0.079 in thick.'],
    ['It would come closer than 12 mm to the edge.', 'It would come closer than 0.47 in to the edge.'],
    ['4.1 dm²', '63.6 in²'],
    ['One large clean piece is missing (129 mm²).', 'One large clean piece is missing (0.20 in²).'],
    ['2 jars of 250 mL', '2 jars of 8.45 fl oz'],
    ['Room: ____ °C, ____ % humidity.', 'Room: ____ °F, ____ % humidity.'],
    ['Hold it 5 to 10 cm away.', 'Hold it 1.97 to 3.94 in away.'],
    ['A tile of 12.5 cm² (no. 3)', 'A tile of 1.94 in² (no. 3)'],
    ['0.3 mm coat at 21 °C and 45 % humidity.', '0.012 in coat at 70 °F and 45 % humidity.'],
  ])('are put into inches where a sentence says “%s”', (metric, imperial) => {
    expect(measured(metric, 'imperial', 'en')).toBe(imperial);
    expect(measured(metric, 'metric', 'en')).toBe(metric);
  });
  it.each(['80 g copy paper', '12 patches, 45 s, 6 h', 'K7-3AF in 2 rounds', '4 mmol, 3 mms, 12 min'])(
    'leave alone what is none: %s',
    text => expect(measured(text, 'imperial', 'en')).toBe(text),
  );
  it('say the same length, whatever the sentence round it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 30_000 }),
        fc.constantFrom('', 'Cut it to ', 'no. 4: '),
        fc.constantFrom('', '.', ', then wait 12 min', ' × '),
        (tenths, before, after) => {
          const mm = tenths / 10;
          const said = measured(`${before}${mm} mm${after}`, 'imperial', 'en-GB');
          expect(said.startsWith(before) && said.endsWith(after)).toBe(true);
          const [, figure, unit] = said.slice(before.length).match(/^([\d,.]+) (in)/)!;
          expect(unit).toBe('in');
          // Thousandths where it is thin, else hundredths of an inch.
          const inches = Number(figure.replaceAll(',', ''));
          expect(Math.abs(inches - mm / 25.4)).toBeLessThanOrEqual(mm < 2.54 ? 0.00051 : 0.0051);
        },
      ),
    );
  });
  it('say spans as a maker does', () => {
    expect(span(0.75)).toBe('45 s');
    expect(span(12)).toBe('12 min');
    expect(span(360)).toBe('6 h');
    expect(span(90)).toBe('1.5 h');
    expect(span(4320)).toBe('3 days');
  });
  it('show clocks, also past the aim', () => {
    expect(clock(245_000)).toBe('4:05');
    expect(clock(3_729_000)).toBe('1:02:09');
    expect(clock(-5000)).toBe('−0:05');
  });
});
