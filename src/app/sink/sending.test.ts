import { describe, expect, it } from 'vitest';
import { afterLook, type Photo, sentWords } from './sending.ts';

const file = new Blob(['x']);
const photo = (id: string, isSent = false): Photo => ({ id, patch: 'KN-23H', file, isSent });
const ids = (list: readonly Photo[]) => list.map(p => p.id);

describe('photos on a phone', () => {
  it('stay until the laptop has stored them, and go then', () => {
    const looked = afterLook([photo('a', true), photo('b', true), photo('c')], ['b']);
    expect(ids(looked.stored)).toEqual(['a']);
    expect(ids(looked.left)).toEqual(['b', 'c']);
    expect(looked.left.map(p => p.isSent)).toEqual([true, false]);
  });

  it('are to be sent once more where the link ended before they were stored', () => {
    const looked = afterLook([photo('a', true), photo('c')], null);
    expect(looked.stored).toEqual([]);
    expect(looked.left.map(p => Boolean(p.isSent))).toEqual([false, false]);
  });

  it('are counted beside their patch', () => {
    expect(sentWords(0, 2)).toBe(' · 2 on their way');
    expect(sentWords(1, 0)).toBe(' · 1 sent');
  });
});
