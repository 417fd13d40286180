import { Field, NativeSelect } from '@chakra-ui/react';
import { FACTORS, type FactorKey, ofAnyMethod, TARGET } from '../../core/factors/index.ts';
import type { Method } from '../../core/methods/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import { FACTOR_LETTERS, type Factor, isVariedIn, nameIn } from '../../core/trial/index.ts';
import { Box, Button, Flex, Heading, Text } from '../ui/kit.tsx';
import { NumberChoice } from '../ui/number-choice.tsx';
import { Reasons } from '../ui/reasons.tsx';
import { useSettings } from '../ui/settings.tsx';
import { fieldOf, ItemChoice, optionsFor, spokenInAll, type Things, type Way } from './choice.tsx';

interface Props {
  readonly shelf: Things;
  /** The methods that are compared, the trial's own first. */
  readonly ways: readonly Way[];
  /** All methods there are. */
  readonly methods: readonly Method[];
  readonly factors: readonly Factor[];
  /** What is known of the wait, shown where it is chosen. */
  readonly hint?: React.ReactNode;
  readonly onChange: (factors: Factor[]) => void;
}

const MOST_LEVELS = 8;
const MOST_FACTORS = 8;

/** What is most often asked comes first. */
const FIRST: readonly FactorKey[] = [
  'method',
  'medium',
  'dryHours',
  'preparation',
  'donor',
  'coatMm',
  'rounds',
  'removal',
  'coatWhere',
  'finish',
];
const rank = (key: FactorKey) =>
  FIRST.includes(key) ? FIRST.indexOf(key) : FIRST.length + (key === 'printer' ? 1 : 0);

/** Whether a method is made for the ground of the trial's own. */
function suits(id: string, { shelf, ways, methods }: Pick<Props, 'shelf' | 'ways' | 'methods'>): boolean {
  const ground = shelf.substrates.find(s => s.id === ways[0].usual.substrate);
  const method = methods.find(m => m.id === id);
  return ground !== undefined && Boolean(method?.takes.substrates.includes(ground.kind));
}

/** The level a factor gets next: something it does not have yet that no rule stops, if there is one. */
function nextLevel({ shelf, ways, methods }: Pick<Props, 'shelf' | 'ways' | 'methods'>, factor: Factor) {
  const speak = spokenInAll(ways, factor);
  const kind = FACTORS[factor.key];
  if (kind.levels === 'numbers') {
    const top = Math.max(...factor.levels.map(Number));
    const free = kind.start.find(n => !factor.levels.includes(n));
    const next = factor.key === 'dryHours' ? Number((top * 2).toPrecision(3)) : free;
    return next !== undefined && next <= kind.most ? next : undefined;
  }
  const rest = optionsFor(factor.key, shelf, waysWith(ways, factor), methods).filter(
    o => !factor.levels.includes(o.id),
  );
  if (factor.key === 'method') return (rest.find(o => suits(o.id, { shelf, ways, methods })) ?? rest[0])?.id;
  const allowed = rest.find(o => !speak(factor.key, o.id).some(r => r.severity === 'stop'));
  return (allowed ?? rest[0])?.id;
}

/** The methods that a factor is, or could be, varied in. */
const waysWith = (ways: readonly Way[], { key, of }: Pick<Factor, 'key' | 'of'>): Method[] =>
  ways
    .map(w => w.method)
    .filter(m => ofAnyMethod(key) || ((!of || of.includes(m.id)) && m.vary.includes(key)));

/** A factor to begin with: the usual choice and one other. */
function fresh(props: Props, key: FactorKey): Factor {
  const kind = FACTORS[key];
  const own = props.ways.find(w => ofAnyMethod(key) || w.method.vary.includes(key)) ?? props.ways[0];
  const chosen = key === 'method' ? own.method.id : key === 'picture' ? TARGET.id : own.usual[key];
  if (kind.levels === 'numbers') {
    const usual = Number(chosen);
    return { key, levels: key === 'dryHours' ? [usual, usual * 2] : [...kind.start.slice(0, 2)] };
  }
  const first: Factor = { key, levels: [chosen].filter(Boolean) };
  if (!first.levels.length) first.levels.push(nextLevel(props, first) ?? '');
  const second = nextLevel(props, first);
  return { key, levels: second === undefined ? first.levels : [...first.levels, second] };
}

