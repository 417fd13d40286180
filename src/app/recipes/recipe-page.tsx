import { Field, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { freshId } from '../../core/codes/index.ts';
import { type RecipeBook, recipeJson } from '../../core/recipe-book/index.ts';
import { benchPage, recipeCard, type Sheets } from '../../core/sheets/index.ts';
import { presentMs, useRecipes, useWorkshopActions } from '../../store/index.ts';
import { makePdf } from '../../workers/index.ts';
import { Box, Button, Heading, HStack, Text } from '../ui/kit.tsx';
import { didNotWork, useAttempt } from '../ui/notices.tsx';
import { titled, useTitle } from '../ui/page-focus.ts';
import { saveFile } from '../ui/save-file.ts';
import { Said } from '../ui/settings.tsx';
import { dayOf } from '../ui/time.ts';
import { useMayPrint } from '../workshop/use-may-print.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import { BestPhotos } from './best-photos.tsx';
import { MadePanel } from './made-panel.tsx';
import { RealPanel } from './real-panel.tsx';
import { RecipeCardView } from './recipe-card-view.tsx';
import { successWords } from './success.ts';

/** One recipe: how sure it is, how to make it for real, what was made, the card itself, and its versions. */
export function RecipePage() {
  const workshop = useWorkshop();
  const { recipe } = useParams();
  const { data } = useRecipes(workshop);
  const attempt = useAttempt(didNotWork);
  const mayPrint = useMayPrint();
  useTitle(titled(data?.books.find(b => b.id === recipe)?.now.name ?? 'Recipes'));
  const save = (sheets: Sheets, name: string) =>
    attempt(async () => {
      if (await mayPrint([sheets])) saveFile(await makePdf(sheets), name);
    });
  if (!data) return <Box p="8">Opening…</Box>;
  const book = data.books.find(b => b.id === recipe);
  if (!book)
    return (
      <Box as="main" p="8">
        <Text mb="3">This recipe is not in the workshop any more.</Text>
        <Link to={`/w/${workshop}/recipes`}>All recipes</Link>
      </Box>
    );
  const file = book.now.name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .slice(0, 40);
  const own = data.events.filter(e => e.recipe === book.id);
  return (
    <Box as="main" px={{ base: '4', md: '6' }} pt="5" pb="24" maxW="60rem">
      <Heading as="h1" size="2xl">
        {book.now.name}
      </Heading>
      <Text fontSize="1.15rem" mt="1">
        <Said>{successWords(book.seen)}</Said>
      </Text>
      <HStack mt="3" gap="3" wrap="wrap">
        <Button
          minH="48px"
          variant="outline"
          onClick={() => void save(recipeCard(book.now, successWords(book.seen)), `${file}.pdf`)}
        >
          Print the card (PDF)
        </Button>
        <Button
          minH="48px"
          variant="outline"
          onClick={() => void save(benchPage(book.now, successWords(book.seen)), `${file}-bench.pdf`)}
        >
          One page for over the bench (PDF)
        </Button>
        <Button
          minH="48px"
          variant="outline"
          onClick={() => saveFile(new Blob([recipeJson(own)], { type: 'application/json' }), `${file}.json`)}
        >
          For another workshop (JSON)
        </Button>
        {book.now.from && (
          <Link
            to={`/w/${workshop}/t/${book.now.from.trial}/keep`}
            style={{ textDecoration: 'underline', lineHeight: '44px' }}
          >
            The trial behind it
          </Link>
        )}
      </HStack>
      {book.now.from && <BestPhotos from={book.now.from} />}
      <RealPanel book={book} />
      <MadePanel book={book} />
      <Box as="section" mt="8" borderTopWidth="1px" pt="3">
        <Heading as="h2" size="xl" mb="2">
          The recipe
        </Heading>
        <RecipeCardView card={book.now.card} />
      </Box>
      <Versions book={book} />
    </Box>
  );
}

/** What changed and why, newest first; the name can be changed, with a word on why. */
function Versions({ book }: { book: RecipeBook }) {
  const { addRecipeEvents } = useWorkshopActions(useWorkshop());
  const attempt = useAttempt();
  const [name, setName] = useState(book.now.name);
  const [why, setWhy] = useState('');
  const change = () =>
    attempt(async () => {
      const at = new Date(presentMs()).toISOString();
      const kept = { ...book.now, name: name.trim().slice(0, 80) };
      await addRecipeEvents([
        {
          id: freshId(Math.random),
          recipe: book.id,
          at,
          kind: 'version',
          why: why.trim().slice(0, 400),
          kept,
        },
      ]);
      setWhy('');
    });
  return (
    <Box as="section" aria-label="Versions" mt="8" borderTopWidth="1px" pt="3">
      <Heading as="h2" size="xl" mb="2">
        Versions
      </Heading>
      {[...book.versions].reverse().map((version, i) => (
        <Text key={version.id}>
          <b>{book.versions.length - i}.</b> {dayOf(Date.parse(version.at))}: {version.kept.name}
          {version.why && `, ${version.why}`}
        </Text>
      ))}
      <HStack mt="3" gap="3" wrap="wrap" align="end">
        <Field.Root w="18rem">
          <Field.Label>Name</Field.Label>
          <Input value={name} maxLength={80} onChange={e => setName(e.target.value)} />
        </Field.Root>
        <Field.Root w="18rem">
          <Field.Label>Why it changes</Field.Label>
          <Input value={why} maxLength={400} onChange={e => setWhy(e.target.value)} />
        </Field.Root>
        <Button
          minH="48px"
          variant="outline"
          disabled={!name.trim() || name.trim() === book.now.name}
          onClick={() => void change()}
        >
          Keep it under this name
        </Button>
      </HStack>
    </Box>
  );
}
