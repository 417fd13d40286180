import { List, Table } from '@chakra-ui/react';
import type { KeptRecipe } from '../../core/recipe-book/index.ts';
import { write } from '../../core/say/index.ts';
import { Box, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';
import { Told } from '../ui/told.tsx';

/** A recipe as it is read: choices, then steps with their windows and each caution at its step. */
export function RecipeCardView({ card }: { card: KeptRecipe['card'] }) {
  return (
    <Box>
      <Table.Root size="sm">
        <Table.Body>
          {card.choices.map(c => (
            <Table.Row key={c.what} bg="transparent">
              <Table.Cell ps="0" fontWeight="600">
                {c.what}
              </Table.Cell>
              <Table.Cell>
                <Told>{c.choice}</Told>
              </Table.Cell>
            </Table.Row>
          ))}
        </Table.Body>
      </Table.Root>
      <List.Root as="ol" ps="6" mt="3" gap="1.5">
        {card.steps.map((s, i) => (
          <List.Item key={`${i} ${s.action}`}>
            <b>{s.action}.</b> <Said>{s.instruction}</Said>{' '}
            {s.window && (
              <i>
                <Said>{s.window}</Said>.
              </i>
            )}
            {s.cautions.map(c => (
              <Text key={c} fontSize="0.95rem" color="warn.fg">
                {c}
              </Text>
            ))}
          </List.Item>
        ))}
      </List.Root>
      <Text fontWeight="600" mt="3">
        Why we believe it
      </Text>
      {card.evidence.map(e => (
        <Text key={write(e)}>
          <Told>{e}</Told>
        </Text>
      ))}
    </Box>
  );
}
