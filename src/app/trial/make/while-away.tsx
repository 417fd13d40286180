import { useState } from 'react';
import { furtherBatch } from '../../../core/design/index.ts';
import { awayOf } from '../../../core/progress/index.ts';
import { agree, span, within } from '../../../core/say/index.ts';
import { levelsLine } from '../../../core/trial/index.ts';
import { type RecordDraft, useShelf } from '../../../store/index.ts';
import { Box, Button, Flex, Heading, Text } from '../../ui/kit.tsx';
import { asNotice, useNotice } from '../../ui/notices.tsx';
import { Said } from '../../ui/settings.tsx';
import { Tick } from '../../ui/tick.tsx';
import { moment } from '../../ui/time.ts';
import { Unbroken } from '../../ui/unbroken.tsx';
import { useRecord } from '../../workshop/use-record.ts';
import { useTrial } from '../view.tsx';

/** Somebody who did nothing for so long was away; sooner the bench itself says what is late. */
const AWAY_MIN = 6 * 60;

/** For who comes back after hours or days: what is lost, what can still be saved, and what to do about both. */
export function WhileAway({ now }: { now: number }) {
  const { workshop, made, plan, records } = useTrial();
  const shelf = useShelf(workshop).data?.shelf;
  const record = useRecord(workshop, plan.id);
  const tell = useNotice();
  const [kept, setKept] = useState<ReadonlySet<string>>(new Set());
  const away = awayOf(plan, records, now);
  if (!away || away.forMin < AWAY_MIN || !away.lost.length) return null;
  const chosen = away.lost.filter(l => !kept.has(l.patch));
  const off = chosen.map(
    (l): RecordDraft => ({
      kind: 'spoilt',
      patch: l.patch,
      why: `${l.next.step.action}: ${span(l.byMin)} too late`,
      slip: true,
    }),
  );
  const giveUp = async (again: boolean) => {
    if (!again) return void record.add(off);
    const combinations = chosen.flatMap(l => {
      const levels = plan.patches.find(p => p.code === l.patch)?.levels ?? [];
      return levels.length ? [levels] : [];
    });
    if (!shelf) return;
    const batch = furtherBatch(made, records, { what: 'again', combinations }, shelf);
    if (!batch.ok) return tell(asNotice(batch.problem));
    const done = await record.add([
      ...off,
      { kind: 'change', patch: null, change: batch.value, why: 'Their windows were missed.' },
    ]);
    if (done) {
      const count = batch.value.patches.length;
      tell({
        say: `${count === 1 ? 'A new patch takes its place. Print its sheet' : `${count} new patches take their place. Print their sheets`} next.`,
      });
    }
  };
  return (
    <Box as="section" aria-label="While you were away" borderWidth="2px" borderColor="warn.fg" p="4" mb="5">
      <Heading as="h2" size="lg">
        Nothing was done for {span(away.forMin)}
      </Heading>
      <Text fontWeight="700" mt="3">
        Lost: what is done to these now is done too late
      </Text>
      {away.lost.map(l => {
        const patch = plan.patches.find(p => p.code === l.patch)!;
        return (
          <Box key={l.patch} borderTopWidth="1px" py="1.5">
            <Tick
              minH="44px"
              checked={!kept.has(l.patch)}
              onChange={isOff => {
                const next = new Set(kept);
                if (isOff) next.delete(l.patch);
                else next.add(l.patch);
                setKept(next);
              }}
            >
              <Unbroken>{l.patch}</Unbroken> <Said>{levelsLine(plan, patch)}</Said>:{' '}
              {within(l.next.step.action)}, {span(l.byMin)} too late. {l.tooLate}
            </Tick>
          </Box>
        );
      })}
      <Flex gap="3" mt="3" wrap="wrap">
        <Button
          colorPalette="tide"
          minH="48px"
          loading={record.busy}
          disabled={!chosen.length}
          onClick={() => void giveUp(true)}
        >
          Give {chosen.length} up and make {agree(chosen.length, 'it', 'them')} again
        </Button>
        <Button
          variant="outline"
          minH="48px"
          loading={record.busy}
          disabled={!chosen.length}
          onClick={() => void giveUp(false)}
        >
          Only give {chosen.length} up
        </Button>
      </Flex>
      <Text color="fg.muted" mt="2">
        Untick what you want to go on with all the same: it then counts with the time it really had.
      </Text>
      {away.open.length > 0 && (
        <>
          <Text fontWeight="700" mt="4">
            Can still be saved
          </Text>
          {away.open.map(o => (
            <Text key={o.patch} borderTopWidth="1px" py="1.5">
              <Unbroken>{o.patch}</Unbroken>: {within(o.next.step.action)}, until{' '}
              <b>{moment(o.until, now)}</b>
            </Text>
          ))}
        </>
      )}
      {away.patient.length > 0 && (
        <Text mt="3">
          None the worse for waiting: <Unbroken>{away.patient.join(', ')}</Unbroken>
        </Text>
      )}
    </Box>
  );
}
