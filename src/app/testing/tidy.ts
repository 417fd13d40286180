import { afterEach, beforeEach, expect } from 'vitest';
import { type Words, write } from '../../core/say/index.ts';

// Words with numbers in them are equal to what they read.
const isSaid = (value: unknown): value is Words =>
  typeof value === 'object' &&
  value !== null &&
  (Array.isArray(value) ? value.some(isSaid) : 'kind' in value || 'name' in value);
expect.addEqualityTesters([(a, b) => (typeof b === 'string' && isSaid(a) ? safely(a) === b : undefined)]);
function safely(words: Words): string | undefined {
  try {
    return write(words);
  } catch {
    return undefined;
  }
}

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
