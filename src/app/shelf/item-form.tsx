import { Field, Input, NativeSelect, Textarea } from '@chakra-ui/react';
import { useState } from 'react';
import type { Words } from '../../core/say/index.ts';
import { type Dimension, type System, unitFor } from '../../core/say/index.ts';
import {
  checkItem,
  itemId,
  type NumberRange,
  rangeOf,
  SHELF_FIELDS,
  SHELF_NAMES,
  type ShelfField,
  type ShelfItem,
  type ShelfKind,
} from '../../core/shelf/index.ts';
import { Box, Button, Flex, Grid, Heading, HStack, Text } from '../ui/kit.tsx';
import { NumberField } from '../ui/number-field.tsx';
import { Said, useSettings } from '../ui/settings.tsx';
import { Tick } from '../ui/tick.tsx';
import { ColourField } from './colour-field.tsx';

interface Props {
  readonly kind: ShelfKind;
  readonly item: ShelfItem;
  readonly isNew: boolean;
  readonly taken: readonly string[];
  readonly onSave: (item: ShelfItem) => void;
  readonly onCopy: () => void;
  readonly onRemove: () => void;
  readonly onCancel: () => void;
}

type Draft = Record<string, unknown>;

/** Everything that is known of one item, to be changed. What is wrong is said in words and nothing is lost. */
export function ItemForm({ kind, item, isNew, taken, onSave, onCopy, onRemove, onCancel }: Props) {
  const [draft, setDraft] = useState<Draft>(() => ({ ...item }));
  const [problem, setProblem] = useState<Words>();
  const changed = isNew || JSON.stringify(draft) !== JSON.stringify(item);
  // What is on hand is counted anew from what a maker writes.
  const set = (key: string, value: unknown) =>
    setDraft(old => ({ ...old, [key]: value, ...(key.startsWith('onHand') ? { counted: undefined } : {}) }));
  const save = () => {
    const id = isNew ? itemId(String(draft.name ?? ''), taken) : item.id;
    const checked = checkItem(kind, { ...draft, id });
    if (!checked.ok) return setProblem(checked.problem.say);
    setProblem(undefined);
    onSave(checked.value);
  };
  return (
    <Box
      as="section"
      aria-label={isNew ? `New ${SHELF_NAMES[kind].one}` : item.name}
      borderTopWidth="1px"
      pt="3"
    >
      <Flex gap="3" align="baseline" mb="3">
        <Heading as="h2" size="xl" flex="1">
          {isNew ? `New ${SHELF_NAMES[kind].one}` : item.name}
        </Heading>
      </Flex>
      <Grid templateColumns={{ base: '1fr', sm: '1fr 1fr' }} gap="3" alignItems="start">
        {SHELF_FIELDS[kind].map(field => (
          <FieldFor
            key={field.key}
            limit={rangeOf(kind, field.key)}
            field={field}
            value={draft[field.key]}
            onChange={value => set(field.key, value)}
          />
        ))}
      </Grid>
      {problem && (
        <Text mt="3" color="buoy.fg" fontWeight="700" role="alert">
          <Said>{problem}</Said>
        </Text>
      )}
      <HStack mt="4" gap="2" wrap="wrap">
        <Button colorPalette="buoy" minH="48px" px="6" onClick={save} disabled={!changed}>
          {isNew ? 'Put it on the shelf' : 'Save the changes'}
        </Button>
        {isNew ? (
          <Button variant="outline" minH="44px" onClick={onCancel}>
            Leave it
          </Button>
        ) : (
          <>
            <Button variant="outline" minH="44px" onClick={onCopy}>
              Make a copy
            </Button>
            <Button variant="ghost" minH="44px" onClick={onRemove}>
              Take it off the shelf
            </Button>
          </>
        )}
      </HStack>
    </Box>
  );
}

/** What a field is a number of, where that differs from reader to reader. */
const DIMENSION_OF: Partial<Record<ShelfField['type'], Dimension>> = {
  ...{ length: 'length', size: 'length', volume: 'volume' },
};

function fieldUnit(field: ShelfField, system: System): { unit: string | undefined; factor: number } {
  const dimension = DIMENSION_OF[field.type];
  if (!dimension) return { unit: field.unit, factor: 1 };
  const { name, per } = unitFor(dimension, system);
  return { unit: name, factor: per };
}

const wide = (field: ShelfField) => ['name', 'note', 'accepts', 'colour'].includes(field.key);

