import { joined, many, mL, say, within } from '../../../core/say/index.ts';
import { takenOff, usedUp } from '../../../core/stock/index.ts';
import { useShelf } from '../../../store/index.ts';
import { Box, Button, Heading, Text } from '../../ui/kit.tsx';
import { useAttempt, useNotice } from '../../ui/notices.tsx';
import { Said } from '../../ui/settings.tsx';
import { useTakeOff } from '../../workshop/take-off.ts';
import { useRecord } from '../../workshop/use-record.ts';
import { useTrial } from '../view.tsx';

/** What the trial has used of what the shelf counts, to be taken off it; nothing where that is done or nothing is counted. */
export function OffTheShelf() {
  const { plan, records, workshop } = useTrial();
  const shelf = useShelf(workshop).data?.shelf;
  const takeOff = useTakeOff(workshop);
  const record = useRecord(workshop, plan.id);
  const attempt = useAttempt();
  const tell = useNotice();
  const used = usedUp(plan, records);
  if (!used || !shelf) return null;
  const { mediums, donors } = takenOff(shelf, used);
  if (!mediums.length && !donors.length) return null;
  const words = joined(
    [
      ...mediums.map(m => say`${mL(used.ml[m.id], { places: 0 })} of ${within(m.name)}`),
      ...donors.map(d => say`${many(used.sheets[d.id], 'sheet')} of ${d.name}`),
    ],
    ', ',
  );
  const take = () =>
    attempt(async () => {
      if (await record.add([{ kind: 'stock', patch: null, ...used }])) tell({ say: await takeOff(used) });
    });
  return (
    <Box mt="8" as="section" aria-label="Off the shelf">
      <Heading as="h2" size="lg" mb="1">
        Off the shelf
      </Heading>
      <Text mb="3">
        It has used <Said>{words}</Said>, which your shelf still counts as on hand.
      </Text>
      <Button minH="48px" variant="outline" disabled={record.busy} onClick={() => void take()}>
        Take it off the shelf
      </Button>
    </Box>
  );
}
