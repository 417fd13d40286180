import { useEffect, useRef, useState } from 'react';
import { ASPECTS, type AspectId, aspectsBy } from '../../../core/aspects/index.ts';
import { aspectsOf } from '../../../core/trial/index.ts';
import { scaleLooks } from '../../../workers/index.ts';
import { Aspects, type Looks } from '../../ui/aspects.tsx';
import { Box, Text } from '../../ui/kit.tsx';
import { didNotWork, useNotice } from '../../ui/notices.tsx';
import { picturesOn } from '../../workshop/pictures-on.ts';
import { useRecord } from '../../workshop/use-record.ts';
import { useTrial } from '../view.tsx';

/**
 * The aspects of a patch one by one, for who wants to be exact: what is seen, beside what each step looks like, and what
 * is felt where the piece is at hand. `like`: the patch whose materials the pictures are of.
 */
export function Closer({ code, like, hands = true }: { code: string; like: string; hands?: boolean }) {
  const { plan, records, workshop } = useTrial();
  const record = useRecord(workshop, plan.id);
  const [open, setOpen] = useState(false);
  const looks = useLooks(like, open);
  const given = aspectsOf(records, code);
  const list = hands ? ASPECTS : aspectsBy('eye');
  const count = list.filter(a => given[a.id] !== undefined).length;
  const give = (id: AspectId, grade: number) =>
    void record.add([{ kind: 'look', patch: code, aspects: { [id]: grade } }]);
  return (
    <Box as="details" mt="4" onToggle={e => setOpen((e.currentTarget as unknown as HTMLDetailsElement).open)}>
      <Box as="summary" cursor="pointer" minH="44px" fontWeight="600" lineHeight="44px">
        One thing at a time{count > 0 ? `: ${count} of ${list.length} graded` : ''}
      </Box>
      <Text color="fg.muted">The small pictures are simulated, of this method on this ground.</Text>
      <Aspects list={aspectsBy('eye')} given={given} busy={record.busy} looks={looks} onGive={give} />
      {hands && (
        <>
          <Text mt="4" color="fg.muted">
            With the piece in your hand:
          </Text>
          <Aspects list={aspectsBy('hand')} given={given} busy={record.busy} onGive={give} />
        </>
      )}
    </Box>
  );
}

/** Pictures of the steps of each scale, drawn one scale after another once they are wanted. */
function useLooks(like: string, wanted: boolean): Looks {
  const view = useTrial();
  const latest = useRef(view);
  latest.current = view;
  const tell = useNotice();
  const [looks, setLooks] = useState<Looks>({});
  // biome-ignore lint/correctness/useExhaustiveDependencies: drawn anew only for another patch
  useEffect(() => {
    if (!wanted) return;
    let isOver = false;
    const urls: string[] = [];
    const draw = async () => {
      const { plan } = latest.current;
      const pictures = await picturesOn(latest.current);
      for (const { id } of aspectsBy('eye')) {
        if (isOver) return;
        const steps = await scaleLooks(plan, pictures, like, id as Parameters<typeof scaleLooks>[3]);
        if (isOver) return;
        const made = steps.map(step => URL.createObjectURL(step));
        urls.push(...made);
        setLooks(was => ({ ...was, [id]: made }));
      }
    };
    draw().catch(error => tell(didNotWork(error)));
    return () => {
      isOver = true;
      for (const url of urls) URL.revokeObjectURL(url);
      setLooks({});
    };
  }, [like, wanted]);
  return looks;
}
