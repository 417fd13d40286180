import { Field } from '@chakra-ui/react';
import { NumberField } from '../ui/number-field.tsx';

/** A whole number with its label. */
export function CountField({
  label,
  value,
  least,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  onChange: (n: number) => void;
}) {
  return (
    <Field.Root w="11rem">
      <Field.Label>{label}</Field.Label>
      <NumberField value={value} min={least} step={1} onChange={onChange} />
    </Field.Root>
  );
}
