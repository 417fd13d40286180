import { describe, expect, it } from 'vitest';
import { write } from '../../core/say/index.ts';
import { type ShelfItem, STARTER_SHELF } from '../../core/shelf/index.ts';
import { takeOff } from './take-off.model.ts';

describe('what was used', () => {
  const [medium] = STARTER_SHELF.mediums;
  const [donor] = STARTER_SHELF.donors;
  const shelf = {
    ...STARTER_SHELF,
    mediums: [{ ...medium, counted: true, onHandMl: 100 }],
    donors: [{ ...donor, counted: true, onHand: 20 }],
  };
  const taken = async (used: Parameters<typeof takeOff>[1]) => {
    const saved: [string, ShelfItem[]][] = [];
    const words = await takeOff(shelf, used, async (kind, items) => saved.push([kind, [...items]]));
    return { saved, words };
  };

  it('comes off jars and sheets, and what is left is said of both', async () => {
    const { saved, words } = await taken({ ml: { [medium.id]: 30 }, sheets: { [donor.id]: 3 } });
    expect(saved).toMatchObject([
      ['mediums', [{ id: medium.id, onHandMl: 70 }]],
      ['donors', [{ id: donor.id, onHand: 17 }]],
    ]);
    expect(write(words)).toContain(medium.name);
    expect(write(words)).toContain(donor.name);
  });

  it('of one kind leaves the other alone; given back it is more again', async () => {
    const { saved } = await taken({ ml: {}, sheets: { [donor.id]: -5 } });
    expect(saved).toMatchObject([['donors', [{ onHand: 25 }]]]);
    expect((await taken({ ml: {}, sheets: {} })).saved).toEqual([]);
  });
});
