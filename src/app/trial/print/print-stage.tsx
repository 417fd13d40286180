import { zipSync } from 'fflate';
import { Fragment, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { mm, within } from '../../../core/say/index.ts';
import { partOf, workPlanOf } from '../../../core/schedule/index.ts';
import {
  donorSets,
  inMeasures,
  nextPart,
  type OwnPicture,
  onlyPart,
  partsOf,
  type SheetOptions,
} from '../../../core/sheets/index.ts';
import { BY_HAND, type Printer } from '../../../core/shelf/index.ts';
import { levelsLine, settingsOf } from '../../../core/trial/index.ts';
import { presentMs, useShelf } from '../../../store/index.ts';
import { makePdf, makePdfs } from '../../../workers/index.ts';
import { PictureAdder } from '../../pictures/picture-adder.tsx';
import { Choose } from '../../ui/choose.tsx';
import { Box, Button, Heading, HStack, Text } from '../../ui/kit.tsx';
import { didNotWork, useNotice } from '../../ui/notices.tsx';
import { saveFile } from '../../ui/save-file.ts';
import { Said, useSettings } from '../../ui/settings.tsx';
import { useMayPrint } from '../../workshop/use-may-print.ts';
import { useTogether } from '../../workshop/use-next.ts';
import { useRecord } from '../../workshop/use-record.ts';
import { useWorking } from '../../workshop/use-working.ts';
import { workPlans } from '../../workshop/work-plans.ts';
import { useTrial } from '../view.tsx';
import { Bars } from './bars.tsx';
import { CuttingPanel } from './cutting-panel.tsx';
import { Looking, PaperRow } from './paper-row.tsx';
import { donorPaper, mirrorReasons, otherPapers, type Paper } from './papers.ts';
import { useOnPatches } from './use-on-patches.ts';

/** Stage "Print": donor sheets by printer and donor, cards, labels, maps; each can be looked at before it is saved. */
export function PrintStage() {
  const view = useTrial();
  const { plan, records, workshop, selected } = view;
  const parts = partsOf(plan);
  const [chosen, setPart] = useState(() => nextPart(plan, records));
  // What was added may be taken back meanwhile.
  const part = parts.some(p => p.batch === chosen) ? chosen : undefined;
  const printed = useMemo(() => (part === undefined ? plan : onlyPart(plan, part)), [plan, part]);
  const { trials } = useTogether(workshop, view);
  const working = useWorking(workshop);
  const shelf = useShelf(workshop);
  const tell = useNotice();
  const record = useRecord(workshop, plan.id);
  const [busy, setBusy] = useState<string>();
  const [shown, setShown] = useState<string>();
  const [paper, setPaper] = useState<NonNullable<SheetOptions['paper']>>('own');
  const [pictures, setPictures] = useState<readonly OwnPicture[]>([]);
  const printers = plan.used.printers.map(p => shelf.data?.shelf.printers.find(s => s.id === p.id) ?? p);
  const bars = Object.fromEntries(printers.map(p => [p.id, { x: p.barAcross, y: p.barDown }]));
  const allByHand = printers.every(p => BY_HAND[p.colourant]);
  const barKey = JSON.stringify(bars);
  const { onPatches, isDrawing } = useOnPatches(view);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the measured bars
  const sets = useMemo(
    () => donorSets(printed, { paper, pictures, bars, onPatches }),
    [printed, paper, pictures, barKey, onPatches],
  );
  const { system } = useSettings().settings;
  const donorPapers = sets.map(set =>
    donorPaper(
      plan,
      inMeasures(set, system),
      sets.some(s => s !== set && s.printer.id === set.printer.id && s.donor.id === set.donor.id),
    ),
  );
  const others = useMemo(() => {
    const found = workPlanOf(workPlans, trials, working, presentMs());
    return otherPapers(printed, found.ok ? partOf(found.value, printed.id) : undefined).map(p => ({
      ...p,
      make: () => inMeasures(p.make(), system),
    }));
  }, [printed, trials, working, system]);
  const mayPrint = useMayPrint();
  const during = async (what: string, work: () => Promise<void>) => {
    setBusy(what);
    try {
      await work();
    } catch (error) {
      tell(didNotWork(error));
    } finally {
      setBusy(undefined);
    }
  };
  // What comes next is asked of what is known to be printed. The files are there either way.
  const saved = (papers: readonly Paper[]) =>
    record.add([
      {
        ...{ kind: 'papers', patch: null, names: papers.map(p => p.name.slice(0, 200)).slice(0, 40) },
        donors: papers.some(p => donorPapers.includes(p)),
      },
    ]);
  const save = (p: Paper) =>
    during(p.id, async () => {
      const sheets = p.make();
      if (!(await mayPrint([sheets]))) return;
      saveFile(await makePdf(sheets), p.file);
      // Where that is not kept, the notice says so and stays.
      if (await saved([p]))
        tell({ say: `${p.file} is in your downloads. Print it at 100 %, not fitted to the page.` });
    });
  const saveAll = () =>
    during('all', async () => {
      const all = donorPapers.map(p => p.make());
      if (!(await mayPrint(all))) return;
      if (donorPapers.length === 1) {
        saveFile(await makePdf(all[0]), `${plan.code}-donor-sheets.pdf`);
      } else {
        const made = await makePdfs(all);
        const files: Record<string, Uint8Array> = {};
        for (const [i, p] of donorPapers.entries())
          files[p.file] = new Uint8Array(await made[i].arrayBuffer());
        saveFile(
          new Blob([zipSync(files, { level: 0 }) as BlobPart], { type: 'application/zip' }),
          `${plan.code}-donor-sheets.zip`,
        );
      }
      if (await saved(donorPapers))
        tell({ say: 'The donor sheets are in your downloads. Print them at 100 %, not fitted to the page.' });
    });
  const row = (p: Paper) => (
    <Fragment key={p.id}>
      <PaperRow
        paper={p}
        isShown={shown === p.id}
        busy={busy === p.id || (isDrawing && p.id.startsWith('donor'))}
        onShow={() => setShown(shown === p.id ? undefined : p.id)}
        onSave={() => void save(p)}
      />
      {shown === p.id && <Looking paper={p} />}
    </Fragment>
  );
  return (
    <Box>
      <Text fontSize="1.15rem" mb="4">
        {mirrorReasons(plan).join(' ')}
        {printers.some(p => p.mirrorSetting) && ` ${mirrorWords(printers)}`}
      </Text>
      {parts.length > 0 && (
        <Box mb="4">
          <Choose
            label="Which patches"
            width="22rem"
            value={part === undefined ? 'all' : `${part}`}
            options={[
              ['all', `all ${plan.patches.length}`],
              ...parts.map(p => [`${p.batch}`, `${p.name} (${p.patches})`] as const),
            ]}
            onChange={v => setPart(v === 'all' ? undefined : Number(v))}
          />
        </Box>
      )}
      <Heading as="h2" size="xl" mb="1">
        1. {allByHand ? 'Guides for your hand' : 'Donor sheets'}
      </Heading>
      {donorPapers.length > 0 && (
        <Button
          size="2xl"
          colorPalette="buoy"
          mt="1"
          mb="3"
          loading={busy === 'all' || isDrawing}
          loadingText="Drawing the sheets"
          onClick={() => void saveAll()}
        >
          Save the {allByHand ? 'guides' : 'donor sheets'} ({donorPapers.length > 1 ? 'ZIP of PDFs' : 'PDF'})
        </Button>
      )}
      {donorPapers.map(row)}
      {plan.used.donors
        .filter(d => d.leftOf)
        .map(d => (
          <Text key={d.id} borderTopWidth="1px" py="2">
            <b>{d.name}</b> is there already and is not printed:{' '}
            {plan.patches
              .filter(p => settingsOf(plan, p).donor.id === d.id)
              .map(p => p.code)
              .join(', ')}
            . Write the code on each piece.
          </Text>
        ))}
      <Text color="fg.muted" mt="2">
        Each print has its code on a tab below it, outside the picture, cut marks, and bars of{' '}
        <Said>{mm(100)}</Said> both ways. Cut away from your hand, along a metal ruler.
      </Text>
      <HStack gap="4" mt="3" wrap="wrap" align="start">
        <Choose
          label="Paper in the printer"
          width="13rem"
          value={paper}
          options={[
            ['own', 'the donor’s own size'],
            ['A4', 'A4'],
            ['Letter', 'Letter'],
          ]}
          onChange={v => setPaper(v as typeof paper)}
        />
        {printers
          .filter(p => !BY_HAND[p.colourant])
          .map(p => (
            <Bars key={p.id} printer={p} />
          ))}
      </HStack>
      <PictureAdder plan={plan} onChange={setPictures} />
      <Heading as="h2" size="xl" mt="6" mb="1">
        2. Cards, labels and maps
      </Heading>
      {others.map(row)}
      <CuttingPanel plan={plan} />
      {selected && (
        <Text mt="6">
          <b>{selected.code}</b>: <Said>{levelsLine(plan, selected)}</Said>, printed on{' '}
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

/** Which printers could turn the sheets back: the mirror setting of a printer has to stay off. */
function mirrorWords(printers: readonly Printer[]): string {
  const names = printers.filter(p => p.mirrorSetting).map(p => within(p.name));
  return `Leave the mirror setting of ${names.join(' and of ')} off: the sheets are the right way already.`;
}
