import { Link } from 'react-router';
import { freshId } from '../../../core/codes/index.ts';
import { keptFrom } from '../../../core/recipe/index.ts';
import { presentMs, useRecipes, useWorkshopActions } from '../../../store/index.ts';
import { Button, HStack, Text } from '../../ui/kit.tsx';
import { useAttempt, useNotice } from '../../ui/notices.tsx';
import { useTrial } from '../view.tsx';

/** Keeps the recipe of this trial in the workshop: as a new one, or as the next version of the one it has given already. */
export function KeepRecipe({ chosen }: { chosen: readonly number[] | undefined }) {
  const { plan, records, workshop } = useTrial();
  const { data } = useRecipes(workshop);
  const { addRecipeEvents } = useWorkshopActions(workshop);
  const attempt = useAttempt();
  const tell = useNotice();
  const before = data?.books.find(b => b.now.from?.trial === plan.id);
  const keep = () =>
    attempt(async () => {
      const kept = keptFrom(plan, records, chosen);
      if (!kept) return;
      const id = freshId(Math.random);
      const at = new Date(presentMs()).toISOString();
      const why = before ? 'From the trial as it stands now.' : '';
      const named = before ? { ...kept, name: before.now.name } : kept;
      await addRecipeEvents([{ id, recipe: before?.id ?? id, at, kind: 'version', why, kept: named }]);
      tell({ say: before ? 'It is kept as the next version.' : 'The recipe is kept.' });
    });
  return (
    <HStack mt="3" gap="4" wrap="wrap">
      <Button size="xl" colorPalette="buoy" onClick={() => void keep()}>
        {before ? 'Keep it as the next version' : 'Keep this recipe'}
      </Button>
      {before && (
        <Link
          to={`/w/${workshop}/recipes/${before.id}`}
          style={{ textDecoration: 'underline', lineHeight: '44px' }}
        >
          Make it for real
        </Link>
      )}
      {before && <Text color="fg.muted">Kept as “{before.now.name}”.</Text>}
    </HStack>
  );
}
