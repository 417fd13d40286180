import { Box, Button, Heading, Table, Text } from '@chakra-ui/react';
import type { Findings } from '../../../core/findings/index.ts';
import { span } from '../../../core/units/index.ts';
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
      return (
        <Table.Row key={t.levels.join()} bg="transparent" fontWeight={isPicked ? '700' : undefined}>
          <Table.Cell ps="0">
            <Said>{t.name}</Said>
          </Table.Cell>
          <Table.Cell>
            {t.score.value.toFixed(0)} ({t.score.lo.toFixed(0)}–{t.score.hi.toFixed(0)})
          </Table.Cell>
          <Table.Cell>{t.cost.toFixed(2)}</Table.Cell>
          <Table.Cell>{Math.round(t.minutes)} min</Table.Cell>
          <Table.Cell>{span(t.hours * 60)}</Table.Cell>
          <Table.Cell>
            {isPicked ? (
              'in the recipe'
            ) : (
              <Button size="sm" minH="40px" variant="outline" onClick={() => onPick(t.levels)}>
                Take it
              </Button>
            )}
          </Table.Cell>
        </Table.Row>
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
      <Box overflowX="auto">
        <Table.Root size="sm">
          <Table.Header>
            <Table.Row bg="transparent">
              <Table.ColumnHeader ps="0">Combination</Table.ColumnHeader>
              <Table.ColumnHeader>Worth, of 100</Table.ColumnHeader>
              <Table.ColumnHeader>Cost a patch</Table.ColumnHeader>
              <Table.ColumnHeader>Hands</Table.ColumnHeader>
              <Table.ColumnHeader>Until done</Table.ColumnHeader>
              <Table.ColumnHeader />
            </Table.Row>
          </Table.Header>
          <Table.Body>{rows(front)}</Table.Body>
        </Table.Root>
        {beaten.length > 0 && (
          <details>
            <summary style={{ minHeight: '32px', cursor: 'pointer' }}>
              {beaten.length} more, most likely beaten by one of these
            </summary>
            <Table.Root size="sm">
              <Table.Body>{rows(beaten)}</Table.Body>
            </Table.Root>
          </details>
        )}
      </Box>
    </Box>
  );
}
