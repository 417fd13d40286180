import { describe, expect, it } from 'vitest';
import { bad, good } from '../core/outcome/index.ts';
import { takeInbox } from './inbox.ts';

const file = new Blob(['x']);
const held = (gone: string[], unreachable: readonly string[] = []) => ({
  fetch: async (item: string) => (unreachable.includes(item) ? bad('unreached', 'Away.') : good(file)),
  drop: async (item: string) => void gone.push(item),
});
const words = (error: unknown) => ({ code: 'not-stored' as const, say: String(error) });

describe('what came from a phone', () => {
  it('leaves the server one by one, each after it was stored', async () => {
    const order: string[] = [];
    const { fetch } = held([]);
    const drop = async (item: string) => void order.push(`drop ${item}`);
    const store = async (item: string) => {
      order.push(`store ${item}`);
      return true;
    };
    expect(await takeInbox(['a', 'b'], { fetch, drop }, store, words)).toEqual({ stored: 2 });
    expect(order).toEqual(['store a', 'drop a', 'store b', 'drop b']);
  });

  it('stays there when this laptop has no room, with all that came after it', async () => {
    const gone: string[] = [];
    const full = async (item: string) => {
      if (item === 'b') throw 'no room';
      return true;
    };
    const taken = await takeInbox(['a', 'b', 'c'], held(gone), full, words);
    expect(taken).toEqual({ stored: 1, problem: { code: 'not-stored', say: 'no room' } });
    expect(gone).toEqual(['a']);
  });

  it('stays there when it is not wanted yet, or the server cannot be reached', async () => {
    const gone: string[] = [];
    expect(await takeInbox(['a'], held(gone), async () => false, words)).toEqual({ stored: 0 });
    expect(await takeInbox(['a', 'b'], held(gone, ['a']), async () => true, words)).toMatchObject({
      ...{ stored: 0, problem: { code: 'unreached' } },
    });
    expect(gone).toEqual([]);
  });
});
