import type { Findings } from '../../../core/findings/index.ts';
import { span, write } from '../../../core/say/index.ts';
import { Box, Button, Flex, Heading, Text } from '../../ui/kit.tsx';
import { Said } from '../../ui/settings.tsx';

/** Below this chance a combination is as good as beaten. */
const ON_FRONT = 0.2;

/** What each combination gives and takes; those that no other beats in everything first. One that is picked becomes the recipe. */
export function TradeOffs({
  all,
  picked,
  onPick,
}: {
  all: Findings['tradeOffs'];
  picked: string;
  onPick: (levels: readonly number[]) => void;
}) {
  if (all.length < 2) return null;
  const sorted = [...all].sort((a, b) => b.score.value - a.score.value);
  const front = sorted.filter(t => t.front >= ON_FRONT);
  const beaten = sorted.filter(t => t.front < ON_FRONT);
  const rows = (list: typeof sorted) =>
    list.map(t => {
      const isPicked = t.levels.join() === picked;
      const figures = [
        `worth ${t.score.value.toFixed(0)} of 100 (${t.score.lo.toFixed(0)}–${t.score.hi.toFixed(0)})`,
        `${t.cost.toFixed(2)} a patch`,
        `${Math.round(t.minutes)} min of hands`,
        `${span(t.hours * 60)} until done`,
      ];
      return (
        <Flex
          key={t.levels.join()}
          role="group"
          aria-label={write(t.name)}
          gap="3"
          py="2"
          borderTopWidth="1px"
          align="center"
          wrap="wrap"
        >
          <Box flex="1" minW="13rem">
            <Text fontWeight={isPicked ? '700' : '600'}>
              <Said>{t.name}</Said>
            </Text>
            <Text fontSize="0.95rem">{figures.join(' · ')}</Text>
          </Box>
          {isPicked ? (
            <Text fontWeight="700">in the recipe</Text>
          ) : (
            <Button minH="44px" variant="outline" onClick={() => onPick(t.levels)}>
              Take it
            </Button>
          )}
        </Flex>
      );
    });
  return (
    <Box as="section" aria-label="What it gives and what it takes" mb="6">
      <Heading as="h2" size="lg" mb="1">
        What it gives and what it takes
      </Heading>
      <Text mb="2">
        {front.length === 1
          ? 'One combination is beaten by no other in anything that counts here.'
          : `${front.length} combinations are beaten by no other in everything: which you take depends on what you have least of.`}
      </Text>
      {rows(front)}
      {beaten.length > 0 && (
        <details>
          <summary style={{ minHeight: '40px', cursor: 'pointer' }}>
            {beaten.length} more, most likely beaten by one of these
          </summary>
          {rows(beaten)}
        </details>
      )}
    </Box>
  );
}
