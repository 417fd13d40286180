import * as v from 'valibot';
import { Lessons } from '../drying/seen.ts';
import { EvidenceRow } from '../evidence/row.ts';
import { MEASURES } from '../measures/index.ts';
import { KeptWords } from '../say/schema.ts';

/** Goes up whenever what a summary holds, or how it is worked out, changes: older ones are then made anew. */
export const SUMMARY_VERSION = 10;

const values = v.array(v.number());

/**
 * What lists, the opening view and other trials need to know of a trial, without its plan and its records. Derived
 * from those and never the only place of anything: a summary that is missing, old or damaged is made anew.
 */
export const TrialSummary = v.object({
  version: v.literal(SUMMARY_VERSION),
  id: v.string(),
  code: v.string(),
  name: v.string(),
  question: v.string(),
  method: v.string(),
  createdAt: v.string(),
  patches: v.number(),
  /** Pieces made by a recipe. */
  real: v.boolean(),
  /** How far it is: nothing done yet, work going on, all done but not all read, all read. */
  standing: v.picklist(['planned', 'under way', 'to read', 'read']),
  /** Its donor sheets were saved to be printed. */
  printed: v.boolean(),
  /** Patches with a reading. */
  read: v.number(),
  tags: v.array(v.string()),
  /** Put away by the maker: kept, but not among those they work at. */
  archived: v.boolean(),
  lessons: Lessons,
  /** How often each cause turned out to be the one, as the maker said. */
  turned: v.record(v.string(), v.number()),
  /** How much patches made alike differ, in points landed; nothing while that cannot be told. */
  scatter: v.nullable(v.object({ residualSd: v.number(), degreesOfFreedom: v.number() })),
  /** What it is found by: methods, the names of what was used, notes, and each patch with its levels and symptoms. */
  words: v.object({
    methods: v.array(v.string()),
    materials: v.array(v.string()),
    notes: v.string(),
    patches: v.array(
      v.object({
        code: v.string(),
        levels: KeptWords(300),
        landed: v.nullable(v.number()),
        symptoms: v.array(v.string()),
      }),
    ),
  }),
  /** What it adds to the evidence of the workshop. */
  evidence: v.array(EvidenceRow),
  /** Dry readings of its patches, by measure: what such a trial can be expected to come to. */
  results: v.record(v.picklist(MEASURES.map(m => m.id)), values),
});
export type TrialSummary = v.InferOutput<typeof TrialSummary>;
