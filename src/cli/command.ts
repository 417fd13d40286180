import { pathToFileURL } from 'node:url';

/** Something that was asked for in a way that cannot be done: said in the user's words, exit status 2. */
class WrongUse extends Error {}

/** Ends a command with a word on what is wrong with how it was used. */
export function stop(words: string): never {
  throw new WrongUse(words);
}

type Main = (args: string[]) => void | Promise<void>;

/** Runs a command with these arguments; gives its exit status: 0, or 2 where it was used wrongly. */
export async function statusOf(main: Main, args: string[]): Promise<number> {
  try {
    await main(args);
    return 0;
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
