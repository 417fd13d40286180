import { type Drying, dryingHints } from '../../core/drying/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import { span } from '../../core/units/index.ts';
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
  const words = dry.map(({ medium, coatMm: [thin, thick], hours: [lo, hi], answers }) => {
    const coat = thin === thick ? `${thin} mm` : `${thin} to ${thick} mm`;
    const from = answers
      ? `from ${answers} ${answers === 1 ? 'answer' : 'answers'} of yours`
      : 'as its jar says';
    return `${medium}, ${coat} thick, after ${span(lo * 60)} to ${span(hi * 60)}, ${from}`;
  });
  return (
    <Text mt="2" color="fg.muted" fontSize="0.95rem">
      <Said>{`Likely dry in this air: ${words.join('; ')}.`}</Said>
    </Text>
  );
}
