import { ProblemError } from '../core/outcome/index.ts';

/** What the browser's storage refused, in the maker's words. */
export class StorageError extends ProblemError {
  override readonly name = 'StorageError';
}

const FULL = 'There is no room left in this browser’s storage.';
const BLOCKED = 'This browser does not let Wet Test store anything.';
const BROKEN = 'This browser’s storage does not answer as it should';

/** A failure of the storage as a {@link StorageError}: full, blocked or broken; one of those already is given back as it is. */
export function asStorageError(error: unknown): StorageError {
  if (error instanceof StorageError) return error;
  const name = error instanceof Error || error instanceof DOMException ? error.name : '';
  const words = error instanceof Error ? error.message : String(error ?? '');
  if (name === 'QuotaExceededError' || /quota|disk (is )?full|no space/i.test(words))
    return new StorageError({
      code: 'storage-full',
      say: FULL,
      wayOut:
        'Export trials you no longer need, erase them, and do it again. What was stored before is safe.',
    });
  if (name === 'SecurityError' || /no available storage|denied|not allowed|insecure/i.test(words))
    return new StorageError({
      code: 'storage-blocked',
      say: BLOCKED,
      wayOut: 'Allow this page to keep data (a private window may not), then load it again.',
    });
  return new StorageError({
    code: 'storage-broken',
    say: `${BROKEN}${words ? `: ${words}` : ''}.`,
    wayOut: 'Load the page again, then do it once more. What was stored before is safe.',
  });
}
