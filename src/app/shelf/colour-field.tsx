import { Field, Input, NativeSelect } from '@chakra-ui/react';
import { useState } from 'react';
import { problemWords } from '../../core/outcome/index.ts';
import { mm, write } from '../../core/say/index.ts';
import { colourFrom, hexOf, labOf } from '../../core/shelf/index.ts';
import { groundInWorker } from '../../workers/index.ts';
import { FileButton } from '../ui/file-button.tsx';
import { Box, Flex, HStack, Text } from '../ui/kit.tsx';
import { useWrite } from '../ui/settings.tsx';

type Linear = [number, number, number];

const CARD_SIZES = [20, 30, 40, 50, 60, 80, 100];

/** A ground's colour: from the picker, in words or hex, or from a photo through the reading card. */
export function ColourField({ value, onChange }: { value: Linear; onChange: (value: Linear) => void }) {
  const [words, setWords] = useState(hexOf(value));
  const [problem, setProblem] = useState<string>();
  const written = useWrite();
  const [busy, setBusy] = useState(false);
  const [size, setSize] = useState(40);
  const lab = labOf(value);
  const take = (text: string) => {
    setWords(text);
    const colour = colourFrom(text);
    setProblem(colour.ok ? undefined : write(problemWords(colour.problem)));
    if (colour.ok) onChange(colour.value);
  };
  const read = async (photo: File) => {
    setBusy(true);
    setProblem(undefined);
    try {
      const ground = await groundInWorker(photo, size);
      if (!ground.ok) setProblem(write(problemWords(ground.problem)));
      else {
        const colour = [...ground.value.colour] as Linear;
        setWords(hexOf(colour));
        onChange(colour);
      }
    } catch (error) {
      setProblem(
        `The photo could not be read: ${error instanceof Error ? error.message : 'no reason given'}.`,
      );
    } finally {
      setBusy(false);
    }
  };
  return (
    <Box gridColumn="1 / -1">
      <Flex gap="3" align="end" wrap="wrap">
        <Field.Root w="auto">
          <Field.Label>Colour</Field.Label>
          <Input type="color" w="4rem" p="1" value={hexOf(value)} onChange={e => take(e.target.value)} />
        </Field.Root>
        <Field.Root w="11rem">
          <Field.Label>In words or hex</Field.Label>
          <Input value={words} onChange={e => take(e.target.value)} />
        </Field.Root>
        <HStack align="end">
          <FileButton
            accept="image/*"
            label="Photo of the bare ground through the reading card"
            onFile={photo => void read(photo)}
            variant="outline"
            minH="40px"
            loading={busy}
            loadingText="Reading the photo"
          >
            From a photo
          </FileButton>
          <Field.Root w="7rem">
            <Field.Label>Card for</Field.Label>
            <NativeSelect.Root>
              <NativeSelect.Field value={size} onChange={e => setSize(Number(e.target.value))}>
                {CARD_SIZES.map(side => (
                  <option key={side} value={side}>
                    {written(mm(side))}
                  </option>
                ))}
              </NativeSelect.Field>
              <NativeSelect.Indicator />
            </NativeSelect.Root>
          </Field.Root>
        </HStack>
      </Flex>
      <Text color="fg.muted" fontSize="0.9rem" mt="1">
        L* {lab.l.toFixed(0)}, a* {lab.a.toFixed(0)}, b* {lab.b.toFixed(0)}. For the true colour, photograph
        the bare ground through the reading card.
      </Text>
      {problem && (
        <Text color="buoy.fg" role="alert">
          {problem}
        </Text>
      )}
    </Box>
  );
}
