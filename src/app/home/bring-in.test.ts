import { describe, expect, it } from 'vitest';
import { examplePlan } from '../../core/design/example.ts';
import { bad, good } from '../../core/outcome/index.ts';
import { bringIn, type Ways } from './bring-in.ts';

const plan = { ...examplePlan(), name: 'Tern' };
const bundle = { plan, records: [], photos: new Map<string, Uint8Array>() };
const ways = (
  made: Awaited<ReturnType<Ways['importTrial']>>,
  came = good({ records: 0, photos: 0, beside: 0 }),
): Ways => ({
  importTrial: async () => made,
  takeInTrial: async () => came,
});
const here = bad('here-already', 'It is here.');

describe('a trial’s file', () => {
  it('comes in as a trial, and says which of its photos did not', async () => {
    expect(await bringIn(ways(good(plan)), bundle)).toEqual({ say: '“Tern” was imported.' });
    const lost = await bringIn(ways(good(plan)), { ...bundle, lost: ['p1'] });
    expect(lost).toMatchObject({
      wrong: true,
      say: expect.stringMatching(/^“Tern” was imported\. .*left out \(p1\)\.$/),
    });
  });

  it('of a trial that is here brings what that lacks', async () => {
    const some = await bringIn(ways(here, good({ records: 0, photos: 1, beside: 2 })), bundle);
    expect(some).toEqual({
      say: '“Tern” is here already: 0 records and 1 photo that it did not have came in.',
    });
    const maps = await bringIn(ways(here, good({ records: 0, photos: 0, beside: 1 })), bundle);
    expect(maps).toMatchObject({ say: expect.stringContaining('already: 1 picture of its readings that') });
    expect(await bringIn(ways(here), bundle)).toEqual({
      say: '“Tern” is here already, with all that is in this file.',
    });
  });

  it('is refused in words where it does not fit, or nothing can be stored', async () => {
    const full = bad('storage', 'No room.');
    expect(await bringIn(ways(full), bundle)).toEqual({ problem: { code: 'storage', say: 'No room.' } });
    const other = bad('no-fit', 'Another plan.');
    const noFit = await bringIn({ importTrial: async () => here, takeInTrial: async () => other }, bundle);
    expect(noFit).toMatchObject({ problem: { code: 'no-fit' } });
  });
});
