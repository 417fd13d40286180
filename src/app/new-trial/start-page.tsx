import { chakra, Field, NativeSelect } from '@chakra-ui/react';
import { useState } from 'react';
import { Link } from 'react-router';
import { findMethod, METHODS } from '../../core/methods/index.ts';
import { problemWords } from '../../core/outcome/index.ts';
import { DISAGREEMENTS, settle, waysTo } from '../../core/questions/index.ts';
import { say } from '../../core/say/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { WEAR } from '../../core/steps/index.ts';
import { WEAR_TESTS, type WearTest } from '../../core/trial/index.ts';
import { useMethods, useShelf } from '../../store/index.ts';
import { Box, Button, Flex, Grid, Heading, HStack, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';
import { Tick } from '../ui/tick.tsx';
import { useWorkshop } from '../workshop/workshop.ts';

const RouterLink = chakra(Link);

const KINDS = [
  ['settle', 'Settle an argument'],
  ['way', 'Put this on that'],
  ['wait', 'How long should I wait?'],
  ['last', 'Does it last?'],
] as const;
type Kind = (typeof KINDS)[number][0];

/** A new trial starts from a question: a ready-made one, a pairing, a wait, wear, or nothing at all. */
export function StartPage() {
  const workshop = useWorkshop();
  const stored = useShelf(workshop);
  const own = useMethods(workshop);
  const [kind, setKind] = useState<Kind>('settle');
  if (!stored.data || !own.data)
    return (
      <Box p="8" role="status">
        Opening the shelf…
      </Box>
    );
  const { shelf } = stored.data;
  const methods = [...METHODS, ...own.data];
  return (
    <Box as="main" px={{ base: '4', md: '6' }} pt="4" pb="24" maxW="76rem">
      <Flex gap="4" wrap="wrap" align="center" mb="4">
        <Heading as="h1" size="3xl" flex="1" minW="16rem">
          What do you want to find out?
        </Heading>
        <Button asChild variant="outline" minH="48px">
          <Link to={`/w/${workshop}/new/plan?from=plain:wet-rub`}>Start from nothing</Link>
        </Button>
      </Flex>
      <HStack gap="0" wrap="wrap" borderBottomWidth="1px" mb="4" role="group" aria-label="Kinds of questions">
        {KINDS.map(([id, label]) => (
          <Button
            key={id}
            variant="plain"
            color="fg"
            minH="48px"
            px={{ base: '3', md: '4' }}
            borderRadius="0"
            fontSize="1.05rem"
            fontWeight={kind === id ? 700 : 400}
            aria-pressed={kind === id}
            boxShadow={kind === id ? 'inset 0 -4px 0 var(--chakra-colors-buoy-solid)' : undefined}
            onClick={() => setKind(id)}
          >
            {label}
          </Button>
        ))}
      </HStack>
      {kind === 'settle' && <Settle shelf={shelf} />}
      {kind === 'way' && <Way shelf={shelf} methods={own.data} />}
      {kind === 'wait' && (
        <Pick
          methods={methods}
          make={id => `wait:${id}`}
          words="A ladder of times round the usual one, each made twice."
        />
      )}
      {kind === 'last' && <Last methods={methods} />}
    </Box>
  );
}

function Settle({ shelf }: { shelf: Shelf }) {
  const workshop = useWorkshop();
  return (
    <Box>
      <Text mb="3" color="fg.muted">
        Makers disagree about these. Settle it on your own bench, with what is on your shelf.
      </Text>
      {DISAGREEMENTS.map(d => {
        const ready = settle(d.id, shelf);
        return (
          <Flex
            key={d.id}
            borderTopWidth="1px"
            py="3"
            gap={{ base: '1', md: '5' }}
            direction={{ base: 'column', md: 'row' }}
            align={{ md: 'center' }}
          >
            <Box flex="2">
              <Text fontFamily="heading" fontWeight="650" fontSize="1.2rem" lineHeight="1.2">
                {d.ask}
              </Text>
              <Text color="fg.muted" fontSize="0.95rem">
                {findMethod(d.method)?.name}
              </Text>
            </Box>
            <Box flex="3">
              {d.sides.map(side => (
                <Text key={side}>“{side}”</Text>
              ))}
              {!ready.ok && (
                <Text color="warn.fg">
                  <Said>{problemWords(ready.problem)}</Said>
                </Text>
              )}
            </Box>
            {ready.ok ? (
              <Button asChild variant="outline" minH="48px">
                <Link to={`/w/${workshop}/new/plan?from=settle:${d.id}`} aria-label={`Settle it: ${d.ask}`}>
                  Settle it
                </Link>
              </Button>
            ) : (
              <Button asChild variant="ghost" minH="48px">
                <Link to={`/w/${workshop}/shelf`}>Go to the shelf</Link>
              </Button>
            )}
          </Flex>
        );
      })}
    </Box>
  );
}

function Way({ shelf, methods }: { shelf: Shelf; methods: Parameters<typeof waysTo>[2] }) {
  const workshop = useWorkshop();
  const [printer, setPrinter] = useState(shelf.printers[0]?.id ?? '');
  const [substrate, setSubstrate] = useState(shelf.substrates[0]?.id ?? '');
  const ways = printer && substrate ? waysTo({ printer, substrate }, shelf, methods) : [];
  return (
    <Box>
      <Grid templateColumns={{ base: '1fr', md: '1fr 1fr' }} gap="4" mb="4" maxW="44rem">
        <Select label="Put prints from" value={printer} onChange={setPrinter} items={shelf.printers} />
        <Select label="Onto" value={substrate} onChange={setSubstrate} items={shelf.substrates} />
      </Grid>
      <Text mb="2" color="fg.muted">
        {ways.filter(w => w.request).length} of {ways.length} methods can do it. Each compares what is on your
        shelf for it.
      </Text>
      {ways.map(({ method, request, why }) => (
        <Flex key={method.id} borderTopWidth="1px" py="2.5" gap="4" align="center">
          <Box flex="1">
            <Text fontWeight="700" color={request ? 'fg' : 'fg.muted'}>
              {method.name}
            </Text>
            <Text color="fg.muted">
              {request ? method.summary : <Said>{say`Not this one. ${why ?? ''}`}</Said>}
            </Text>
          </Box>
          {request && (
            <Button asChild variant="outline" minH="48px">
              <Link
                to={`/w/${workshop}/new/plan?from=way:${method.id}:${printer}:${substrate}`}
                aria-label={`Try it: ${method.name}`}
              >
                Try it
              </Link>
            </Button>
          )}
        </Flex>
      ))}
    </Box>
  );
}

type Methods = readonly (typeof METHODS)[number][];

function Pick({ methods, make, words }: { methods: Methods; make: (id: string) => string; words: string }) {
  const workshop = useWorkshop();
  return (
    <Box>
      <Text mb="3" color="fg.muted">
        {words}
      </Text>
      {methods
        .filter(m => m.vary.includes('dryHours'))
        .map(m => (
          <RouterLink
            key={m.id}
            to={`/w/${workshop}/new/plan?from=${make(m.id)}`}
            display="flex"
            gap="4"
            borderTopWidth="1px"
            py="3"
            alignItems="baseline"
            flexWrap="wrap"
            _hover={{ bg: 'bg.subtle' }}
          >
            <Text fontWeight="700" w={{ md: '20rem' }}>
              {m.name}
            </Text>
            <Text color="fg.muted">{m.waitName}</Text>
          </RouterLink>
        ))}
    </Box>
  );
}

function Last({ methods }: { methods: Methods }) {
  const [wear, setWear] = useState<readonly WearTest[]>(['dry-rub']);
  return (
    <Box>
      <Text mb="2" color="fg.muted">
        The same patch is photographed before and after. Choose how it is worn:
      </Text>
      <HStack gap="5" wrap="wrap" mb="3">
        {WEAR_TESTS.map(id => (
          <Tick
            key={id}
            minH="44px"
            checked={wear.includes(id)}
            onChange={isOn => setWear(isOn ? [...wear, id] : wear.filter(w => w !== id))}
          >
            {WEAR[id].name}
          </Tick>
        ))}
      </HStack>
      {wear.length ? (
        <Pick methods={methods} make={id => `last:${id}:${wear.join('+')}`} words="With which method?" />
      ) : (
        <Text>Choose at least one way of wearing it.</Text>
      )}
    </Box>
  );
}

function Select({
  label,
  value,
  items,
  onChange,
}: {
  label: string;
  value: string;
  items: readonly { id: string; name: string }[];
  onChange: (id: string) => void;
}) {
  return (
    <Field.Root>
      <Field.Label>{label}</Field.Label>
      <NativeSelect.Root size="lg">
        <NativeSelect.Field value={value} onChange={e => onChange(e.target.value)}>
          {items.map(i => (
            <option key={i.id} value={i.id}>
              {i.name}
            </option>
          ))}
        </NativeSelect.Field>
        <NativeSelect.Indicator />
      </NativeSelect.Root>
    </Field.Root>
  );
}
