import type { AspectId, aspectsBy } from '../../core/aspects/index.ts';
import { Box, Button, Grid, Text } from './kit.tsx';

/** Where pictures of the five steps of aspects are, the worst first. */
export type Looks = Partial<Record<AspectId, readonly string[]>>;

/** Aspects of a patch, each with what its five steps look or feel like; one press grades one. */
export function Aspects({
  list,
  given,
  busy,
  looks,
  onGive,
}: {
  list: ReturnType<typeof aspectsBy>;
  given: Partial<Record<AspectId, number>>;
  busy: boolean;
  /** Pictures of the steps as they come; room for them is kept from the first. Nothing where there are to be none. */
  looks?: Looks;
  onGive: (id: AspectId, grade: number) => void;
}) {
  return list.map(({ id, name, ask, steps }) => (
    <Box key={id} role="group" aria-label={name} mt="3" w="100%">
      <Text fontWeight="600" mb="1">
        {ask}
      </Text>
      <Grid
        gap="2"
        templateColumns={{ base: looks ? 'repeat(3, 1fr)' : 'repeat(2, 1fr)', md: 'repeat(5, 1fr)' }}
      >
        {steps.map((words, i) => (
          <Button
            key={words}
            minH="48px"
            h="auto"
            px="2"
            py="1"
            flexDirection="column"
            justifyContent="flex-start"
            whiteSpace="normal"
            lineHeight="1.2"
            variant={given[id] === i + 1 ? 'solid' : 'outline'}
            colorPalette="tide"
            aria-pressed={given[id] === i + 1}
            disabled={busy}
            onClick={() => onGive(id, i + 1)}
          >
            {looks && (
              <Box w="100%" maxW="9rem" aspectRatio="1" bg="bg.muted" overflow="hidden">
                {looks[id] && (
                  <img
                    src={looks[id][i]}
                    alt=""
                    style={{ width: '100%', height: '100%', objectFit: 'contain' }}
                  />
                )}
              </Box>
            )}
            {i + 1} {words}
          </Button>
        ))}
      </Grid>
    </Box>
  ));
}
