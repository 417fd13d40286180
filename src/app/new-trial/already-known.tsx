import { useEffect, useState } from 'react';
import { type Compared, comparedSentence, type EvidenceRow } from '../../core/evidence/index.ts';
import { factorIn, type TrialPlan } from '../../core/trial/index.ts';
import { compareEvidence } from '../../workers/index.ts';
import { Box, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';

/** From here on the workshop has its answer. */
const ANSWERED = 0.95;

/** What a plan compares that the trials of the workshop have answered already, or lean to. */
export function AlreadyKnown({ plan, rows }: { plan: TrialPlan; rows: readonly EvidenceRow[] }) {
  const [found, setFound] = useState<readonly Compared[]>([]);
  const keys = plan.factors.map(f => f.key).join();
  useEffect(() => {
    if (!rows.some(r => r.used.method.id === plan.method)) return setFound([]);
    let over = false;
    // What is known is a help and no more: without it the plan stands as it is.
    compareEvidence(rows, plan.method, keys.split(',')).then(
      compared => !over && setFound(compared),
      () => !over && setFound([]),
    );
    return () => {
      over = true;
    };
  }, [keys, plan.method, rows]);
  const own = found.filter(c => {
    const factor = plan.factors.find(f => f.key === c.key);
    return factor && factor.levels.filter(l => c.levels.some(k => k.id === String(l))).length > 1;
  });
  if (!own.length) return null;
  return (
    <Box as="section" aria-label="What you know of this already" mb="3">
      {own.map(c => (
        <Text key={c.key} borderTopWidth="1px" py="1.5">
          <b>{c.levels[0].best >= ANSWERED ? 'Your trials have answered this' : 'Your trials so far'}: </b>
          {factorIn(plan, plan.factors.find(f => f.key === c.key)!.key)}: <Said>{comparedSentence(c)}</Said>
          {c.levels[0].best >= ANSWERED && ' Vary something else, or make this one to confirm it.'}
        </Text>
      ))}
    </Box>
  );
}
