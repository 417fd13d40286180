import type { PlanRequest } from '../../core/design/index.ts';

/** What was said of factors that are there no longer goes with them. */
export function trimmed(request: PlanRequest, factors: PlanRequest['factors']): Partial<PlanRequest> {
  const keys = factors.map(f => f.key);
  const same = keys.join() === request.factors.map(f => f.key).join();
  const stripKey = request.stripKey && keys.includes(request.stripKey) ? request.stripKey : null;
  const design =
    (request.design === 'ladder' && factors.length > 1) ||
    (request.design === 'strips' && !stripKey) ||
    factors.length < 2
      ? request.design === 'ladder' && factors.length === 1
        ? request.design
        : 'every combination'
      : request.design;
  return {
    factors,
    interactions: same ? request.interactions : [],
    groupKey: request.groupKey && keys.includes(request.groupKey) ? request.groupKey : null,
    stripKey,
    design,
  };
}
