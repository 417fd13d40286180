import { useEffect, useState } from 'react';
import { historyOf } from '../../../core/simulator/index.ts';
import { carrierName, settingsOf } from '../../../core/trial/index.ts';
import { rehearseLook } from '../../../workers/index.ts';
import { Box, Button, Heading, HStack, Text } from '../../ui/kit.tsx';
import { didNotWork, useAttempt } from '../../ui/notices.tsx';
import { picturesOn } from '../../workshop/pictures-on.ts';
import { useTrial } from '../view.tsx';

interface Seen {
  readonly board: number;
  readonly url: string;
  readonly landed: ReadonlyMap<string, number>;
}

/** Before anything is cut: how this plan would likely look, patch by patch, with the usual care or a hurried hand. Simulated, and says so. */
export function RehearsePanel() {
  const view = useTrial();
  const { plan, selected } = view;
  const [hand, setHand] = useState<'usual' | 'hurried'>();
  const [draw, setDraw] = useState(0);
  const [seen, setSeen] = useState<readonly Seen[]>([]);
  const [busy, setBusy] = useState(false);
  const attempt = useAttempt(didNotWork);
  useEffect(
    () => () => {
      for (const { url } of seen) URL.revokeObjectURL(url);
    },
    [seen],
  );
  const look = async (how: 'usual' | 'hurried', next: number) => {
    setHand(how);
    setDraw(next);
    setBusy(true);
    await attempt(async () => {
      const pictures = await picturesOn(view);
      const boards = [...new Set(plan.patches.map(p => p.board))].sort((a, b) => a - b);
      const found: Seen[] = [];
      for (const board of boards) {
        const made = plan.patches
          .filter(p => p.board === board)
          .map(p => ({
            code: p.code,
            // As it is planned, whatever has been recorded since.
            history: historyOf({ plan, records: [] }, p.code, {
              round: settingsOf(plan, p).rounds,
              hands: { isHurried: how === 'hurried', draw: next },
            }),
          }));
        const { look: picture, landed } = await rehearseLook(plan, pictures, board, made, plan.seed + next);
        found.push({ board, url: URL.createObjectURL(picture), landed });
      }
      setSeen(found);
    });
    setBusy(false);
  };
  const all = seen.flatMap(s => [...s.landed.values()]).sort((a, b) => a - b);
  const own = selected && seen.map(s => s.landed.get(selected.code)).find(v => v !== undefined);
  return (
    <Box as="section" aria-labelledby="rehearse" mt="6">
      <Heading as="h2" id="rehearse" size="lg">
        See it before it is cut
      </Heading>
      <Text mb="2">
        A simulation of what usually goes wrong with these materials and times in this air. It knows what the
        handbook knows and nothing of your hands: no promise, and no evidence.
      </Text>
      <HStack wrap="wrap" gap="3">
        {(['usual', 'hurried'] as const).map(how => (
          <Button
            key={how}
            minH="48px"
            variant={hand === how ? 'solid' : 'outline'}
            aria-pressed={hand === how}
            disabled={busy}
            onClick={() => void look(how, draw)}
          >
            {how === 'usual' ? 'With the usual care' : 'With a hurried hand'}
          </Button>
        ))}
        {hand && (
          <Button minH="48px" variant="ghost" disabled={busy} onClick={() => void look(hand, draw + 1)}>
            Another go
          </Button>
        )}
      </HStack>
      {busy && (
        <Text role="status" mt="2" color="fg.muted">
          Making it up…
        </Text>
      )}
      {!busy &&
        seen.map(({ board, url }) => (
          <Box key={board} mt="3" position="relative">
            <img
              src={url}
              alt={`${carrierName(plan, board)} as it might look, simulated`}
              style={{ width: '100%' }}
            />
            <Text
              position="absolute"
              top="2"
              left="2"
              px="2"
              bg="bg.panel"
              borderWidth="1px"
              fontWeight="700"
            >
              {seen.length > 1 ? `${carrierName(plan, board)}, ` : ''}simulated
            </Text>
          </Box>
        ))}
      {!busy && all.length > 0 && (
        <Text mt="2" fontSize="1.1rem">
          Of these patches {all[0].toFixed(0)} to {all[all.length - 1].toFixed(0)} % would land, half of them
          more than {all[all.length >> 1].toFixed(0)} %.
          {selected && own !== undefined && ` ${selected.code}: ${own.toFixed(0)} %.`}
        </Text>
      )}
    </Box>
  );
}
