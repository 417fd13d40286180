import { useEffect, useState } from 'react';
import { backUp } from '../../store/backup.ts';
import { workshopOf } from '../../store/index.ts';
import {
  backupFolder,
  keepBackupFolder,
  type LastBackup,
  lastBackup,
  noteBackup,
} from '../../store/keep-safe.ts';
import { Box, Button, Heading, HStack, Text } from '../ui/kit.tsx';
import { useNotice } from '../ui/notices.tsx';
import { saveFile } from '../ui/save-file.ts';
import { dayOf } from '../ui/time.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import { GoingOn, useGoing } from './going.tsx';
import { asDownload, canChooseFolder, chooseFolder, intoFolder, type Sink, sizeWords } from './where-to.ts';

/** All of a workshop into one file: a download, or in the folder that was chosen. */
export function BackUp() {
  const name = useWorkshop();
  const workshop = workshopOf(name);
  const tell = useNotice();
  const going = useGoing('The backup was stopped. What was written of it is no backup: delete it.', false);
  const [last, setLast] = useState<LastBackup>();
  const [folder, setFolder] = useState<FileSystemDirectoryHandle>();
  useEffect(() => {
    lastBackup(workshop).then(setLast, () => {});
    backupFolder(workshop).then(setFolder, () => {});
  }, [workshop]);
  const write = (sink: (file: string) => Promise<Sink>) =>
    going.run(async ({ tell: say, signal }) => {
      const at = new Date();
      const { to, done } = await sink(`wet-test-${name === 'demo' ? 'demo-' : ''}${fileDay(at)}.zip`);
      const made = await backUp(workshop, to, at.toISOString(), { tell: say, signal });
      const where = await done();
      const kept = { at: at.toISOString(), bytes: made.bytes, trials: made.trials };
      await noteBackup(workshop, kept);
      setLast(kept);
      tell({
        say: `${made.trials} trials, ${made.photos} photos and ${made.pictures} pictures are backed up (${sizeWords(made.bytes)}). ${where}`,
      });
    });
  const choose = async () => {
    const chosen = await chooseFolder();
    if (!chosen) return;
    await keepBackupFolder(workshop, chosen).catch(() => {});
    setFolder(chosen);
    await write(file => intoFolder(chosen, file));
  };
  const isBusy = Boolean(going.now);
  return (
    <Box as="section" mt="8">
      <Heading as="h2" size="xl">
        Back up the workshop
      </Heading>
      <Text mt="1">
        {last
          ? `Last backed up ${dayOf(Date.parse(last.at))}: ${last.trials} trials, ${sizeWords(last.bytes)}.`
          : 'It was not backed up yet.'}{' '}
        Everything goes in: trials with their photos, removed ones too, shelf, methods, pictures.
      </Text>
      <HStack mt="3" gap="3" wrap="wrap">
        {folder && (
          <Button
            size="xl"
            colorPalette="buoy"
            disabled={isBusy}
            onClick={() => void write(file => intoFolder(folder, file))}
          >
            Back up into “{folder.name}”
          </Button>
        )}
        <Button
          size="xl"
          {...(folder ? { variant: 'outline' as const } : { colorPalette: 'buoy' })}
          disabled={isBusy}
          onClick={() => void write(async file => asDownload(file, saveFile))}
        >
          Back up as a download
        </Button>
        {canChooseFolder() && (
          <Button size="xl" variant="outline" disabled={isBusy} onClick={() => void going.run(choose)}>
            {folder ? 'Another folder' : 'Into a folder'}
          </Button>
        )}
      </HStack>
      <GoingOn going={going} label="Backup" />
    </Box>
  );
}

const fileDay = (at: Date) =>
  [at.getFullYear(), at.getMonth() + 1, at.getDate()].map(n => String(n).padStart(2, '0')).join('-');
