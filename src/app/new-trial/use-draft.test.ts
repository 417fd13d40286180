import { describe, expect, it } from 'vitest';
import { METHODS } from '../../core/methods/index.ts';
import { ProblemError } from '../../core/outcome/index.ts';
import { STARTER_SHELF } from '../../core/shelf/index.ts';
import { requestFrom } from './from.ts';
import { draftFrom } from './use-draft.ts';

const found = requestFrom('plain:wet-rub', STARTER_SHELF, []);
if (!found.ok) throw new ProblemError(found.problem);
const start = found.value;
const from = (draft: unknown, shelf = STARTER_SHELF) => draftFrom(JSON.stringify(draft), start, shelf, []);

describe('a plan that was left', () => {
  it('is taken up as it was, without a name too', () => {
    const draft = { ...start, name: '', repeats: 5, board: { ...start.board, w: 777 } };
    expect(from(draft)).toEqual(draft);
  });

  it('is let go where the shelf or the methods do not hold it any more', () => {
    const without = {
      ...STARTER_SHELF,
      substrates: STARTER_SHELF.substrates.filter(s => s.id !== start.usual.substrate),
    };
    expect(from(start, without)).toBeUndefined();
    expect(from({ ...start, method: 'wet-rub-own-9' })).toBeUndefined();
  });

  it('is none where it is damaged, or nothing was left', () => {
    expect(draftFrom(null, start, STARTER_SHELF, METHODS)).toBeUndefined();
    expect(draftFrom('{"factors":', start, STARTER_SHELF, METHODS)).toBeUndefined();
    expect(from({ ...start, factors: 'none' })).toBeUndefined();
    expect(from([1, 2])).toBeUndefined();
  });
});
