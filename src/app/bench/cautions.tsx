import { Box, Text } from '@chakra-ui/react';
import { CAUTIONS, type CautionId } from '../../core/methods/index.ts';

/** Cautions at the moment they matter; they have no button that makes them go away. */
export function Cautions({ ids }: { ids: readonly CautionId[] }) {
  if (!ids.length) return null;
  return (
    <Box
      as="aside"
      aria-label="Cautions"
      bg="warn.subtle"
      borderLeftWidth="5px"
      borderColor="warn.fg"
      px="4"
      py="2.5"
    >
      {ids.map(id => (
        <Text key={id} py="0.5">
          <b>{CAUTIONS[id].title}.</b> {CAUTIONS[id].text}
        </Text>
      ))}
    </Box>
  );
}
