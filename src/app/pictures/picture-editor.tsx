import { Field, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { type Edit, type Picture, pictureNotes, printSize } from '../../core/artwork/index.ts';
import { type Method, mirrors } from '../../core/methods/index.ts';
import { sheetNotes } from '../../core/questions/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { useWorkshopActions } from '../../store/index.ts';
import { FitNotes } from '../ui/fit-notes.tsx';
import { Box, Button, Grid, HStack } from '../ui/kit.tsx';
import { notSaved, useAttempt, useNotice } from '../ui/notices.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { EditTools } from './edit-tools.tsx';
import { HowPrinted } from './how-printed.tsx';
import { Looks } from './looks.tsx';
import { BaseCoat } from './picture-notes.tsx';
import { PictureSheet } from './picture-sheet.tsx';
import { useExpected } from './use-expected.ts';
import { usePixels, useView } from './use-view.ts';
import { Writing } from './writing.tsx';

/** One picture: how it will look, whether it is fit, what is changed, and its sheet. The original is kept. */
export function PictureEditor({
  stored,
  shelf,
  methods,
}: {
  stored: Picture;
  shelf: Shelf;
  methods: readonly Method[];
}) {
  const workshop = useWorkshop();
  const tell = useNotice();
  const attempt = useAttempt();
  const { savePicture, removePicture } = useWorkshopActions(workshop);
  const [picture, setPicture] = useState(stored);
  const file = usePixels(workshop, picture.id);
  const method = methods.find(m => m.id === picture.method) ?? methods[0];
  const printer = shelf.printers.find(p => p.id === picture.printer) ?? shelf.printers[0];
  const donor = shelf.donors.find(d => d.id === picture.donor) ?? shelf.donors[0];
  const grounds = shelf.substrates.filter(s => picture.grounds.includes(s.id));
  const [aspect, setAspect] = useState(1.25);
  const size = printSize(aspect, picture.piece, picture.fit, picture.marginMm);
  const expected = useExpected(method.id);
  const [asOwn, setAsOwn] = useState(false);
  const asMine = asOwn ? expected : undefined;
  const { view, problem } = useView(file.data, picture, size.w, {
    mirror: mirrors(method, donor.kind),
    grounds,
    veil: asMine ? asMine.veil : 0,
    ...(asMine ? { loss: { least: 1 - asMine.landedHi / 100, most: 1 - asMine.landedLo / 100 } } : {}),
    donor,
    oneColour: printer.oneColour,
  });
  if (view && Math.abs(view.aspect - aspect) > 0.001) setAspect(view.aspect);
  const change = (part: Partial<Picture>) => {
    const next = { ...picture, ...part };
    setPicture(next);
    void attempt(() => savePicture(next, picture));
  };
  const add = (edit: Edit) => change({ edits: [...picture.edits, edit] });
  const remove = async () => {
    try {
      await removePicture(picture.id);
      tell({ say: `${picture.name} was taken away.`, undo: () => void attempt(() => savePicture(picture)) });
    } catch (error) {
      tell(notSaved(error));
    }
  };
  const sheet = sheetNotes(method, shelf, printer, donor);
  const notes = view
    ? pictureNotes({
        facts: view.facts,
        method,
        printer,
        donor,
        grounds,
        size,
        hasText: picture.hasText,
        ...(expected?.kept ? { kept: expected.kept } : {}),
      })
    : [];
  return (
    <Grid
      templateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,11fr) minmax(0,9fr)' }}
      gap={{ base: '6', lg: '9' }}
      alignItems="start"
    >
      <Looks
        {...{ picture, view, problem, expected, asOwn, setAsOwn }}
        mirrored={mirrors(method, donor.kind)}
        grounds={grounds}
        substrates={shelf.substrates}
        onGrounds={ids => change({ grounds: ids })}
      />
      <Box>
        <PictureSheet
          {...{ picture, facts: view?.facts, size, method, printer, donor }}
          stopped={!view || picture.hasText === null || [...sheet, ...notes].some(n => n.severity === 'stop')}
        />
        <Writing hasText={picture.hasText} onChange={hasText => change({ hasText })} />
        {view && <FitNotes notes={[...sheet, ...notes]} onFix={add} />}
        <HowPrinted {...{ picture, method, methods, printer, donor, shelf }} onChange={change} />
        <EditTools
          picture={picture}
          background={view?.facts.background}
          onChange={edits => change({ edits })}
        />
        {view && <BaseCoat facts={view.facts} mediums={shelf.mediums} />}
        <HStack mt="6" gap="3" align="end" wrap="wrap">
          <Field.Root w="16rem">
            <Field.Label>Name of the picture</Field.Label>
            <Input
              value={picture.name}
              onChange={e =>
                e.target.value.trim()
                  ? change({ name: e.target.value.slice(0, 80) })
                  : setPicture({ ...picture, name: e.target.value })
              }
            />
          </Field.Root>
          <Button variant="ghost" minH="44px" onClick={() => void remove()}>
            Take it away
          </Button>
        </HStack>
      </Box>
    </Grid>
  );
}
