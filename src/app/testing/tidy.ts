import { afterEach } from 'vitest';

// What one test opened is gone before the next.
if (typeof document !== 'undefined')
  afterEach(async () => {
    (await import('@testing-library/react')).cleanup();
    localStorage.clear();
  });
