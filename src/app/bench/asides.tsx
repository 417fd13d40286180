import { Input } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import { type AspectId, aspectsBy } from '../../core/aspects/index.ts';
import { freshId } from '../../core/codes/index.ts';
import { coatThicknessMm, simulatedGrams } from '../../core/devices/index.ts';
import { stageNow } from '../../core/photos/index.ts';
import { seedOf } from '../../core/random/index.ts';
import { grams, say, thick } from '../../core/say/index.ts';
import type { Link } from '../../core/steps/index.ts';
import { type Patch, settingsOf, sizeOf, type TrialPlan, type TrialRecord } from '../../core/trial/index.ts';
import { presentMs, type RecordDraft, type WorkshopName } from '../../store/index.ts';
import { Aspects } from '../ui/aspects.tsx';
import { Box, Text } from '../ui/kit.tsx';
import { NumberField } from '../ui/number-field.tsx';
import { Said } from '../ui/settings.tsx';
import { useRecord } from '../workshop/use-record.ts';
import { Big, Frame } from './aside-frame.tsx';
import { canHaveBeen, leftOut, toldLate } from './bench.model.ts';
import { Spoilt } from './spoilt.tsx';

export type AsideName = 'late' | 'spoilt' | 'skip' | 'note' | 'photo' | 'weigh' | 'feel';

export interface AsideProps {
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
  readonly patch: Patch;
  readonly link: Link;
  /** Other patches that the step is done for in the same go. */
  readonly also: readonly string[];
  readonly workshop: WorkshopName;
  /** When the last step of this patch was done, ms; nothing can have been done before that. */
  readonly since: number | undefined;
  /** Writes the records, after what has to be stored before them; says so when that failed. */
  readonly keep: (drafts: readonly RecordDraft[], files?: ReadonlyMap<string, Blob>) => Promise<unknown>;
  readonly close: () => void;
}

const AGO = [
  [1 / 6, '10 s'],
  [0.5, '30 s'],
  [1, '1 min'],
  [3, '3 min'],
  [10, '10 min'],
  [60, '1 h'],
] as const;
/** What can happen beside the work: told late, spoilt, a note, a photo, a weight. Nothing here has to be typed but a note. */
export function Aside({ name, ...props }: AsideProps & { name: AsideName }) {
  switch (name) {
    case 'late':
      return <Late {...props} />;
    case 'spoilt':
      return <Spoilt {...props} />;
    case 'skip':
      return <Skip {...props} />;
    case 'note':
      return <Note {...props} />;
    case 'photo':
      return <Photo {...props} />;
    case 'weigh':
      return <Weigh {...props} />;
    case 'feel':
      return <Feel {...props} />;
  }
}

/** What only a hand can tell, asked while the piece is in it: each press is kept, and the panel stays for the next. */
function Feel({ plan, patch, workshop, close }: AsideProps) {
  const record = useRecord(workshop, plan.id);
  const [given, setGiven] = useState<Partial<Record<AspectId, number>>>({});
  const give = async (id: AspectId, grade: number) => {
    const kept = await record.add([{ kind: 'look', patch: patch.code, aspects: { [id]: grade } }]);
    if (kept) setGiven(before => ({ ...before, [id]: grade }));
  };
  const all = aspectsBy('hand');
  const isAll = all.every(a => given[a.id]);
  return (
    <Frame
      out={isAll ? 'Done' : undefined}
      title={isAll ? `${patch.code}: noted. Thank you` : `How does ${patch.code} feel?`}
      close={close}
    >
      <Aspects list={all} given={given} busy={record.busy} onGive={(id, grade) => void give(id, grade)} />
    </Frame>
  );
}

/** "I did it already": the step is kept at the time it was really done. */
function Late({ patch, link, also, since, keep, close }: AsideProps) {
  const now = presentMs();
  return (
    <Frame title={`${link.step.done}, ${patch.code}: how long ago?`} close={close}>
      {AGO.map(([min, words]) => (
        <Big
          key={min}
          disabled={!canHaveBeen(min, since, now)}
          onClick={() => void keep([toldLate({ patch: patch.code, link, also }, min, now)])}
        >
          {words} ago
        </Big>
      ))}
    </Frame>
  );
}

