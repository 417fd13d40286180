import type { Edit, PictureNote } from '../../core/artwork/index.ts';
import { Box, Button, Flex, Heading, Text } from './kit.tsx';
import { Said } from './settings.tsx';

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
