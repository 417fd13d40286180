import { inAir, learntShortWait, type ShortWait } from '../../core/drying/index.ts';
import { span } from '../../core/say/index.ts';
import { type Air, REFERENCE_AIR } from '../../core/units/index.ts';
import { Tick } from '../ui/tick.tsx';

/** The wait before pulling that a workshop learnt of a method, as a function of the air; nothing where it learnt none. */
export function learntWait(
  method: string,
  lessons: Parameters<typeof learntShortWait>[1],
): ((air: Air) => ShortWait) | undefined {
  const known = learntShortWait(method, lessons, REFERENCE_AIR);
  return known && (air => inAir(known, air));
}

/** Offers the wait that was learnt; taken unless the maker says no. */
export function LearntWait({
  wait,
  on,
  onChange,
}: {
  wait: ShortWait;
  on: boolean;
  onChange: (on: boolean) => void;
}) {
  return (
    <Tick checked={on} onChange={onChange} minH="48px">
      Wait {span(wait.min)} before pulling: that landed most in your {wait.patches} patches, in this air (
      {span(wait.lo)} to {span(wait.hi)})
    </Tick>
  );
}
