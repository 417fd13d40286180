import { Field, NativeSelect } from '@chakra-ui/react';

/** One of a few named things, from a list. */
export function Choose({
  label,
  value,
  options,
  onChange,
  width = '15rem',
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
  width?: string;
}) {
  return (
    <Field.Root w={width}>
      <Field.Label>{label}</Field.Label>
      <NativeSelect.Root>
        <NativeSelect.Field value={value} onChange={e => onChange(e.target.value)}>
          {options.map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </NativeSelect.Field>
        <NativeSelect.Indicator />
      </NativeSelect.Root>
    </Field.Root>
  );
}
