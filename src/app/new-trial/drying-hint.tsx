import { Text } from '@chakra-ui/react';
import type { PlanRequest } from '../../core/design/index.ts';
import type { Drying } from '../../core/drying/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { coatFactor, dryingFactor, span } from '../../core/units/index.ts';
import { Said } from '../ui/settings.tsx';

interface Props {
  readonly request: PlanRequest;
  readonly shelf: Shelf;
  /** In the reference air, by the medium's id. */
  readonly learnt: ReadonlyMap<string, Drying>;
}

/** How long the chosen mediums take to dry in the air of the plan; stands where the wait is chosen. */
export function DryingHint({ request, shelf, learnt }: Props) {
  const { usual, factors, air } = request;
  const varied = factors.find(f => f.key === 'medium')?.levels ?? [usual.medium];
  const coatMm = Number(factors.find(f => f.key === 'coatMm')?.levels[0] ?? usual.coatMm);
  const slower = dryingFactor(air) * coatFactor(coatMm);
  const dry = shelf.mediums.flatMap(({ id, name }) => {
    const drying = varied.includes(id) ? learnt.get(id) : undefined;
    if (!drying) return [];
    const [lo, hi] = [drying.lo, drying.hi].map(h => span(h * slower * 60));
    const from = drying.answers
      ? `from ${drying.answers} ${drying.answers === 1 ? 'answer' : 'answers'} of yours`
      : 'as its jar says';
    return [`${name} after ${lo} to ${hi}, ${from}`];
  });
  if (!dry.length || !Number.isFinite(slower)) return null;
  return (
    <Text mt="2" color="fg.muted" fontSize="0.95rem">
      <Said>{`Likely dry in this air, ${coatMm} mm thick: ${dry.join('; ')}.`}</Said>
    </Text>
  );
}
