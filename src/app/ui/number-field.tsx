import { NumberInput } from '@chakra-ui/react';
import { useState } from 'react';

/** Numbers are written and read as where the maker lives: 0.5 or 0,5. */
const LOCALE = typeof navigator === 'undefined' ? 'en-GB' : navigator.language;
const FORMAT = { useGrouping: false, maximumFractionDigits: 6 } as const;
const written = (value: number): string =>
  Number.isFinite(value) ? new Intl.NumberFormat(LOCALE, FORMAT).format(value) : '';

const same = (v: number) => v;

/**
 * The one field for a number. What is typed stays as it is typed while the number goes up; an empty field is NaN,
 * and NaN is an empty field. What is kept may be in another unit than what is shown: `show` and `keep` go between
 * them. Arrow keys go by `step`; a wheel changes nothing.
 */
export function NumberField({
  value,
  step,
  min,
  aria,
  show = same,
  keep = same,
  onChange,
}: {
  value: number;
  step: number;
  min?: number;
  aria?: string;
  /** The number as it is shown, from the one that is kept. */
  show?: (kept: number) => number;
  /** The number as it is kept, from the one that was typed. */
  keep?: (typed: number) => number;
  onChange: (value: number) => void;
}) {
  const [text, setText] = useState(() => written(show(value)));
  const [last, setLast] = useState(value);
  if (!Object.is(last, value)) {
    setLast(value);
    setText(written(show(value)));
  }
  return (
    <NumberInput.Root
      value={text}
      step={step}
      min={min}
      locale={LOCALE}
      formatOptions={FORMAT}
      inputMode="decimal"
      clampValueOnBlur={false}
      allowMouseWheel={false}
      w="100%"
      onValueChange={({ value: typed, valueAsNumber }) => {
        setText(typed);
        const next = keep(typed.trim() === '' ? Number.NaN : valueAsNumber);
        if (Object.is(next, last)) return;
        setLast(next);
        onChange(next);
      }}
    >
      <NumberInput.Input aria-label={aria} />
    </NumberInput.Root>
  );
}
