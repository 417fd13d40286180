/** A patch by its trial's id and its code. */
export interface Hung {
  readonly trial: string;
  readonly code: string;
}

/**
 * Where single patches of any trials hang side by side, below the workshop's own address.
 *
 * @example pathTo([{ trial: 'T1', code: 'CX-2AY' }]); // => 'wall?patch=T1%2FCX-2AY'
 */
export const pathTo = (patches: readonly Hung[]): string =>
  `wall?${new URLSearchParams(patches.map(({ trial, code }): [string, string] => ['patch', `${trial}/${code}`]))}`;

/**
 * What an address asks to hang: the trials, in turn, and of which of them single patches only. A trial that is asked for
 * as a whole hangs as a whole.
 */
export function hungIn(search: URLSearchParams): {
  readonly trials: readonly string[];
  readonly only: ReadonlyMap<string, ReadonlySet<string>>;
} {
  const whole = search.getAll('trial');
  const only = new Map<string, Set<string>>();
  for (const said of search.getAll('patch')) {
    const [trial, code] = said.split('/');
    if (!trial || !code || whole.includes(trial)) continue;
    only.set(trial, (only.get(trial) ?? new Set()).add(code));
  }
  return { trials: [...new Set([...whole, ...only.keys()])], only };
}
