import * as v from 'valibot';
import { KINDS, type Kind, type NameOf, type Words } from './words.ts';

const kinds = Object.keys(KINDS) as Kind[];
const NAMES = [
  'level',
  'factor',
  'material',
  'method',
  'patch',
  'picture',
  'trial',
  'step',
] as const satisfies NameOf[];

/** Words that are kept, each text of them at most so long; what a number rests on goes no deeper. */
export function KeptWords(most: number): v.GenericSchema<Words> {
  const text = v.pipe(v.string(), v.maxLength(most));
  const name = v.object({ name: text, of: v.picklist(NAMES) });
  const quantity = {
    kind: v.picklist(kinds),
    value: v.number(),
    to: v.optional(v.number()),
    by: v.optional(v.number()),
    places: v.optional(v.number()),
    bare: v.optional(v.boolean()),
    noun: v.optional(v.tuple([text, text])),
    of: v.optional(v.picklist(kinds.filter(k => k !== 'give'))),
  };
  const row = <P extends v.GenericSchema>(part: P) => v.union([part, v.pipe(v.array(part), v.maxLength(60))]);
  const below = row(v.union([text, name, v.object(quantity)]));
  const part = v.union([text, name, v.object({ ...quantity, rests: v.optional(below) })]);
  return row(part) as unknown as v.GenericSchema<Words>;
}
