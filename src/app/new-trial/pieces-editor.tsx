import { Field, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { layersOn, type PlanRequest, roomOn } from '../../core/design/index.ts';
import { bad } from '../../core/outcome/index.ts';
import type { Trialled } from '../../core/progress/index.ts';
import { mm, unitFor } from '../../core/say/index.ts';
import { MOST_PIECES, type Piece, planNow, sizeOf } from '../../core/trial/index.ts';
import { workshopOf } from '../../store/index.ts';
import { Choose } from '../ui/choose.tsx';
import { Box, Button, Flex, Heading, Text } from '../ui/kit.tsx';
import { asNotice, didNotWork, useNotice } from '../ui/notices.tsx';
import { NumberChoice } from '../ui/number-choice.tsx';
import { Said, useSettings } from '../ui/settings.tsx';
import { useKnown } from '../workshop/use-known.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import { CornersEditor, OutlineEditor } from './outline-editor.tsx';

type Pieces = NonNullable<PlanRequest['pieces']>;

/** Pieces of their own among the boards: a lid, a slice, a panel, or what is left of a board of another trial. */
export function PiecesEditor({
  request,
  onChange,
}: {
  request: PlanRequest;
  onChange: (part: Partial<PlanRequest>) => void;
}) {
  const { settings } = useSettings();
  const unit = unitFor('length', settings.system);
  const pieces = request.pieces ?? [];
  const keep = (next: Pieces) => onChange({ pieces: next.length ? next : undefined });
  const set = (i: number, part: Partial<Piece>) =>
    keep(pieces.map((p, k) => (k === i ? { ...p, ...part } : p)));
  if (request.board.onePiece) return null;
  const fresh = (): Piece => {
    const side = Math.max(request.patchMm, sizeOf(request).h) + 2 * request.marginMm;
    const names = pieces.map(p => p.name);
    const free = Array.from({ length: MOST_PIECES + 1 }, (_, i) => `Piece ${'ABCDEFGHIJKLMNOPQRSTU'[i]}`);
    return {
      name: free.find(n => !names.includes(n)) ?? 'Piece',
      w: Math.max(120, side),
      h: Math.max(120, side),
      outline: 'ellipse',
    };
  };
  return (
    <Box mt="4">
      <Heading as="h3" size="md" mb="1">
        Pieces of their own
      </Heading>
      <Text color="fg.muted" mb="2">
        A lid, a slice or a panel that carries patches too. They are filled first, the boards take the rest.
        What is done to a whole piece is done to every patch on it.
      </Text>
      {pieces.map((piece, i) => (
        <Box key={i} borderTopWidth="1px" py="3">
          <Flex gap="3" wrap="wrap" align="start">
            <Field.Root w="12rem">
              <Field.Label>Piece {i + 1} is called</Field.Label>
              <Input value={piece.name} maxLength={40} onChange={e => set(i, { name: e.target.value })} />
            </Field.Root>
            {piece.of ? (
              <Text mt="8">
                <Said>{mm(piece.w, { by: piece.h })}</Said>,{' '}
                {piece.under
                  ? `on ${piece.under.length} finished patches`
                  : `${piece.taken?.length ?? 0} places taken`}
              </Text>
            ) : (
              <>
                {(['w', 'h'] as const).map(side => (
                  <Box key={side} w="7rem">
                    <NumberChoice
                      label={`${side === 'w' ? 'Width' : 'Height'} of ${i + 1}, ${unit.name}`}
                      value={piece[side]}
                      factor={unit.per}
                      step={unit.step}
                      limit="boardMm"
                      onChange={v => set(i, { [side]: v })}
                    />
                  </Box>
                ))}
                <OutlineEditor of={piece} name={`${i + 1}`} onChange={part => set(i, part)} />
              </>
            )}
            <Button
              variant="outline"
              minH="40px"
              alignSelf="end"
              aria-label={`Take ${piece.name || `piece ${i + 1}`} out`}
              onClick={() => keep(pieces.filter((_, k) => k !== i))}
            >
              Take out
            </Button>
          </Flex>
          {!piece.of && <CornersEditor of={piece} onChange={part => set(i, part)} />}
        </Box>
      ))}
      <Flex gap="3" wrap="wrap" align="end" mt="2">
        {pieces.length < MOST_PIECES && (
          <Button variant="outline" minH="44px" onClick={() => keep([...pieces, fresh()])}>
            Add a piece
          </Button>
        )}
        <OnAnother request={request} onTake={more => keep([...pieces, ...more])} />
      </Flex>
    </Box>
  );
}

/** What a stored trial offers to another: room on its boards beside its patches, or its finished patches to lie on. */
async function offered(
  workshop: ReturnType<typeof workshopOf>,
  trial: string,
  all: readonly string[],
  request: PlanRequest,
  onTop: boolean,
): Promise<ReturnType<typeof roomOn>> {
  const whole: Trialled[] = [];
  for (const id of all) {
    const plan = await workshop.plan(id);
    if (!plan?.ok) continue;
    const { records } = await workshop.records(id);
    whole.push({ plan: planNow(plan.value, records), records });
  }
  const chosen = whole.find(t => t.plan.id === trial);
  if (!chosen) return bad('no-trial', 'This trial cannot be opened.', 'Take another.');
  const needs = { patch: sizeOf(request), gutterMm: request.gutterMm, marginMm: request.marginMm };
  const plans = whole.map(t => t.plan);
  return onTop ? layersOn(chosen, plans, needs) : roomOn(chosen.plan, plans, needs);
}

/** Takes what is left of the boards of another trial, or lies on its finished patches. */
function OnAnother({ request, onTake }: { request: PlanRequest; onTake: (pieces: Pieces) => void }) {
  const name = useWorkshop();
  const known = useKnown(name).filter(t => !t.archived);
  const tell = useNotice();
  const [chosen, setChosen] = useState('');
  const [busy, setBusy] = useState(false);
  if (!known.length) return null;
  const trial = known.some(k => k.id === chosen) ? chosen : known[0].id;
  const take = async (onTop: boolean) => {
    setBusy(true);
    try {
      const all = known.map(k => k.id);
      const found = await offered(workshopOf(name), trial, all, request, onTop);
      if (!found.ok) return tell(asNotice(found.problem));
      const has = (p: Piece) =>
        request.pieces?.some(
          o =>
            o.of?.trial === p.of?.trial &&
            o.of?.board === p.of?.board &&
            Boolean(o.under) === Boolean(p.under),
        );
      const more = found.value.map(r => r.piece).filter(p => !has(p));
      onTake(more.slice(0, MOST_PIECES - (request.pieces?.length ?? 0)));
    } catch (error) {
      tell(didNotWork(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <Choose
        label="Or what is left of the boards of"
        value={trial}
        width="16rem"
        options={known.map(k => [k.id, `${k.code} · ${k.name}`] as const)}
        onChange={setChosen}
      />
      <Button variant="outline" minH="44px" loading={busy} onClick={() => void take(false)}>
        Share its boards
      </Button>
      <Button variant="outline" minH="44px" loading={busy} onClick={() => void take(true)}>
        Lie on its finished patches
      </Button>
    </>
  );
}
