/**
 * Whether an error is a part of the application that could not be fetched, because the server has a newer version or
 * does not answer. Each browser says it in its own words.
 *
 * @example isOutdated(new TypeError('Failed to fetch dynamically imported module: /assets/a.js')); // => true
 * @example isOutdated(new TypeError('x is undefined')); // => false
 */
export const isOutdated = (error: unknown): boolean =>
  error instanceof Error &&
  /dynamically imported module|importing a module script failed|unable to preload|error loading dynamically/i.test(
    error.message,
  );
