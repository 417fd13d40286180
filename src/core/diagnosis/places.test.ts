import { describe, expect, it } from 'vitest';
import { CAUTIONS } from '../methods/index.ts';
import { EXAMPLE_READING } from '../trial/example.ts';
import type { Reading } from '../trial/index.ts';
import { CAUSES, placesOf, placeWords } from './index.ts';

const bare = (shape: Reading['bare'][number]['shape'], area: number, x = 10, y = 20) => ({
  shape,
  area,
  x,
  y,
  edge: 5,
  along: 0,
});
const reading = (part: Partial<Reading>): Reading => ({ ...EXAMPLE_READING, ...part });

describe('the places evidence speaks of', () => {
  it('are the bare patches of that shape, ringed a little outside', () => {
    const r = reading({ bare: [bare('round', Math.PI * 4, 12, 8), bare('streak', 9, 30, 30)] });
    expect(placesOf(['roundShare'], r)).toEqual([{ kind: 'spot', x: 12, y: 8, r: 2.8 }]);
    expect(placesOf(['streakLevel'], r)).toMatchObject([{ x: 30, y: 30 }]);
    expect(placesOf(['cornerShare'], r)).toEqual([]);
    // However small, a ring can be seen.
    expect(placesOf(['bareCount'], reading({ bare: [bare('round', 0.5)] }))).toMatchObject([{ r: 1.2 }]);
  });

  it('are the largest twelve where there are more, and the largest alone where that is spoken of', () => {
    const many = Array.from({ length: 15 }, (_, i) => bare('ragged', i + 1, i, i));
    const found = placesOf(['raggedShare'], reading({ bare: many }));
    expect(found).toHaveLength(12);
    expect(found[0]).toMatchObject({ x: 14 });
    expect(found.at(-1)).toMatchObject({ x: 3 });
    expect(placesOf(['largestBareMm2'], reading({ bare: many }))).toMatchObject([{ x: 14 }]);
  });

  it('are the side that lost most, both where two lost as much, none where nothing is lost', () => {
    const edges = { top: 90, right: 60, bottom: 95, left: 60 };
    expect(placesOf(['edgeLoss'], reading({ edges }))).toEqual([
      { kind: 'side', side: 'right' },
      { kind: 'side', side: 'left' },
    ]);
    const whole = { top: 100, right: 100, bottom: 100, left: 100 };
    expect(placesOf(['edgeLoss'], reading({ edges: whole }))).toEqual([]);
  });

  it('are the way it is smeared, where it is', () => {
    expect(placesOf(['smear', 'smearDown'], reading({ smear: 0.5, smearAlong: 90 }))).toEqual([
      { kind: 'along', deg: 90 },
    ]);
    expect(placesOf(['smear'], reading({ smear: 0, smearAlong: null }))).toEqual([]);
  });

  it('are each there once, and of times and choices there are none', () => {
    const r = reading({ bare: [bare('round', 5)] });
    expect(placesOf(['veil', 'veilDrop', 'bareShare'], r)).toEqual([
      { kind: 'map', of: 'veil' },
      { kind: 'map', of: 'bare' },
    ]);
    expect(placesOf(['dryRatio', 'lateRatio', 'thirst', 'symptom:veil'], r)).toEqual([]);
  });

  it('are said in words', () => {
    expect(placeWords([])).toBe('');
    const spot = { kind: 'spot', x: 1, y: 1, r: 1 } as const;
    expect(placeWords([spot])).toBe('Marked: one bare place.');
    expect(
      placeWords([
        spot,
        spot,
        { kind: 'along', deg: 0 },
        { kind: 'map', of: 'veil' },
        { kind: 'map', of: 'bare' },
      ]),
    ).toBe(
      'Marked: 2 bare places; the way it is smeared; the veil, dots the denser the thicker; all that is bare, hatched.',
    );
  });
});

describe('what can hurt in a rescue', () => {
  const DANGERS: readonly [RegExp, readonly (keyof typeof CAUTIONS)[]][] = [
    [/\b(heat again|lowest heat|iron it|heat it)/i, ['hot-tools']],
    [/\b(sand|grit)\b/i, ['sanding']],
    [/\bdegrease\b/i, ['solvent']],
    [/\bblade\b/i, ['cutting']],
    [/\b(rub again|rub on|more rounds)/i, ['long-rubbing']],
    [/\b(glue|medium|varnish) /i, ['wet-coats']],
  ];
  const wordings = CAUSES.flatMap(c => [c, ...(c.otherwise ?? []).map(o => ({ ...c, ...o }))]);

  it('is said beside it', () => {
    let hurts = 0;
    for (const cause of wordings)
      for (const [danger, ids] of DANGERS) {
        if (!danger.test(cause.rescue)) continue;
        hurts++;
        expect(cause.cautions, `${cause.id}: ${cause.rescue}`).toEqual(expect.arrayContaining([...ids]));
      }
    expect(hurts).toBeGreaterThan(5);
  });

  it('is one of the cautions there are', () => {
    for (const cause of wordings)
      for (const id of cause.cautions ?? []) expect(CAUTIONS[id].text).toContain('label');
  });
});
