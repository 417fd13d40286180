import { Input } from '@chakra-ui/react';
import { type KeyboardEvent, useId, useState } from 'react';
import { Box } from './kit.tsx';
import { NUMBER_LIMITS, type NumberLimit, type NumberLimitName, readTyped } from './number-limits.ts';

/** Numbers are written as where the maker lives, 0.5 or 0,5; both are read everywhere. */
const LOCALE = typeof navigator === 'undefined' ? 'en-GB' : navigator.language;
const FORMAT = { useGrouping: false, maximumFractionDigits: 6 } as const;
const written = (value: number): string =>
  Number.isFinite(value) ? new Intl.NumberFormat(LOCALE, FORMAT).format(value) : '';

const same = (v: number) => v;

/**
 * The one field for a number. What is typed stays as it is typed while the number goes up. What is no number, or not
 * allowed, is said under the field and not kept; an empty field goes up as NaN where it may be empty. What is kept may be
 * in another unit than what is shown: `show` and `keep` go between them. Arrow keys go by `step`.
 */
export function NumberField({
  value,
  step,
  limit,
  aria,
  show = same,
  keep = same,
  onChange,
  onWrong,
}: {
  value: number;
  step: number;
  limit: NumberLimitName | NumberLimit;
  aria?: string;
  /** The number as it is shown, from the one that is kept. */
  show?: (kept: number) => number;
  /** The number as it is kept, from the one that was typed. */
  keep?: (typed: number) => number;
  onChange: (value: number) => void;
  /** Hears whether what stands in the field is not kept. */
  onWrong?: ((isWrong: boolean) => void) | undefined;
}) {
  const range = typeof limit === 'string' ? NUMBER_LIMITS[limit] : limit;
  const words = useId();
  const [text, setText] = useState(() => written(show(value)));
  const [last, setLast] = useState(value);
  const [wrong, setWrong] = useState<string>();
  if (!Object.is(last, value)) {
    setLast(value);
    setText(written(show(value)));
    setWrong(undefined);
  }
  const take = (typed: string) => {
    setText(typed);
    const found = readTyped(typed, range, show, keep);
    setWrong(found.is === 'wrong' ? found.say : undefined);
    onWrong?.(found.is === 'wrong');
    if (found.is === 'wrong') return;
    const next = found.is === 'number' ? found.value : keep(Number.NaN);
    if (Object.is(next, last)) return;
    setLast(next);
    onChange(next);
  };
  const byArrow = (event: KeyboardEvent) => {
    const by = event.key === 'ArrowUp' ? step : event.key === 'ArrowDown' ? -step : 0;
    if (!by) return;
    event.preventDefault();
    const from = Number(text.replace(',', '.')) || 0;
    const to = written(Number((from + by).toPrecision(10)));
    if (readTyped(to, range, show, keep).is === 'number') take(to);
  };
  return (
    <Box w="100%">
      <Input
        role="spinbutton"
        aria-valuenow={Number.isFinite(last) ? show(last) : undefined}
        aria-valuemin={show(range.least)}
        aria-valuemax={show(range.most)}
        inputMode="decimal"
        autoComplete="off"
        value={text}
        aria-label={aria}
        aria-invalid={wrong !== undefined}
        aria-describedby={wrong === undefined ? undefined : words}
        onChange={event => take(event.target.value)}
        onKeyDown={byArrow}
      />
      {wrong !== undefined && (
        <Box id={words} role="alert" color="buoy.fg" fontSize="0.92rem" mt="1">
          {wrong} It stays {written(show(last)) || 'empty'}.
        </Box>
      )}
    </Box>
  );
}
