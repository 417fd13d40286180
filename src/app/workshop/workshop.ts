import { useParams } from 'react-router';
import type { WorkshopName } from '../../store/index.ts';

/** Which workshop the address names. */
export function useWorkshop(): WorkshopName {
  return useParams().workshop === 'demo' ? 'demo' : 'mine';
}
