import { Field } from '@chakra-ui/react';
import type { Rule } from '../../core/rules/index.ts';
import { NumberField } from './number-field.tsx';
import type { NumberLimitName } from './number-limits.ts';
import { Reasons } from './reasons.tsx';

/** Millimetres of an inch. A length typed in inches is kept to a thousandth of a millimetre and shown with four figures. */
export const INCH = 25.4;

/** A number in the unit a maker would say, with its name and what rules say of it. */
export function NumberChoice({
  label,
  value,
  factor,
  step,
  limit,
  rules = [],
  onChange,
  onWrong,
}: {
  label: React.ReactNode;
  value: number;
  factor: number;
  step: number;
  limit: NumberLimitName;
  rules?: readonly Rule[];
  onChange: (value: number) => void;
  onWrong?: (isWrong: boolean) => void;
}) {
  const show = (kept: number) => Number((kept / factor).toPrecision(factor === INCH ? 4 : 6));
  const keep = (typed: number) => {
    const next = typed * factor;
    return factor === INCH ? Math.round(next * 1000) / 1000 : next;
  };
  return (
    <Field.Root>
      <Field.Label>{label}</Field.Label>
      <NumberField key={factor} {...{ value, step, limit, show, keep, onChange, onWrong }} />
      <Reasons rules={rules} />
    </Field.Root>
  );
}
