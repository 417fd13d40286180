import { readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import Papa from 'papaparse';
import { findingsIn, type Row } from '../core/findings/table.ts';
import { runIfStarted, stop } from './command.ts';

const USAGE = 'npm run findings -- DATA.csv --roles ROLES.json --out OUT.json';

function read(file: string): string {
  try {
    return readFileSync(file, 'utf8');
  } catch {
    return stop(`${file} cannot be opened.`);
  }
}

/** The draws of a decision on the command line: enough for the second digit. */
const DRAWS = 20_000;

/** What `npm run findings` does with its arguments. Throws where it is used wrongly. */
export function main(args: string[]) {
  const { positionals, values } = parseArgs({
    args,
    allowPositionals: true,
    options: { roles: { type: 'string' }, out: { type: 'string' } },
  });
  if (positionals.length !== 1 || !values.roles || !values.out) stop(USAGE);
  const table = Papa.parse<Row>(read(positionals[0]), { header: true, skipEmptyLines: 'greedy' });
  let roles: unknown;
  try {
    roles = JSON.parse(read(values.roles));
  } catch {
    stop(`${values.roles} is not JSON.`);
  }
  const found = findingsIn(table.data, roles, DRAWS);
  if (!found.ok) stop(`${found.problem.say} ${found.problem.wayOut ?? ''}`.trim());
  writeFileSync(values.out, `${JSON.stringify(found.value, null, 2)}\n`);
  for (const [col, { sentences }] of Object.entries(found.value))
    for (const sentence of sentences) console.log(`${col}: ${sentence}`);
}

await runIfStarted(import.meta.url, main);
