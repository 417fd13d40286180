import { useState } from 'react';
import { say } from '../../core/say/index.ts';
import { type Claimed, ClaimedSchema, kept, PHONE_KEY, phone } from '../../phone/index.ts';
import { useTrial } from '../trial/view.tsx';
import { Button, Flex, Text } from '../ui/kit.tsx';
import { didNotWork, useNotice } from '../ui/notices.tsx';
import { BIG } from './big.ts';
import { packed } from './trial-file.ts';

/** On a phone that took this trial along: one press gives what happened here to the laptop. */
export function GiveBack() {
  const { plan, workshop } = useTrial();
  const link = kept(PHONE_KEY, ClaimedSchema);
  if (link?.about.kind !== 'trial' || link.about.trial !== plan.id || workshop !== 'mine') return null;
  return (
    <Flex gap="3" align="center" wrap="wrap" borderWidth="2px" borderColor="tide.solid" p="3" mb="3">
      <Text flex="1" minW="12rem">
        You took this trial along from the laptop.
      </Text>
      <GiveBackButton link={link} />
    </Flex>
  );
}

/** Gives the trial of a link to the laptop as it is on this phone. */
export function GiveBackButton({ link, big = false }: { link: Claimed; big?: boolean }) {
  const tell = useNotice();
  const [busy, setBusy] = useState(false);
  const give = async () => {
    setBusy(true);
    try {
      const file = await packed('mine', link.about.trial);
      const gone = file.ok ? await phone.back(link.key, file.value) : file;
      tell(
        gone.ok
          ? { say: 'Given back. The laptop takes it in when it shows this trial under Make.' }
          : { say: say`${gone.problem.say} All of it is still here: give it back later.` },
      );
    } catch (error) {
      tell(didNotWork(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Button
      colorPalette="buoy"
      loading={busy}
      onClick={() => void give()}
      {...(big ? BIG : { minH: '48px' })}
    >
      Give it back
    </Button>
  );
}
