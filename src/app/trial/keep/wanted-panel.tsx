import { useState } from 'react';
import { DESIRED, type Desired, desirability, type Wanted } from '../../../core/findings/index.ts';
import { type MeasureId, measureOf } from '../../../core/measures/index.ts';
import { within } from '../../../core/say/index.ts';
import { wantedIn } from '../../../core/trial/index.ts';
import { Box, Button, Flex, Heading, Text } from '../../ui/kit.tsx';
import { NumberChoice } from '../../ui/number-choice.tsx';
import { useRecord } from '../../workshop/use-record.ts';
import { useTrial } from '../view.tsx';

const DRAWN = { w: 120, h: 46 };

/** How desirable each value is, as a line from the worse end of the measure to the better. */
function Shape({ of, bounds }: { of: Desired; bounds: readonly [number, number] }) {
  const [lo, hi] = bounds;
  const steps = 48;
  const line = Array.from({ length: steps + 1 }, (_, i) => {
    const value = lo + ((hi - lo) * i) / steps;
    return `${(i * DRAWN.w) / steps},${DRAWN.h - DRAWN.h * desirability(of, value)}`;
  });
  return (
    <svg
      viewBox={`-2 -4 ${DRAWN.w + 4} ${DRAWN.h + 8}`}
      width={DRAWN.w}
      height={DRAWN.h}
      role="img"
      aria-label={`Counts for nothing at ${of.none}, for all at ${of.full}${of.to === undefined ? '' : ` to ${of.to}`}`}
    >
      <path d={`M0 ${DRAWN.h}H${DRAWN.w}`} stroke="var(--chakra-colors-border-emphasized)" />
      <polyline points={line.join(' ')} fill="none" stroke="var(--chakra-colors-fg)" strokeWidth="2.5" />
    </svg>
  );
}

/** What counts as good here: the shape for each measure, as the intent has it or as the maker sets it. */
export function WantedPanel() {
  const { plan, records, workshop } = useTrial();
  const record = useRecord(workshop, plan.id);
  const own = wantedIn(records) as Wanted | undefined;
  const now = own ?? DESIRED[plan.intent];
  const [draft, setDraft] = useState<Wanted>();
  const shown = draft ?? now;
  const set = (id: MeasureId, part: Partial<Desired>) =>
    setDraft({ ...shown, [id]: { ...shown[id]!, ...part } });
  const wrong = Object.values(shown).some(d => d && d.none === d.full);
  const keep = async (wanted: Wanted | null) => {
    if (await record.add([{ kind: 'wanted', patch: null, wanted }])) setDraft(undefined);
  };
  return (
    <Box as="details" mb="5">
      <Text as="summary" cursor="pointer" minH="36px" fontWeight="700">
        What counts as good: {own ? 'as you set it' : plan.intent}
      </Text>
      <Heading as="h3" size="sm" mt="1" mb="2">
        All of what is measured, weighed together
      </Heading>
      {(Object.entries(shown) as [MeasureId, Desired][]).map(([id, of]) => (
        <Flex key={id} gap="3" align="start" wrap="wrap" mb="2">
          <Box w="5rem" pt="8" fontWeight="600">
            {measureOf(id).name}
          </Box>
          <Box pt="7">
            <Shape of={of} bounds={measureOf(id).response?.bounds ?? [0, 100]} />
          </Box>
          {(
            [
              ['Nothing at', 'none'],
              ['All from', 'full'],
              ['Weight', 'weight'],
            ] as const
          ).map(([label, key]) => (
            <Box key={key} w="7.5rem">
              <NumberChoice
                label={`${measureOf(id).name}: ${within(label)}`}
                value={of[key]}
                factor={1}
                step={id === 'veil' && key !== 'weight' ? 0.05 : 1}
                limit="measure"
                onChange={v => set(id, { [key]: v })}
              />
            </Box>
          ))}
        </Flex>
      ))}
      {wrong && <Text role="alert">What counts for nothing and what counts for all cannot be the same.</Text>}
      <Flex gap="3">
        <Button
          minH="44px"
          variant="outline"
          disabled={!draft || wrong}
          loading={record.busy}
          onClick={() => void keep(draft!)}
        >
          Judge by this
        </Button>
        {own && (
          <Button minH="44px" variant="outline" onClick={() => void keep(null)}>
            As {plan.intent} has it
          </Button>
        )}
      </Flex>
    </Box>
  );
}
