import { Field } from '@chakra-ui/react';
import { type PlanRequest, smallestBoard } from '../../core/design/index.ts';
import type { Method } from '../../core/methods/index.ts';
import { type FieldUnit, mm, unitFor } from '../../core/say/index.ts';
import { sizeOf } from '../../core/trial/index.ts';

import { Choose } from '../ui/choose.tsx';
import { Box, Button, Grid, Heading, HStack, Text } from '../ui/kit.tsx';
import { NumberField } from '../ui/number-field.tsx';
import type { NumberLimitName } from '../ui/number-limits.ts';
import { Said, useSettings } from '../ui/settings.tsx';
import { CornersEditor, OutlineEditor } from './outline-editor.tsx';
import { PiecesEditor } from './pieces-editor.tsx';

/** The carrier: a board to cut or single pieces, its size and outline, and the room round the patches. */
export function BoardEditor({
  request,
  methods,
  onChange,
  onShuffle,
  patches,
}: {
  request: PlanRequest;
  methods: readonly Method[];
  onChange: (part: Partial<PlanRequest>) => void;
  onShuffle: () => void;
  /** How many patches the plan has, when there is one. */
  patches?: number;
}) {
  const { settings } = useSettings();
  const unit = unitFor('length', settings.system);
  const { board } = request;
  // Of several methods the one that needs the most room decides.
  const around = methods.reduce((most, m) => (m.aroundMm > most.aroundMm ? m : most));
  const what = board.onePiece ? 'Piece' : 'Board';
  return (
    <Box mt="6">
      <Heading as="h2" size="lg" mb="2">
        The board
      </Heading>
      <HStack gap="3" wrap="wrap" align="end" mb="3">
        <Choose
          label="Carrier"
          value={board.onePiece ? 'piece' : 'board'}
          options={[
            ['board', 'a board with many patches'],
            ['piece', 'single pieces, such as tiles'],
          ]}
          onChange={v =>
            onChange({
              board: { ...board, onePiece: v === 'piece' },
              design: v === 'piece' && request.design === 'strips' ? 'every combination' : request.design,
            })
          }
        />
        <OutlineEditor of={board} name="" onChange={part => onChange({ board: { ...board, ...part } })} />
      </HStack>
      <Grid templateColumns={{ base: '1fr 1fr', md: 'repeat(6, 1fr)' }} gap="3">
        <Size
          label={`${what} width`}
          limit="boardMm"
          mm={board.w}
          unit={unit}
          onChange={w => onChange({ board: { ...board, w } })}
        />
        <Size
          label={`${what} height`}
          limit="boardMm"
          mm={board.h}
          unit={unit}
          onChange={h => onChange({ board: { ...board, h } })}
        />
        <Size
          label="Patch width"
          limit="patchMm"
          mm={request.patchMm}
          unit={unit}
          // What is square stays square until its height is written.
          onChange={patchMm => onChange({ patchMm })}
        />
        <Size
          label="Patch height"
          limit="patchMm"
          mm={sizeOf(request).h}
          unit={unit}
          onChange={h => onChange({ patchTallMm: h === request.patchMm ? undefined : h })}
        />
        <Size
          label="Between"
          limit="gapMm"
          mm={request.gutterMm}
          unit={unit}
          onChange={gutterMm => onChange({ gutterMm })}
        />
        <Size
          label="Margin"
          limit="gapMm"
          mm={request.marginMm}
          unit={unit}
          onChange={marginMm => onChange({ marginMm })}
        />
      </Grid>
      <CornersEditor of={board} onChange={part => onChange({ board: { ...board, ...part } })} />
      {around.aroundMm > Math.min(request.gutterMm, request.marginMm) && (
        <Text mt="2" color="fg.muted">
          {around.name} needs <Said>{mm(around.aroundMm)}</Said> of bare ground all round each picture; the
          plan keeps that free.
        </Text>
      )}
      <HStack mt="3" gap="3" wrap="wrap">
        <Text>
          Shuffled from seed <b>{request.seed}</b>
        </Text>
        <Button size="sm" minH="40px" variant="outline" onClick={onShuffle}>
          Shuffle again
        </Button>
        {patches && !board.onePiece && request.design !== 'strips' && !request.pieces?.length && (
          <Button
            size="sm"
            minH="40px"
            variant="outline"
            onClick={() => {
              const room = Math.max(request.gutterMm, around.aroundMm);
              const rim = Math.max(request.marginMm, around.aroundMm);
              onChange({
                board: {
                  ...board,
                  ...smallestBoard(patches, sizeOf(request), room, rim, board.outline, board.corners),
                },
              });
            }}
          >
            One board that just holds them
          </Button>
        )}
      </HStack>
      <PiecesEditor request={request} onChange={onChange} />
    </Box>
  );
}

function Size({
  label,
  mm,
  unit,
  limit,
  onChange,
}: {
  label: string;
  mm: number;
  unit: FieldUnit;
  limit: NumberLimitName;
  onChange: (mm: number) => void;
}) {
  return (
    <Field.Root>
      <Field.Label>
        {label}, {unit.name}
      </Field.Label>
      <NumberField
        key={unit.name}
        value={mm}
        step={unit.step}
        limit={limit}
        show={kept => Math.round(unit.shown(kept) * 100) / 100}
        keep={typed => Math.round(unit.inner(typed) * 10) / 10}
        onChange={onChange}
      />
    </Field.Root>
  );
}
