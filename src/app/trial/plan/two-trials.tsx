import { type ComponentProps, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Outcome } from '../../../core/outcome/index.ts';
import type { Words } from '../../../core/say/index.ts';
import { levelName, namesOf, type TrialPlan } from '../../../core/trial/index.ts';
import { useWorkshopActions } from '../../../store/index.ts';
import { Choose } from '../../ui/choose.tsx';
import { Box, Button, Flex, Text } from '../../ui/kit.tsx';
import { asNotice, notSaved, useNotice } from '../../ui/notices.tsx';
import { useWrite } from '../../ui/settings.tsx';
import { useKnown } from '../../workshop/use-known.ts';
import { useTrial } from '../view.tsx';

/** One trial of two that ask the same, or two of one: each keeps its patches, their codes and all that happened to them. */
export function TwoTrials({ why, onDone }: { why: string; onDone: () => void }) {
  const { workshop, plan, selected } = useTrial();
  const { merge, split } = useWorkshopActions(workshop);
  const tell = useNotice();
  const navigate = useNavigate();
  const said = useWrite();
  const others = useKnown(workshop).filter(t => t.id !== plan.id && !t.archived && t.method === plan.method);
  const [other, setOther] = useState('');
  const [which, setWhich] = useState('');
  const [busy, setBusy] = useState(false);
  const parts = partsOf(plan, selected?.board, said);
  const chosen = others.find(t => t.id === other) ?? others[0];
  const part = parts.find(p => p.id === which) ?? parts[0];
  const go = async (work: () => Promise<Outcome<TrialPlan>>, words: (made: TrialPlan) => string) => {
    setBusy(true);
    try {
      const made = await work();
      if (!made.ok) return tell(asNotice(made.problem));
      tell({ say: words(made.value) });
      onDone();
      await navigate(`/w/${workshop}/t/${made.value.id}/plan`);
    } catch (error) {
      tell(notSaved(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Box borderTopWidth="1px" py="3">
      <Text fontWeight="700">One trial of two, or two of one</Text>
      <Text color="fg.muted" mb="2">
        Every patch keeps its code, its board and all that happened to it. Nothing is lost: trials that are
        put together are put away as they are, and patches that leave can be taken back here.
      </Text>
      {chosen ? (
        <Chosen
          label="Put together with"
          value={chosen.id}
          options={others.map(t => [t.id, `${t.code} · ${t.name}`] as const)}
          onChange={setOther}
          busy={busy}
          words="Make one trial of both"
          onGo={() =>
            void go(
              () => merge(plan.id, chosen.id),
              made =>
                `${plan.code} and ${chosen.code} go on as trial ${made.code}, with ${made.patches.length} patches.`,
            )
          }
        />
      ) : (
        <Text>There is no other trial of this method to put it together with.</Text>
      )}
      {part && (
        <Chosen
          label="Split off"
          value={part.id}
          options={parts.map(p => [p.id, p.name] as const)}
          onChange={setWhich}
          busy={busy}
          words={`Make them a trial of their own (${part.codes.length} patches)`}
          onGo={() =>
            void go(
              () => split(plan.id, part.codes, why.trim() || undefined),
              made => `${part.codes.length} patches are trial ${made.code} now.`,
            )
          }
        />
      )}
    </Box>
  );
}

/** Something to choose, and what is then done with it. */
function Chosen({
  words,
  busy,
  onGo,
  ...choose
}: Omit<ComponentProps<typeof Choose>, 'width'> & { words: string; busy: boolean; onGo: () => void }) {
  return (
    <Flex gap="3" mt="3" align="end" wrap="wrap">
      <Choose width="17rem" {...choose} />
      <Button variant="outline" minH="48px" loading={busy} onClick={onGo}>
        {words}
      </Button>
    </Flex>
  );
}

interface Part {
  readonly id: string;
  readonly name: string;
  readonly codes: readonly string[];
}

/** What can be split off: a level of something that is varied, or a board; never so much that less than two patches stay. */
function partsOf(plan: TrialPlan, board: number | undefined, said: (words: Words) => string): Part[] {
  const names = namesOf(plan);
  const levels = plan.factors.flatMap((f, i) =>
    f.levels.map(
      (level, l): Part => ({
        id: `${i} ${l}`,
        name: said(levelName(names, f.key, level)),
        codes: plan.patches.filter(p => p.levels[i] === l).map(p => p.code),
      }),
    ),
  );
  const boards = plan.board.onePiece
    ? []
    : Array.from(
        { length: plan.board.count },
        (_, b): Part => ({
          id: `board ${b}`,
          name: `${plan.pieces?.[b]?.name ?? `Board ${b + 1}`}${b === board ? ' (chosen)' : ''}`,
          codes: plan.patches.filter(p => p.board === b).map(p => p.code),
        }),
      );
  return [...levels, ...boards].filter(
    ({ codes }) => codes.length >= 2 && plan.patches.length - codes.length >= 2,
  );
}
