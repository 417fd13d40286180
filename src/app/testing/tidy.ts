import { afterEach, beforeEach, expect } from 'vitest';
import { write } from '../../core/say/index.ts';
import { isSaid } from '../../core/say/testing.ts';

// Words with numbers in them are equal to what they read, and are written so in snapshots.
expect.addEqualityTesters([(a, b) => (typeof b === 'string' && isSaid(a) ? write(a) === b : undefined)]);
expect.addSnapshotSerializer({
  test: isSaid,
  serialize: (words, config, indent, depth, refs, print) => print(write(words), config, indent, depth, refs),
});

/** A worker that never answers: what is worked out beside a page is tested where it is worked out. */
class Silent {
  onerror = null;
  onmessageerror = null;
  postMessage(): void {}
  terminate(): void {}
  addEventListener(): void {}
  removeEventListener(): void {}
}

// What one test opened is gone before the next.
if (typeof document !== 'undefined') {
  // Nothing is asked of a server either.
  const fetch = () => Promise.reject(new TypeError('There is no network here.'));
  Object.assign(globalThis, { Worker: Silent, fetch });
  window.scrollTo = () => {};
  // Somebody who works at every hour: a test is the same by night.
  beforeEach(async () => {
    const { changeSettings, loadSettings } = await import('../../store/settings.ts');
    const settings = loadSettings();
    changeSettings(settings, { working: { ...settings.working, sittings: [] } });
  });
  afterEach(async () => {
    (await import('@testing-library/react')).cleanup();
    localStorage.clear();
  });
}
