import { nearestCoats, type PictureFacts } from '../../core/artwork/index.ts';
import { hexOf, type Medium } from '../../core/shelf/index.ts';
import { Box, Heading, HStack, Text } from '../ui/kit.tsx';

/** The picture's own background and the paints on the shelf that come nearest to it. */
export function BaseCoat({ facts, mediums }: { facts: PictureFacts; mediums: readonly Medium[] }) {
  const coats = nearestCoats(facts.background, mediums).slice(0, 3);
  if (!coats.length) return null;
  return (
    <Box mt="5">
      <Heading as="h2" size="lg" mb="1">
        A base coat that matches
      </Heading>
      <HStack gap="3">
        <Swatch hex={hexOf(facts.background)} />
        <Text>
          The picture’s own background, along {Math.round(facts.backgroundShare * 100)} % of its rim. Nearest
          on your shelf:
        </Text>
      </HStack>
      {coats.map(c => (
        <HStack key={c.coat.id} gap="3" mt="1">
          <Swatch hex={hexOf(c.coat.paint!)} />
          <Text>
            <b>{c.coat.name}</b>: {c.words} (difference {c.deltaE.toFixed(1)})
          </Text>
        </HStack>
      ))}
    </Box>
  );
}

/** One view of the picture with its words. */
export function Shown({ url, words }: { url?: string; words: string }) {
  return (
    <Box as="figure" m="0">
      {url && (
        <img
          src={url}
          alt={words}
          style={{
            width: '100%',
            display: 'block',
            border: '1px solid var(--chakra-colors-border-emphasized)',
          }}
        />
      )}
      <Text as="figcaption" mt="1" fontSize="0.95rem">
        {words}
      </Text>
    </Box>
  );
}

const Swatch = ({ hex }: { hex: string }) => (
  <Box
    w="26px"
    h="26px"
    flex="none"
    borderWidth="1px"
    borderColor="border.emphasized"
    style={{ background: hex }}
    aria-hidden="true"
  />
);
