import { Box, Button, Field, Flex, Heading, Input, NativeSelect, Text } from '@chakra-ui/react';
import type { Shelf } from '../../core/shelf/index.ts';
import { FACTOR_KEYS, FACTOR_NAMES, type Factor } from '../../core/trial/index.ts';

type Key = Factor['key'];

const NUMBERS: Partial<Record<Key, { unit: string; step: number; min: number; start: readonly number[] }>> = {
  dryHours: { unit: 'h', step: 0.5, min: 0.1, start: [4, 20, 8, 48] },
  coatMm: { unit: 'mm', step: 0.05, min: 0.05, start: [0.2, 0.5, 0.8, 1.2] },
  rounds: { unit: 'rounds', step: 1, min: 1, start: [1, 2, 3, 4] },
};

const choices = (shelf: Shelf, key: Key) =>
  key === 'medium'
    ? shelf.mediums
    : key === 'donor'
      ? shelf.donors
      : key === 'preparation'
        ? shelf.preparations
        : [];

/** The level a factor gets next: the first shelf item, or number, it does not have yet. */
function nextLevel(shelf: Shelf, factor: Factor) {
  const free = NUMBERS[factor.key]?.start.find(n => !factor.levels.includes(n));
  return free ?? choices(shelf, factor.key).find(c => !factor.levels.includes(c.id))?.id;
}

/** Chooses one to three factors with two to four levels each. */
export function FactorEditor({
  shelf,
  factors,
  onChange,
}: {
  shelf: Shelf;
  factors: readonly Factor[];
  onChange: (factors: Factor[]) => void;
}) {
  const unused = FACTOR_KEYS.filter(k => !factors.some(f => f.key === k));
  const replace = (i: number, factor: Factor) => onChange(factors.map((f, j) => (j === i ? factor : f)));
  const fresh = (key: Key): Factor => ({
    key,
    levels: NUMBERS[key]
      ? [...NUMBERS[key].start.slice(0, 2)]
      : choices(shelf, key)
          .slice(0, 2)
          .map(c => c.id),
  });
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
            <Field.Root w="12rem">
              <Field.Label>{'ABC'[i]}. Change the</Field.Label>
              <NativeSelect.Root>
                <NativeSelect.Field
                  value={factor.key}
                  onChange={e => replace(i, fresh(e.target.value as Key))}
                >
                  {[factor.key, ...unused].map(k => (
                    <option key={k} value={k}>
                      {FACTOR_NAMES[k]}
                    </option>
                  ))}
                </NativeSelect.Field>
                <NativeSelect.Indicator />
              </NativeSelect.Root>
            </Field.Root>
            <Box flex="1" />
            {factors.length > 1 && (
              <Button
                size="sm"
                variant="ghost"
                minH="40px"
                onClick={() => onChange(factors.filter((_, j) => j !== i))}
                aria-label={`Do not vary ${FACTOR_NAMES[factor.key]}`}
              >
                Leave out
              </Button>
            )}
          </Flex>
          <Flex gap="2" mt="2" wrap="wrap" align="end">
            {factor.levels.map((level, l) => (
              <LevelField
                key={l}
                shelf={shelf}
                factor={factor}
                name={`${'ABC'[i]}${l + 1}`}
                level={level}
                onChange={value =>
                  replace(i, { ...factor, levels: factor.levels.map((old, j) => (j === l ? value : old)) })
                }
                onRemove={
                  factor.levels.length > 2
                    ? () => replace(i, { ...factor, levels: factor.levels.filter((_, j) => j !== l) })
                    : undefined
                }
              />
            ))}
            {factor.levels.length < 4 && nextLevel(shelf, factor) !== undefined && (
              <Button
                size="sm"
                minH="40px"
                variant="outline"
                onClick={() =>
                  replace(i, { ...factor, levels: [...factor.levels, nextLevel(shelf, factor)!] })
                }
                aria-label={`Add a level to ${FACTOR_NAMES[factor.key]}`}
              >
                Add a level
              </Button>
            )}
          </Flex>
        </Box>
      ))}
      {factors.length < 3 && (
        <Button variant="outline" minH="44px" onClick={() => onChange([...factors, fresh(unused[0])])}>
          Vary one thing more
        </Button>
      )}
    </Box>
  );
}

interface LevelProps {
  readonly shelf: Shelf;
  readonly factor: Factor;
  readonly name: string;
  readonly level: string | number;
  readonly onChange: (value: string | number) => void;
  readonly onRemove?: () => void;
}

function LevelField({ shelf, factor, name, level, onChange, onRemove }: LevelProps) {
  const number = NUMBERS[factor.key];
  return (
    <Field.Root w={number ? '8.5rem' : '15rem'}>
      <Field.Label>
        {name}
        {number ? `, ${number.unit}` : ''}
        {onRemove && (
          <Button
            size="2xs"
            variant="plain"
            minH="24px"
            onClick={onRemove}
            aria-label={`Remove level ${name}`}
          >
            remove
          </Button>
        )}
      </Field.Label>
      {number ? (
        <Input
          type="number"
          step={number.step}
          min={number.min}
          value={level === 0 ? '' : level}
          onChange={e => onChange(Number(e.target.value))}
        />
      ) : (
        <NativeSelect.Root>
          <NativeSelect.Field value={String(level)} onChange={e => onChange(e.target.value)}>
            {choices(shelf, factor.key).map(c => (
              <option key={c.id} value={c.id} disabled={c.id !== level && factor.levels.includes(c.id)}>
                {c.name}
              </option>
            ))}
          </NativeSelect.Field>
          <NativeSelect.Indicator />
        </NativeSelect.Root>
      )}
    </Field.Root>
  );
}
