import { type ChildProcess, fork } from 'node:child_process';
import { once } from 'node:events';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import type { Outcome } from '../core/outcome/index.ts';
import type { Cut, ReadPhoto } from '../core/reading/index.ts';
import { type Hand, handsFor } from '../workers/many-hands.ts';
import type { Task } from './read-part.ts';

/** Readers in processes of their own: for the patches of boards, answered with an outcome, and for photos. */
export interface Beside {
  readonly hands: readonly Hand<Task, unknown>[];
  readonly end: () => void;
}

/** Starts readers beside this one, as many as so many photos or patches are worth on this machine; they live until they are ended. */
export function readersBeside(tasks: number, cores = availableParallelism()): Beside {
  const readers = Array.from({ length: handsFor(tasks, cores) }, () =>
    fork(fileURLToPath(new URL('./read-part.ts', import.meta.url)), {
      execArgv: ['--import', 'tsx'],
      serialization: 'advanced',
      // What it has to say about itself is no answer to who asked for a reading.
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    }),
  );
  const handOf = (reader: ChildProcess): Beside['hands'][number] => {
    // Where it cannot even begin, it is the other that tells.
    const isReady = once(reader, 'message').catch(() => new Promise<never>(() => {}));
    const isGone = new Promise<never>((_, reject) => {
      const gone = () => reject(new Error('A reader beside this one ended.'));
      reader.once('exit', gone).once('error', gone);
    });
    // Whether anybody waits for it or not.
    isGone.catch(() => {});
    const answered = async (task: Task): Promise<unknown> => {
      const answer = once(reader, 'message');
      reader.send(task);
      return (await answer)[0];
    };
    return work => Promise.race([isGone, isReady.then(() => work(answered))]);
  };
  return {
    hands: readers.map(handOf),
    end: () => {
      for (const reader of readers) reader.kill();
    },
  };
}

/** A reader for tasks of another kind: what is sent of each, and what its answer is taken for. */
export const handFor =
  <T, R>(sent: (task: T) => Task, got: (task: T, answer: unknown) => R) =>
  (hand: Beside['hands'][number]): Hand<T, R> =>
  work =>
    hand(use => work(async task => got(task, await use(sent(task)))));

/** A reader for the patches of a board. */
export const handOfCuts = handFor(
  (cut: () => Cut) => ({ cut: cut() }),
  (_, answer) => answer as Outcome<ReadPhoto>,
);
