import { RadioGroup } from '@chakra-ui/react';
import type { PlanRequest } from '../../core/design/index.ts';
import { effectCount } from '../../core/design/index.ts';
import { FACTORS, type FactorKey } from '../../core/factors/index.ts';
import type { Method } from '../../core/methods/index.ts';
import { within } from '../../core/say/index.ts';
import { combinationCount, nameIn, nestOf } from '../../core/trial/index.ts';
import { Choose } from '../ui/choose.tsx';
import { Box, Button, Flex, Heading, HStack, Text } from '../ui/kit.tsx';
import { NumberChoice } from '../ui/number-choice.tsx';
import { Tick } from '../ui/tick.tsx';

interface Props {
  readonly methods: readonly Method[];
  readonly request: PlanRequest;
  /** Scatter between patches made alike in the maker's own trials, with how many trials it comes from. */
  readonly known?: { readonly points: number; readonly trials: number };
  readonly onChange: (part: Partial<PlanRequest>) => void;
}

/** Which patches are made of all that could be, and what is kept together. */
export function DesignEditor({ methods, request, known, onChange }: Props) {
  const { factors, design, interactions } = request;
  const counts = factors.map(f => f.levels.length);
  const combinations = combinationCount(counts, nestOf(factors, methods));
  const effects = effectCount(
    counts,
    interactions.filter(([a, b]) => a < counts.length && b < counts.length),
  );
  const canLadder = factors.length === 1 && FACTORS[factors[0].key].levels === 'numbers';
  const choices: Kind[] = [
    [
      'every combination',
      'Every combination',
      `${combinations} of them, each made the same number of times. Tells everything.`,
      true,
    ],
    [
      'best fraction',
      'The best part of them',
      `You say how many patches you can afford; the planner chooses which. At least ${effects}.`,
      factors.length > 1,
    ],
    ['ladder', 'A ladder', 'One number in rising steps, to find where it is best.', canLadder],
    [
      'strips',
      'Strips of a board',
      'One thing, such as a primer, is given to whole strips; the rest changes inside them.',
      factors.length > 1 && !request.board.onePiece,
    ],
  ];
  const pick = (kind: PlanRequest['design']) =>
    onChange({
      design: kind,
      budget: kind === 'best fraction' ? Math.max(request.budget, effects + 4) : request.budget,
      stripKey: kind === 'strips' ? (request.stripKey ?? bestStrip(factors.map(f => f.key))) : null,
      groupKey: kind === 'strips' ? null : request.groupKey,
      loadSize: kind === 'strips' ? null : request.loadSize,
      repeats: kind === 'strips' ? Math.max(2, request.repeats) : request.repeats,
    });
  return (
    <Box mt="6">
      <Heading as="h2" size="lg" mb="2">
        Which patches
      </Heading>
      <Kinds {...{ choices, design }} onPick={pick} />
      <HStack gap="4" mt="3" wrap="wrap" align="start">
        <Box w="13rem">
          {design === 'best fraction' ? (
            <NumberChoice
              label="Patches you can afford"
              value={request.budget}
              factor={1}
              step={1}
              limit="budget"
              onChange={budget => onChange({ budget })}
            />
          ) : (
            <NumberChoice
              label="Repeats"
              value={request.repeats}
              factor={1}
              step={1}
              limit="repeats"
              onChange={repeats => onChange({ repeats })}
            />
          )}
        </Box>
        {design === 'strips' && (
          <Choose
            label="Given to whole strips"
            value={request.stripKey ?? ''}
            options={factors.map(f => [f.key, nameIn(methods, f.key, factors)])}
            onChange={key => onChange({ stripKey: key as FactorKey })}
          />
        )}
        {design !== 'strips' && factors.length > 0 && (
          <Choose
            label="Make together, to save work"
            value={request.groupKey ?? ''}
            options={[
              ['', 'nothing, all shuffled'],
              ...factors.map(f => [f.key, nameIn(methods, f.key, factors)] as [string, string]),
            ]}
            onChange={key => onChange({ groupKey: (key || null) as FactorKey | null })}
          />
        )}
        {design !== 'strips' && <LoadChoice {...{ request, onChange }} />}
        <Noise {...{ request, known, onChange }} />
      </HStack>
      <Tick mt="2" minH="44px" checked={request.control} onChange={isOn => onChange({ control: isOn })}>
        A patch of your usual way on every board, to compare boards and days by
      </Tick>
      {factors.length > 1 && design === 'best fraction' && (
        <Interactions {...{ methods, request, onChange }} />
      )}
    </Box>
  );
}

