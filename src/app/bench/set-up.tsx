import { Box, Button, Flex, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { airOf } from '../../core/trial/index.ts';
import { dryingFactor, temperature } from '../../core/units/index.ts';
import { useAppend } from '../../store/index.ts';
import { failure, useNotice } from '../shell/notices.tsx';
import { useSettings } from '../shell/settings.tsx';
import type { TrialView } from '../trial/frame.tsx';
import { Cautions } from './cautions.tsx';

/** Gloves, window, and the air of the room; big steps up and down, nothing to type. */
export function SetUp({ view, leave }: { view: TrialView; leave: () => void }) {
  const { plan, records, workshop } = view;
  const { settings } = useSettings();
  const tell = useNotice();
  const append = useAppend(workshop, plan.id);
  const [air, setAir] = useState(() => airOf(plan, records));
  const factor = dryingFactor(air);
  const start = () => append.mutate([{ kind: 'air', patch: null, air }], { onError: e => tell(failure(e)) });
  const step = settings.system === 'imperial' ? 1 / 1.8 : 1;
  return (
    <Flex as="main" direction="column" minH="100dvh" p={{ base: '4', md: '8' }} gap="5" maxW="60rem">
      <Button variant="ghost" alignSelf="start" minH="44px" onClick={leave}>
        Leave the bench
      </Button>
      <Text
        as="h1"
        fontFamily="heading"
        fontWeight="700"
        fontSize={{ base: '2.3rem', md: '3rem' }}
        lineHeight="1.1"
      >
        Before you begin
      </Text>
      <Cautions ids={plan.used.method.setUpCautions} />
      <Text fontSize="1.2rem">What is the air like? Drying times follow it.</Text>
      <Dial
        label="Room"
        value={temperature(air.tempC, settings.system)}
        less={() => setAir({ ...air, tempC: Math.max(-10, air.tempC - step) })}
        more={() => setAir({ ...air, tempC: Math.min(50, air.tempC + step) })}
      />
      <Dial
        label="Humidity"
        value={`${air.rh} %`}
        less={() => setAir({ ...air, rh: Math.max(0, air.rh - 5) })}
        more={() => setAir({ ...air, rh: Math.min(95, air.rh + 5) })}
      />
      <Text color="fg.muted">
        {factor > 1.15
          ? `Everything dries about ${factor.toFixed(1)} times slower than usual.`
          : factor < 0.87
            ? `Everything dries faster than usual: about ${(100 * factor).toFixed(0)} % of the time.`
            : 'Drying times are about as the jars say.'}
      </Text>
      <Box flex="1" />
      <Button
        size="2xl"
        minH="22dvh"
        colorPalette="buoy"
        fontSize={{ base: '2rem', md: '2.6rem' }}
        fontFamily="heading"
        loading={append.isPending}
        onClick={start}
      >
        Window open, gloves on
      </Button>
    </Flex>
  );
}

function Dial({
  label,
  value,
  less,
  more,
}: {
  label: string;
  value: string;
  less: () => void;
  more: () => void;
}) {
  return (
    <Flex align="center" gap={{ base: '2', md: '4' }}>
      <Text w={{ base: '5.6rem', md: '7rem' }} fontWeight="600" fontSize={{ base: '1.05rem', md: '1.2rem' }}>
        {label}
      </Text>
      <Button
        variant="outline"
        minH="64px"
        minW="64px"
        fontSize="2rem"
        onClick={less}
        aria-label={`${label} lower`}
      >
        −
      </Button>
      <Text
        fontWeight="700"
        fontSize="2rem"
        minW={{ base: '6rem', md: '7rem' }}
        textAlign="center"
        aria-live="polite"
      >
        {value}
      </Text>
      <Button
        variant="outline"
        minH="64px"
        minW="64px"
        fontSize="2rem"
        onClick={more}
        aria-label={`${label} higher`}
      >
        +
      </Button>
    </Flex>
  );
}
