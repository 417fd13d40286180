import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { furtherBatch } from '../../../core/design/index.ts';
import type { Findings } from '../../../core/findings/index.ts';
import { problemWords } from '../../../core/outcome/index.ts';
import { write } from '../../../core/say/index.ts';
import { levelsLine } from '../../../core/trial/index.ts';
import { useShelf } from '../../../store/index.ts';
import { Box, Button, Heading, Text } from '../../ui/kit.tsx';
import { asNotice, useNotice } from '../../ui/notices.tsx';
import { Said, useWrite } from '../../ui/settings.tsx';
import { useRecord } from '../../workshop/use-record.ts';
import { useTrial } from '../view.tsx';

/** The few patches that would settle what is open: one press adds them as a batch of their own. */
export function NextPanel({ next }: { next: NonNullable<Findings['next']> }) {
  const { plan, made, records, workshop } = useTrial();
  const shelf = useShelf(workshop).data?.shelf;
  const record = useRecord(workshop, made.id);
  const tell = useNotice();
  const written = useWrite();
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  if (!shelf) return null;
  const kinds = new Map<string, number>();
  for (const levels of next.combinations) {
    const name = written(levelsLine(plan, { levels: [...levels] }));
    kinds.set(name, (kinds.get(name) ?? 0) + 1);
  }
  const batch = furtherBatch(made, records, { what: 'again', combinations: next.combinations }, shelf);
  const add = async () => {
    if (!batch.ok) return tell(asNotice(batch.problem));
    setBusy(true);
    try {
      const why = `To settle it: ${write(next.sentence)}`;
      const draft = { kind: 'change', patch: null, change: batch.value, why } as const;
      if (!(await record.add([draft]))) return;
      tell({ say: `${batch.value.patches.length} more patches are in the plan. Print their sheets.` });
      await navigate(`/w/${workshop}/t/${plan.id}/print`);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Box as="section" aria-label="What next" borderTopWidth="3px" borderColor="fg" pt="3" mb="5">
      <Heading as="h2" size="lg" mb="1">
        What next
      </Heading>
      {[...kinds].map(([name, count]) => (
        <Text key={name}>
          {count} × <Said>{name}</Said>
        </Text>
      ))}
      <Text color="fg.muted" fontSize="0.95rem">
        Played through with what is known now, this often they leave nothing open.
      </Text>
      {batch.ok ? (
        <Button mt="2" colorPalette="buoy" size="xl" minH="56px" loading={busy} onClick={() => void add()}>
          Add these {next.combinations.length} patches
        </Button>
      ) : (
        <>
          <Text mt="1">
            <Said>{problemWords(batch.problem)}</Said>
          </Text>
          <Button asChild mt="2" variant="outline" minH="48px">
            <Link to={`/w/${workshop}/new/plan?from=again:${plan.id}`}>Plan it once more</Link>
          </Button>
        </>
      )}
    </Box>
  );
}
