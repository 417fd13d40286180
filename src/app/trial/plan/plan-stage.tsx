import { Text } from '@chakra-ui/react';
import { hasBegun } from '../../../core/progress/index.ts';
import { PlanSummary } from '../../new-trial/plan-summary.tsx';
import { TellsPanel } from '../../new-trial/tells-panel.tsx';
import { useTrial } from '../view.tsx';
import { ChangePanel } from './change-panel.tsx';
import { RehearsePanel } from './rehearse-panel.tsx';

/** Stage "Lay out" of a saved trial: the plan in words and figures, and what it can tell. */
export function PlanStage() {
  const { plan, records } = useTrial();
  const begun = hasBegun(records);
  return (
    <>
      <PlanSummary plan={plan} records={records} start={Date.now()} />
      <Text mt="4" color="fg.muted">
        {begun
          ? 'What has been begun stays where it is. Anything else can still be dragged to another place.'
          : 'Nothing is made yet: drag a patch to move it, or onto another to swap the two. By keyboard: M picks one up, arrows and Enter swap it, Alt with an arrow nudges it.'}
      </Text>
      <RehearsePanel />
      <TellsPanel plan={plan} />
      <ChangePanel />
    </>
  );
}
