import { Button, Flex, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { ClaimedSchema, kept, PHONE_KEY, phone } from '../../phone/index.ts';
import { useTrial } from '../trial/view.tsx';
import { failure, useNotice } from '../ui/notices.tsx';
import { packed } from './trial-file.ts';

/** On a phone that took this trial along: one press gives what happened here to the laptop. */
export function GiveBack() {
  const { plan, workshop } = useTrial();
  const tell = useNotice();
  const [busy, setBusy] = useState(false);
  const link = kept(PHONE_KEY, ClaimedSchema);
  if (link?.about.kind !== 'trial' || link.about.trial !== plan.id || workshop !== 'mine') return null;
  const give = async () => {
    setBusy(true);
    try {
      const file = await packed(workshop, plan.id);
      const gone = file.ok ? await phone.back(link.key, file.value) : file;
      tell(
        gone.ok
          ? { say: 'Given back. The laptop takes it in when it shows this trial under Make.' }
          : { say: `${gone.problem.say} All of it is still here: give it back later.` },
      );
    } catch (error) {
      tell(failure(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Flex gap="3" align="center" wrap="wrap" borderWidth="2px" borderColor="tide.solid" p="3" mb="3">
      <Text flex="1" minW="12rem">
        You took this trial along from the laptop.
      </Text>
      <Button minH="48px" colorPalette="buoy" loading={busy} onClick={() => void give()}>
        Give it back
      </Button>
    </Flex>
  );
}