function FieldFor({
  field,
  limit = ANY,
  value,
  onChange,
}: {
  field: ShelfField;
  /** Of one that is a number. */
  limit?: NumberRange | undefined;
  value: unknown;
  onChange: (value: unknown) => void;
}) {
  const { settings } = useSettings();
  const { unit, factor } = fieldUnit(field, settings.system);
  const label = `${field.label}${unit ? `, ${unit}` : ''}`;
  if (field.type === 'yes-no')
    return (
      <Box alignSelf="center">
        <Tick checked={Boolean(value)} onChange={onChange} minH="40px">
          {field.label}
        </Tick>
        {field.help && (
          <Text color="fg.muted" fontSize="0.9rem">
            <Said>{field.help}</Said>
          </Text>
        )}
      </Box>
    );
  if (field.type === 'colour' && !value)
    return (
      <Box alignSelf="center">
        <Button variant="outline" minH="40px" onClick={() => onChange([0.8, 0.8, 0.8])}>
          {field.label}: say which
        </Button>
        <Text color="fg.muted" fontSize="0.9rem">
          <Said>{field.help}</Said>
        </Text>
      </Box>
    );
  if (field.type === 'colour')
    return <ColourField value={value as [number, number, number]} onChange={onChange} />;
  if (field.type === 'many')
    return (
      <Box gridColumn="1 / -1">
        <Text fontWeight="500" fontSize="0.95rem">
          {field.label}
        </Text>
        <HStack wrap="wrap" gap="4">
          {field.choices!.map(choice => (
            <Tick
              key={choice}
              minH="40px"
              checked={(value as string[]).includes(choice)}
              onChange={isOn =>
                onChange(
                  isOn ? [...(value as string[]), choice] : (value as string[]).filter(v => v !== choice),
                )
              }
            >
              {choice}
            </Tick>
          ))}
        </HStack>
      </Box>
    );
  if (field.type === 'size') {
    const size = value as { w: number; h: number };
    return (
      <Box>
        <Text fontWeight="500" fontSize="0.95rem" mb="1.5">
          {label}
        </Text>
        <HStack>
          <Num
            aria={`${field.label}, width`}
            limit={limit}
            value={size.w}
            factor={factor}
            step={1}
            onChange={w => onChange({ ...size, w })}
          />
          <Text>×</Text>
          <Num
            aria={`${field.label}, height`}
            limit={limit}
            value={size.h}
            factor={factor}
            step={1}
            onChange={h => onChange({ ...size, h })}
          />
        </HStack>
      </Box>
    );
  }
  return (
    <Field.Root gridColumn={wide(field) ? '1 / -1' : undefined}>
      <Field.Label>{label}</Field.Label>
      {field.type === 'choice' ? (
        <NativeSelect.Root>
          <NativeSelect.Field value={String(value)} onChange={e => onChange(e.target.value)}>
            {field.choices!.map(c => (
              <option key={c}>{c}</option>
            ))}
          </NativeSelect.Field>
          <NativeSelect.Indicator />
        </NativeSelect.Root>
      ) : field.key === 'note' ? (
        <Textarea rows={2} value={String(value ?? '')} onChange={e => onChange(e.target.value)} />
      ) : field.type === 'text' ? (
        <Input value={String(value ?? '')} onChange={e => onChange(e.target.value)} />
      ) : field.type === 'day' ? (
        <Input type="date" value={String(value ?? '')} onChange={e => onChange(e.target.value || null)} />
      ) : (
        <Num
          value={value as number}
          limit={limit}
          factor={factor}
          step={field.step ?? 1}
          onChange={onChange}
        />
      )}
      {field.help && (
        <Field.HelperText>
          <Said>{field.help}</Said>
        </Field.HelperText>
      )}
    </Field.Root>
  );
}

const ANY: NumberRange = { least: 0, most: 1_000_000 };

/** A number kept in the file's unit and shown in the reader's. An empty field stays empty until it is saved. */
function Num({
  value,
  factor,
  step,
  aria,
  limit,
  onChange,
}: {
  value: number;
  limit: NumberRange;
  factor: number;
  step: number;
  aria?: string;
  onChange: (value: number) => void;
}) {
  return (
    <NumberField
      key={factor}
      {...{ value, step, aria, limit, onChange }}
      show={kept => Math.round((kept / factor) * 1000) / 1000}
      keep={typed => typed * factor}
    />
  );
}
