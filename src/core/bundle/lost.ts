import { agree } from '../say/index.ts';
/**
 * What is said of a trial that came in without photos that were damaged in its file; nothing where none was.
 *
 * @example lostWords('Berth plates', ['p1', 'p2']); // => '“Berth plates”: 2 photos are damaged in this file and were left out (p1, p2).'
 * @example lostWords('Berth plates', []); // => undefined
 */
export function lostWords(name: string, lost: readonly string[]): string | undefined {
  if (!lost.length) return undefined;
  const named = lost.length > NAMED ? `${lost.slice(0, NAMED).join(', ')} …` : lost.join(', ');
  const what = lost.length === 1 ? '1 photo is' : `${lost.length} photos are`;
  return `“${name}”: ${what} damaged in this file and ${agree(lost.length, 'was', 'were')} left out (${named}).`;
}

/** So many lost photos are named one by one. */
const NAMED = 6;
