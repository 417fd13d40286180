import { Link } from 'react-router';
import { recipeFrom } from '../../core/recipe-book/index.ts';
import { useRecipes, useWorkshopActions } from '../../store/index.ts';
import { FileButton } from '../ui/file-button.tsx';
import { Box, Flex, Heading, HStack, Text } from '../ui/kit.tsx';
import { asNotice, useAttempt, useNotice } from '../ui/notices.tsx';
import { Said } from '../ui/settings.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { successWords } from './success.ts';

/** All recipes that are kept, and those of another workshop taken in. */
export function RecipesPage() {
  const workshop = useWorkshop();
  const { data, isError } = useRecipes(workshop);
  const { addRecipeEvents } = useWorkshopActions(workshop);
  const tell = useNotice();
  const attempt = useAttempt();
  const take = async (file: File) => {
    const events = recipeFrom(await file.text());
    if (!events.ok) return tell(asNotice(events.problem));
    await attempt(async () => {
      const n = await addRecipeEvents(events.value);
      tell({ say: n ? 'The recipe is in.' : 'All of it was here already.' });
    });
  };
  return (
    <Box as="main" px={{ base: '4', md: '6' }} pt="5" pb="24" maxW="60rem">
      <Flex align="center" gap="4" wrap="wrap">
        <Heading as="h1" size="2xl" flex="1">
          Recipes
        </Heading>
        <FileButton
          accept=".json,application/json"
          testId="recipe-file"
          variant="outline"
          minH="44px"
          onFile={file => void take(file)}
        >
          Take a recipe in (JSON)
        </FileButton>
      </Flex>
      {isError && <Text mt="4">The recipes cannot be read just now. Load the page again.</Text>}
      {data && data.books.length === 0 && (
        <Text mt="4" fontSize="1.15rem">
          None is kept yet. When a trial has shown what works, open its last stage, Keep, and press “Keep this
          recipe”.
        </Text>
      )}
      {data?.books.map(book => (
        <Box key={book.id} borderTopWidth="1px" py="4" mt="3">
          <HStack gap="3" wrap="wrap">
            <Link
              to={`/w/${workshop}/recipes/${book.id}`}
              style={{
                fontWeight: 700,
                fontSize: '1.25rem',
                lineHeight: '44px',
                textDecoration: 'underline',
              }}
            >
              {book.now.name}
            </Link>
            {book.versions.length > 1 && <Text color="fg.muted">version {book.versions.length}</Text>}
          </HStack>
          <Text>
            <Said>{successWords(book.seen)}</Said>
          </Text>
        </Box>
      ))}
    </Box>
  );
}
