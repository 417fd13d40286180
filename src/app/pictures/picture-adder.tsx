import { useState } from 'react';
import { Link } from 'react-router';
import { type Picture, printSize, tooLargeFor } from '../../core/artwork/index.ts';
import { mirrors } from '../../core/methods/index.ts';
import { say } from '../../core/say/index.ts';
import type { OwnPicture } from '../../core/sheets/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import { usePictures, workshopOf } from '../../store/index.ts';
import { viewPicture } from '../../workers/index.ts';
import { Box, HStack, Text } from '../ui/kit.tsx';
import { didNotWork, useNotice } from '../ui/notices.tsx';
import { NumberChoice } from '../ui/number-choice.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { onSheet } from './on-sheet.ts';

/** Puts the maker's own pictures on the donor sheets beside the patches, so many of each. */
export function PictureAdder({
  plan,
  onChange,
}: {
  plan: TrialPlan;
  onChange: (pictures: OwnPicture[]) => void;
}) {
  const workshop = useWorkshop();
  const tell = useNotice();
  const pictures = usePictures(workshop);
  const [copies, setCopies] = useState<Record<string, number>>({});
  const [ready, setReady] = useState<Record<string, OwnPicture>>({});
  const set = async (picture: Picture, n: number) => {
    const count = Number.isInteger(n) && n >= 0 && n <= 40 ? n : 0;
    const nextCopies = { ...copies, [picture.id]: count };
    setCopies(nextCopies);
    try {
      const made =
        ready[picture.id] ??
        (count
          ? await makeReady(workshop, picture, mirrors(plan.used.method, plan.used.donors[0]?.kind))
          : undefined);
      const tooLarge = made && count > 0 && firstTooLarge(plan, made);
      if (tooLarge) {
        setCopies({ ...copies, [picture.id]: 0 });
        tell({ say: say`${picture.name}: ${tooLarge}`, wrong: true });
        return;
      }
      const next = made ? { ...ready, [picture.id]: made } : ready;
      setReady(next);
      onChange(
        Object.entries(next).flatMap(([id, own]) =>
          nextCopies[id] ? [{ ...own, copies: nextCopies[id] }] : [],
        ),
      );
    } catch (error) {
      tell(didNotWork(error));
    }
  };
  return (
    <Box mt="4">
      <Text fontWeight="600">Your own pictures on the same sheets</Text>
      {pictures.data?.length ? (
        <HStack gap="3" wrap="wrap" mt="1" align="start">
          {pictures.data.map(p => (
            <Box key={p.id} w="10rem">
              <NumberChoice
                label={`${p.name}, copies`}
                value={copies[p.id] ?? 0}
                factor={1}
                step={1}
                limit="copies"
                onChange={n => void set(p, n)}
              />
              {p.hasText === null && (
                <Text fontSize="0.9rem" color="warn.fg">
                  Not asked yet whether there is writing in it.
                </Text>
              )}
            </Box>
          ))}
        </HStack>
      ) : (
        <Text color="fg.muted">
          None yet.{' '}
          <Link to={`/w/${workshop}/pictures`} style={{ textDecoration: 'underline' }}>
            Make a picture ready
          </Link>{' '}
          and it can be printed beside the patches.
        </Text>
      )}
    </Box>
  );
}

const firstTooLarge = (plan: TrialPlan, own: OwnPicture) =>
  plan.used.donors.map(donor => tooLargeFor(own, donor)).find(Boolean);

async function makeReady(
  workshop: ReturnType<typeof useWorkshop>,
  picture: Picture,
  mirror: boolean,
): Promise<OwnPicture> {
  const file = await workshopOf(workshop).pictureFile(picture.id, 'pixels');
  if (!file) throw new Error(`the file of ${picture.name} is missing`);
  const { aspect } = await viewPicture({
    file,
    key: picture.id,
    edits: picture.edits,
    widthMm: 100,
    mirror,
    oneColour: false,
    grounds: [],
  });
  const size = printSize(aspect, picture.piece, picture.fit, picture.marginMm);
  return onSheet(workshop, picture, size, mirror);
}
