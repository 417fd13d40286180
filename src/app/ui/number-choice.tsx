import { Field } from '@chakra-ui/react';
import type { Rule } from '../../core/rules/index.ts';
import { NumberField } from './number-field.tsx';
import { Reasons } from './reasons.tsx';

/** Millimetres of an inch. A length typed in inches is kept to a thousandth of a millimetre and shown with four figures. */
export const INCH = 25.4;

/** A number in the unit a maker would say, with its name and what rules say of it; an empty field is kept as "not filled in". */
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
  const isFilled = (kept: number) => Number.isFinite(kept) && (zero || kept !== 0);
  const show = (kept: number) =>
    isFilled(kept) ? Number((kept / factor).toPrecision(factor === INCH ? 4 : 6)) : Number.NaN;
  const keep = (typed: number) => {
    const next = (Number.isNaN(typed) ? 0 : typed) * factor;
    return factor === INCH ? Math.round(next * 1000) / 1000 : next;
  };
  return (
    <Field.Root>
      <Field.Label>{label}</Field.Label>
      <NumberField key={factor} {...{ value, step, show, keep, onChange }} />
      <Reasons rules={rules} />
    </Field.Root>
  );
}
