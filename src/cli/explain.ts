import { parseArgs } from 'node:util';
import { explainCase } from '../core/diagnosis/index.ts';
import { type Words, write as written } from '../core/say/index.ts';
import { jsonIn, outputTo, runIfStarted, stop } from './command.ts';

const USAGE = 'npm run explain -- CASES.json --out OUT.json';

function cases(file: string): unknown[] {
  const data = jsonIn(file);
  const found = Array.isArray(data) ? data : (data as { cases?: unknown } | null)?.cases;
  if (Array.isArray(found)) return found;
  return stop(`${file} has no list of “cases”.`);
}

/** What `npm run explain` does with its arguments. Throws where it is used wrongly. */
export function main(args: string[]) {
  const { positionals, values } = parseArgs({
    args,
    allowPositionals: true,
    options: { out: { type: 'string' } },
  });
  if (positionals.length !== 1 || !values.out) stop(USAGE);
  const write = outputTo(values.out, positionals);
  const found = cases(positionals[0]).map(c => {
    const explained = explainCase(c);
    if (!explained.ok) return stop(written(explained.problem.say));
    const { causes, ...rest } = explained.value;
    const read = (said: readonly Words[]) => said.map(words => written(words));
    return { ...rest, causes: causes.map(c => ({ ...c, for: read(c.for), against: read(c.against) })) };
  });
  write(`${JSON.stringify(found, null, 2)}\n`);
  for (const { id, causes } of found) {
    const [first] = causes;
    console.log(
      first ? `${id}: ${first.id}, ${Math.round(100 * first.likely)} %` : `${id}: nothing that is known`,
    );
  }
}

await runIfStarted(import.meta.url, main);
