import { type Drying, dryingHints } from '../../core/drying/index.ts';
import { joined, many, minutes, say, thick } from '../../core/say/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import { Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';

interface Props {
  /** The trial as it is planned now. */
  readonly plan: TrialPlan | undefined;
  /** In the reference air, by the medium's id. */
  readonly learnt: ReadonlyMap<string, Drying>;
}

/** How long the chosen mediums take to dry in the air of the plan; stands where the wait is chosen. */
export function DryingHint({ plan, learnt }: Props) {
  const dry = plan ? dryingHints(plan, learnt) : [];
  if (!dry.length) return null;
  const words = dry.map(({ medium, coatMm: [least, most], hours: [lo, hi], answers }) => {
    const coat = thick(least, least === most ? {} : { to: most });
    const from = answers ? say`from ${many(answers, 'answer')} of yours` : 'as its jar says';
    return say`${medium}, ${coat} thick, after ${minutes(lo * 60, { to: hi * 60 })}, ${from}`;
  });
  return (
    <Text mt="2" color="fg.muted" fontSize="0.95rem">
      <Said>{say`Likely dry in this air: ${joined(words, '; ')}.`}</Said>
    </Text>
  );
}
