import { Box, Heading, Text } from '../ui/kit.tsx';
import { BackUp } from './back-up.tsx';
import { CleanUp } from './clean-up.tsx';
import { Room } from './room.tsx';
import { TakeIn } from './take-in.tsx';

/** Where a workshop is kept safe: backed up, taken in again, joined with another, and the room it takes. */
export function SafePage() {
  return (
    <Box as="main" px={{ base: '4', md: '6' }} pt="5" pb="24" maxW="56rem">
      <Heading as="h1" size="2xl">
        Keep it safe
      </Heading>
      <Text fontSize="1.1rem" mt="1">
        All you made is in this browser and nowhere else. A file of your own keeps it for years, takes it to
        another machine, and joins it with what was done there.
      </Text>
      <BackUp />
      <TakeIn />
      <Room />
      <CleanUp />
    </Box>
  );
}
