import type { Picture } from '../../core/artwork/index.ts';
import { within } from '../../core/say/index.ts';
import type { Substrate } from '../../core/shelf/index.ts';
import { Box, Flex, Grid, Heading, Text } from '../ui/kit.tsx';
import { Tick } from '../ui/tick.tsx';
import { Shown } from './picture-notes.tsx';
import type { useExpected } from './use-expected.ts';
import type { View } from './use-view.ts';

/** How a picture will look on its donor sheet and finished on the grounds that are chosen. */
export function Looks({
  picture,
  view,
  problem,
  expected,
  asOwn,
  setAsOwn,
  mirrored,
  grounds,
  substrates,
  onGrounds,
}: {
  picture: Picture;
  view: View | undefined;
  problem: string | undefined;
  expected: ReturnType<typeof useExpected>;
  asOwn: boolean;
  setAsOwn: (as: boolean) => void;
  mirrored: boolean;
  grounds: readonly Substrate[];
  substrates: readonly Substrate[];
  onGrounds: (ids: string[]) => void;
}) {
  return (
    <Box>
      <Heading as="h2" size="lg" mb="2">
        What it will look like
      </Heading>
      {problem && (
        <Text color="buoy.fg" role="alert">
          {problem}
        </Text>
      )}
      {!view && !problem && <Text role="status">Opening the picture…</Text>}
      {view && (
        <Grid templateColumns={{ base: '1fr', sm: '1fr 1fr' }} gap="4">
          <Shown
            url={view.donorUrl}
            words={`On the donor sheet${mirrored ? ', mirrored' : ', not mirrored'}`}
          />
          {grounds.map((g, i) => (
            <Shown key={g.id} url={view.lookUrls[i]} words={`Finished, on ${within(g.name)}`} />
          ))}
        </Grid>
      )}
      {expected && (
        <Tick mt="3" minH="44px" checked={asOwn} onChange={setAsOwn}>
          As your own {expected.patches} patches came out: {expected.landedLo.toFixed(0)} to{' '}
          {expected.landedHi.toFixed(0)} % landed, veil {expected.veilLo.toFixed(2)} to{' '}
          {expected.veilHi.toFixed(2)}. Losses of a bad day are faint; where they fall is made up.
        </Tick>
      )}
      <Text fontWeight="600" mt="3">
        Grounds to see it on
      </Text>
      <Flex gap="4" wrap="wrap">
        {substrates.map(s => (
          <Tick
            key={s.id}
            minH="36px"
            checked={picture.grounds.includes(s.id)}
            onChange={isOn =>
              onGrounds(isOn ? [...picture.grounds, s.id] : picture.grounds.filter(g => g !== s.id))
            }
          >
            {s.name}
          </Tick>
        ))}
      </Flex>
    </Box>
  );
}
