import { Field, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { leftover } from '../../../core/design/index.ts';
import { useShelf, useWorkshopActions } from '../../../store/index.ts';
import { Choose } from '../../ui/choose.tsx';
import { Box, Button, Flex, Text } from '../../ui/kit.tsx';
import { asNotice, notSaved, useNotice } from '../../ui/notices.tsx';
import { NumberChoice } from '../../ui/number-choice.tsx';
import { useTrial } from '../view.tsx';

/** What is left of a trial and good for another: kept on the shelf as a sheet that is printed already. */
export function LeftOver() {
  const { workshop, plan } = useTrial();
  const shelf = useShelf(workshop).data?.shelf;
  const { saveItems } = useWorkshopActions(workshop);
  const tell = useNotice();
  const [what, setWhat] = useState('');
  const [donor, setDonor] = useState(plan.used.donors[0]?.id ?? '');
  const [count, setCount] = useState(1);
  const [busy, setBusy] = useState(false);
  if (!shelf || !plan.used.donors.length) return null;
  const keep = async () => {
    const found = leftover(
      plan,
      { what, donor, count },
      shelf.donors.map(d => d.id),
    );
    if (!found.ok) return tell(asNotice(found.problem));
    setBusy(true);
    try {
      await saveItems('donors', [found.value]);
      setWhat('');
      tell({ say: `${count} × “${found.value.name}” lie on your shelf, among the donor sheets.` });
    } catch (error) {
      tell(notSaved(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Box borderTopWidth="1px" py="3">
      <Text fontWeight="700">What is left over</Text>
      <Text color="fg.muted" mb="2">
        The printed backing of a tape, a skin for another day, a spare print: kept on the shelf, a later trial
        lays it on like any other sheet, and does not print it again.
      </Text>
      <Flex gap="3" align="start" wrap="wrap">
        <Field.Root w="15rem">
          <Field.Label>What is left</Field.Label>
          <Input
            value={what}
            maxLength={40}
            placeholder="Printed backing"
            onChange={e => setWhat(e.target.value)}
          />
        </Field.Root>
        {plan.used.donors.length > 1 && (
          <Choose
            label="Of which sheet"
            value={donor}
            options={plan.used.donors.map(d => [d.id, d.name] as const)}
            onChange={setDonor}
          />
        )}
        <Box w="7rem">
          <NumberChoice label="Pieces" value={count} factor={1} step={1} limit="pieces" onChange={setCount} />
        </Box>
        <Button mt="26px" variant="outline" minH="40px" loading={busy} onClick={() => void keep()}>
          Keep it on the shelf
        </Button>
      </Flex>
    </Box>
  );
}
