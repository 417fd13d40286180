import { describe, expect, it } from 'vitest';
import { METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { checkRequest } from './check-request.ts';
import { EXAMPLE_REQUEST } from './example.ts';
import type { PlanRequest } from './index.ts';

const { usual, board } = EXAMPLE_REQUEST;
const refused = (part: object) => {
  const found = checkRequest({ ...EXAMPLE_REQUEST, ...part } as PlanRequest, STARTER_SHELF, []);
  if (found.ok) throw new Error('was taken');
  return found.problem;
};
const two = (key: string, levels: readonly (string | number)[]) => ({ factors: [{ key, levels }] });

describe('a request that cannot be planned', () => {
  it.each([
    ['no name', { name: '  ' }, 'Give the trial a name.'],
    ['a name without end', { name: 'x'.repeat(81) }, 'Shorten the name to 80 letters.'],
    ['a question without end', { question: 'x'.repeat(401) }, 'Shorten the question to 400 letters.'],
    ['a method nobody knows', { method: 'witchcraft' }, 'This method is not known here.'],
    ['nothing to vary', { factors: [] }, 'Choose at least one thing to vary.'],
    ['a tiny patch', { patchMm: 2 }, 'Make the patch at least 20 mm.'],
    ['no patch size', { patchMm: Number.NaN }, 'Give the patch as a number.'],
    ['a narrow gutter', { gutterMm: 1 }, 'Make the gutter at least 8 mm.'],
    ['a wide margin', { marginMm: 999 }, 'Make the margin at most 200 mm.'],
    [
      'a board as large as a house',
      { board: { ...board, w: 9000 } },
      'Make the board’s width at most 3000 mm.',
    ],
    ['half a repeat', { repeats: 1.5 }, 'Repeats are whole numbers.'],
    ['no repeats', { repeats: 0 }, 'Make each at least once.'],
    ['no budget', { budget: 1 }, 'Two patches are the least.'],
    ['part of a patch', { budget: 12.5 }, 'Patches are whole numbers.'],
    ['a load of one', { loadSize: 1 }, 'A load holds at least two pieces; with one there are no loads.'],
    ['no scatter at all', { noise: 0 }, 'Patches always differ a little: at least 0.1 points.'],
    ['one level', two('medium', ['soft-gel']), 'Medium needs two to eight levels, each filled in.'],
    [
      'nine levels',
      two('dryHours', [1, 2, 3, 4, 5, 6, 7, 8, 9]),
      'Cure time needs two to eight levels, each filled in.',
    ],
    [
      'a level that is not filled in',
      two('coatMm', [0.3, Number.NaN]),
      'Coat thickness needs two to eight levels, each filled in.',
    ],
    ['a level out of range', two('rounds', [1, 9]), 'Rubbing rounds goes from 1 round to 6 rounds.'],
    ['a coat of nothing', two('coatMm', [0.01, 0.4]), 'Coat thickness goes from 0.05 mm to 5 mm.'],
    [
      'a usual coat that is not filled in',
      { usual: { ...usual, coatMm: Number.NaN } },
      'Coat thickness is not filled in, or far too large or small.',
    ],
    [
      'a usual wait without end',
      { usual: { ...usual, dryHours: 9999 } },
      'Cure time is not filled in, or far too large or small.',
    ],
    [
      'a medium that was taken off the shelf',
      { usual: { ...usual, medium: 'sea-foam' }, ...two('rounds', [1, 2]) },
      '“sea-foam” is not on your shelf.',
    ],
    [
      'a ladder of words',
      { design: 'ladder', ...two('medium', ['soft-gel', 'matte-acrylic']) },
      'A ladder has one thing that is varied, and it is a number.',
    ],
    [
      'an interaction with itself',
      { interactions: [[0, 0]] },
      'An interaction names a factor that is not varied.',
    ],
    [
      'an interaction with nothing',
      { interactions: [[0, 5]] },
      'An interaction names a factor that is not varied.',
    ],
    [
      'a group that is not varied',
      { groupKey: 'donor' },
      'Donor sheet is to be made together but is not varied.',
    ],
  ])('with %s says so', (_, part, say) => {
    expect(write(refused(part).say)).toBe(say);
  });

  it('names what a method cannot vary, for every method', () => {
    for (const method of METHODS) {
      const key = (['rounds', 'copyAgeH', 'coatMm'] as const).find(k => !method.vary.includes(k));
      if (!key) continue;
      const problem = refused({ method: method.id, ...two(key, [1, 2]) });
      expect(write(problem.say)).toMatch(
        new RegExp(`cannot be varied with ${method.name.toLowerCase()}\\.$`),
      );
      expect(write(problem.wayOut ?? '')).toBe('Leave it out.');
    }
  });
});

describe('a request that can be planned', () => {
  const taken = (part: Partial<PlanRequest>) => {
    const found = checkRequest({ ...EXAMPLE_REQUEST, ...part }, STARTER_SHELF, []);
    if (!found.ok) throw new ProblemError(found.problem);
    return found.value;
  };

  it('keeps what it uses of the shelf and nothing else', () => {
    const { used } = taken({ factors: [{ key: 'medium', levels: ['soft-gel', 'white-pva'] }] });
    expect(used.mediums.map(m => m.id)).toEqual(
      STARTER_SHELF.mediums.map(m => m.id).filter(id => ['soft-gel', 'white-pva', usual.medium].includes(id)),
    );
    expect(used.substrates.map(s => s.id)).toEqual([usual.substrate]);
    expect(used.printers).toHaveLength(1);
  });

  it('takes a method of the maker’s own, before one that comes with the app', () => {
    const own = { ...METHODS[0], name: 'Our wet rub' };
    const found = checkRequest(EXAMPLE_REQUEST, STARTER_SHELF, [own]);
    expect(found.ok && found.value.used.method.name).toBe('Our wet rub');
  });

  it('trims the name', () => {
    expect(taken({ name: '  Berth plates ' }).ask.name).toBe('Berth plates');
  });
});
