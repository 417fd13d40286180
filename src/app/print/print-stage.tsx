import { Box, Button, Heading, HStack, List, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { Link } from 'react-router';
import { donorCells, sheetGrid } from '../../core/print/index.ts';
import { levelNames, settingsOf } from '../../core/trial/index.ts';
import { makeDonorSheets, makeReadingCard } from '../../workers/index.ts';
import { failure, useNotice } from '../shell/notices.tsx';
import { saveFile } from '../shell/save-file.ts';
import { useTrial } from '../trial/frame.tsx';

/** Stage "Print": the donor sheets and the reading card as true-size PDFs. */
export function PrintStage() {
  const { plan, workshop, selected } = useTrial();
  const tell = useNotice();
  const [busy, setBusy] = useState<string>();
  const method = plan.used.method;
  const make = async (what: string, work: () => Promise<Blob>, name: string) => {
    setBusy(what);
    try {
      saveFile(await work(), name);
      tell({ say: `${name} is in your downloads. Print it at 100 %, not fitted to the page.` });
    } catch (error) {
      tell(failure(error));
    } finally {
      setBusy(undefined);
    }
  };
  const sheets = plan.used.donors.flatMap(donor =>
    plan.used.printers.flatMap(printer => {
      const pieces = plan.patches.filter(p => {
        const set = settingsOf(plan, p);
        return set.donor.id === donor.id && set.printer.id === printer.id;
      }).length;
      const { perSheet } = sheetGrid(donor.sheet, donorCells(plan.patchMm));
      return pieces ? [{ donor, printer, pieces, count: Math.ceil(pieces / perSheet) }] : [];
    }),
  );
  return (
    <Box>
      <Text fontSize="1.15rem" mb="4">
        {method.mirrorReason} Leave your printer’s own mirror setting off.
      </Text>
      <Heading as="h2" size="xl" mb="1">
        1. Donor sheets
      </Heading>
      <List.Root mb="3" ps="5">
        {sheets.map(s => (
          <List.Item key={`${s.donor.id} ${s.printer.id}`}>
            {s.count} {s.count === 1 ? 'sheet' : 'sheets'} of <b>{s.donor.name}</b> through{' '}
            <b>{s.printer.name.toLowerCase()}</b>, {s.pieces} prints, on {s.donor.printSide}
          </List.Item>
        ))}
      </List.Root>
      <Button
        size="2xl"
        colorPalette="buoy"
        loading={busy === 'sheets'}
        loadingText="Drawing the sheets"
        onClick={() => make('sheets', () => makeDonorSheets(plan), `${plan.code}-donor-sheets.pdf`)}
      >
        Save the donor sheets (PDF)
      </Button>
      <Text color="fg.muted" mt="2" mb="6">
        Each print has its code on a tab below it, outside the picture, cut marks, and a 100 mm bar to check
        the printer’s size. Cut away from your hand, along a metal ruler.
      </Text>
      <Heading as="h2" size="xl" mb="1">
        2. Reading card
      </Heading>
      <Text mb="3">
        Print it once on plain white paper and cut out the grey window. Photos through it can be measured. It
        fits every trial with {plan.patchMm} mm patches.
      </Text>
      <Button
        size="xl"
        variant="outline"
        loading={busy === 'card'}
        loadingText="Drawing the card"
        onClick={() =>
          make('card', () => makeReadingCard(plan.patchMm), `reading-card-${plan.patchMm}mm.pdf`)
        }
      >
        Save the reading card (PDF)
      </Button>
      {selected && (
        <Text mt="6">
          <b>{selected.code}</b>: {levelNames(plan, selected).join(', ')}, printed on{' '}
          {settingsOf(plan, selected).donor.name}.
        </Text>
      )}
      <HStack mt="6">
        <Button asChild size="lg" colorPalette="tide">
          <Link to={`/w/${workshop}/t/${plan.id}/make`}>Printed: go on to making</Link>
        </Button>
      </HStack>
    </Box>
  );
}
