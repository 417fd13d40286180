import { readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { toJsonSchema } from '@valibot/to-json-schema';
import * as v from 'valibot';
import { Case } from '../core/diagnosis/index.ts';
import { Method } from '../core/methods/index.ts';
import { RecipeEventForm } from '../core/recipe-book/index.ts';
import { Shelf } from '../core/shelf/index.ts';
import { SCHEMA_VERSION, TrialPlan, TrialRecord } from '../core/trial/index.ts';
import { runIfStarted } from './command.ts';

const HERE = dirname(fileURLToPath(import.meta.url));
/** Where the schemas of what is exported are kept. */
export const SCHEMAS = join(HERE, '../../docs/schemas');

/** What is in `trial.json` of an exported trial (docs/FORMATS.md). */
const TrialFile = v.object({
  format: v.literal('wet-test-trial'),
  schema: v.literal(SCHEMA_VERSION),
  exportedAt: v.pipe(v.string(), v.isoTimestamp()),
  plan: TrialPlan,
  records: v.array(TrialRecord),
  photos: v.array(
    v.object({ id: v.string(), file: v.string(), crc32: v.pipe(v.string(), v.regex(/^[0-9a-f]{8}$/)) }),
  ),
  missing: v.optional(v.array(v.string())),
});

const FORMS = {
  trial: ['The trial.json of an exported trial', TrialFile],
  recipe: ['One event of a recipe', RecipeEventForm],
  method: ['A method as a line of steps', Method],
  shelf: ['A whole shelf', Shelf],
  cases: ['Cases to be explained', v.object({ cases: v.array(Case) })],
} as const;

/**
 * The JSON Schema (draft 7) of everything that is exported as JSON, by name. What a schema cannot say, such as that
 * every photo a record names has to be there, is checked when a file is read.
 */
export function schemas(): Readonly<Record<keyof typeof FORMS, string>> {
  const one = ([title, form]: (typeof FORMS)[keyof typeof FORMS]) =>
    `${JSON.stringify({ title, ...toJsonSchema(form as v.GenericSchema, { errorMode: 'ignore', target: 'draft-07', typeMode: 'input' }) }, null, 1)}\n`;
  return Object.fromEntries(Object.entries(FORMS).map(([name, form]) => [name, one(form)])) as never;
}

/** A schema as it is kept. */
export const keptSchema = (name: string): string =>
  readFileSync(join(SCHEMAS, `${name}.schema.json`), 'utf8');

await runIfStarted(import.meta.url, () => {
  for (const [name, text] of Object.entries(schemas()))
    writeFileSync(join(SCHEMAS, `${name}.schema.json`), text);
  console.log(`${Object.keys(FORMS).length} schemas in docs/schemas`);
});
