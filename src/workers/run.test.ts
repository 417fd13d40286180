import { MessageChannel, type MessagePort } from 'node:worker_threads';
import { type Endpoint, expose } from 'comlink';
import { afterEach, describe, expect, it } from 'vitest';
import { Cancelled, type Progress } from '../core/outcome/index.ts';
import { workerFor } from './run.ts';

const api = {
  double: (n: number) => 2 * n,
  fail: () => {
    throw new Error('No such paper.');
  },
  never: () => new Promise(() => {}),
  tells: async (tell: Progress) => {
    await tell(0.5, 'half');
    // Still on its way when the answer is there.
    setTimeout(() => void tell(1, 'late'), 20);
    return 'done';
  },
};
type Api = typeof api;

const open: MessagePort[] = [];
/** A worker that runs in the same thread; `die` is what the browser says when a real one crashes. */
class Bench {
  static started = 0;
  static ended = 0;
  onerror?: (event: unknown) => void;
  onmessageerror?: () => void;
  readonly #port: MessagePort;
  constructor() {
    Bench.started++;
    const { port1, port2 } = new MessageChannel();
    open.push(port1, port2);
    expose(api, port2 as unknown as Endpoint);
    port2.start();
    port1.start();
    this.#port = port1;
  }
  postMessage = (...args: [unknown]) => this.#port.postMessage(...args);
  addEventListener = (type: string, listener: () => void) =>
    (this.#port as unknown as EventTarget).addEventListener(type, listener);
  removeEventListener = (type: string, listener: () => void) =>
    (this.#port as unknown as EventTarget).removeEventListener(type, listener);
  terminate = () => {
    Bench.ended++;
    this.#port.close();
  };
}
let last: Bench;
const start = () => {
  last = new Bench();
  return last as unknown as Worker;
};
const make = (ending: 'kept' | 'after each job') => workerFor<Api>(start, ending, 'The reader stopped.');

afterEach(() => {
  for (const port of open.splice(0)) port.close();
  Bench.started = 0;
  Bench.ended = 0;
});

describe('a job in a worker', () => {
  it('gives its answer, and the worker is kept or ended as was asked', async () => {
    const kept = make('kept');
    expect(await kept.run(a => a.double(4))).toBe(8);
    expect(await kept.run(a => a.double(5))).toBe(10);
    expect([Bench.started, Bench.ended]).toEqual([1, 0]);
    const once = make('after each job');
    await once.run(a => a.double(4));
    await once.run(a => a.double(5));
    expect([Bench.started, Bench.ended]).toEqual([3, 2]);
  });

  it('that fails says why, and the worker lives on', async () => {
    const kept = make('kept');
    await expect(kept.run(a => a.fail())).rejects.toThrow('No such paper.');
    expect(await kept.run(a => a.double(1))).toBe(2);
    expect(Bench.started).toBe(1);
  });

  it('is ended by its signal, at once, and never begun where that was aborted before', async () => {
    const kept = make('kept');
    const control = new AbortController();
    const job = kept.run(a => a.never(), { signal: control.signal });
    control.abort();
    await expect(job).rejects.toBeInstanceOf(Cancelled);
    expect(Bench.ended).toBe(1);
    await expect(kept.run(a => a.double(1), { signal: control.signal })).rejects.toBeInstanceOf(Cancelled);
    expect(Bench.started).toBe(1);
    expect(await kept.run(a => a.double(3))).toBe(6);
    expect(Bench.started).toBe(2);
  });

  it('settles when its worker dies, with all others that were under way there', async () => {
    for (const die of ['onerror', 'onmessageerror'] as const) {
      const kept = make('kept');
      const jobs = [kept.run(a => a.never()), kept.run(a => a.never())];
      last[die]?.({});
      for (const job of jobs) await expect(job).rejects.toThrow('The reader stopped.');
      expect(await kept.run(a => a.double(2))).toBe(4);
    }
  });

  it('is told of how far it is until it is over, and not after', async () => {
    const told: string[] = [];
    const answer = await make('kept').run((a, word) => a.tells(word), {
      tell: (_, words) => told.push(words),
    });
    expect(answer).toBe('done');
    await new Promise(resolve => setTimeout(resolve, 60));
    expect(told).toEqual(['half']);
  });
});
