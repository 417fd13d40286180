import { Table } from '@chakra-ui/react';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { type Answer, madeWith, type Thing } from '../../core/evidence/index.ts';
import { findMethod, METHODS, type Method, waitsForDrying } from '../../core/methods/index.ts';
import { problemWords } from '../../core/outcome/index.ts';
import { requestFor } from '../../core/questions/index.ts';
import { type Rule, stopsFor } from '../../core/rules/index.ts';
import type { Words } from '../../core/say/index.ts';
import { many, write } from '../../core/say/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { lookUp } from '../../core/trial/index.ts';
import { dryingFactor } from '../../core/units/index.ts';
import { useMethods, useOverview, useShelf } from '../../store/index.ts';
import { askEvidence, type Weighed, weighEvidence } from '../../workers/index.ts';
import { Choose } from '../ui/choose.tsx';
import { Box, Button, Flex, Grid, Heading, Text } from '../ui/kit.tsx';
import { didNotWork, useNotice } from '../ui/notices.tsx';
import { NumberChoice } from '../ui/number-choice.tsx';
import { Said } from '../ui/settings.tsx';
import { Told } from '../ui/told.tsx';
import { useKnown } from '../workshop/use-known.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import { Found } from './found.tsx';

/** What all trials of a workshop say together: asked about anything, what is known, and what makers disagree about. */
export function KnownPage() {
  const workshop = useWorkshop();
  const [onShelf, methods, overview] = [useShelf(workshop), useMethods(workshop), useOverview(workshop)];
  const shelf = onShelf.data?.shelf;
  const own = methods.data;
  const known = useKnown(workshop);
  const unread = [onShelf, methods, overview].find(stored => stored.isError);
  const rows = useMemo(() => known.flatMap(k => k.evidence), [known]);
  const [evidence, setEvidence] = useState<Weighed>();
  const [failed, setFailed] = useState<Words>();
  const [tries, setTries] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: whenever there is other evidence
  useEffect(() => {
    let over = false;
    weighEvidence(rows).then(
      found => !over && setEvidence(found),
      error => !over && setFailed(didNotWork(error).say),
    );
    return () => {
      over = true;
    };
  }, [rows, tries]);
  // What could not be read is not nothing.
  if (unread) return <NotWeighed why={didNotWork(unread.error).say} again={() => void unread.refetch()} />;
  if (failed)
    return (
      <NotWeighed
        why={failed}
        again={() => {
          setFailed(undefined);
          setTries(tries + 1);
        }}
      />
    );
  if (!shelf || !own || !overview.data || !evidence)
    return (
      <Box px={{ base: '4', md: '6' }} pt="4" role="status">
        <Heading as="h1" size="3xl" mb="3">
          What you know
        </Heading>
        Weighing your trials together…
      </Box>
    );
  const isEmpty = !rows.length;
  return (
    <Box px={{ base: '4', md: '6' }} pt="4" pb="24">
      <Heading as="h1" size="3xl" mb="3">
        What you know
      </Heading>
      {isEmpty && (
        <Box mb="6">
          <Text fontSize="1.15rem" mb="3">
            Nothing is read or judged yet. With the first finished trial this page says what works on what,
            how sure that is, and what to expect of something you never tried.
          </Text>
          <Button asChild colorPalette="buoy" minH="52px">
            <Link to={`/w/${workshop}/new`}>Begin a trial</Link>
          </Button>
        </Box>
      )}
      <Grid
        templateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,1fr) minmax(0,1fr)' }}
        gap={{ base: '6', lg: '10' }}
      >
        <Box as="section" aria-label="Ask about anything">
          {!isEmpty && <Ask {...{ shelf, evidence }} own={own} />}
        </Box>
        <Box as="main" minW="0">
          <Found evidence={evidence} />
        </Box>
      </Grid>
    </Box>
  );
}

/** The trials could not be weighed together: why, and once more. */
function NotWeighed({ why, again }: { why: Words; again: () => void }) {
  return (
    <Box p={{ base: '4', md: '8' }} role="alert">
      <Heading as="h1" size="2xl" mb="2">
        Your trials could not be weighed together
      </Heading>
      <Text mb="4">
        <Said>{why}</Said> Nothing of them is lost.
      </Text>
      <Button size="xl" colorPalette="buoy" onClick={again}>
        Try again
      </Button>
    </Box>
  );
}

const KINDS: Record<Exclude<Thing, 'method'>, keyof Shelf> = {
  medium: 'mediums',
  donor: 'donors',
  substrate: 'substrates',
  preparation: 'preparations',
  printer: 'printers',
};
const NAMES: Record<Thing, string> = {
  method: 'Method',
  medium: 'Medium',
  donor: 'Donor sheet',
  substrate: 'Substrate',
  preparation: 'Preparation',
  printer: 'Printer',
};

