import { Box, Heading, HStack, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { type CuttingAsk, cuttingFor } from '../../../core/print/index.ts';
import { length } from '../../../core/units/index.ts';
import { NumberChoice } from '../../ui/number-choice.tsx';
import { Said, useSettings } from '../../ui/settings.tsx';

/** What to cut for a number of pieces: substrate, tape, mask, boards and waste. */
export function CuttingPanel({
  picture,
  margin,
  pieces,
}: {
  picture: { w: number; h: number };
  margin: number;
  pieces: number;
}) {
  const { settings } = useSettings();
  const [ask, setAsk] = useState<CuttingAsk>({
    picture,
    margin,
    tapeWidth: 48,
    overlap: 3,
    pieces,
    stock: { w: 600, h: 400 },
    kerf: 2,
  });
  const inch = settings.system === 'imperial' ? 25.4 : 1;
  const unit = inch === 1 ? 'mm' : 'in';
  const cut = cuttingFor(ask);
  const mm = (v: number) => length(Math.round(v), settings.system);
  const set = (part: Partial<CuttingAsk>) => setAsk(old => ({ ...old, ...part }));
  const field = (label: string, value: number, onChange: (v: number) => void) => (
    <Box w="8.5rem">
      <NumberChoice
        label={`${label}, ${unit}`}
        value={value}
        factor={inch}
        step={1}
        zero
        onChange={onChange}
      />
    </Box>
  );
  return (
    <Box as="section" aria-label="Cutting" mt="6" borderTopWidth="1px" pt="3">
      <Heading as="h2" size="lg" mb="2">
        Cutting
      </Heading>
      <HStack gap="3" wrap="wrap" align="start">
        {field('Picture width', ask.picture.w, w => set({ picture: { ...ask.picture, w } }))}
        {field('Picture height', ask.picture.h, h => set({ picture: { ...ask.picture, h } }))}
        {field('Margin all round', ask.margin, m => set({ margin: m }))}
        <Box w="6rem">
          <NumberChoice
            label="Pieces"
            value={ask.pieces}
            factor={1}
            step={1}
            onChange={n => set({ pieces: n })}
          />
        </Box>
        {field('Stock width', ask.stock.w, w => set({ stock: { ...ask.stock, w } }))}
        {field('Stock height', ask.stock.h, h => set({ stock: { ...ask.stock, h } }))}
        {field('Saw cut', ask.kerf, kerf => set({ kerf }))}
        {field('Tape width', ask.tapeWidth, tapeWidth => set({ tapeWidth }))}
        {field('Tape overlap', ask.overlap, overlap => set({ overlap }))}
      </HStack>
      <Text mt="3" aria-live="polite">
        {cut.ok ? (
          <>
            Cut each piece{' '}
            <b>
              {mm(cut.value.substrate.w)} × {mm(cut.value.substrate.h)}
            </b>
            : {cut.value.perBoard} from a board, {cut.value.boards}{' '}
            {cut.value.boards === 1 ? 'board' : 'boards'}, {Math.round(cut.value.waste * 100)} % waste. Tape
            over one picture: {cut.value.strips} {cut.value.strips === 1 ? 'strip' : 'strips'} of{' '}
            {mm(cut.value.stripLength)}. Doubled mask round it: {mm(cut.value.maskLength)} of tape.
          </>
        ) : (
          <Said>{`${cut.problem.say} ${cut.problem.wayOut ?? ''}`}</Said>
        )}
      </Text>
      <Text color="fg.muted" mt="1">
        Cut away from your hand, along a metal ruler, on a mat.
      </Text>
    </Box>
  );
}
