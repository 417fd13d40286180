import { describe, expect, it } from 'vitest';
import {
  clock,
  coatFactor,
  dryingFactor,
  dryingRange,
  REFERENCE_AIR,
  saturationPressure,
  vapourPressureDeficit,
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
  it('show clocks, also past the aim', () => {
    expect(clock(245_000)).toBe('4:05');
    expect(clock(3_729_000)).toBe('1:02:09');
    expect(clock(-5000)).toBe('−0:05');
  });
});
