import { parseArgs } from 'node:util';
import Papa from 'papaparse';
import { findingsIn, type Row } from '../core/findings/table.ts';
import { problemWords } from '../core/outcome/index.ts';
import { write as written } from '../core/say/index.ts';
import { jsonIn, outputTo, runIfStarted, stop, textIn } from './command.ts';

const USAGE = 'npm run findings -- DATA.csv --roles ROLES.json --out OUT.json';

/** The draws of a decision on the command line: enough for the second digit. */
const DRAWS = 20_000;

/** From so many rows on a word says that it takes long. */
const MANY = 5000;

/** What `npm run findings` does with its arguments. Throws where it is used wrongly. */
export function main(args: string[]) {
  const { positionals, values } = parseArgs({
    args,
    allowPositionals: true,
    options: { roles: { type: 'string' }, out: { type: 'string' } },
  });
  if (positionals.length !== 1 || !values.roles || !values.out) stop(USAGE);
  const write = outputTo(values.out, [positionals[0], values.roles]);
  const roles = jsonIn(values.roles);
  const table = Papa.parse<Row>(textIn(positionals[0]), { header: true, skipEmptyLines: 'greedy' });
  if (table.data.length >= MANY) console.error(`${table.data.length} rows: this takes a while.`);
  const found = findingsIn(table.data, roles, DRAWS);
  if (!found.ok) stop(written(problemWords(found.problem)));
  write(`${JSON.stringify(found.value, null, 2)}\n`);
  for (const [col, { sentences }] of Object.entries(found.value))
    for (const sentence of sentences) console.log(`${col}: ${sentence}`);
}

await runIfStarted(import.meta.url, main);
