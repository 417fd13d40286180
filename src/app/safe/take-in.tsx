import { useState } from 'react';
import { recipesIn } from '../../core/recipe-book/index.ts';
import { agree, many, write } from '../../core/say/index.ts';
import { type Backup, lookThrough, type TakenIn, takeIn } from '../../store/backup.ts';
import { useOverview, useWorkshopActions, workshopOf } from '../../store/index.ts';
import { FileButton } from '../ui/file-button.tsx';
import { Box, Button, Heading, Text } from '../ui/kit.tsx';
import { asNotice, useNotice } from '../ui/notices.tsx';
import { dayOf } from '../ui/time.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import { GoingOn, useGoing } from './going.tsx';

/** A backup into this workshop: looked through first, then taken in, into an empty one or joined with what is here. */
export function TakeIn() {
  const name = useWorkshop();
  const tell = useNotice();
  const { afterTakingIn } = useWorkshopActions(name);
  const going = useGoing('It was stopped. What is in is whole; take the same file again to go on.', true);
  const [found, setFound] = useState<Backup>();
  const [came, setCame] = useState<TakenIn>();
  const look = (file: File) =>
    going.run(async options => {
      setFound(undefined);
      setCame(undefined);
      const looked = await lookThrough(file, options);
      if (looked.ok) setFound(looked.value);
      else tell(asNotice(looked.problem));
    });
  const take = (backup: Backup) =>
    going.run(async options => {
      try {
        setCame(await takeIn(workshopOf(name), backup, options));
        setFound(undefined);
      } finally {
        await afterTakingIn();
      }
    });
  return (
    <Box as="section" mt="10">
      <Heading as="h2" size="xl">
        Take a backup in
      </Heading>
      <Text mt="1">
        From this machine or another. What is here stays, what is only in the file comes in, and what is in
        both is joined record by record: nothing is lost, nothing is there twice.
      </Text>
      <FileButton
        accept=".zip,application/zip"
        testId="backup-file"
        mt="3"
        size="xl"
        variant="outline"
        disabled={Boolean(going.now)}
        onFile={file => void look(file)}
      >
        Choose a backup
      </FileButton>
      <GoingOn going={going} label="Taking in" />
      {found && !going.now && <Found backup={found} onTake={() => void take(found)} />}
      {came && <Came came={came} />}
    </Box>
  );
}

const count = (n: number, one: string, several?: string) => write(many(n, one, several));

function Found({ backup, onTake }: { backup: Backup; onTake: () => void }) {
  const { told, lost } = backup;
  const overview = useOverview(useWorkshop());
  const here = new Set(overview.data?.trials.map(t => t.summary.id));
  const fresh = told.trials.filter(t => !here.has(t.id)).length;
  const photos = told.trials.reduce((sum, t) => sum + t.photos, 0);
  return (
    <Box mt="4" p="4" borderWidth="2px" borderColor="tide.solid">
      <Text fontSize="1.1rem">
        <b>
          {lost.length ? 'A damaged backup' : 'A whole backup'}
          {madeWords(told.exportedAt)}:
        </b>{' '}
        {count(told.trials.length, 'trial')}, {count(photos, 'photo')},{' '}
        {count(told.pictures.length, 'picture')}, {count(told.methods.length, 'method')} of your own,{' '}
        {count(recipesIn(told.recipes).length, 'recipe')}.
      </Text>
      <Text mt="1">
        {whatComes(told.trials.length, fresh)}
        {told.unreadable.length > 0 &&
          ` ${count(told.unreadable.length, 'trial')} in it could not be read when it was made, and stays in the file.`}
      </Text>
      <Lost lost={lost} />
      <Button mt="3" size="xl" colorPalette="buoy" onClick={onTake}>
        {lost.length ? 'Take in what is whole' : 'Take it in'}
      </Button>
    </Box>
  );
}

/** When it was made; nothing where even that is damaged. */
const madeWords = (exportedAt: string) =>
  Date.parse(exportedAt) > 0 ? `, made ${dayOf(Date.parse(exportedAt))}` : '';

/** What is damaged or missing in a backup, all of it named. */
function Lost({ lost }: { lost: readonly string[] }) {
  if (!lost.length) return null;
  return (
    <Box mt="2" role="alert" maxH="14rem" overflowY="auto">
      <Text fontWeight="700">What is not whole in this file, and stays out:</Text>
      {lost.map(words => (
        <Text key={words} color="buoy.fg">
          {words}
        </Text>
      ))}
    </Box>
  );
}

function whatComes(all: number, fresh: number): string {
  if (fresh === all) return 'None of its trials is here yet.';
  const joined = all - fresh;
  const rest = `${count(joined, 'trial')} will be joined with ${agree(joined, 'its', 'their')} own.`;
  return fresh
    ? `${count(fresh, 'trial')} of it ${agree(fresh, 'is', 'are')} not here yet; ${rest}`
    : `All of its trials are here: ${rest}`;
}

function Came({ came }: { came: TakenIn }) {
  const { fresh, joined, same, records, photos, items, methods, pictures, recipeNames, left } = came;
  return (
    <Box mt="4" role="status">
      <Text fontSize="1.1rem">
        <b>It is in.</b> {count(fresh, 'trial')} came in, {joined} joined, {same} had nothing new;{' '}
        {count(records, 'record')}, {count(photos, 'photo')}, {count(items, 'thing')} for the shelf,{' '}
        {count(methods, 'method')}, {count(pictures, 'picture')}
        {recipeNames.length > 0 &&
          `; ${count(recipeNames.length, 'recipe')}: ${recipeNames.map(r => `“${r}”`).join(', ')}`}
        .
      </Text>
      {left.map(words => (
        <Text key={words} mt="1" color="buoy.fg" fontWeight="700">
          {words}
        </Text>
      ))}
    </Box>
  );
}
