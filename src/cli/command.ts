import { readFileSync, realpathSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';

/** Something that was asked for in a way that cannot be done: said in the user's words, exit status 2. */
class WrongUse extends Error {}

/** Ends a command with a word on what is wrong with how it was used. */
export function stop(words: string): never {
  throw new WrongUse(words);
}

/** The text of a file in UTF-8 or UTF-16 (with its mark); ends the command in words where there is none. */
export function textIn(file: string): string {
  let bytes: Buffer;
  try {
    if (statSync(file).isDirectory()) return stop(`${file} is a folder, not a file.`);
    bytes = readFileSync(file);
  } catch (error) {
    if (error instanceof WrongUse) throw error;
    return stop(`${file} cannot be opened.`);
  }
  const kind =
    bytes[0] === 0xff && bytes[1] === 0xfe
      ? 'utf-16le'
      : bytes[0] === 0xfe && bytes[1] === 0xff
        ? 'utf-16be'
        : 'utf-8';
  const text = new TextDecoder(kind).decode(bytes);
  if (text.includes('\0')) return stop(`${file} is no text file: save it as UTF-8.`);
  return text;
}

/** A file that is JSON; ends the command in words where it is not. */
export function jsonIn(file: string): unknown {
  const text = textIn(file);
  try {
    return JSON.parse(text);
  } catch {
    return stop(`${file} is not JSON.`);
  }
}

/** Whether two names are one file: the same path, through links of either kind. */
function isSameFile(a: string, b: string): boolean {
  if (resolve(a) === resolve(b)) return true;
  try {
    const [x, y] = [statSync(a), statSync(b)];
    return realpathSync(a) === realpathSync(b) || (x.ino === y.ino && x.dev === y.dev && x.ino !== 0);
  } catch {
    // One that is not there is no other.
    return false;
  }
}

/**
 * What writes the result of a command to `out`, whole or not at all: beside it first, then renamed. Ends the command, before
 * anything is worked out, where `out` is one of the files it reads, a folder, or in a folder that is not there.
 */
export function outputTo(out: string, inputs: readonly string[]): (text: string) => void {
  const own = inputs.find(file => isSameFile(file, out));
  if (own !== undefined)
    stop(`${out} is read by this command and would be overwritten. Choose another --out.`);
  const isFolder = (path: string) => {
    try {
      return statSync(path).isDirectory();
    } catch {
      return undefined;
    }
  };
  if (isFolder(out)) stop(`${out} is a folder. Name a file in it.`);
  if (!isFolder(dirname(resolve(out)))) stop(`The folder of ${out} is not there.`);
  return text => {
    const beside = join(dirname(out), `.${basename(out)}.${process.pid}`);
    try {
      writeFileSync(beside, text);
      renameSync(beside, out);
    } catch (error) {
      rmSync(beside, { force: true });
      stop(`${out} cannot be written: ${error instanceof Error ? error.message : error}.`);
    }
  };
}

/** What a command does; a number is its exit status where it is not 0. */
type Main = (args: string[]) => unknown;

/** Runs a command with these arguments; gives its exit status: 0, or 2 where it was used wrongly. */
export async function statusOf(main: Main, args: string[]): Promise<number> {
  try {
    const status = await main(args);
    return typeof status === 'number' ? status : 0;
  } catch (error) {
    const isWrongOption =
      error instanceof TypeError && String((error as { code?: string }).code).startsWith('ERR_PARSE_ARGS');
    if (!(error instanceof WrongUse) && !isWrongOption) throw error;
    console.error(error.message);
    return 2;
  }
}

/** Runs a command where its file is what Node was started with; not where it is only loaded. */
export async function runIfStarted(url: string, main: Main): Promise<void> {
  const started = process.argv[1];
  if (started && url === pathToFileURL(started).href)
    process.exit(await statusOf(main, process.argv.slice(2)));
}
