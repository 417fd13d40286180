import { milkOver, roundsSeen } from '../../../core/photos/index.ts';
import { within } from '../../../core/say/index.ts';
import { WEAR } from '../../../core/steps/index.ts';
import { type Patch, readingsOf, settingsOf } from '../../../core/trial/index.ts';
import { Box, Text } from '../../ui/kit.tsx';
import { useNow } from '../../workshop/use-now.ts';
import { useTrial } from '../view.tsx';

const day = (ms: number) =>
  new Intl.DateTimeFormat(undefined, { weekday: 'short', day: 'numeric', month: 'short' }).format(ms);

/** Every reading of a patch, what each round took off, and how a cloudy layer clears. */
export function OverTime({ patch, hasRounds }: { patch: Patch; hasRounds: boolean }) {
  const { plan, records } = useTrial();
  const now = useNow(60_000);
  const readings = readingsOf(records, patch.code);
  if (readings.length < 2) return null;
  const { steps, next, isWorthIt } = roundsSeen(readings);
  const { method } = settingsOf(plan, patch);
  // What lies white over a picture that no paper was rubbed off is the layer itself.
  const isClearLayer = !method.usesWater && !method.usesHeat && ['peel', 'none'].includes(method.removal);
  const milk = isClearLayer ? milkOver(readings) : undefined;
  const worn = readings.filter(r => r.photo.worn);
  const before = readings.findLast(r => !r.photo.worn && r.photo.stage === 'dry')?.reading.reading.landed;
  return (
    <Box mt="3">
      {milk && milk.points.length > 1 && (
        <Box mb="3">
          <Text fontWeight="700">Milky or clear</Text>
          <Text>
            {milk.points.map(p => `${day(p.at)}: ${p.milk.toFixed(2)}`).join(', ')}.{' '}
            {milk.isClear
              ? 'It is clear.'
              : milk.clear
                ? `It will most likely be clear by ${day(Math.max(now, milk.clear.at))} (between ${day(milk.clear.from)} and ${day(milk.clear.to)}).`
                : 'It is not clearing yet as far as these photos tell: take one a day later.'}
          </Text>
        </Box>
      )}
      {hasRounds && steps.length > 1 && (
        <Box mb="3">
          <Text fontWeight="700">What each round took off</Text>
          {steps.map(s => (
            <Text key={s.round}>
              After round {s.round}: veil {s.veil.toFixed(2)}
              {s.took &&
                `, ${s.took.veil >= 0 ? `${s.took.veil.toFixed(2)} less` : `${(-s.took.veil).toFixed(2)} more`}`}
              {s.took?.landed != null &&
                s.took.landed > 0.5 &&
                `, and ${s.took.landed.toFixed(1)} points of the picture`}
            </Text>
          ))}
          {next !== undefined && (
            <Text fontWeight="700">
              {isWorthIt
                ? `One more would most likely bring it to ${next.toFixed(2)}.`
                : `One more is hardly worth it: ${next.toFixed(2)} at best.`}
            </Text>
          )}
        </Box>
      )}
      {worn.map(({ reading, photo }) => (
        <Text key={reading.id}>
          {WEAR[photo.worn!].name} left {reading.reading.landed?.toFixed(1)} %
          {before != null &&
            reading.reading.landed != null &&
            `: ${Math.max(0, before - reading.reading.landed).toFixed(1)} points of ${before.toFixed(1)} were lost`}
          .
        </Text>
      ))}
      <Text fontWeight="700" mt="2">
        Every reading of this patch
      </Text>
      {readings.map(({ reading, photo }) => (
        <Text key={reading.id} fontSize="0.95rem">
          {photo.stage}
          {photo.worn && `, worn: ${within(WEAR[photo.worn].name)}`}
          {hasRounds && `, round ${photo.round}`}: landed {reading.reading.landed} %, veil{' '}
          {reading.reading.veil ?? 'not given'}
        </Text>
      ))}
    </Box>
  );
}
