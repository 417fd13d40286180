import { Field, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { write } from '../../core/say/index.ts';
import type { Weighed } from '../../workers/index.ts';
import { Box, Flex, Heading, Text } from '../ui/kit.tsx';
import { Told } from '../ui/told.tsx';

/** With more than this only what is asked for is shown. */
const SHOWN = 12;

/** What was found so far, what makers disagree about, and what contradicts itself. */
export function Found({ evidence }: { evidence: Weighed }) {
  const [find, setFind] = useState('');
  const words = find.toLowerCase().split(/\s+/).filter(Boolean);
  const known = evidence.known.filter(k => words.every(w => write(k.sentence).toLowerCase().includes(w)));
  return (
    <>
      {evidence.contradictions.length > 0 && (
        <Box mb="6" role="note">
          <Heading as="h2" size="lg" mb="1">
            Your trials contradict each other
          </Heading>
          {evidence.contradictions.map(c => (
            <Text key={write(c.sentence)} borderTopWidth="1px" py="1.5">
              <Told>{c.sentence}</Told>
            </Text>
          ))}
        </Box>
      )}
      {evidence.known.length > 0 && (
        <Box mb="6">
          <Heading as="h2" size="lg" mb="1">
            What worked on what
          </Heading>
          {evidence.known.length > SHOWN && (
            <Field.Root mb="2">
              <Field.Label>Find</Field.Label>
              <Input value={find} placeholder="slate, matte, tape" onChange={e => setFind(e.target.value)} />
            </Field.Root>
          )}
          {known.slice(0, SHOWN).map(k => (
            <Flex key={write(k.sentence)} borderTopWidth="1px" py="1.5" gap="3" wrap="wrap" align="baseline">
              <Text flex="1" minW="15rem">
                <Told>{k.sentence}</Told>
              </Text>
              <Text color="fg.muted">
                {k.landed !== undefined && `${k.landed.toFixed(0)} % lands · `}
                {k.trials.join(', ')} · {new Date(k.last).toLocaleDateString()}
              </Text>
            </Flex>
          ))}
          {known.length > SHOWN && <Text color="fg.muted">And {known.length - SHOWN} more.</Text>}
        </Box>
      )}
      <Heading as="h2" size="lg" mb="1">
        What makers disagree about
      </Heading>
      {evidence.settled.map(s => (
        <Box key={s.id} borderTopWidth="1px" py="1.5">
          <Text fontWeight="600">{s.ask}</Text>
          <Text color={s.known ? undefined : 'fg.muted'}>
            <Told>{s.sentence}</Told>
          </Text>
        </Box>
      ))}
    </>
  );
}
