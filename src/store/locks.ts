/**
 * Who may change what, across all tabs of a browser: the browser's own locks where it has them (every secure page),
 * and turns within this page elsewhere.
 */
export interface Locks {
  /** Runs `work` when nobody else holds `name`. */
  inTurn<T>(name: string, work: () => Promise<T>): Promise<T>;
  /** Runs `work` only if nobody holds `name` now; says whether it did. */
  ifFree(name: string, work: () => Promise<void>): Promise<boolean>;
  /** Whether other tabs keep to the same turns. */
  readonly acrossTabs: boolean;
}

const turns = new Map<string, Promise<unknown>>();

const withinPage: Locks = {
  acrossTabs: false,
  inTurn<T>(name: string, work: () => Promise<T>): Promise<T> {
    const next = (turns.get(name) ?? Promise.resolve()).then(work, work);
    const settled = next.then(
      () => undefined,
      () => undefined,
    );
    turns.set(name, settled);
    void settled.then(() => {
      if (turns.get(name) === settled) turns.delete(name);
    });
    return next;
  },
  async ifFree(name, work) {
    if (turns.has(name)) return false;
    await withinPage.inTurn(name, work);
    return true;
  },
};

const ofBrowser = (manager: LockManager): Locks => ({
  acrossTabs: true,
  inTurn: <T>(name: string, work: () => Promise<T>) => manager.request(name, work) as unknown as Promise<T>,
  ifFree: (name, work) =>
    manager.request(name, { ifAvailable: true }, async lock => {
      if (!lock) return false;
      await work();
      return true;
    }) as unknown as Promise<boolean>,
});

/** The locks this browser has. */
export const browserLocks = (): Locks =>
  typeof navigator !== 'undefined' && navigator.locks ? ofBrowser(navigator.locks) : withinPage;
