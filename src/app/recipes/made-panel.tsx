import { Box, Button, Field, Heading, HStack, Input, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { freshId } from '../../core/codes/index.ts';
import type { RecipeBook } from '../../core/recipe-book/index.ts';
import { presentMs, useWorkshopActions } from '../../store/index.ts';
import { useAttempt, useNotice } from '../ui/notices.tsx';
import { Said } from '../ui/settings.tsx';
import { dayOf } from '../ui/time.ts';
import { useWorkshop } from '../ui/workshop.ts';
import { CountField } from './count-field.tsx';

/** What was made by a recipe: written down piece by piece or by the batch, and how it moves the success rate. */
export function MadePanel({ book }: { book: RecipeBook }) {
  const { addRecipeEvents } = useWorkshopActions(useWorkshop());
  const attempt = useAttempt();
  const tell = useNotice();
  const [of, setOf] = useState(1);
  const [good, setGood] = useState(1);
  const [size, setSize] = useState({ w: 200, h: 150 });
  const [note, setNote] = useState('');
  const base = () => ({
    id: freshId(Math.random),
    recipe: book.id,
    at: new Date(presentMs()).toISOString(),
  });
  const add = () =>
    attempt(async () => {
      await addRecipeEvents([
        { ...base(), kind: 'made', of, good: Math.min(good, of), size, note: note.trim().slice(0, 1000) },
      ]);
      setNote('');
      tell({ say: `${of} made, ${Math.min(good, of)} good: written down.` });
    });
  const takeBack = (id: string) => attempt(() => addRecipeEvents([{ ...base(), kind: 'undo', of: id }]));
  return (
    <Box as="section" aria-label="What was made" mt="8" borderTopWidth="1px" pt="3">
      <Heading as="h2" size="xl" mb="2">
        What was made by it
      </Heading>
      <HStack gap="3" wrap="wrap" align="end">
        <CountField label="Made" value={of} least={1} onChange={setOf} />
        <CountField label="Of these good" value={good} least={0} onChange={setGood} />
        <CountField label="Across, mm" value={size.w} least={5} onChange={w => setSize({ ...size, w })} />
        <CountField label="Down, mm" value={size.h} least={5} onChange={h => setSize({ ...size, h })} />
        <Field.Root w="16rem">
          <Field.Label>What was different</Field.Label>
          <Input value={note} maxLength={1000} onChange={e => setNote(e.target.value)} />
        </Field.Root>
        <Button size="xl" colorPalette="buoy" disabled={good > of} onClick={() => void add()}>
          Write it down
        </Button>
      </HStack>
      {good > of && <Text mt="1">There cannot be more good ones than were made.</Text>}
      {[...book.made].reverse().map(m => (
        <HStack key={m.id} mt="2" gap="3" wrap="wrap">
          <Text>
            {dayOf(Date.parse(m.at))}: {m.good} good of {m.of}, <Said>{`${m.size.w} × ${m.size.h} mm`}</Said>
            {m.note && ` · ${m.note}`}
          </Text>
          <Button size="sm" minH="44px" variant="ghost" onClick={() => void takeBack(m.id)}>
            Take it back
          </Button>
        </HStack>
      ))}
    </Box>
  );
}
