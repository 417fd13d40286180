import { describe, expect, it } from 'vitest';
import { findMethod } from '../../core/methods/index.ts';
import { ProblemError } from '../../core/outcome/index.ts';
import { plainly } from '../../core/questions/index.ts';
import { STARTER_SHELF } from '../../core/shelf/index.ts';
import { speakOf } from './speak.ts';

const speaks = (id: string, part: object = {}) => {
  const method = findMethod(id)!;
  const request = plainly(method, STARTER_SHELF);
  if (!request.ok) throw new ProblemError(request.problem);
  const speak = speakOf({ ...request.value, ...part }, request.value.usual, method, STARTER_SHELF);
  return (key: Parameters<typeof speak>[0], value: string | number) => speak(key, value).map(r => r.id);
};

describe('what rules say at a choice', () => {
  const mediums = { key: 'medium' as const, levels: ['levelling-gel', 'soft-gel'] };

  it('is “too early” at a wait that is too short for one of the mediums it is tried with', () => {
    const skin = speaks('gel-skin', { factors: [mediums, { key: 'dryHours', levels: [48, 400] }] });
    expect(skin('dryHours', 48)).toContain('too-early');
    expect(skin('dryHours', 400)).not.toContain('too-early');
    // And not at the mediums, one of which is dry by then.
    expect(skin('medium', 'soft-gel')).not.toContain('too-early');
  });

  it('is said of an item only where it holds whatever else is tried with it', () => {
    const factors = [
      { key: 'substrate' as const, levels: ['slate', 'birch-ply'] },
      { key: 'preparation' as const, levels: ['none', 'white-coat'] },
    ];
    expect(speaks('wet-rub', { factors })('substrate', 'slate')).not.toContain('dark-ground');
    expect(speaks('wet-rub', { factors: factors.slice(0, 1) })('substrate', 'slate')).toContain(
      'dark-ground',
    );
  });
});
