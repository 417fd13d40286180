import { deedOf, type Step } from '../methods/index.ts';
import { within } from '../say/index.ts';
import { FINISHES, isOne, MEDIUMS } from '../shelf/index.ts';
import type { PatchSettings } from '../trial/index.ts';

/** What a step is done with, for the hand to reach for. */
export interface WithWhat {
  readonly name: string;
  /** How thick it goes on, mm; nothing where it has no thickness. */
  readonly coatMm?: number;
}

/**
 * What is taken up at a step of a patch: its preparation, medium, print, tool or finish; nothing where hands are enough.
 *
 * @example withWhat(methods[0].steps[5], { ...settings, rubTool: undefined }); // => undefined
 */
export function withWhat(step: Step, s: PatchSettings): WithWhat | undefined {
  if (step.onlyIfPrepared) return { name: s.preparation.name };
  if (step.onlyIfFinished) return s.finish && { name: s.finish.name };
  const { takes, brushes } = deedOf(step.does);
  switch (takes) {
    case 'medium':
      if (isOne(MEDIUMS.nothing, s.medium.kind)) return undefined;
      return brushes ? { name: s.medium.name, coatMm: s.coatMm } : { name: s.medium.name };
    case 'donor':
      return { name: `${s.donor.name} from ${within(s.printer.name)}` };
    case 'finish':
      return s.finish && !isOne(FINISHES.nothing, s.finish.kind) ? { name: s.finish.name } : undefined;
    case 'rubTool':
    case 'pressing': {
      const tool = s[takes];
      return tool && { name: tool.name };
    }
    default:
      return undefined;
  }
}
