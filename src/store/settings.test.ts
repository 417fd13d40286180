import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { USUAL_WORKING } from '../core/schedule/index.ts';
import { changeSettings, loadSettings } from './settings.ts';

/** Nobody works at night who did not say so. */
const BY_DAY = {
  ...USUAL_WORKING,
  sittings: [{ days: [0, 1, 2, 3, 4, 5, 6], from: '08:00', to: '22:00' }],
};

const KEY = 'wet-test-settings';
let kept: Map<string, string>;
beforeEach(() => {
  kept = new Map();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
  });
});
afterEach(() => vi.unstubAllGlobals());

describe('settings', () => {
  it('are metric, in daylight, with sound, and with nothing left open about how one works', () => {
    expect(loadSettings()).toMatchObject({ system: 'metric', mode: 'light', sound: true, notify: false });
    expect(loadSettings().working).toEqual(BY_DAY);
  });

  it('come back as they were kept', () => {
    const own = {
      ...loadSettings(),
      system: 'imperial' as const,
      speech: true,
      working: {
        ...USUAL_WORKING,
        helpers: 2,
        ovenHolds: 6,
        sittings: [{ days: [1, 3], from: '18:00', to: '21:30' }],
      },
    };
    changeSettings(loadSettings(), own);
    expect(loadSettings()).toEqual(own);
  });

  it('of two tabs are both kept: each changes only what it changes', () => {
    const [one, other] = [loadSettings(), loadSettings()];
    expect(changeSettings(one, { system: 'imperial' })).toMatchObject({
      settings: { system: 'imperial' },
      isKept: true,
    });
    expect(changeSettings(other, { mode: 'dark' }).settings).toMatchObject({
      system: 'imperial',
      mode: 'dark',
    });
    expect(loadSettings()).toMatchObject({ system: 'imperial', mode: 'dark' });
  });

  it('of an older version keep what they have, and get the rest', () => {
    kept.set(KEY, JSON.stringify({ system: 'imperial', working: { washMin: 3 } }));
    expect(loadSettings()).toMatchObject({ system: 'imperial', mode: 'light' });
    expect(loadSettings().working).toEqual({ ...USUAL_WORKING, washMin: 3 });
  });

  it.each([
    ['no JSON', '{'],
    ['a list', '[]'],
    ['a mode nobody knows', '{"mode":"fog"}'],
    ['a sitting without days', '{"working":{"sittings":[{"days":[],"from":"08:00","to":"09:00"}]}}'],
    ['a time that is none', '{"working":{"sittings":[{"days":[1],"from":"25:00","to":"09:00"}]}}'],
  ])('that are damaged (%s) are the usual ones', (_, words) => {
    kept.set(KEY, words);
    expect(loadSettings().working).toEqual(BY_DAY);
    expect(loadSettings().mode).toBe('light');
  });

  it('hold for the visit where the browser keeps nothing', () => {
    vi.stubGlobal('localStorage', {
      getItem: () => {
        throw new Error('blocked');
      },
      setItem: () => {
        throw new Error('blocked');
      },
    });
    const { settings: dark, isKept } = changeSettings(loadSettings(), { mode: 'dark' });
    expect(isKept).toBe(false);
    expect(changeSettings(dark, { sound: false }).settings).toMatchObject({ mode: 'dark', sound: false });
    expect(loadSettings().system).toBe('metric');
  });
});
