/**
 * Three-way merge of one kept thing, field by field: what was changed from `base` to `mine` is taken from `mine`, all
 * else from `now`, which another tab may have changed since `base` was read. Without a base `mine` stands as it is.
 */
export function mergeFields<T extends object>(base: T | undefined, mine: T, now: T | undefined): T {
  if (!base || !now) return mine;
  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
  const keys = new Set([...Object.keys(mine), ...Object.keys(now)]) as Set<keyof T>;
  const merged = {} as T;
  for (const key of keys) {
    const value = same(base[key], mine[key]) ? now[key] : mine[key];
    if (value !== undefined) merged[key] = value;
  }
  return merged;
}
