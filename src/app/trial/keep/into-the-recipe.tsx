import { Link } from 'react-router';
import { freshId } from '../../../core/codes/index.ts';
import { cameOut } from '../../../core/recipe-book/index.ts';
import { sizeOf } from '../../../core/trial/index.ts';
import { presentMs, useRecipes, useWorkshopActions } from '../../../store/index.ts';
import { Box, Button, Heading, Text } from '../../ui/kit.tsx';
import { useAttempt, useNotice } from '../../ui/notices.tsx';
import { useTrial } from '../view.tsx';

/** Pieces made by a recipe: how many came out good, and a press that writes it into the recipe. */
export function IntoTheRecipe({ recipe }: { recipe: string }) {
  const { plan, records, workshop } = useTrial();
  const { addRecipeEvents } = useWorkshopActions(workshop);
  const book = useRecipes(workshop).data?.books.find(b => b.id === recipe);
  const attempt = useAttempt();
  const tell = useNotice();
  const { good, of, open } = cameOut(plan, records);
  const written = book?.made.find(m => m.id.startsWith(`run-${plan.id}`));
  const isWritten = written?.of === of && written.good === good;
  const write = () =>
    attempt(async () => {
      const base = { recipe, at: new Date(presentMs()).toISOString() };
      await addRecipeEvents([
        ...(written ? [{ ...base, id: freshId(Math.random), kind: 'undo' as const, of: written.id }] : []),
        {
          ...{ ...base, id: `run-${plan.id}-${freshId(Math.random)}`, kind: 'made', of, good },
          ...{ size: sizeOf(plan), note: `Run ${plan.code}` },
        },
      ]);
      tell({ say: `${good} good of ${of}: written into the recipe.` });
    });
  return (
    <Box>
      <Heading as="h2" size="xl">
        {of ? `${good} good of ${of}` : 'None is judged yet'}
      </Heading>
      <Text fontSize="1.15rem" mb="3">
        {open > 0
          ? `${open === plan.patches.length ? 'Judge them' : `${open} more to judge`} under Judge: what is kept counts as good.`
          : 'All are judged.'}
      </Text>
      {!book && <Text mb="3">Their recipe is not in this workshop any more.</Text>}
      {book && of > 0 && (
        <Button
          size="xl"
          colorPalette="buoy"
          variant={isWritten ? 'outline' : 'solid'}
          disabled={isWritten}
          onClick={() => void write()}
        >
          {isWritten
            ? 'Written into the recipe'
            : written
              ? 'Write it down anew'
              : 'Write it into the recipe'}
        </Button>
      )}
      {book && (
        <Text mt="3">
          <Link
            to={`/w/${workshop}/recipes/${recipe}`}
            style={{ textDecoration: 'underline', lineHeight: '44px' }}
          >
            {book.now.name}, the recipe
          </Link>
        </Text>
      )}
    </Box>
  );
}
