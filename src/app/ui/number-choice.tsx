import { Field, Input } from '@chakra-ui/react';
import { useState } from 'react';
import type { Rule } from '../../core/rules/index.ts';
import { Reasons } from './reasons.tsx';

/** Millimetres of an inch. A length typed in inches is kept to a thousandth of a millimetre and shown with four figures. */
export const INCH = 25.4;

/** A number in the unit a maker would say; an empty field is kept as "not filled in". */
export function NumberChoice({
  label,
  value,
  factor,
  step,
  rules = [],
  zero = false,
  onChange,
}: {
  label: React.ReactNode;
  value: number;
  factor: number;
  step: number;
  rules?: readonly Rule[];
  /** Whether 0 is a value; else it stands for "not filled in". */
  zero?: boolean;
  onChange: (value: number) => void;
}) {
  const tidy = (v: number) =>
    Number.isFinite(v) && (zero || v !== 0)
      ? String(Number((v / factor).toPrecision(factor === INCH ? 4 : 6)))
      : '';
  const [text, setText] = useState(tidy(value));
  const [last, setLast] = useState(value);
  if (!Object.is(last, value)) {
    setLast(value);
    setText(tidy(value));
  }
  return (
    <Field.Root>
      <Field.Label>{label}</Field.Label>
      <Input
        type="number"
        inputMode="decimal"
        step={step}
        value={text}
        onChange={e => {
          setText(e.target.value);
          const typed = Number(e.target.value) * factor;
          const next = factor === INCH ? Math.round(typed * 1000) / 1000 : typed;
          setLast(next);
          onChange(next);
        }}
      />
      <Reasons rules={rules} />
    </Field.Root>
  );
}
