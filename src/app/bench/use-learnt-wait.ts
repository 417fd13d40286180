import { useEffect, useState } from 'react';
import type { ShortWait } from '../../core/drying/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import type { Air } from '../../core/units/index.ts';
import { asksForWait } from './bench.model.ts';
import type { learntWait } from './learnt-wait.tsx';

type Lessons = Parameters<typeof learntWait>[1];

/** The learnt wait of a trial's method: what works it out is fetched only where there is something to learn from. */
export function useLearntWait(
  plan: TrialPlan,
  lessons: Lessons,
): { readonly state: 'none' | 'looking' | 'found'; readonly wait?: (air: Air) => ShortWait } {
  const asks = asksForWait(plan, lessons);
  const [found, setFound] = useState<{
    readonly of: Lessons;
    readonly wait: ReturnType<typeof learntWait>;
  }>();
  useEffect(() => {
    if (!asks) return;
    let gone = false;
    import('./learnt-wait.tsx').then(
      ({ learntWait }) => {
        if (!gone) setFound({ of: lessons, wait: learntWait(plan.method, lessons) });
      },
      // Where it cannot be fetched one waits as it was planned.
      () => {
        if (!gone) setFound({ of: lessons, wait: undefined });
      },
    );
    return () => {
      gone = true;
    };
  }, [asks, plan.method, lessons]);
  if (!asks) return { state: 'none' };
  if (found?.of !== lessons) return { state: 'looking' };
  return found.wait ? { state: 'found', wait: found.wait } : { state: 'none' };
}
