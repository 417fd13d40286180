import { useState } from 'react';
import { celsius, write } from '../../../core/say/index.ts';
import { airOf, expectedIn, MOST_EXPECTED } from '../../../core/trial/index.ts';
import { type Air, dryingFactor, type ExpectedAir } from '../../../core/units/index.ts';
import { AirFields } from '../../ui/air-fields.tsx';
import { Box, Button, Flex, Heading, HStack, Text } from '../../ui/kit.tsx';
import { Said, useSettings } from '../../ui/settings.tsx';
import { TimeField } from '../../ui/time-field.tsx';
import { useRecord } from '../../workshop/use-record.ts';
import { useTrial } from '../view.tsx';

/** What the air of the room will be like, where it will not stay as it was noted: cold nights, a damp day. */
export function AirToCome({ now }: { now: number }) {
  const { plan, records, workshop } = useTrial();
  const { settings } = useSettings();
  const record = useRecord(workshop, plan.id);
  const air = airOf(plan, records);
  const expected = expectedIn(records);
  const [asked, setAsked] = useState(false);
  const say = (next: readonly ExpectedAir[]) =>
    record.add([{ kind: 'forecast', patch: null, expected: [...next] }]);
  return (
    <Box as="section" aria-label="The air to come" mt="6">
      <Heading as="h2" size="lg" mb="1">
        The air to come
      </Heading>
      <Text mb="2">
        {expected.length
          ? 'Drying is planned by it, hour by hour. Air that you note in those hours goes before it.'
          : `It is planned as if the air stayed at ${write(celsius(air.tempC, { places: 0 }), settings)} and ${air.rh} %. Does the room get cold at night, or damp?`}
      </Text>
      {expected.map((e, i) => (
        <Flex key={i} borderTopWidth="1px" py="1.5" gap="3" wrap="wrap" align="center">
          <Text flex="1" minW="14rem">
            <b>
              {e.day ?? 'Every day'}, {e.from} to {e.to}
            </b>
            : <Said>{celsius(e.air.tempC, { places: 0 })}</Said>, {e.air.rh} %.{' '}
            <Text as="span" color="fg.muted">
              {compared(dryingFactor(e.air) / dryingFactor(air))}
            </Text>
          </Text>
          <Button
            variant="outline"
            minH="44px"
            loading={record.busy}
            aria-label={`No longer expect ${e.day ?? 'every day'}, ${e.from} to ${e.to}`}
            onClick={() => void say(expected.filter((_, k) => k !== i))}
          >
            Not so
          </Button>
        </Flex>
      ))}
      {asked ? (
        <Asked
          {...{ air, now }}
          add={e => void say([...expected, e]).then(kept => kept && setAsked(false))}
          leave={() => setAsked(false)}
        />
      ) : (
        <Button
          variant="outline"
          minH="48px"
          mt="2"
          disabled={expected.length >= MOST_EXPECTED}
          onClick={() => setAsked(true)}
        >
          Expect other air
        </Button>
      )}
    </Box>
  );
}

const compared = (times: number): string =>
  times > 1.05
    ? `Drying takes about ${times.toFixed(1)} times as long then.`
    : times < 0.95
      ? `Drying takes about ${Math.round(100 * times)} % of the time then.`
      : 'Drying takes about as long then as now.';

const CLOCK = {
  minHeight: 44,
  border: '1px solid currentColor',
  padding: '0 0.5rem',
  background: 'transparent',
};

/** When it will be other, and how. */
function Asked({
  air,
  now,
  add,
  leave,
}: {
  air: Air;
  now: number;
  add: (expected: ExpectedAir) => void;
  leave: () => void;
}) {
  const today = new Date(now);
  const date = [today.getFullYear(), today.getMonth() + 1, today.getDate()]
    .map(n => String(n).padStart(2, '0'))
    .join('-');
  const [expected, set] = useState<ExpectedAir>({ day: null, from: '22:00', to: '07:00', air });
  const change = (part: Partial<ExpectedAir>) => set({ ...expected, ...part });
  const [isAir, setIsAir] = useState(true);
  const wrong =
    expected.from === expected.to ? 'It begins and ends at the same time: give it some hours.' : undefined;
  return (
    <Box borderWidth="1px" p="3" mt="2" maxW="40rem">
      <HStack gap="4" wrap="wrap">
        <label style={{ display: 'flex', gap: '0.5rem', alignItems: 'center', minHeight: 44 }}>
          <input
            type="checkbox"
            checked={expected.day === null}
            style={{ width: 20, height: 20 }}
            onChange={e => change({ day: e.target.checked ? null : date })}
          />
          Every day
        </label>
        {expected.day !== null && (
          <label style={{ display: 'flex', gap: '0.5rem', alignItems: 'center' }}>
            on
            <input
              type="date"
              value={expected.day}
              style={CLOCK}
              onChange={e => e.target.value && change({ day: e.target.value })}
            />
          </label>
        )}
        <TimeField label="from" value={expected.from} onChange={from => change({ from })} />
        <TimeField label="to" value={expected.to} onChange={to => change({ to })} />
      </HStack>
      <AirFields
        air={expected.air}
        onChange={next => change({ air: next })}
        onWrong={isWrong => setIsAir(!isWrong)}
      />
      {wrong && (
        <Text role="alert" color="warn.fg" mt="2">
          {wrong}
        </Text>
      )}
      <HStack mt="3" gap="3">
        <Button
          colorPalette="tide"
          minH="48px"
          disabled={wrong !== undefined || !isAir}
          onClick={() => add(expected)}
        >
          Plan with it
        </Button>
        <Button variant="outline" minH="48px" onClick={leave}>
          Leave it
        </Button>
      </HStack>
    </Box>
  );
}
