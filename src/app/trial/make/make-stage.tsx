import { Input } from '@chakra-ui/react';
import { useState } from 'react';
import { Link } from 'react-router';
import { deviationsOf, hasBegun, patchStatus, progressOf, skippedOf } from '../../../core/progress/index.ts';
import { celsius, joined, say, thick, type Words, within } from '../../../core/say/index.ts';
import { nextAction } from '../../../core/schedule/index.ts';
import { cautionsAt, chainOf, whichTime } from '../../../core/steps/index.ts';
import {
  about,
  airOf,
  isSpoilt,
  levelsLine,
  type PatchSettings,
  settingsOf,
  standing,
  type TrialPlan,
  unitOf,
} from '../../../core/trial/index.ts';

import { type RecordDraft, useWorkshopActions } from '../../../store/index.ts';
import { LinkPanel } from '../../phone/link-panel.tsx';
import { packed, takeInFile } from '../../phone/trial-file.ts';
import { Cautions } from '../../ui/cautions.tsx';
import { Box, Button, Flex, Heading, Text } from '../../ui/kit.tsx';
import { asNotice, notSaved, useNotice } from '../../ui/notices.tsx';
import { outsideWords } from '../../ui/outside.ts';
import { Said, useSettings } from '../../ui/settings.tsx';
import { moment } from '../../ui/time.ts';
import { Unbroken } from '../../ui/unbroken.tsx';
import { useLessons } from '../../workshop/use-known.ts';
import { useNext, useTogether } from '../../workshop/use-next.ts';
import { useNow } from '../../workshop/use-now.ts';
import { useRecord } from '../../workshop/use-record.ts';
import { useWorking } from '../../workshop/use-working.ts';
import { useTrial } from '../view.tsx';
import { AirToCome } from './air-to-come.tsx';
import { DayPlan } from './day-plan.tsx';
import { DryingLine } from './drying-line.tsx';
import { HowYouWork } from './how-you-work.tsx';
import { PHASE_WORDS } from './phases.ts';
import { useDayPlan } from './use-day-plan.ts';
import { WhileAway } from './while-away.tsx';

/** Stage "Make": the way to the bench, the plan of the work, what dries, and the selected patch's whole chain with what really happened. */
export function MakeStage() {
  const view = useTrial();
  const { plan, records, workshop, selected } = view;
  const { settings, change } = useSettings();
  const now = useNow(5000);
  const working = useWorking(workshop);
  const { trials } = useTogether(workshop, view);
  const { agenda, problem, search, busy, cancel } = useDayPlan(trials, working, now);
  const { action, trial } = useNext(workshop, now, view);
  const other = trial && trial.id !== plan.id ? trial : undefined;
  const isDone = nextAction(progressOf(plan, records), now).kind === 'finished';
  const air = airOf(plan, records);
  const lessons = useLessons(workshop);
  return (
    <Box>
      <WhileAway now={now} />
      <Text fontSize="1.3rem" mb="3">
        {isDone || action.kind === 'finished' ? (
          `Every ${unitOf(plan).one} is finished or written off.`
        ) : action.kind === 'wait' ? (
          <>
            Nothing to do until <b>{moment(action.until, now)}</b>: then {within(action.link.step.action)},{' '}
            <Unbroken>{action.patch.code}</Unbroken>
            {other ? ` of “${other.name}”` : ''}.{' '}
            {action.why && `${action.why} If you are, say so below, at “You are there”.`}
          </>
        ) : (
          <>
            Next: <b>{action.link.step.action}</b>, <Unbroken>{action.patch.code}</Unbroken>
            {other ? ` of “${other.name}”` : ''}. {action.why}
          </>
        )}
      </Text>
      {isDone ? (
        <Button asChild size="2xl" colorPalette="buoy">
          <Link to={`/w/${workshop}/t/${plan.id}/read`}>Photograph and read</Link>
        </Button>
      ) : (
        <Button asChild size="2xl" colorPalette="buoy">
          <Link to={`/w/${workshop}/t/${plan.id}/bench`}>
            {hasBegun(records) ? 'Go to the bench' : 'Set up the bench'}
          </Link>
        </Button>
      )}
      <ToTheSink />
      <Text color="fg.muted" mt="3" mb="5">
        Air: <Said>{celsius(air.tempC, { places: 0 })}</Said>, {air.rh} % humidity.
      </Text>
      {selected ? (
        <Chain key={selected.code} now={now} />
      ) : (
        <Text mt="5">Choose a {unitOf(plan).one} on the board to see its steps and times.</Text>
      )}
      {hasBegun(records) && !isDone && (
        <Box as="section" aria-label="Drying line" mt="6">
          <Heading as="h2" size="lg" mb="1">
            What is drying
          </Heading>
          <DryingLine
            trials={[{ plan, records }]}
            lessons={lessons}
            {...{ workshop, now }}
            sittings={settings.working.sittings}
          />
        </Box>
      )}
      {!isDone && (
        <>
          <DayPlan {...{ plan, trials, agenda, problem, search, busy, cancel, now }} />
          <HowYouWork
            working={settings.working}
            {...{ washMin: working.washMin, ovenHolds: working.ovenHolds }}
            onChange={next => change({ working: next })}
          />
          <AirToCome now={now} />
        </>
      )}
    </Box>
  );
}