/** A kind of design: its name, what it tells, and whether it can be chosen. */
type Kind = [kind: PlanRequest['design'], name: string, words: string, can: boolean];

function Kinds({
  choices,
  design,
  onPick: pick,
}: {
  choices: readonly Kind[];
  design: PlanRequest['design'];
  onPick: (kind: PlanRequest['design']) => void;
}) {
  return (
    <RadioGroup.Root
      value={design}
      onValueChange={e => pick(e.value as PlanRequest['design'])}
      aria-label="Which patches"
    >
      {choices.map(([kind, name, words, can]) => (
        <RadioGroup.Item
          key={kind}
          value={kind}
          disabled={!can && design !== kind}
          borderTopWidth="1px"
          py="2.5"
          w="100%"
          alignItems="start"
          gap="3"
          minH="44px"
        >
          <RadioGroup.ItemHiddenInput />
          <RadioGroup.ItemIndicator mt="1" />
          <RadioGroup.ItemText>
            <b>{name}.</b>{' '}
            <Text as="span" fontWeight="400">
              {words}
            </Text>
          </RadioGroup.ItemText>
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}

/** How far patches made alike lie apart: what is known of the maker's own, or a guess. */
function Noise({ request, known, onChange }: Pick<Props, 'request' | 'known' | 'onChange'>) {
  return (
    <Box w="17rem">
      <NumberChoice
        label="Patches made alike differ by, points"
        value={request.noise}
        factor={1}
        step={0.5}
        limit="points"
        onChange={noise => onChange({ noise })}
      />
      {known ? (
        <Button
          size="sm"
          variant="plain"
          px="0"
          minH="40px"
          textDecoration="underline"
          onClick={() => onChange({ noise: known.points })}
        >
          {known.points} in your {known.trials === 1 ? 'finished trial' : `${known.trials} finished trials`}:
          use that
        </Button>
      ) : (
        <Text color="fg.muted" fontSize="0.92rem">
          A guess until you have finished a trial.
        </Text>
      )}
    </Box>
  );
}

/** An oven, a pot or a tray takes so many at once; what is in it together shares whatever happens to it. */
function LoadChoice({ request, onChange }: Pick<Props, 'request' | 'onChange'>) {
  return (
    <Box w="15rem">
      <Tick
        minH="44px"
        checked={request.loadSize !== null}
        onChange={isOn => onChange({ loadSize: isOn ? 3 : null })}
      >
        Made in loads, such as an oven’s
      </Tick>
      {request.loadSize !== null && (
        <NumberChoice
          label="Pieces in a load, at most"
          value={request.loadSize}
          factor={1}
          step={1}
          limit="load"
          onChange={loadSize => onChange({ loadSize })}
        />
      )}
    </Box>
  );
}

/** What is most often given to a whole strip. */
const bestStrip = (keys: readonly FactorKey[]): FactorKey =>
  (['preparation', 'substrate', 'medium', 'coatMm'] as const).find(k => keys.includes(k)) ?? keys[0];

function Interactions({ methods, request, onChange }: Pick<Props, 'methods' | 'request' | 'onChange'>) {
  const { factors, interactions } = request;
  const pairs = factors.flatMap((_, a) =>
    factors.slice(a + 1).map((__, i) => [a, a + 1 + i] as [number, number]),
  );
  const has = (pair: [number, number]) => interactions.some(([a, b]) => a === pair[0] && b === pair[1]);
  return (
    <Box mt="2">
      <Text fontWeight="600">Do you suspect that two of these work differently together?</Text>
      <Flex gap="4" wrap="wrap">
        {pairs.map(pair => (
          <Tick
            key={pair.join()}
            minH="40px"
            checked={has(pair)}
            onChange={isOn =>
              onChange({
                interactions: isOn
                  ? [...interactions, pair]
                  : interactions.filter(([a, b]) => a !== pair[0] || b !== pair[1]),
              })
            }
          >
            {nameIn(methods, factors[pair[0]].key, factors)} with{' '}
            {within(nameIn(methods, factors[pair[1]].key, factors))}
          </Tick>
        ))}
      </Flex>
    </Box>
  );
}
