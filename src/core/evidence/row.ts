import * as v from 'valibot';
import { KeptWords } from '../say/schema.ts';

/** What evidence is kept of, by the things that were used. */
export const THINGS = ['method', 'medium', 'donor', 'substrate', 'preparation', 'printer'] as const;
export type Thing = (typeof THINGS)[number];

const number = v.pipe(v.number(), v.finite());
const Used = v.object({ id: v.string(), name: v.string(), kind: v.string() });

/** Patches of a trial that were made in one way: what they were made with and what came of them. */
export const EvidenceRow = v.object({
  trial: v.string(),
  code: v.string(),
  at: v.string(),
  used: v.object({
    method: Used,
    medium: Used,
    donor: Used,
    substrate: Used,
    preparation: Used,
    printer: Used,
  }),
  /** Logarithms: of the share of the time it needs to dry that it got, nought where nothing dries; of the coat in mm; rounds. */
  dry: number,
  coat: number,
  rounds: number,
  /** Other things that its trial varied, `key=level`, with the level in words. */
  varied: v.array(v.object({ key: v.string(), level: v.string(), name: KeptWords(300) })),
  /** What landed of those that worked, %. */
  landed: v.array(number),
  failed: number,
  /** How many were judged, and how many of those to be kept. */
  judged: number,
  kept: number,
});
export type EvidenceRow = v.InferOutput<typeof EvidenceRow>;
