import { afterEach, describe, expect, it, vi } from 'vitest';
import { browserMarks } from './marks.ts';

afterEach(() => vi.unstubAllGlobals());

const storage = (most = 99) => {
  const kept = new Map<string, string>();
  return {
    kept,
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => {
      if (kept.size >= most) throw new DOMException('full', 'QuotaExceededError');
      kept.set(key, value);
    },
    removeItem: (key: string) => void kept.delete(key),
  };
};

describe('marks of what was written to', () => {
  it('are there for every tab at once, each workshop’s own, until they are taken away', () => {
    vi.stubGlobal('localStorage', storage());
    const [one, other, demo] = [browserMarks('mine')!, browserMarks('mine')!, browserMarks('demo')!];
    one.add('T1');
    expect([one.has('T1'), other.has('T1'), demo.has('T1'), one.has('T2')]).toEqual([
      true,
      true,
      false,
      false,
    ]);
    other.remove('T1');
    expect(one.has('T1')).toBe(false);
  });

  it('stop nothing where there is no room for them, and are not there where the browser keeps nothing', () => {
    vi.stubGlobal('localStorage', storage(1));
    const marks = browserMarks('mine')!;
    marks.add('T1');
    expect(() => marks.add('T2')).not.toThrow();
    expect([marks.has('T1'), marks.has('T2')]).toEqual([true, false]);
    const refuse = () => {
      throw new DOMException('', 'SecurityError');
    };
    vi.stubGlobal('localStorage', { getItem: refuse, setItem: refuse, removeItem: refuse });
    expect(browserMarks('mine')).toBeUndefined();
  });
});
