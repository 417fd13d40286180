import { Input } from '@chakra-ui/react';
import { useDeferredValue, useMemo, useState } from 'react';
import { Link } from 'react-router';
import {
  choicesOf,
  type Entry,
  entriesOf,
  FOUND_KINDS,
  findIn,
  type Narrowed,
  notebookOf,
} from '../../core/find/index.ts';
import { pathTo } from '../../core/wall/index.ts';
import { useMethods, useOverview, useRecipes, useShelf, type WorkshopName } from '../../store/index.ts';
import { Choose } from '../ui/choose.tsx';
import { Box, Button, Heading, HStack, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';
import { Tick } from '../ui/tick.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { Material } from './material.tsx';

const KIND_NAMES = { trial: 'Trials', patch: 'Patches', recipe: 'Recipes', material: 'Shelf' } as const;
const AT_FIRST = 40;

/** The whole notebook in one place: searched as one types, narrowed down by what was used and what went wrong. */
export function FindPage() {
  const workshop = useWorkshop();
  const overview = useOverview(workshop).data;
  const recipes = useRecipes(workshop).data;
  const shelf = useShelf(workshop).data?.shelf;
  const own = useMethods(workshop).data;
  const [words, setWords] = useState('');
  const [narrowed, setNarrowed] = useState<Narrowed>({});
  const [most, setMost] = useState(AT_FIRST);
  const [hung, setHung] = useState<readonly Entry[]>([]);
  const typed = useDeferredValue(words);
  const summaries = useMemo(
    () => overview?.trials.filter(t => !t.removedAt).map(t => t.summary) ?? [],
    [overview],
  );
  const notebook = useMemo(
    () => shelf && own && notebookOf(entriesOf(summaries, recipes?.books ?? [], shelf, own)),
    [summaries, recipes, shelf, own],
  );
  const choices = useMemo(() => notebook && choicesOf(notebook.entries), [notebook]);
  if (!notebook || !choices)
    return (
      <Box p="8" role="status">
        Opening the notebook…
      </Box>
    );
  const found = findIn(notebook, typed, narrowed);
  const narrow = (part: Narrowed) => {
    setMost(AT_FIRST);
    setNarrowed(old => ({ ...old, ...part }));
  };
  const pick = (label: string, key: keyof Narrowed, options: readonly string[]) =>
    options.length > 0 && (
      <Choose
        label={label}
        value={narrowed[key] ?? ''}
        onChange={v => narrow({ [key]: v || undefined })}
        options={[['', 'any'], ...options.map(o => [o, o] as const)]}
      />
    );
  const isNarrowed = Object.values(narrowed).some(Boolean) || words !== '';
  return (
    <Box as="main" px={{ base: '4', md: '6' }} pt="5" pb="24" maxW="64rem">
      <Heading as="h1" size="2xl" mb="3">
        Find
      </Heading>
      <Input
        size="xl"
        type="search"
        aria-label="Search the notebook"
        placeholder="A trial, a patch, a jar, what went wrong, a note"
        value={words}
        autoFocus
        onChange={e => {
          setMost(AT_FIRST);
          setWords(e.target.value);
        }}
      />
      <HStack mt="3" gap="2" wrap="wrap" role="group" aria-label="Kind">
        {FOUND_KINDS.map(kind => (
          <Button
            key={kind}
            minH="44px"
            variant={narrowed.kind === kind ? 'solid' : 'outline'}
            colorPalette="tide"
            aria-pressed={narrowed.kind === kind}
            onClick={() => narrow({ kind: narrowed.kind === kind ? undefined : kind } as Narrowed)}
          >
            {KIND_NAMES[kind]}
          </Button>
        ))}
      </HStack>
      <HStack mt="3" gap="3" wrap="wrap" align="end">
        {pick('Method', 'method', choices.methods)}
        {pick('Made with', 'material', choices.materials)}
        {pick('Symptom', 'symptom', choices.symptoms)}
        {pick('Cause', 'cause', choices.causes)}
        {pick('Tag', 'tag', choices.tags)}
        {choices.years.length > 1 && pick('Year', 'year', choices.years)}
        {isNarrowed && (
          <Button
            minH="44px"
            variant="ghost"
            onClick={() => {
              setWords('');
              setNarrowed({});
            }}
          >
            Show everything
          </Button>
        )}
      </HStack>
      {narrowed.material && <Material name={narrowed.material} trials={summaries} />}
      <Text mt="4" role="status">
        {found.length === 0
          ? 'Nothing like this is in the notebook. Take a word away, or another beginning of it.'
          : `${found.length} found`}
      </Text>
      {found.slice(0, most).map(entry => (
        <Row
          key={`${entry.kind} ${entry.id}`}
          entry={entry}
          workshop={workshop}
          isHung={hung.some(h => h.id === entry.id)}
          onHang={isHung => setHung(old => (isHung ? [...old, entry] : old.filter(h => h.id !== entry.id)))}
          onMaterial={material => {
            setWords('');
            setNarrowed({ material });
          }}
        />
      ))}
      {found.length > most && (
        <Button mt="3" minH="44px" variant="outline" onClick={() => setMost(n => n + 200)}>
          Show more ({found.length - most})
        </Button>
      )}
      {hung.length > 0 && (
        <HStack
          position="sticky"
          bottom="0"
          py="3"
          gap="3"
          wrap="wrap"
          bg="bg"
          borderTopWidth="2px"
          role="region"
          aria-label="For the wall"
        >
          <Button asChild size="xl" colorPalette="buoy">
            <Link
              to={`/w/${workshop}/${pathTo(hung.map(({ trial, code }) => ({ trial: trial!, code: code! })))}`}
            >
              {hung.length === 1 ? 'Hang it on the wall' : `See these ${hung.length} side by side`}
            </Link>
          </Button>
          <Button minH="48px" variant="ghost" onClick={() => setHung([])}>
            Choose none
          </Button>
        </HStack>
      )}
    </Box>
  );
}

function Row({
  entry,
  workshop,
  isHung,
  onHang,
  onMaterial,
}: {
  entry: Entry;
  workshop: WorkshopName;
  isHung: boolean;
  onHang: (isHung: boolean) => void;
  onMaterial: (name: string) => void;
}) {
  const { kind, says, title, about } = entry;
  const to = whereTo(entry);
  const name = { fontWeight: 700, fontSize: '1.15rem', lineHeight: '44px', textDecoration: 'underline' };
  return (
    <Box borderTopWidth="1px" py="1">
      <HStack gap="3" wrap="wrap">
        {to ? (
          <Link to={`/w/${workshop}/${to}`} style={name}>
            <Said>{title}</Said>
          </Link>
        ) : (
          <Button
            variant="plain"
            minH="44px"
            px="0"
            fontWeight="700"
            fontSize="1.15rem"
            textDecoration="underline"
            h="auto"
            whiteSpace="normal"
            textAlign="left"
            minW="0"
            flexShrink="1"
            onClick={() => onMaterial(title)}
          >
            <Said>{title}</Said>
          </Button>
        )}
        <Text color="fg.muted">{says}</Text>
        {kind === 'patch' && (
          <Tick checked={isHung} onChange={onHang}>
            for the wall
          </Tick>
        )}
      </HStack>
      {about && (
        <Text mb="2">
          <Said>{about}</Said>
        </Text>
      )}
    </Box>
  );
}

/** Where an entry leads; nothing where it is told of here. */
function whereTo({ kind, trial, code, recipe }: Entry): string | undefined {
  if (kind === 'recipe') return `recipes/${recipe}`;
  if (kind === 'patch') return `t/${trial}/read?patch=${code}`;
  return kind === 'trial' ? `t/${trial}` : undefined;
}
