import { Field, Input, Textarea } from '@chakra-ui/react';
import { useState } from 'react';
import { Link } from 'react-router';
import { begunPatches, furtherBatch, inOrderOf, leavingOut } from '../../../core/design/index.ts';
import { good, problemWords } from '../../../core/outcome/index.ts';
import { hasBegun } from '../../../core/progress/index.ts';
import {
  changesIn,
  isArchived,
  levelsLine,
  recordWords,
  type TrialRecord,
} from '../../../core/trial/index.ts';
import { useShelf } from '../../../store/index.ts';
import { Box, Button, Flex, Heading, Text } from '../../ui/kit.tsx';
import { Said } from '../../ui/settings.tsx';
import { moment } from '../../ui/time.ts';
import { useTrial } from '../view.tsx';
import { AnotherLevel } from './another-level.tsx';
import { LeftOver } from './left-over.tsx';
import { TwoTrials } from './two-trials.tsx';
import { useChange } from './use-change.ts';

type Changing = ReturnType<typeof useChange>;

/** What can be changed of a trial that is there: its words, more patches, less of them; and what was changed. */
export function ChangePanel() {
  const { workshop, plan, records } = useTrial();
  const changing = useChange();
  const begun = hasBegun(records);
  const archived = isArchived(records);
  return (
    <Box as="section" aria-label="Change this trial" mt="8">
      <Heading as="h2" size="lg" mb="2">
        Change this trial
      </Heading>
      <Flex gap="3" wrap="wrap" mb="4">
        {!begun && (
          <Button asChild colorPalette="tide" minH="48px">
            <Link to={`/w/${workshop}/new/plan?from=edit:${plan.id}`}>Edit the plan</Link>
          </Button>
        )}
        <Button asChild variant="outline" minH="48px">
          <Link to={`/w/${workshop}/new/plan?from=again:${plan.id}`}>Plan it once more</Link>
        </Button>
        <Button
          variant="outline"
          minH="48px"
          onClick={() =>
            void changing.change(
              good({ what: 'archive', archived: !archived }),
              archived
                ? `“${plan.name}” is among your trials again.`
                : `“${plan.name}” was put away. What it taught still counts.`,
            )
          }
        >
          {archived ? 'Take it up again' : 'Put it away'}
        </Button>
      </Flex>
      <Field.Root maxW="34rem" mb="4">
        <Field.Label>Why you change it (kept with the change)</Field.Label>
        <Input
          value={changing.why}
          maxLength={400}
          placeholder="Soft gel ran out; a thinner coat looked promising"
          onChange={e => changing.setWhy(e.target.value)}
        />
      </Field.Root>
      <MorePatches {...changing} />
      <LeftOver />
      <TwoTrials why={changing.why} onDone={() => changing.setWhy('')} />
      <Words key={`${plan.name} ${plan.question} ${plan.tags}`} {...changing} />
      <Changes records={records} onTakeBack={changing.takeBack} />
    </Box>
  );
}

function MorePatches({ change, busy }: Changing) {
  const { made, plan, records, selected } = useTrial();
  const shelf = useShelf(useTrial().workshop).data?.shelf;
  if (!shelf) return null;
  const add = (found: ReturnType<typeof furtherBatch>) =>
    change(
      found,
      found.ok
        ? `${found.value.patches.length} more patches: ${found.value.patches.map(p => p.code).join(', ')}. Print their sheets next.`
        : '',
    );
  const all = furtherBatch(made, records, { what: 'again' }, shelf);
  const isBegun = selected && begunPatches(plan, records).has(selected.code);
  const deed = (words: string, work: () => Promise<boolean>) => (
    <Button variant="outline" minH="48px" loading={busy} onClick={() => void work()}>
      {words}
    </Button>
  );
  return (
    <Box borderTopWidth="1px" py="3">
      <Text fontWeight="700">More or fewer patches</Text>
      <Text color="fg.muted" mb="2">
        More are a batch of their own, on {plan.board.onePiece ? 'pieces' : 'a board'} of its own and shuffled
        by itself; what has been made keeps what it was made with.
      </Text>
      <Flex gap="3" wrap="wrap">
        <Button variant="outline" minH="48px" loading={busy} disabled={!all.ok} onClick={() => void add(all)}>
          Make everything once more
          {all.ok && ` (${all.value.patches.length} patches)`}
        </Button>
        {selected && selected.levels.length > 0 && (
          <>
            {deed(`Two more like ${selected.code}`, () =>
              add(
                furtherBatch(
                  made,
                  records,
                  { what: 'again', combinations: [selected.levels, selected.levels] },
                  shelf,
                ),
              ),
            )}
            {!isBegun &&
              deed(`Leave ${selected.code} out`, () =>
                change(leavingOut(made, records, [selected.code]), `${selected.code} was left out.`),
              )}
            {!isBegun &&
              deed(`Make ${selected.code} first`, () =>
                change(
                  inOrderOf(made, records, [selected.code]),
                  `${selected.code} comes first of what is left. What is made early then differs from what is made late by more than chance: change the order for a reason.`,
                ),
              )}
          </>
        )}
      </Flex>
      {!selected && (
        <Text color="fg.muted" mt="2">
          Choose a patch on the board to make more like it, or to leave it out.
        </Text>
      )}
      {selected && (
        <Text color="fg.muted" mt="2">
          {selected.code}: <Said>{levelsLine(plan, selected)}</Said>
        </Text>
      )}
      {!all.ok && (
        <Text mt="2">
          <Said>{problemWords(all.problem)}</Said>
        </Text>
      )}
      <AnotherLevel
        onAdd={(factor, level) =>
          void add(furtherBatch(made, records, { what: 'level', factor, level }, shelf))
        }
      />
    </Box>
  );
}