/** Leaves a step out on purpose; it is kept that it was. */
function Skip({ patch, link, also, keep, close }: AsideProps) {
  return (
    <Frame title={`Leave “${link.step.action}” out for ${patch.code}?`} close={close}>
      <Big onClick={() => void keep([leftOut({ patch: patch.code, link, also })])}>Leave it out</Big>
      <Text w="100%">It is kept that it was left out, and what comes next is planned from now.</Text>
    </Frame>
  );
}

function Note({ patch, keep, close }: AsideProps) {
  const [text, setText] = useState('');
  const add = () =>
    text.trim() && void keep([{ kind: 'note', patch: patch.code, text: text.trim().slice(0, 2000) }]);
  return (
    <Frame title={`Note about ${patch.code}`} close={close}>
      <Input
        autoFocus
        aria-label={`Note about ${patch.code}`}
        value={text}
        minH="56px"
        flex="1"
        minW="14rem"
        onChange={e => setText(e.target.value)}
        onKeyDown={e => e.key === 'Enter' && add()}
      />
      <Big onClick={add} disabled={!text.trim()}>
        Keep note
      </Big>
    </Frame>
  );
}

/** A photo of how it looks now, kept with the patch; it is read later under Read, through the card. */
function Photo({ plan, records, patch, link, keep, close }: AsideProps) {
  const input = useRef<HTMLInputElement>(null);
  const take = async (file: File | undefined) => {
    if (!file) return;
    const photo = freshId(Math.random);
    await keep(
      [
        {
          kind: 'photo',
          patch: patch.code,
          photo,
          ...stageNow({ plan, records }, patch.code, link, presentMs()),
          round: link.round,
          name: file.name.slice(0, 200) || 'photo',
          simulated: false,
          takenAt: null,
        },
      ],
      new Map([[photo, file]]),
    );
  };
  return (
    <Frame title={`A photo of ${patch.code} as it is now`} close={close}>
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        hidden
        data-testid="bench-photo"
        onChange={e => void take(e.target.files?.[0])}
      />
      <Big onClick={() => input.current?.click()}>Open the camera</Big>
    </Frame>
  );
}

/** The coat by weight, and how thick that is on a patch. */
function Weigh({ plan, patch, keep, close }: AsideProps) {
  const [weight, setWeight] = useState(Number.NaN);
  const [simulated, setSimulated] = useState(false);
  const { medium, coatMm } = settingsOf(plan, patch);
  const { w, h } = sizeOf(plan);
  const area = w * h;
  const known = Number.isFinite(weight);
  return (
    <Frame title={`What the coat on ${patch.code} weighs`} close={close}>
      <Box w="12rem">
        <NumberField
          aria="Weight of the coat, g"
          value={weight}
          step={0.1}
          limit="grams"
          onChange={grams => {
            setWeight(grams);
            setSimulated(false);
          }}
        />
      </Box>
      <Big
        onClick={() => {
          setWeight(simulatedGrams(coatMm, medium.densityGPerMl, area, seedOf(`${plan.id}${patch.code}`)));
          setSimulated(true);
        }}
      >
        Simulated scale
      </Big>
      <Big
        disabled={!known}
        onClick={() =>
          void keep([
            {
              kind: 'coat',
              patch: patch.code,
              grams: weight,
              ...(simulated ? { source: 'simulated' as const } : {}),
            },
          ])
        }
      >
        Keep weight
      </Big>
      <Text w="100%" aria-live="polite">
        <Said>
          {known
            ? say`${thick(coatThicknessMm(weight, medium.densityGPerMl, area), { places: 2 })} thick; the plan says ${thick(coatMm)}.`
            : say`Weigh the piece before and after coating; the difference is the coat. ${thick(coatMm)} would be ${grams((coatMm * area * medium.densityGPerMl) / 1000, { places: 2 })}.`}
        </Said>
        {simulated ? ' From the simulated scale.' : ''}
      </Text>
    </Frame>
  );
}
