import { lazy, Suspense, useState } from 'react';
import { simulatedAir } from '../../core/devices/index.ts';
import { seedOf } from '../../core/random/index.ts';
import { celsius, unitFor, write } from '../../core/say/index.ts';
import { setUpCautions } from '../../core/steps/index.ts';
import { airOf } from '../../core/trial/index.ts';
import { dryingFactor } from '../../core/units/index.ts';
import { presentMs } from '../../store/index.ts';
import type { TrialView } from '../trial/view.tsx';
import { Cautions } from '../ui/cautions.tsx';
import { FileButton } from '../ui/file-button.tsx';
import { Box, Button, Flex, Text } from '../ui/kit.tsx';
import { asNotice, useNotice } from '../ui/notices.tsx';
import { useSettings } from '../ui/settings.tsx';
import { moment } from '../ui/time.ts';
import { useLessons } from '../workshop/use-known.ts';
import { useRecord } from '../workshop/use-record.ts';
import { useLearntWait } from './use-learnt-wait.ts';

const LearntWait = lazy(async () => ({ default: (await import('./learnt-wait.tsx')).LearntWait }));

/** Gloves, window, and the air of the room; big steps up and down, nothing to type. */
export function SetUp({ view, leave }: { view: TrialView; leave: () => void }) {
  const { plan, records, workshop } = view;
  const { settings } = useSettings();
  const tell = useNotice();
  const record = useRecord(workshop, plan.id);
  const [air, setBare] = useState(() => airOf(plan, records));
  const [source, setSource] = useState<'logger' | 'simulated'>();
  const [takeWait, setTakeWait] = useState(true);
  const setAir = (next: typeof air, from?: 'logger' | 'simulated') => {
    setBare(next);
    setSource(from);
  };
  const factor = dryingFactor(air);
  const lessons = useLessons(workshop);
  const known = useLearntWait(plan, lessons);
  const learnt = known.wait?.(air);
  const start = () =>
    void record.add([
      {
        kind: 'air',
        patch: null,
        air,
        ...(source ? { source } : {}),
        ...(learnt && takeWait ? { waitMin: learnt.min } : {}),
      },
    ]);
  const readLog = async (file: File) => {
    const { airFromLog } = await import('../../core/devices/logger.ts');
    const found = airFromLog(await file.text());
    if (!found.ok) return tell(asNotice(found.problem));
    setAir(found.value.air, 'logger');
    const { until, rows } = found.value;
    tell({
      say: `The last hour of ${rows} rows${until ? `, up to ${moment(until, presentMs())}` : ''}, was taken.`,
    });
  };
  const step = unitFor('temperature', settings.system).per;
  return (
    <Flex
      as="main"
      direction="column"
      minH="100dvh"
      p={{ base: '4', md: '6' }}
      gap={{ base: '4', md: '3' }}
      maxW="60rem"
    >
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
      <Cautions ids={setUpCautions(plan)} />
      <Text fontSize="1.2rem">What is the air like? Drying times follow it.</Text>
      <Flex wrap="wrap" columnGap="8" rowGap="3">
        <Dial
          label="Room"
          value={write(celsius(air.tempC, { places: 0 }), settings)}
          less={() => setAir({ ...air, tempC: Math.max(-10, air.tempC - step) })}
          more={() => setAir({ ...air, tempC: Math.min(50, air.tempC + step) })}
        />
        <Dial
          label="Humidity"
          value={`${air.rh} %`}
          less={() => setAir({ ...air, rh: Math.max(0, air.rh - 5) })}
          more={() => setAir({ ...air, rh: Math.min(95, air.rh + 5) })}
        />
      </Flex>
      <Flex gap="3" wrap="wrap">
        <FileButton
          accept=".csv,text/csv,text/plain"
          testId="air-log"
          onFile={file => void readLog(file)}
          variant="outline"
          minH="48px"
        >
          From a logger’s file (CSV)
        </FileButton>
        <Button
          variant="outline"
          minH="48px"
          onClick={() => setAir(simulatedAir(presentMs(), seedOf(workshop)), 'simulated')}
        >
          Simulated hygrometer
        </Button>
      </Flex>
      {source && (
        <Text fontWeight="600">
          {source === 'logger'
            ? 'From the logger’s file.'
            : 'Simulated: a made-up reading, not your room’s air.'}
        </Text>
      )}
      {learnt && (
        <Suspense>
          <LearntWait wait={learnt} on={takeWait} onChange={setTakeWait} />
        </Suspense>
      )}
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
        loading={record.busy || known.state === 'looking'}
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