/** Chooses one to eight things to vary with two to eight levels each. */
export function FactorEditor(props: Props) {
  const { shelf, ways, methods, factors, onChange } = props;
  const names = ways.map(w => w.method);
  const enough = (key: FactorKey) =>
    FACTORS[key].levels === 'numbers' || optionsFor(key, shelf, waysWith(ways, { key }), methods).length > 1;
  const unused = [...new Set<FactorKey>(['method', 'picture', ...names.flatMap(m => m.vary)])]
    .filter(k => !factors.some(f => f.key === k) && enough(k))
    .sort((a, b) => rank(a) - rank(b));
  const replace = (i: number, factor: Factor) => onChange(factors.map((f, j) => (j === i ? factor : f)));
  return (
    <Box mt="6">
      <Heading as="h2" size="lg">
        What changes from patch to patch
      </Heading>
      <Text color="fg.muted" mb="2">
        Everything else stays the same, so that you know what made the difference.
      </Text>
      {factors.map((factor, i) => (
        <Box key={factor.key} as="fieldset" borderTopWidth="1px" py="3">
          <Flex gap="2" align="end" wrap="wrap">
            <Field.Root w="13rem">
              <Field.Label>{FACTOR_LETTERS[i]}. Change the</Field.Label>
              <NativeSelect.Root>
                <NativeSelect.Field
                  value={factor.key}
                  onChange={e => replace(i, fresh(props, e.target.value as FactorKey))}
                >
                  {[factor.key, ...unused].map(k => (
                    <option key={k} value={k}>
                      {nameIn(names, k, factors)}
                    </option>
                  ))}
                </NativeSelect.Field>
                <NativeSelect.Indicator />
              </NativeSelect.Root>
            </Field.Root>
            {ways.length > 1 && !ofAnyMethod(factor.key) && (
              <Where factor={factor} ways={ways} onChange={of => replace(i, { ...factor, of })} />
            )}
            <Box flex="1" />
            {factors.length > 1 && (
              <Button
                size="sm"
                variant="ghost"
                minH="40px"
                onClick={() => onChange(factors.filter((_, j) => j !== i))}
                aria-label={`Do not vary ${nameIn(names, factor.key, factors)}`}
              >
                Leave out
              </Button>
            )}
          </Flex>
          <Levels
            {...props}
            factor={factor}
            letter={FACTOR_LETTERS[i]}
            onLevels={levels => replace(i, { ...factor, levels })}
          />
        </Box>
      ))}
      {factors.length < MOST_FACTORS && unused.length > 0 && (
        <Button
          variant="outline"
          minH="44px"
          onClick={() => onChange([...factors, fresh(props, unused.find(k => k !== 'method') ?? unused[0])])}
        >
          Vary one thing more
        </Button>
      )}
    </Box>
  );
}

/** In which of the methods something is varied; the others keep what is usual in them. */
function Where({
  factor,
  ways,
  onChange,
}: {
  factor: Factor;
  ways: readonly Way[];
  onChange: (of: string[] | undefined) => void;
}) {
  const can = ways.map(w => w.method).filter(m => m.vary.includes(factor.key));
  const now = can.filter(m => isVariedIn(factor, m));
  const not = ways.map(w => w.method).filter(m => !now.includes(m));
  return (
    <Field.Root w="16rem">
      <Field.Label>In</Field.Label>
      <NativeSelect.Root>
        <NativeSelect.Field
          value={factor.of?.length === 1 ? factor.of[0] : ''}
          onChange={e => onChange(e.target.value ? [e.target.value] : undefined)}
        >
          <option value="">every method that has it</option>
          {can.map(m => (
            <option key={m.id} value={m.id}>
              {m.name} only
            </option>
          ))}
        </NativeSelect.Field>
        <NativeSelect.Indicator />
      </NativeSelect.Root>
      {not.length > 0 && (
        <Field.HelperText>{not.map(m => m.name).join(', ')}: as usual there.</Field.HelperText>
      )}
    </Field.Root>
  );
}

function Levels(
  props: Props & { factor: Factor; letter: string; onLevels: (levels: Factor['levels']) => void },
) {
  const { shelf, ways, methods, factor, letter, onLevels } = props;
  const { system } = useSettings().settings;
  const own = waysWith(ways, factor);
  const speak = spokenInAll(ways, factor);
  const { unit, factor: scale, step, limit } = fieldOf(factor.key, own[0] ?? ways[0].method, system);
  const isNumber = FACTORS[factor.key].levels === 'numbers';
  const next = factor.levels.length < MOST_LEVELS ? nextLevel(props, factor) : undefined;
  const reasons = new Map<Rule, string[]>();
  factor.levels.forEach((level, l) => {
    for (const rule of speak(factor.key, level))
      reasons.set(rule, [...(reasons.get(rule) ?? []), `${letter}${l + 1}`]);
  });
  return (
    <>
      <Flex gap="3" mt="2" wrap="wrap" align="start">
        {factor.levels.map((level, l) => {
          const name = `${letter}${l + 1}`;
          const set = (value: string | number) =>
            onLevels(factor.levels.map((old, j) => (j === l ? value : old)));
          const label = isNumber && unit ? `${name}, ${unit}` : name;
          return (
            <Box key={l} position="relative" w={isNumber ? '8.5rem' : '15rem'}>
              {factor.levels.length > 2 && (
                <Button
                  size="2xs"
                  variant="plain"
                  minH="26px"
                  position="absolute"
                  top="0"
                  right="0"
                  zIndex="1"
                  onClick={() => onLevels(factor.levels.filter((_, j) => j !== l))}
                  aria-label={`Remove level ${name}`}
                >
                  remove
                </Button>
              )}
              {isNumber ? (
                <NumberChoice
                  label={label}
                  value={Number(level)}
                  factor={scale}
                  step={step}
                  limit={limit}
                  onChange={set}
                />
              ) : (
                <ItemChoice
                  label={label}
                  factor={factor.key}
                  value={String(level)}
                  options={optionsFor(factor.key, shelf, own, methods)}
                  without={factor.levels}
                  quiet
                  speak={speak}
                  onChange={set}
                />
              )}
            </Box>
          );
        })}
        {next !== undefined && (
          <Button
            size="sm"
            minH="40px"
            mt="26px"
            variant="outline"
            onClick={() => onLevels([...factor.levels, next])}
            aria-label={`Add a level to ${nameIn(
              ways.map(w => w.method),
              factor.key,
              [factor],
            )}`}
          >
            Add a level
          </Button>
        )}
      </Flex>
      {[...reasons].map(([rule, names]) => (
        <Flex key={rule.id} gap="2" mt="1" align="baseline">
          <Text fontWeight="700" flex="none">
            {names.join(', ')}
          </Text>
          <Reasons rules={[rule]} />
        </Flex>
      ))}
      {factor.key === 'dryHours' && props.hint}
    </>
  );
}
