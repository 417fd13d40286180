import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { type Picture, type PictureFacts, type PrintSize, printCost } from '../../core/artwork/index.ts';
import { type Method, mirrors } from '../../core/methods/index.ts';
import { mm, within } from '../../core/say/index.ts';
import { type DonorSet, inMeasures, pictureSet } from '../../core/sheets/index.ts';
import { BY_HAND, type Donor, type Printer } from '../../core/shelf/index.ts';

import { makePdf } from '../../workers/index.ts';
import { Box, Button, HStack, Text } from '../ui/kit.tsx';
import { didNotWork, useNotice } from '../ui/notices.tsx';
import { PagePreview } from '../ui/page-preview.tsx';
import { saveFile } from '../ui/save-file.ts';
import { Said, useSettings } from '../ui/settings.tsx';
import { useMayPrint } from '../workshop/use-may-print.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import { onSheet } from './on-sheet.ts';

interface Props {
  readonly picture: Picture;
  readonly facts: PictureFacts | undefined;
  readonly size: PrintSize;
  readonly method: Method;
  readonly printer: Printer;
  readonly donor: Donor;
  /** It must not be printed like this yet. */
  readonly stopped: boolean;
}

/** The sheet a picture is printed on: what it will be, a look at it, and the file. */
export function PictureSheet({ picture, facts, size, method, printer, donor, stopped }: Props) {
  const workshop = useWorkshop();
  const tell = useNotice();
  const { settings } = useSettings();
  const [busy, setBusy] = useState(false);
  const [shown, setShown] = useState(false);
  const guide = BY_HAND[printer.colourant];
  const isMirrored = mirrors(method, donor.kind);
  const make = async (): Promise<DonorSet> => {
    const own = await onSheet(workshop, picture, size, isMirrored);
    const bars = { [printer.id]: { x: printer.barAcross, y: printer.barDown } };
    const set = pictureSet({ code: 'Picture', name: picture.name, methods: [method] }, donor, printer, {
      pictures: [own],
      bars,
    });
    return inMeasures(set, settings.system);
  };
  const sheet = useQuery({
    queryKey: [
      'picture sheet',
      workshop,
      picture,
      size,
      method.id,
      isMirrored,
      printer,
      donor,
      settings.system,
    ],
    queryFn: make,
    enabled: shown && !stopped,
    gcTime: 0,
  });
  const mayPrint = useMayPrint();
  const save = async () => {
    setBusy(true);
    try {
      const sheets = sheet.data ?? (await make());
      if (!(await mayPrint([sheets]))) return;
      saveFile(await makePdf(sheets), `${picture.name.replace(/[^\p{L}\p{N}]+/gu, '-')}.pdf`);
      tell({ say: 'The sheet is in your downloads. Print it at 100 %, not fitted to the page.' });
    } catch (error) {
      tell(didNotWork(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <HStack gap="3" wrap="wrap">
        <Button
          size="2xl"
          colorPalette="buoy"
          loading={busy}
          loadingText="Drawing the sheet"
          disabled={stopped}
          onClick={() => void save()}
        >
          {guide ? 'Save a guide for it (PDF)' : 'Save its sheet (PDF)'}
        </Button>
        <Button
          variant="outline"
          minH="48px"
          disabled={stopped}
          aria-expanded={shown}
          onClick={() => setShown(!shown)}
        >
          {shown ? 'Put the sheet away' : 'See the sheet first'}
        </Button>
      </HStack>
      <Text mt="2">
        <Said>{mm(Math.round(size.w * 10) / 10, { by: Math.round(size.h * 10) / 10 })}</Said>,{' '}
        {guide
          ? `by hand: ${within(printer.name)}. ${guide === 'drawing' ? 'The guide is the drawing to trace' : 'The guide is a frame of its size and place'}, on plain paper`
          : `${isMirrored ? 'mirrored' : 'not mirrored'}, on ${within(donor.name)}, ${donor.printSide}, through ${within(printer.name)}`}
        {facts && !guide && (
          <>
            , covering {Math.round(facts.cover * 100)} % with ink, about{' '}
            {printCost(facts, size, printer, donor).toFixed(2)} a print
          </>
        )}
        .
      </Text>
      {shown && !stopped && (
        <Box mt="3" aria-live="polite">
          {sheet.isPending && <Text>Drawing the sheet…</Text>}
          {sheet.error && (
            <Text color="buoy.fg" role="alert">
              The sheet cannot be shown: {sheet.error.message}.
            </Text>
          )}
          {sheet.data?.pages.map((page, i) => (
            <PagePreview key={i} sheets={sheet.data} page={page} name={`The sheet of ${picture.name}`} />
          ))}
        </Box>
      )}
    </>
  );
}