/** The trial on a phone, and back. */
function ToTheSink() {
  const { plan, workshop } = useTrial();
  const actions = useWorkshopActions(workshop);
  const tell = useNotice();
  const take = async (_: unknown, file: Blob) => {
    try {
      const came = await takeInFile(actions, file);
      if (!came.ok) {
        tell(asNotice(came.problem));
        // What can never be taken in does not stand in the way for good; the phone still has it.
        return came.problem.code !== 'storage';
      }
      tell({ say: `${came.value.records} new records came from the phone.` });
      return true;
    } catch (error) {
      tell(notSaved(error));
      return false;
    }
  };
  return (
    <Box mt="3">
      <LinkPanel kind="trial" offer={() => packed(workshop, plan.id)} take={take} />
    </Box>
  );
}

/** Coat and paper of a patch, where they are not among what is varied and named already. */
function alsoOf(plan: TrialPlan, s: PatchSettings): Words[] {
  const varied = new Set(plan.factors.map(f => f.key));
  return [
    ...(varied.has('coatMm') || s.medium.kind === 'none' ? [] : [say`${thick(s.coatMm)} coat`]),
    ...(varied.has('donor') ? [] : [s.donor.name]),
  ];
}

function Chain({ now }: { now: number }) {
  const { plan, records, selected, workshop } = useTrial();
  const patch = selected!;
  const record = useRecord(workshop, plan.id);
  const [note, setNote] = useState('');
  const { lines, airs } = progressOf(plan, records);
  const line = lines.find(l => l.patch.code === patch.code)!;
  const status = patchStatus(line, airs, now);
  const s = settingsOf(plan, patch);
  const skipped = new Set(
    skippedOf(records)
      .filter(d => d.patch === patch.code)
      .map(d => `${d.step} ${d.round}`),
  );
  const off = new Map(
    deviationsOf(plan, records)
      .filter(d => d.patch === patch.code)
      .map(d => [`${d.step} ${d.round}`, d.byMin]),
  );
  const add = (draft: RecordDraft) => record.add([draft]);
  const chain = chainOf(plan, patch);
  return (
    <Box mt="6">
      <Heading as="h2" size="lg">
        {patch.code}: {PHASE_WORDS[status.phase]}
      </Heading>
      <Text color="fg.muted" mb="2">
        <Said>{joined([levelsLine(plan, patch), ...alsoOf(plan, s)], ' · ')}</Said>
      </Text>
      {chain.map((link, i) => {
        const at = line.doneAt[i];
        const isNext = status.next?.step.id === link.step.id && status.next.round === link.round;
        return (
          <Flex
            key={`${link.step.id}${link.round}`}
            borderTopWidth="1px"
            py="1.5"
            gap="3"
            align="baseline"
            fontWeight={isNext ? '700' : '400'}
          >
            <Text minW={{ base: '8.5rem', md: '12.5rem' }} color={at ? 'fg' : 'fg.muted'}>
              {at
                ? moment(at, now)
                : isNext && status.window
                  ? `aim ${moment(status.window.aim, now)}`
                  : isNext
                    ? 'next'
                    : ''}
            </Text>
            <Text flex="1">
              {at ? link.step.done : link.step.action}
              {whichTime(chain, link) ? `, ${whichTime(chain, link)}` : ''}
              {skipped.has(`${link.step.id} ${link.round}`) && (
                <Text as="span" color="warn.fg">
                  {' '}
                  · left out
                </Text>
              )}
              {off.has(`${link.step.id} ${link.round}`) && (
                <Text as="span" color="warn.fg">
                  {' '}
                  · {outsideWords(off.get(`${link.step.id} ${link.round}`)!)}
                </Text>
              )}
            </Text>
          </Flex>
        );
      })}
      {about(records, patch.code, 'note').map(n => (
        <Text key={n.id} mt="2">
          Note, {moment(Date.parse(n.at), now)}: {n.text}
        </Text>
      ))}
      <Flex gap="2" mt="3" wrap="wrap" align="end">
        <Input
          aria-label={`Note about ${patch.code}`}
          placeholder="Note about this patch"
          value={note}
          onChange={e => setNote(e.target.value)}
          flex="1"
          minW="12rem"
        />
        <Button
          minH="44px"
          variant="outline"
          disabled={!note.trim()}
          onClick={() => {
            void add({ kind: 'note', patch: patch.code, text: note.trim() }).then(
              kept => kept && setNote(''),
            );
          }}
        >
          Keep note
        </Button>
        {!isSpoilt(records, patch.code) ? (
          ([false, true] as const).map(slip => (
            <Button
              key={String(slip)}
              minH="44px"
              variant="outline"
              onClick={() =>
                void add({ kind: 'spoilt', patch: patch.code, why: 'Written off on the bench', slip })
              }
            >
              {slip ? 'Spoilt by my slip' : 'It failed'}
            </Button>
          ))
        ) : (
          <Button
            minH="44px"
            variant="outline"
            onClick={() => {
              const mark = standing(records).findLast(r => r.kind === 'spoilt' && r.patch === patch.code);
              if (mark) void add({ kind: 'undo', patch: patch.code, of: mark.id });
            }}
          >
            Not spoilt after all
          </Button>
        )}
      </Flex>
      <Box mt="5">
        <Cautions ids={[...new Set(line.chain.flatMap(x => cautionsAt(x.step, line.settings)))]} />
      </Box>
    </Box>
  );
}
