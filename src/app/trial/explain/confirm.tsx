import { useState } from 'react';
import { useNavigate } from 'react-router';
import { type Cause, confirmingTrial } from '../../../core/diagnosis/index.ts';
import { chanceFrom } from '../../../core/random/index.ts';
import { joined, many, say, type Words, within } from '../../../core/say/index.ts';
import { factorIn, levelNames, type Patch, type TrialPlan } from '../../../core/trial/index.ts';
import { presentMs, useShelf, useWorkshopActions } from '../../../store/index.ts';
import { Button, Flex, Text } from '../../ui/kit.tsx';
import { asNotice, useAttempt, useNotice } from '../../ui/notices.tsx';
import { Said } from '../../ui/settings.tsx';
import { useTrial } from '../view.tsx';

/** One press makes the trial that tells whether this was the cause: a few patches, one thing changed. */
export function Confirm({ cause, patch }: { cause: Cause; patch: Patch }) {
  const { plan, workshop } = useTrial();
  const shelf = useShelf(workshop).data?.shelf;
  const { save } = useWorkshopActions(workshop);
  const navigate = useNavigate();
  const attempt = useAttempt();
  const tell = useNotice();
  const [busy, setBusy] = useState(false);
  if (!shelf || !cause.confirm) return null;
  const make = async () => {
    const now = presentMs();
    const chance = chanceFrom(now);
    const identity = { createdAt: new Date(now).toISOString(), random: () => chance.next() };
    const made = confirmingTrial(plan, patch, cause, shelf, identity);
    if (!made.ok) return tell(asNotice(made.problem));
    setBusy(true);
    const isKept = await attempt(() => save(made.value));
    setBusy(false);
    if (!isKept) return;
    tell({ say: say`${many(made.value.patches.length, 'patch')}, ${changed(made.value)}.` });
    await navigate(`/w/${workshop}/t/${made.value.id}/plan`);
  };
  return (
    <Flex mt="2" gap="3" align="center" wrap="wrap">
      <Button minH="48px" variant="outline" loading={busy} onClick={() => void make()}>
        Make the trial that tells
      </Button>
      <Text color="fg.muted">
        <Said>{`Four patches: ${within(factorIn(plan, cause.confirm.factor))} as it was, and changed.`}</Said>
      </Text>
    </Flex>
  );
}

/** What the trial changes, in words. */
function changed(made: TrialPlan): Words {
  const [{ key, levels }] = made.factors;
  const names = levels.map((_, l) => levelNames(made, { levels: [l] })[0]);
  return say`${within(factorIn(made, key))} ${joined(names, ' or ')}`;
}
