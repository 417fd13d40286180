import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { chanceFrom } from '../../core/random/index.ts';
import { pieceRun, type RecipeBook } from '../../core/recipe-book/index.ts';
import { presentMs, usePictures, useWorkshopActions } from '../../store/index.ts';
import { Choose } from '../ui/choose.tsx';
import { Button, Flex, Text } from '../ui/kit.tsx';
import { asNotice, useAttempt, useNotice } from '../ui/notices.tsx';
import { picturesFor } from '../workshop/on-patches.ts';
import { useWorkshop } from '../workshop/workshop.ts';

/** The pieces put on the bench with a picture, to be made step by step, photographed and judged like a trial's patches. */
export function OnTheBench({
  book,
  size,
  pieces,
  isTooLarge,
}: {
  book: RecipeBook;
  size: { readonly w: number; readonly h: number };
  pieces: number;
  /** Whether one picture takes more than one sheet. */
  isTooLarge: boolean;
}) {
  const workshop = useWorkshop();
  const stored = usePictures(workshop).data ?? [];
  const { save, append } = useWorkshopActions(workshop);
  const navigate = useNavigate();
  const attempt = useAttempt();
  const tell = useNotice();
  const [chosen, setChosen] = useState('');
  const [busy, setBusy] = useState(false);
  const picture = stored.find(p => p.id === chosen) ?? stored[0];
  if (!picture)
    return (
      <Text mt="3">
        To make them on the bench, first{' '}
        <Link to={`/w/${workshop}/pictures`} style={{ textDecoration: 'underline' }}>
          add the picture they carry
        </Link>
        .
      </Text>
    );
  const begin = async () => {
    const now = presentMs();
    const chance = chanceFrom(now);
    const made = pieceRun(
      book.now,
      book.id,
      { pieces, ...size, picture: { id: picture.id, name: picture.name } },
      { createdAt: new Date(now).toISOString(), random: () => chance.next() },
    );
    if (!made.ok) return tell(asNotice(made.problem));
    setBusy(true);
    const isKept = await attempt(async () => {
      // What they carry is drawn first: without it nothing could be printed.
      const { drafts, files } = await picturesFor(workshop, made.value, stored);
      await save(made.value);
      await append(made.value.id, drafts, files);
    });
    setBusy(false);
    if (isKept) await navigate(`/w/${workshop}/t/${made.value.id}/${isTooLarge ? 'make' : 'print'}`);
  };
  return (
    <Flex mt="4" gap="3" align="end" wrap="wrap">
      {stored.length > 1 && (
        <Choose
          label="They carry"
          value={picture.id}
          onChange={setChosen}
          options={stored.map(p => [p.id, p.name] as const)}
        />
      )}
      <Button size="xl" colorPalette="buoy" loading={busy} onClick={() => void begin()}>
        Make {pieces === 1 ? 'it' : `these ${pieces}`} on the bench
      </Button>
    </Flex>
  );
}
