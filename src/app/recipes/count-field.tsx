import { Field } from '@chakra-ui/react';
import { NumberField } from '../ui/number-field.tsx';
import type { NumberLimitName } from '../ui/number-limits.ts';

/** A whole number with its label. */
export function CountField({
  label,
  value,
  limit,
  onChange,
}: {
  label: string;
  value: number;
  limit: NumberLimitName;
  onChange: (n: number) => void;
}) {
  return (
    <Field.Root w="11rem">
      <Field.Label>{label}</Field.Label>
      <NumberField value={value} limit={limit} step={1} onChange={onChange} />
    </Field.Root>
  );
}
