import { describe, expect, it } from 'vitest';
import { METHODS } from '../methods/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { type PatchSettings, PLAIN_SETTINGS } from '../trial/index.ts';
import { dryness, type PatchHistory, simulateProcess } from './index.ts';

const shelf = STARTER_SHELF;
const find = <T extends { id: string }>(items: readonly T[], id: string) => items.find(i => i.id === id)!;
const settings = (part: Partial<PatchSettings> = {}): PatchSettings => ({
  method: METHODS[0],
  printer: shelf.printers[0],
  donor: find(shelf.donors, 'copy-80'),
  medium: find(shelf.mediums, 'matte-acrylic'),
  substrate: find(shelf.substrates, 'birch-ply'),
  preparation: find(shelf.preparations, 'none'),
  coatMm: 0.4,
  dryHours: 24,
  rounds: 2,
  ...PLAIN_SETTINGS,
  ...part,
});
const history = (part: Partial<PatchHistory> = {}): PatchHistory => ({
  settings: settings(),
  air: { tempC: 21, rh: 45 },
  placedAfterMin: 0.8,
  driedHours: 30,
  rounds: 2,
  patchMm: 20,
  seed: 1,
  ...part,
});
const SEEDS = [1, 2, 3, 4, 5];
/** Mean share landed over some seeds, and how often each mechanism struck. */
function over(part: Partial<PatchHistory>) {
  const outcomes = SEEDS.map(seed => simulateProcess(history({ ...part, seed })));
  const mean = (map: Float32Array) => map.reduce((a, b) => a + b, 0) / map.length;
  return {
    landed: outcomes.reduce((sum, o) => sum + mean(o.landed), 0) / outcomes.length,
    veil: outcomes.reduce((sum, o) => sum + mean(o.veil), 0) / outcomes.length,
    struck: (name: string) => outcomes.filter(o => o.struck.includes(name)).length,
  };
}
const sound = over({});

describe('what becomes of a patch', () => {
  it('is a map of its own size with shares only', () => {
    const { w, h, landed, veil, pxPerMm } = simulateProcess(history());
    expect([w, h]).toEqual([20 * pxPerMm, 20 * pxPerMm]);
    for (const map of [landed, veil]) {
      expect(map).toHaveLength(w * h);
      for (const v of map) {
        expect(v).toBeGreaterThanOrEqual(0);
        expect(v).toBeLessThanOrEqual(1);
      }
    }
  });

  it('made as it should be is nearly all there', () => {
    expect(sound.landed).toBeGreaterThan(0.85);
    for (const name of ['skinned', 'early', 'glossy', 'rubbed-through']) expect(sound.struck(name)).toBe(0);
  });

  it('pressed into a coat that skinned over has streaks, the more the later', () => {
    const [late, later] = [over({ placedAfterMin: 5 }), over({ placedAfterMin: 12 })];
    expect(late.struck('skinned')).toBeGreaterThan(2);
    expect(later.landed).toBeLessThan(late.landed);
    expect(late.landed).toBeLessThan(sound.landed);
  });

  it('under a thicker coat stays open longer', () => {
    const thick = over({ placedAfterMin: 5, settings: settings({ coatMm: 1 }) });
    expect(thick.struck('skinned')).toBeLessThan(over({ placedAfterMin: 5 }).struck('skinned'));
  });

  it('wetted before it was dry loses a great deal, wherever that is decided: hours, air or coat', () => {
    const early = over({ driedHours: 4 });
    expect(early.struck('early')).toBe(SEEDS.length);
    expect(early.landed).toBeLessThan(sound.landed - 0.2);
    for (const part of [
      { driedHours: 4 },
      { air: { tempC: 10, rh: 80 } },
      { settings: settings({ coatMm: 3 }) },
    ])
      expect(dryness(history(part))).toBeLessThan(dryness(history()));
    expect(over({ air: { tempC: 10, rh: 85 } }).struck('early')).toBe(SEEDS.length);
  });

  it('on a glossy ground comes away, and does not where that was sanded', () => {
    const tile = find(shelf.substrates, 'glazed-tile');
    const glossy = over({ settings: settings({ substrate: tile }) });
    expect(glossy.struck('glossy')).toBe(SEEDS.length);
    const etched = settings({ substrate: tile, preparation: find(shelf.preparations, 'etched') });
    expect(over({ settings: etched }).struck('glossy')).toBe(0);
  });

  it('on a thirsty ground is patchy under a thin coat, less when primed', () => {
    const thirsty = { ...find(shelf.substrates, 'birch-ply'), thirst: 0.95 };
    const thin = over({ settings: settings({ substrate: thirsty, coatMm: 0.2 }) });
    const primed = settings({
      substrate: thirsty,
      coatMm: 0.2,
      preparation: find(shelf.preparations, 'gel-primer'),
    });
    expect(thin.struck('thirsty')).toBe(SEEDS.length);
    expect(over({ settings: primed }).struck('thirsty')).toBe(0);
  });

  it('of a thin coat loses an edge more often', () => {
    const thin = over({ settings: settings({ coatMm: 0.15 }) });
    expect(thin.struck('edge')).toBeGreaterThan(sound.struck('edge'));
  });

  it('rubbed many times is rubbed through; rubbed once it has more veil', () => {
    expect(over({ rounds: 5 }).struck('rubbed-through')).toBe(SEEDS.length);
    expect(over({ rounds: 1 }).veil).toBeGreaterThan(1.5 * sound.veil);
    expect(over({ rounds: 3 }).veil).toBeLessThan(sound.veil);
  });

  it('with a medium that softens in water is scuffed', () => {
    const soft = { ...find(shelf.mediums, 'matte-acrylic'), rewets: 0.9 };
    const hard = { ...soft, rewets: 0 };
    expect(over({ settings: settings({ medium: soft }) }).struck('softened')).toBe(SEEDS.length);
    expect(over({ settings: settings({ medium: hard }) }).struck('softened')).toBe(0);
  });

  it('on heavy paper keeps more veil than on thin', () => {
    const on = (id: string) => over({ settings: settings({ donor: find(shelf.donors, id) }) }).veil;
    expect(on('smooth-120')).toBeGreaterThan(on('copy-80'));
    expect(on('copy-80')).toBeGreaterThan(on('copy-70'));
  });
});
