import type { picked } from '../../core/advice/index.ts';
import { within } from '../../core/say/index.ts';
import { moment } from '../ui/time.ts';

/** Why a patch that was chosen does not come now, and when it does. */
export const notNow = (
  code: string,
  found: Exclude<ReturnType<typeof picked>, { readonly kind: 'now' }>,
  now: number,
): string =>
  found.kind === 'nothing'
    ? `${code} is finished or written off.`
    : found.kind === 'others'
      ? `${found.link.step.action} happens to the whole piece, and waits for ${found.others.slice(0, 3).join(', ')}${found.others.length > 3 ? ' and others' : ''}.`
      : `${code} has to wait until ${moment(found.opens, now)}: ${within(found.link.step.action)}. It comes then.`;
