import exifr from 'exifr';
import { describe, expect, it } from 'vitest';
import { encodeJpeg } from '../../cli/node-image.ts';
import { target } from '../print/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { exampleSettings } from './example.ts';
import { dryness, type PatchHistory, SIMULATED_WORDS, simulateProcess, truth, withExif } from './index.ts';

const shelf = STARTER_SHELF;
const base: PatchHistory = {
  settings: exampleSettings({ dryHours: 24 }),
  air: { tempC: 21, rh: 45 },
  placedAfterMin: 0.8,
  driedHours: 24,
  rounds: 2,
  patchMm: 20,
  seed: 11,
};
const mean = (part: (seed: number) => Partial<PatchHistory>, what: 'landed' | 'veil') => {
  let sum = 0;
  for (let seed = 1; seed <= 6; seed++)
    sum += truth(simulateProcess({ ...base, seed, ...part(seed) }), target(20))[what];
  return sum / 6;
};

describe('the process simulator', () => {
  it('makes the same piece from the same seed', () => {
    expect(simulateProcess(base)).toEqual(simulateProcess(base));
    expect(simulateProcess({ ...base, seed: 12 }).landed).not.toEqual(simulateProcess(base).landed);
  });
  it('loses more when the paper comes off too early, and in damp air', () => {
    expect(mean(() => ({ driedHours: 4 }), 'landed')).toBeLessThan(mean(() => ({}), 'landed') - 15);
    expect(dryness({ ...base, air: { tempC: 15, rh: 80 } })).toBeLessThan(dryness(base) / 2);
  });
  it('loses streaks when a coat that skinned over was pressed late', () => {
    const late = simulateProcess({ ...base, placedAfterMin: 9 });
    expect(late.struck).toContain('skinned');
    expect(mean(() => ({ placedAfterMin: 9 }), 'landed')).toBeLessThan(mean(() => ({}), 'landed') - 4);
  });
  it('leaves less veil with every round, more with heavy paper', () => {
    const veil = (rounds: number) => mean(() => ({ rounds }), 'veil');
    expect(veil(1)).toBeGreaterThan(veil(2) * 1.5);
    expect(veil(2)).toBeGreaterThan(veil(3) * 1.5);
    expect(mean(() => ({ settings: { ...base.settings, donor: shelf.donors[2] } }), 'veil')).toBeGreaterThan(
      veil(2),
    );
  });
});

describe('a simulated photo', () => {
  it('says in its EXIF that it is simulated, and when it was taken', async () => {
    const jpeg = await encodeJpeg({ w: 8, h: 8, data: new Uint8ClampedArray(256).fill(99) });
    const tags = await exifr.parse(
      withExif(new Uint8Array(jpeg), SIMULATED_WORDS, new Date(2026, 4, 3, 12, 30, 5)),
      { userComment: true },
    );
    expect(tags.ImageDescription).toBe(SIMULATED_WORDS);
    expect(tags.DateTimeOriginal).toEqual(new Date(2026, 4, 3, 12, 30, 5));
    expect(withExif(Uint8Array.from([1, 2, 3]), 'x', new Date())).toEqual(Uint8Array.from([1, 2, 3]));
  });
});
