import { Box, Button, Flex, Heading, HStack, Text } from '@chakra-ui/react';
import { type Edit, nearestCoats, type PictureFacts, type PictureNote } from '../../core/artwork/index.ts';
import { hexOf, type Medium } from '../../core/shelf/index.ts';
import { Said } from '../ui/settings.tsx';

/** Whether a picture is fit, finding by finding, with what mends it. */
export function FitNotes({ notes, onFix }: { notes: readonly PictureNote[]; onFix: (edit: Edit) => void }) {
  return (
    <Box mt="4" aria-live="polite">
      <Heading as="h2" size="lg" mb="1">
        Is it fit for this?
      </Heading>
      {notes.length === 0 && <Text>Nothing speaks against it.</Text>}
      {notes.map(n => (
        <Flex key={n.id} gap="3" py="2" borderTopWidth="1px" align="baseline" wrap="wrap">
          <Text
            fontWeight="700"
            w="4.5rem"
            flex="none"
            color={n.severity === 'good' ? 'good.fg' : n.severity === 'advise' ? 'tide.fg' : 'warn.fg'}
          >
            {{ stop: 'Stop', warn: 'Careful', advise: 'Advice', good: 'Good' }[n.severity]}
          </Text>
          <Text flex="1" minW="12rem">
            <Said>{n.say}</Said>
          </Text>
          {n.fix && (
            <Button size="sm" minH="40px" variant="outline" onClick={() => onFix(n.fix!.edit)}>
              {n.fix.name}
            </Button>
          )}
        </Flex>
      ))}
    </Box>
  );
}

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
