import { SITTINGS, type Sitting, type Working } from '../../../core/schedule/index.ts';
import { Choose } from '../../ui/choose.tsx';
import { Box, Heading, HStack, Text } from '../../ui/kit.tsx';
import { NumberChoice } from '../../ui/number-choice.tsx';
import { TimeField } from '../../ui/time-field.tsx';

const same = (a: readonly Sitting[], b: readonly Sitting[]) => JSON.stringify(a) === JSON.stringify(b);

/** When the maker is there, who helps and what holds how much: what the day is planned by. */
export function HowYouWork({
  working,
  washMin,
  ovenHolds,
  onChange,
}: {
  working: Working;
  /** What holds where the maker leaves it to the tools on the shelf. */
  washMin: number;
  ovenHolds: number;
  onChange: (working: Working) => void;
}) {
  const change = (part: Partial<Working>) => onChange({ ...working, ...part });
  const own = working.sittings.length && !SITTINGS.some(s => same(s.sittings, working.sittings));
  return (
    <Box as="section" aria-label="How you work" mt="6">
      <Heading as="h2" size="lg" mb="2">
        How you work
      </Heading>
      <HStack gap="3" wrap="wrap" align="start">
        <Choose
          label="You are there"
          width="17rem"
          value={own ? 'own' : SITTINGS.find(s => same(s.sittings, working.sittings))!.id}
          options={[
            ...SITTINGS.map(s => [s.id, s.name] as const),
            ...(own ? [['own', 'as you wrote it'] as const] : []),
            ['own-new', 'At times of your own…'],
          ]}
          onChange={id =>
            change({
              sittings:
                id === 'own-new'
                  ? [{ days: [0, 1, 2, 3, 4, 5, 6], from: '17:00', to: '21:00' }]
                  : [...(SITTINGS.find(s => s.id === id)?.sittings ?? working.sittings)],
            })
          }
        />
        <Choose
          label="Order of work"
          value={working.order}
          options={[
            ['plan', 'as shuffled (fair)'],
            ['free', 'free within a board (less washing)'],
          ]}
          onChange={order => change({ order: order as Working['order'] })}
        />
        {(
          [
            ['Helpers', working.helpers, (helpers: number) => change({ helpers }), 'helpers'],
            ['Oven holds', ovenHolds, (n: number) => change({ ovenHolds: n }), 'oven'],
            [
              'Pieces drying at once (0: any)',
              working.rackHolds ?? 0,
              (n: number) => change({ rackHolds: n || null }),
              'holds',
            ],
            [
              'Pieces in the tray (0: any)',
              working.trayHolds ?? 0,
              (n: number) => change({ trayHolds: n || null }),
              'holds',
            ],
            ['Washing a brush, min', washMin, (n: number) => change({ washMin: n }), 'wash'],
          ] as const
        ).map(([label, value, set, limit]) => (
          <Box key={label} w={label.length > 24 ? '15rem' : '9rem'}>
            <NumberChoice label={label} value={value} factor={1} step={1} limit={limit} onChange={set} />
          </Box>
        ))}
      </HStack>
      {Boolean(own) &&
        working.sittings.map((sitting, i) => (
          <OwnSitting
            key={i}
            sitting={sitting}
            onChange={next => change({ sittings: working.sittings.map((s, k) => (k === i ? next : s)) })}
          />
        ))}
      {working.order === 'free' && (
        <Text color="fg.muted" mt="1">
          What is made late can then differ from what is made early for that reason alone.
        </Text>
      )}
    </Box>
  );
}

const DAYS = ['Su', 'Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa'];

function OwnSitting({ sitting, onChange }: { sitting: Sitting; onChange: (sitting: Sitting) => void }) {
  const time = (key: 'from' | 'to') => (
    <TimeField label={key} value={sitting[key]} onChange={at => onChange({ ...sitting, [key]: at })} />
  );
  return (
    <HStack gap="3" mt="2" wrap="wrap">
      {DAYS.map((day, d) => {
        const on = sitting.days.includes(d);
        const days = on ? sitting.days.filter(x => x !== d) : [...sitting.days, d].sort();
        return (
          <label key={day} style={{ display: 'flex', gap: '0.3rem', alignItems: 'center', minHeight: 44 }}>
            <input
              type="checkbox"
              checked={on}
              style={{ width: 20, height: 20 }}
              onChange={() => days.length && onChange({ ...sitting, days })}
            />
            {day}
          </label>
        );
      })}
      {time('from')}
      {time('to')}
    </HStack>
  );
}
