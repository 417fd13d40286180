import { Field } from '@chakra-ui/react';
import { useState } from 'react';
import { piecesFor } from '../../../core/design/index.ts';
import { agree } from '../../../core/say/index.ts';
import { Box, Heading, HStack, Text } from '../../ui/kit.tsx';
import { NumberField } from '../../ui/number-field.tsx';

/** "How many pieces for two good ones?", from what has been seen so far; all three numbers can be changed. */
export function PiecesPanel({ good, seen, what }: { good: number; seen: number; what: string }) {
  const [wanted, setWanted] = useState(2);
  const [counts, setCounts] = useState({ good, seen });
  const answer = piecesFor(wanted, counts.good, counts.seen);
  return (
    <Box borderTopWidth="1px" pt="3" mt="5" as="section" aria-label="How many to make">
      <Heading as="h2" size="lg" mb="1">
        How many to make
      </Heading>
      <Text color="fg.muted" mb="2">
        {seen
          ? `You judged ${seen} made with ${what}; ${good} to keep.`
          : `Nothing made with ${what} is judged yet.`}
      </Text>
      <HStack gap="3" wrap="wrap" align="end">
        <Count label="Good ones wanted" value={wanted} onChange={setWanted} />
        <Count label="Good so far" value={counts.good} onChange={n => setCounts({ ...counts, good: n })} />
        <Count label="Made so far" value={counts.seen} onChange={n => setCounts({ ...counts, seen: n })} />
      </HStack>
      <Text mt="2" fontSize="1.15rem" aria-live="polite">
        {answer.ok ? (
          <>
            Make <b>{answer.value.pieces}</b> to have {wanted} good {agree(wanted, 'one', 'ones')} 9 times in
            10
            {counts.seen < 8 && ': so many because so few have been seen'}.
          </>
        ) : (
          <>
            {answer.problem.say} {answer.problem.wayOut}
          </>
        )}
      </Text>
    </Box>
  );
}

function Count({ label, value, onChange }: { label: string; value: number; onChange: (n: number) => void }) {
  return (
    <Field.Root w="10rem">
      <Field.Label>{label}</Field.Label>
      <NumberField value={value} limit="countedPieces" step={1} onChange={onChange} />
    </Field.Root>
  );
}