/** Name, question and what it is filed under. */
function Words({ change, busy }: Changing) {
  const { plan } = useTrial();
  const [name, setName] = useState(plan.name);
  const [question, setQuestion] = useState(plan.question);
  const [tags, setTags] = useState((plan.tags ?? []).join(', '));
  const keep = async () => {
    const filed = tags
      .split(',')
      .map(t => t.trim().slice(0, 30))
      .filter(Boolean)
      .slice(0, 12);
    if (name.trim() !== plan.name || question !== plan.question)
      await change(
        good({ what: 'words', name: name.trim() || plan.name, question }),
        'The new words are kept.',
      );
    if (filed.join() !== (plan.tags ?? []).join())
      await change(good({ what: 'tags', tags: filed }), 'It is filed anew.');
  };
  const isSame =
    name.trim() === plan.name && question === plan.question && tags === (plan.tags ?? []).join(', ');
  return (
    <Box borderTopWidth="1px" py="3" maxW="34rem">
      <Text fontWeight="700" mb="2">
        Its name, its question, and what you file it under
      </Text>
      <Field.Root invalid={!name.trim()}>
        <Field.Label>Name</Field.Label>
        <Input value={name} maxLength={80} onChange={e => setName(e.target.value)} />
        <Field.ErrorText>Give the trial a name.</Field.ErrorText>
      </Field.Root>
      <Field.Root mt="2">
        <Field.Label>Question</Field.Label>
        <Textarea rows={2} value={question} maxLength={400} onChange={e => setQuestion(e.target.value)} />
      </Field.Root>
      <Field.Root mt="2">
        <Field.Label>Filed under (words with commas between)</Field.Label>
        <Input value={tags} onChange={e => setTags(e.target.value)} placeholder="berth plates, winter" />
      </Field.Root>
      <Button
        mt="3"
        minH="48px"
        variant="outline"
        loading={busy}
        disabled={isSame || !name.trim()}
        onClick={() => void keep()}
      >
        Keep these words
      </Button>
    </Box>
  );
}

/** What was changed since it was planned, newest first, each with the way back. */
function Changes({
  records,
  onTakeBack,
}: {
  records: readonly TrialRecord[];
  onTakeBack: (of: string) => void;
}) {
  const { plan } = useTrial();
  const changes = [...changesIn(records)].reverse();
  if (!changes.length) return null;
  const begun = begunPatches(plan, records);
  return (
    <Box borderTopWidth="1px" py="3">
      <Text fontWeight="700">What was changed</Text>
      {changes.map(record => {
        const { change } = record;
        const isMade = change.what === 'batch' && change.patches.some(p => begun.has(p.code));
        return (
          <Flex key={record.id} gap="3" py="2" borderTopWidth="1px" align="center" wrap="wrap">
            <Text color="fg.muted" w="11rem">
              {moment(Date.parse(record.at), Date.now())}
            </Text>
            <Text flex="1" minW="14rem">
              {recordWords(record)}
            </Text>
            {isMade ? (
              <Text color="fg.muted">Begun, so it stays.</Text>
            ) : (
              <Button size="sm" variant="outline" minH="44px" onClick={() => onTakeBack(record.id)}>
                Take it back
              </Button>
            )}
          </Flex>
        );
      })}
    </Box>
  );
}
