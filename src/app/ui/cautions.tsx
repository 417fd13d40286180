import { CAUTIONS, type CautionId, FOLLOW_LABEL } from '../../core/methods/index.ts';
import { Box, Text } from './kit.tsx';

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
      px={{ base: '3', md: '4' }}
      py={{ base: '1.5', md: '2.5' }}
      fontSize={{ base: '0.95rem', md: '1rem' }}
      lineHeight={{ base: '1.35', md: '1.5' }}
    >
      {ids.map(id => (
        <Text key={id} py="0.5">
          <b>{CAUTIONS[id].title}.</b> {CAUTIONS[id].short}
        </Text>
      ))}
      <Text>{FOLLOW_LABEL}</Text>
    </Box>
  );
}
