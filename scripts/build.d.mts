/** Runs the build unless dist is newer than every source; ends the process when it fails. */
export function buildIfStale(): void;
/** Writes what compresses well in a folder once more beside itself, as .br and .gz. */
export function compressAll(folder: string): void;
