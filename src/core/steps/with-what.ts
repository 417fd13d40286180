import type { Step } from '../methods/index.ts';
import type { PatchSettings } from '../trial/index.ts';

/** What a step is done with, for the hand to reach for. */
export interface WithWhat {
  readonly name: string;
  /** How thick it goes on, mm; nothing where it has no thickness. */
  readonly coatMm?: number;
}

const PLACING = new Set(['place', 'print-down']);
const COATING = new Set(['coat', 'base']);

/** What is taken up at a step of a patch: its preparation, medium, print, tool or finish; nothing where hands are enough. */
export function withWhat(step: Step, s: PatchSettings): WithWhat | undefined {
  if (step.onlyIfPrepared) return { name: s.preparation.name };
  if (step.onlyIfFinished) return s.finish && { name: s.finish.name };
  if (COATING.has(step.id) && s.medium.kind !== 'none') return { name: s.medium.name, coatMm: s.coatMm };
  if (PLACING.has(step.id)) return { name: `${s.donor.name} from ${s.printer.name.toLowerCase()}` };
  if (step.id === 'rub') return s.rubTool && { name: s.rubTool.name };
  if (step.id === 'burnish') return s.pressing && { name: s.pressing.name };
  return undefined;
}
