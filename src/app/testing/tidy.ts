import { afterEach, beforeEach } from 'vitest';

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
