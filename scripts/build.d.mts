/** Runs the build unless dist is newer than every source; ends the process when it fails. */
export function buildIfStale(): void;
