import { isDull } from '../../../core/photos/index.ts';
import { about } from '../../../core/trial/index.ts';
import { Text } from '../../ui/kit.tsx';
import { useTrial } from '../view.tsx';

/** How much of a ground shone, with what it may be off by. */
export const glossWords = ({
  gloss,
  uncertainty,
}: {
  readonly gloss: number;
  readonly uncertainty: number;
}): string => `${gloss.toFixed(0)} % (± ${Math.max(1, uncertainty).toFixed(0)}) of the ground shines`;

/** What the photo of a patch's bare ground said, and what to do about it before it is coated. */
export function GroundLine({ code }: { code: string }) {
  const { records } = useTrial();
  const seen = about(records, code, 'gloss').at(-1);
  if (!seen) return null;
  return (
    <Text mt="3" fontSize="1.1rem">
      <b>Before it was coated:</b> {glossWords(seen)}.{' '}
      {isDull(seen)
        ? 'It is dull enough to hold.'
        : 'What shines does not hold: etch or sand it once more there, by the label of what you use, and wipe it clean.'}
    </Text>
  );
}
