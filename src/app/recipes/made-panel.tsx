import { Field, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { freshId } from '../../core/codes/index.ts';
import {
  amountsOf,
  type FollowUp,
  followUpSessions,
  followUps,
  lastingWords,
  type RecipeBook,
  usedFor,
} from '../../core/recipe-book/index.ts';
import { mm, say, type Words } from '../../core/say/index.ts';
import { WEAR } from '../../core/steps/index.ts';
import { presentMs, useWorkshopActions } from '../../store/index.ts';
import { Cautions } from '../ui/cautions.tsx';
import { Box, Button, Heading, HStack, Text } from '../ui/kit.tsx';
import { asNotice, didNotWork, useAttempt, useNotice } from '../ui/notices.tsx';
import { saveFile } from '../ui/save-file.ts';
import { Said } from '../ui/settings.tsx';
import { dayOf } from '../ui/time.ts';
import { useTakeOff } from '../workshop/take-off.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import { CountField } from './count-field.tsx';

/** What was made by a recipe: written down piece by piece or by the batch, and how it moves the success rate. */
export function MadePanel({ book }: { book: RecipeBook }) {
  const workshop = useWorkshop();
  const { addRecipeEvents } = useWorkshopActions(workshop);
  const takeOff = useTakeOff(workshop);
  const attempt = useAttempt();
  const tell = useNotice();
  const [of, setOf] = useState(1);
  const [good, setGood] = useState(1);
  const [size, setSize] = useState({ w: 200, h: 150 });
  const [note, setNote] = useState('');
  const base = () => ({
    id: freshId(Math.random),
    recipe: book.id,
    at: new Date(presentMs()).toISOString(),
  });
  const add = () =>
    attempt(async () => {
      await addRecipeEvents([
        { ...base(), kind: 'made', of, good: Math.min(good, of), size, note: note.trim().slice(0, 1000) },
      ]);
      const left = await take(of, size);
      setNote('');
      tell({ say: say`${of} made, ${Math.min(good, of)} good: written down. ${left}` });
    });
  /** Takes what pieces used off the shelf, or puts it back for fewer than none; says what is left. */
  const take = async (pieces: number, piece: { w: number; h: number }): Promise<Words> => {
    const used = usedFor(book.now, Math.abs(pieces), piece);
    const sign = Math.sign(pieces);
    return takeOff(amountsOf(book.now, { ml: sign * used.ml, sheets: sign * used.sheets }));
  };
  const takeBack = (m: RecipeBook['made'][number]) =>
    attempt(async () => {
      await addRecipeEvents([{ ...base(), kind: 'undo', of: m.id }]);
      const left = await take(-m.of, m.size);
      if (left) tell({ say: left });
    });
  return (
    <Box as="section" aria-label="What was made" mt="8" borderTopWidth="1px" pt="3">
      <Heading as="h2" size="xl" mb="2">
        What was made by it
      </Heading>
      <HStack gap="3" wrap="wrap" align="end">
        <CountField label="Made" value={of} limit="wanted" onChange={setOf} />
        <CountField label="Of these good" value={good} limit="countedPieces" onChange={setGood} />
        <CountField
          label="Across, mm"
          value={size.w}
          limit="pictureMm"
          onChange={w => setSize({ ...size, w })}
        />
        <CountField
          label="Down, mm"
          value={size.h}
          limit="pictureMm"
          onChange={h => setSize({ ...size, h })}
        />
        <Field.Root w="16rem">
          <Field.Label>What was different</Field.Label>
          <Input value={note} maxLength={1000} onChange={e => setNote(e.target.value)} />
        </Field.Root>
        <Button size="xl" colorPalette="buoy" disabled={good > of} onClick={() => void add()}>
          Write it down
        </Button>
      </HStack>
      {good > of && <Text mt="1">There cannot be more good ones than were made.</Text>}
      {[...book.made].reverse().map(m => (
        <HStack key={m.id} mt="2" gap="3" wrap="wrap">
          <Text>
            {dayOf(Date.parse(m.at))}: {m.good} good of {m.of}, <Said>{mm(m.size.w, { by: m.size.h })}</Said>
            {m.note && ` · ${m.note}`}
          </Text>
          <Button size="sm" minH="44px" variant="ghost" onClick={() => void takeBack(m)}>
            Take it back
          </Button>
        </HStack>
      ))}
      {book.made.length > 0 && <Lasting book={book} />}
    </Box>
  );
}

const CAME = [
  ['held', 'It held'],
  ['marked', 'It is marked'],
  ['lost', 'It lost some'],
] as const;

/** How the made pieces wear: what is to be tried when, what came of it, and the days as a calendar. */
function Lasting({ book }: { book: RecipeBook }) {
  const { addRecipeEvents } = useWorkshopActions(useWorkshop());
  const attempt = useAttempt();
  const make = useAttempt(didNotWork);
  const tell = useNotice();
  const now = presentMs();
  const [isAll, setAll] = useState(false);
  const open = followUps(book).filter(f => !f.done);
  const shown = isAll ? open : open.slice(0, 3);
  const write = ({ made, test, days }: FollowUp, came: 'held' | 'marked' | 'lost') =>
    attempt(() =>
      addRecipeEvents([
        {
          ...{ id: freshId(Math.random), recipe: book.id, at: new Date(presentMs()).toISOString() },
          ...{ kind: 'worn', made, test, days, came },
        },
      ]),
    );
  const save = () =>
    make(async () => {
      const { calendarOf } = await import('../../core/calendar/write.ts');
      const file = calendarOf(followUpSessions(book), book.made.length + book.worn.length, presentMs());
      if (!file.ok) return tell(asNotice(file.problem));
      saveFile(new Blob([file.value], { type: 'text/calendar' }), 'follow-ups.ics');
    });
  return (
    <Box as="section" aria-label="Does it last?" mt="6">
      <Heading as="h3" size="lg" mb="1">
        Does it last?
      </Heading>
      {lastingWords(book.worn).map(words => (
        <Text key={words} fontWeight="600">
          {words}
        </Text>
      ))}
      {!open.length && <Text>Every follow-up is done.</Text>}
      {shown.map(f => (
        <Box key={`${f.made}${f.test}${f.days}`} borderTopWidth="1px" py="2">
          <Text>
            <b>{WEAR[f.test].name}</b>, {f.due <= now ? 'due since' : 'on'} {dayOf(f.due)}: {WEAR[f.test].how}
          </Text>
          <Cautions ids={WEAR[f.test].cautions ?? []} />
          <HStack mt="1" wrap="wrap">
            {CAME.map(([came, words]) => (
              <Button key={came} minH="44px" variant="outline" onClick={() => void write(f, came)}>
                {words}
              </Button>
            ))}
          </HStack>
        </Box>
      ))}
      <HStack mt="2" wrap="wrap">
        {open.length > 3 && (
          <Button minH="44px" variant="ghost" onClick={() => setAll(!isAll)}>
            {isAll ? 'Only the next' : `All ${open.length}`}
          </Button>
        )}
        {open.length > 0 && (
          <Button minH="44px" variant="outline" onClick={() => void save()}>
            Save the follow-ups as calendar (ICS)
          </Button>
        )}
      </HStack>
    </Box>
  );
}
