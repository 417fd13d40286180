import { RESPONSES } from '../../measures/index.ts';
import { observations } from '../seen.ts';
import type { Kind } from './kind.ts';

/** Everything that is read from photos and can be judged by. */
export const READ: readonly Kind[] = RESPONSES.map(({ id, name, goal, response }) => ({
  ...{ id, name, goal, response },
  values: (plan, records) => new Map(observations(plan, records, id).map(o => [o.code, o.value])),
}));
