import { Link } from 'react-router';
import { planCost } from '../../../core/design/index.ts';
import { hasBegun } from '../../../core/progress/index.ts';
import { many, mm, say, write } from '../../../core/say/index.ts';
import { endOfWork } from '../../../core/schedule/index.ts';
import { sizeOf } from '../../../core/trial/index.ts';
import { PlanSummary } from '../../new-trial/plan-summary.tsx';
import { TellsPanel } from '../../new-trial/tells-panel.tsx';
import { Text } from '../../ui/kit.tsx';
import { Said } from '../../ui/settings.tsx';
import { useTogether } from '../../workshop/use-next.ts';
import { useNow } from '../../workshop/use-now.ts';
import { useWorking } from '../../workshop/use-working.ts';
import { workPlans } from '../../workshop/work-plans.ts';
import { useTrial } from '../view.tsx';
import { ChangePanel } from './change-panel.tsx';
import { RehearsePanel } from './rehearse-panel.tsx';

/** Stage "Lay out" of a saved trial: the plan in words and figures, and what it can tell. */
export function PlanStage() {
  const { plan } = useTrial();
  return plan.real ? <RunOfPieces recipe={plan.real.recipe} /> : <TrialPlanned />;
}

/** Pieces that are made by a recipe: nothing is compared, nothing to be told from them. */
function RunOfPieces({ recipe }: { recipe: string }) {
  const { plan, workshop } = useTrial();
  const { w, h } = sizeOf(plan);
  const cost = planCost(plan);
  return (
    <>
      <Text fontSize="1.15rem">
        <Said>
          {say`${many(plan.patches.length, 'piece')} of ${mm(w, { by: h })}, each on a ground of its own and made just as the recipe says.`}
        </Said>
      </Text>
      <Text mt="2">
        <Link
          to={`/w/${workshop}/recipes/${recipe}`}
          style={{ textDecoration: 'underline', lineHeight: '44px' }}
        >
          The recipe
        </Link>
      </Text>
      {cost.lines.map(l => (
        <Text key={write(l.what)}>
          <Said>{[l.what, ': ', l.amount]}</Said>
        </Text>
      ))}
      <RehearsePanel />
    </>
  );
}

function TrialPlanned() {
  const view = useTrial();
  const { plan, records, workshop } = view;
  const now = useNow(5000);
  const working = useWorking(workshop);
  const { trials } = useTogether(workshop, view);
  const begun = hasBegun(records);
  return (
    <>
      <PlanSummary
        {...{ plan, records }}
        start={now}
        ends={endOfWork(workPlans, trials, working, now, plan.id)}
      />
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
