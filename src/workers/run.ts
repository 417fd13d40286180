import { proxy, type Remote, wrap } from 'comlink';
import { Cancelled, type Progress } from '../core/outcome/index.ts';

/** What a job may be told: where to say how far it is, and when to stop. */
export interface JobOptions {
  readonly tell?: Progress;
  readonly signal?: AbortSignal;
}

/** A worker that jobs are run in. */
export interface WorkerFor<Api> {
  /**
   * Runs one job. Rejects with {@link Cancelled} when its signal is or gets aborted, and with a plain error when the
   * worker dies; both end the worker at once, and the next job starts a new one.
   */
  run<T>(use: (api: Remote<Api>, word: Progress) => Promise<T>, options?: JobOptions): Promise<T>;
}

type Ending = 'kept' | 'after each job';

/** The one way to run work in a worker: `kept` for the next job, or ended after each. `fails` is what is said when it dies. */
export function workerFor<Api>(start: () => Worker, ending: Ending, fails: string): WorkerFor<Api> {
  let kept: Running<Api> | undefined;
  const running = () => {
    const worker = start();
    return { worker, api: wrap<Api>(worker), jobs: new Set<(why: Error) => void>() };
  };
  const take = (): Running<Api> => {
    const now = (ending === 'kept' ? kept : undefined) ?? running();
    if (ending === 'kept') kept = now;
    return now;
  };
  const stop = (what: Running<Api>, why: Error) => {
    if (ending === 'kept') what.worker.terminate();
    if (kept === what) kept = undefined;
    for (const fail of [...what.jobs]) fail(why);
  };
  return {
    run<T>(
      use: (api: Remote<Api>, word: Progress) => Promise<T>,
      { tell = () => {}, signal }: JobOptions = {},
    ): Promise<T> {
      if (signal?.aborted) return Promise.reject(new Cancelled());
      const here = take();
      // Word of progress comes by another way than the result and may come after it: then nobody is told any more.
      let over = false;
      const word: Progress = (share, words) => {
        if (!over) tell(share, words);
      };
      return new Promise<T>((resolve, reject) => {
        const cancel = () => stop(here, new Cancelled());
        const settle = <A>(how: (outcome: A) => void) => {
          return (outcome: A) => {
            over = true;
            here.jobs.delete(fail);
            signal?.removeEventListener('abort', cancel);
            if (ending === 'after each job') here.worker.terminate();
            how(outcome);
          };
        };
        const fail = settle<Error>(reject);
        here.jobs.add(fail);
        here.worker.onerror = event => {
          event.preventDefault?.();
          stop(here, new Error(fails));
        };
        here.worker.onmessageerror = () => stop(here, new Error(fails));
        signal?.addEventListener('abort', cancel, { once: true });
        use(here.api, proxy(word)).then(settle<T>(resolve), fail);
      });
    },
  };
}

interface Running<Api> {
  readonly worker: Worker;
  readonly api: Remote<Api>;
  /** What ends the jobs that are under way. */
  readonly jobs: Set<(why: Error) => void>;
}
