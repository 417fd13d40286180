import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { RESPONSES } from '../../core/measures/index.ts';
import { say, within, write } from '../../core/say/index.ts';
import { wallSheets } from '../../core/sheets/index.ts';
import { arranged, hungIn, type WallPatch, wallOf } from '../../core/wall/index.ts';
import { useOverview, useTrials, workshopOf } from '../../store/index.ts';
import { makePdf } from '../../workers/index.ts';
import { Choose } from '../ui/choose.tsx';
import { Box, Button, Flex, Heading, HStack, Text } from '../ui/kit.tsx';
import { didNotWork, useAttempt } from '../ui/notices.tsx';
import { saveFile } from '../ui/save-file.ts';
import { Said, useWrite } from '../ui/settings.tsx';
import { Tick } from '../ui/tick.tsx';
import { useMayPrint } from '../workshop/use-may-print.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import { drawWall } from './draw-wall.ts';
import { Beside, Hung, headline, keyOf, levelsOf } from './hung.tsx';

/** Pixels to the mm on the screen: the smallest, and how far it can be enlarged. */
const SCALES = [2, 3, 4, 6, 8];

/** All patches of one or several trials side by side at one scale, in groups and in order; any two beside each other. */
export function WallPage() {
  const workshop = useWorkshop();
  const [search, setSearch] = useSearchParams();
  const { trials: ids, only } = useMemo(() => hungIn(search), [search]);
  const overview = useOverview(workshop);
  const { trials, here } = useTrials(workshop, ids);
  const [group, setGroup] = useState('');
  const [order, setOrder] = useState('landed');
  const [lastOnly, setLastOnly] = useState(true);
  const [scale, setScale] = useState(4);
  const [pair, setPair] = useState<readonly string[]>([]);
  const attempt = useAttempt(didNotWork);
  const wall = useMemo(() => wallOf(trials, only), [trials, only]);
  const groups = arranged(wall, { group, order, lastOnly });
  const factors = new Map(
    wall.flatMap(p => Object.entries(p.levels).map(([k, l]) => [k, l.factor] as const)),
  );
  const others = overview.data?.trials.filter(t => !t.removedAt && !ids.includes(t.summary.id)) ?? [];
  const unread = [...only.values()]
    .flatMap(codes => [...codes])
    .filter(code => !wall.some(p => p.code === code));
  const title = trials.map(t => t.plan.name).join(', ');
  const beside = pair.flatMap(key => wall.find(p => keyOf(p) === key) ?? []);
  const choose = (p: WallPatch) =>
    setPair(old => (old.includes(keyOf(p)) ? old.filter(k => k !== keyOf(p)) : [...old, keyOf(p)].slice(-2)));
  const images = async () => {
    const found: Record<string, Uint8Array> = {};
    for (const p of groups.flatMap(g => g.patches)) {
      const photo = await workshopOf(workshop).photo(p.trial, p.straight);
      if (photo) found[p.record] = new Uint8Array(await photo.arrayBuffer());
    }
    return found;
  };
  const mayPrint = useMayPrint();
  const written = useWrite();
  const savePdf = () =>
    attempt(async () => {
      const told = (p: WallPatch) => [say`${p.code}  ${headline(p)}`, levelsOf(p)] as const;
      const sheets = wallSheets(title, groups, await images(), told);
      if (await mayPrint([sheets])) saveFile(await makePdf(sheets), 'wall.pdf');
    });
  const savePng = () =>
    attempt(async () =>
      saveFile(await drawWall(title, groups, await images(), headline, written), 'wall.png'),
    );
  return (
    <Box px={{ base: '4', md: '6' }} pt="4" pb="24">
      <Heading as="h1" size="2xl" mb="1">
        The wall
      </Heading>
      <Text mb="3" fontSize="1.1rem">
        {trials.length ? (
          trials.map(({ plan }, i) => (
            <span key={plan.id}>
              {i > 0 && ', '}
              <Link to={`/w/${workshop}/t/${plan.id}/read`} style={{ textDecoration: 'underline' }}>
                {plan.name}
              </Link>
              {only.has(plan.id) && ` (${only.get(plan.id)!.size} of ${plan.patches.length})`}
            </span>
          ))
        ) : here ? (
          <>Choose a trial to hang its patches here.</>
        ) : (
          <>Fetching the patches…</>
        )}
      </Text>
      <HStack gap="3" mb="3" wrap="wrap" align="end">
        <Choose
          label="In groups by"
          value={group}
          onChange={setGroup}
          options={[
            ['', 'nothing'],
            ...factors,
            ['stage', 'stage'],
            ['verdict', 'verdict'],
            ...(trials.length > 1 ? [['trial', 'trial'] as const] : []),
          ]}
        />
        <Choose
          label="In order of"
          value={order}
          onChange={setOrder}
          options={[
            ...RESPONSES.map(m => [m.id, `${within(m.name)}, best first`] as const),
            ['time', 'time'],
            ['order', 'the work'],
          ]}
        />
        {others.length > 0 && (
          <Choose
            label="Hang a trial beside it"
            value=""
            onChange={id => {
              const next = new URLSearchParams(search);
              next.append('trial', id);
              setSearch(next, { replace: true });
            }}
            options={[['', 'choose'], ...others.map(t => [t.summary.id, t.summary.name] as const)]}
          />
        )}
        <HStack>
          <Text fontWeight="500">Size</Text>
          {SCALES.map((s, i) => (
            <Button
              key={s}
              minH="44px"
              minW="44px"
              variant={s === scale ? 'solid' : 'outline'}
              aria-pressed={s === scale}
              aria-label={`Size ${i + 1} of ${SCALES.length}`}
              onClick={() => setScale(s)}
            >
              {i + 1}
            </Button>
          ))}
        </HStack>
      </HStack>
      <HStack gap="4" mb="4" wrap="wrap">
        <Tick checked={lastOnly} onChange={setLastOnly}>
          Only the last reading of each patch
        </Tick>
        {wall.length > 0 && (
          <>
            <Button minH="44px" variant="outline" onClick={() => void savePdf()}>
              Save as PDF
            </Button>
            <Button minH="44px" variant="outline" onClick={() => void savePng()}>
              Save as PNG
            </Button>
          </>
        )}
      </HStack>
      {beside.length > 0 && <Beside {...{ workshop }} pair={beside} onClear={() => setPair([])} />}
      {here && unread.length > 0 && (
        <Text fontSize="1.15rem" mb="3">
          No photo has been read yet of {unread.join(', ')}. Read one, and it hangs here.
        </Text>
      )}
      {here && trials.length > 0 && !wall.length && !unread.length && (
        <Text fontSize="1.15rem">No photo of this trial has been read yet. Read one, and it hangs here.</Text>
      )}
      {groups.map(({ name, patches }) => (
        <Box key={write(name)} as="section" mb="5" aria-label={written(name)}>
          {groups.length > 1 && (
            <Heading as="h2" size="lg" mb="2">
              <Said>{name}</Said>
            </Heading>
          )}
          <Flex gap="4" wrap="wrap" align="flex-start">
            {patches.map(p => (
              <Hung
                key={keyOf(p)}
                {...{ workshop, scale }}
                of={p}
                isChosen={pair.includes(keyOf(p))}
                onChoose={() => choose(p)}
              />
            ))}
          </Flex>
        </Box>
      ))}
    </Box>
  );
}
