import { useState } from 'react';
import type { Outcome } from '../../../core/outcome/index.ts';
import { problemWords } from '../../../core/outcome/index.ts';
import { type CuttingAsk, cuttingFor } from '../../../core/print/index.ts';
import { agree, joined, many, mm, say, unitFor, type Words, write } from '../../../core/say/index.ts';
import { likeBoards, methodsOf, sizeOf, type TrialPlan } from '../../../core/trial/index.ts';

import { Box, Heading, HStack, Text } from '../../ui/kit.tsx';
import { NumberChoice } from '../../ui/number-choice.tsx';
import type { NumberLimitName } from '../../ui/number-limits.ts';
import { Said, useSettings } from '../../ui/settings.tsx';

/** What to cut for a number of pieces: substrate, tape, mask, boards and waste. */
export function CuttingPanel({ plan }: { plan: TrialPlan }) {
  const { board } = plan;
  const own = plan.pieces ?? [];
  const { settings } = useSettings();
  const [ask, setAsk] = useState<CuttingAsk>({
    picture: sizeOf(plan),
    margin: Math.max(...methodsOf(plan).map(m => m.aroundMm), 5),
    tapeWidth: 48,
    overlap: 3,
    pieces: Math.max(1, likeBoards(plan)),
    stock: { w: 600, h: 400 },
    kerf: 2,
  });
  const unit = unitFor('length', settings.system);
  // What is cut is the board with all its patches; tape and mask go round one picture.
  const cut = cuttingFor(
    board.onePiece
      ? { ...ask, stock: { w: 1e5, h: 1e5 } }
      : { ...ask, picture: { w: board.w, h: board.h }, margin: 0 },
  );
  const round = cuttingFor({ ...ask, stock: { w: 1e5, h: 1e5 } });
  const whole = (v: number, by?: number) => mm(Math.round(v), by === undefined ? {} : { by: Math.round(by) });
  const set = (part: Partial<CuttingAsk>) => setAsk(old => ({ ...old, ...part }));
  const field = (
    label: string,
    value: number,
    onChange: (v: number) => void,
    limit: NumberLimitName = 'stockMm',
  ) => (
    <Box w="8.5rem">
      <NumberChoice
        label={`${label}, ${unit.name}`}
        value={value}
        factor={unit.per}
        step={1}
        limit={limit}
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
        {field('Margin all round', ask.margin, m => set({ margin: m }), 'marginMm')}
        {!board.onePiece && (
          <>
            <Box w="6rem">
              <NumberChoice
                label="Boards"
                value={ask.pieces}
                factor={1}
                step={1}
                limit="pieces"
                onChange={n => set({ pieces: n })}
              />
            </Box>
            {field('Stock width', ask.stock.w, w => set({ stock: { ...ask.stock, w } }))}
            {field('Stock height', ask.stock.h, h => set({ stock: { ...ask.stock, h } }))}
            {field('Saw cut', ask.kerf, kerf => set({ kerf }), 'cutMm')}
          </>
        )}
        {field('Tape width', ask.tapeWidth, tapeWidth => set({ tapeWidth }))}
        {field('Tape overlap', ask.overlap, overlap => set({ overlap }))}
      </HStack>
      <Text mt="3" aria-live="polite">
        {cut.ok && round.ok ? (
          <>
            {board.onePiece || !likeBoards(plan) ? (
              'Your pieces are used as they come: nothing of them is cut. '
            ) : (
              <>
                Cut each board{' '}
                <b>
                  <Said>{whole(board.w, board.h)}</Said>
                </b>
                : {cut.value.perBoard} from a sheet, {cut.value.boards}{' '}
                {agree(cut.value.boards, 'sheet', 'sheets')}, {Math.round(cut.value.waste * 100)} % waste.{' '}
                {own.length > 0 && 'Used as they come: '}
                <Said>
                  {joined(
                    own.map(p => say`${p.name} (${whole(p.w, p.h)})`),
                    ', ',
                  )}
                </Said>
                {own.length > 0 && '. '}
              </>
            )}
            Tape over one picture: {write(many(round.value.strips, 'strip'))} of{' '}
            <Said>{whole(round.value.stripLength)}</Said>. Doubled mask round it:{' '}
            <Said>{whole(round.value.maskLength)}</Said> of tape.
          </>
        ) : (
          <Said>{whyNot(cut.ok ? round : cut)}</Said>
        )}
      </Text>
      <Text color="fg.muted" mt="1">
        Cut away from your hand, along a metal ruler, on a mat.
      </Text>
    </Box>
  );
}

const whyNot = (found: Outcome<unknown>): Words => (found.ok ? '' : problemWords(found.problem));