/** A way of making, put together from the shelf, and what is to be expected of it. */
function Ask({ shelf, own, evidence }: { shelf: Shelf; own: readonly Method[]; evidence: Weighed }) {
  const workshop = useWorkshop();
  const tell = useNotice();
  const [chosen, setChosen] = useState<Partial<Record<Thing, string>>>({});
  const [hours, setHours] = useState<number>();
  const [found, setFound] = useState<{ readonly of: string; readonly answer: Answer | undefined }>();
  const method = findMethod(chosen.method ?? '', own) ?? METHODS[0];
  const plain = requestFor(method, shelf);
  const usual = plain.ok ? plain.value.usual : undefined;
  const air = plain.ok ? plain.value.air : { tempC: 20, rh: 50 };
  const settings = usual && {
    ...usual,
    ...Object.fromEntries(
      (Object.keys(KINDS) as (keyof typeof KINDS)[]).map(t => [t, chosen[t] ?? usual[t]]),
    ),
    dryHours: hours ?? usual.dryHours,
  };
  const made = settings && lookUp({ ...shelf, method, otherMethods: [] }, { ...settings, method: method.id });
  const key = JSON.stringify([settings, method.id]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: `key` is what is asked, `evidence` what it rests on
  useEffect(() => {
    if (!made) return;
    let over = false;
    askEvidence(madeWith(made, dryingFactor(air))).then(
      answer => !over && setFound({ of: key, answer }),
      error => !over && tell(didNotWork(error)),
    );
    return () => {
      over = true;
    };
  }, [key, evidence]);
  const stops: readonly Rule[] = made
    ? stopsFor({ settings: made, method, air, patchMm: 40, wear: [] }, [])
    : [];
  const answer = found?.of === key ? found.answer : undefined;
  const choose = (thing: Thing) => (id: string) => {
    setChosen(old => (thing === 'method' ? { method: id } : { ...old, [thing]: id }));
    if (thing === 'method') setHours(undefined);
  };
  return (
    <>
      <Heading as="h2" size="lg" mb="1">
        Ask it, also about what you never tried
      </Heading>
      <Flex gap="3" wrap="wrap" mb="4">
        <Choose
          label={NAMES.method}
          value={method.id}
          options={[...METHODS, ...own].map(m => [m.id, m.name] as const)}
          onChange={choose('method')}
        />
        {settings &&
          (Object.keys(KINDS) as (keyof typeof KINDS)[]).map(thing => (
            <Choose
              key={thing}
              label={NAMES[thing]}
              value={String(settings[thing])}
              options={shelf[KINDS[thing]].map(i => [i.id, i.name] as const)}
              onChange={choose(thing)}
            />
          ))}
        {settings && waitsForDrying(method) && (
          <Box w="15rem">
            <NumberChoice
              label={`${method.waitName}, hours`}
              value={settings.dryHours}
              factor={1}
              step={1}
              limit="dryHours"
              onChange={setHours}
            />
          </Box>
        )}
      </Flex>
      <Box aria-live="polite">
        {!plain.ok && (
          <Text>
            <Said>{problemWords(plain.problem)}</Said>
          </Text>
        )}
        {stops.map(rule => (
          <Text key={rule.id} fontWeight="700" color="warn.fg" mb="2">
            {rule.why} {rule.instead}
          </Text>
        ))}
        {answer && (
          <>
            <Text fontFamily="heading" fontWeight="700" fontSize="1.5rem" lineHeight="1.25" mb="2">
              <Told>{answer.sentence}</Told>
            </Text>
            <Text mb="3">
              {answer.exactly.patches
                ? `Exactly this was made before: ${counted(answer.exactly)}.`
                : 'Exactly this was never made: it rests on what is like it.'}{' '}
              {answer.teaches.words}
            </Text>
            <Table.Root size="sm" mb="3">
              <Table.Header>
                <Table.Row bg="transparent">
                  <Table.ColumnHeader ps="0">It rests on</Table.ColumnHeader>
                  <Table.ColumnHeader>seen so far</Table.ColumnHeader>
                </Table.Row>
              </Table.Header>
              <Table.Body>
                {answer.things.map(t => (
                  <Table.Row key={t.thing} bg="transparent">
                    <Table.Cell ps="0">
                      {NAMES[t.thing]}: {t.name}
                    </Table.Cell>
                    <Table.Cell>{counted(t.count)}</Table.Cell>
                  </Table.Row>
                ))}
              </Table.Body>
            </Table.Root>
            <Button asChild variant="outline" minH="48px">
              <Link to={`/w/${workshop}/new/plan?from=plain:${method.id}`}>Plan a trial of it</Link>
            </Button>
          </>
        )}
      </Box>
    </>
  );
}

const counted = ({ patches, trials }: { patches: number; trials: number }) =>
  patches ? `${write(many(patches, 'patch'))} in ${write(many(trials, 'trial'))}` : 'none yet';
