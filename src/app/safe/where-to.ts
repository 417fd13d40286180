/** Where a backup is written to: what takes the bytes, and what is to be done when all are there. */
export interface Sink {
  readonly to: WritableStream<Uint8Array>;
  /** Where it is now, in words. */
  readonly done: () => Promise<string>;
}

type Picks = Window & {
  showDirectoryPicker?: (options: { mode: 'readwrite' }) => Promise<FileSystemDirectoryHandle>;
};
type Asks = FileSystemDirectoryHandle & {
  requestPermission?: (options: { mode: 'readwrite' }) => Promise<PermissionState>;
};

/** Whether this browser lets a page write into a folder the maker chose. */
export const canChooseFolder = (): boolean => Boolean((window as Picks).showDirectoryPicker);

/** The folder the maker chooses; nothing where none was chosen. */
export async function chooseFolder(): Promise<FileSystemDirectoryHandle | undefined> {
  try {
    return await (window as Picks).showDirectoryPicker!({ mode: 'readwrite' });
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') return undefined;
    throw error;
  }
}

/** A file in a folder; the browser puts it there when all of it is written. Throws where the folder may not be written to. */
export async function intoFolder(folder: FileSystemDirectoryHandle, name: string): Promise<Sink> {
  const may = (await (folder as Asks).requestPermission?.({ mode: 'readwrite' })) ?? 'granted';
  if (may !== 'granted') throw new Error(`the folder “${folder.name}” may not be written to`);
  const file = await (await folder.getFileHandle(name, { create: true })).createWritable();
  const writer = file.getWriter();
  return {
    to: new WritableStream<Uint8Array>({
      write: chunk => writer.write(chunk as unknown as ArrayBuffer),
      close: () => writer.close(),
      abort: why => writer.abort(why),
    }),
    done: async () => `“${name}” is in the folder “${folder.name}”.`,
  };
}

/** A download, put together from pieces that the browser may keep on disk. */
export function asDownload(name: string, save: (file: Blob, name: string) => void): Sink {
  const pieces: Blob[] = [];
  return {
    to: new WritableStream<Uint8Array>({
      write: chunk => {
        pieces.push(new Blob([chunk as BlobPart]));
      },
    }),
    done: async () => {
      save(new Blob(pieces, { type: 'application/zip' }), name);
      return `“${name}” is where your browser keeps downloads.`;
    },
  };
}

/** Bytes as people say them. */
export const sizeWords = (bytes: number): string =>
  bytes < 1e6
    ? `${Math.max(1, Math.round(bytes / 1e3))} kB`
    : bytes < 1e9
      ? `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`
      : `${(bytes / 1e9).toFixed(1)} GB`;
