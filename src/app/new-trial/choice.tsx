import { Field, NativeSelect } from '@chakra-ui/react';
import { useMemo } from 'react';
import type { PlanRequest } from '../../core/design/index.ts';
import { FACTORS, type FactorKey, timeUnit } from '../../core/factors/index.ts';
import { findMethod, type Method } from '../../core/methods/index.ts';
import type { System } from '../../core/say/index.ts';
import { unitFor } from '../../core/say/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { type Factor, isVariedIn } from '../../core/trial/index.ts';
import { NUMBER_LIMITS, type NumberLimitName } from '../ui/number-limits.ts';
import { Reasons } from '../ui/reasons.tsx';
import { useWrite } from '../ui/settings.tsx';
import { type Speak, speakOf } from './speak.ts';

/** One thing that can be chosen for a factor. */
export interface Option {
  readonly id: string;
  readonly name: string;
}

/** What there is to choose from: the shelf, and what can be printed. */
export interface Things extends Shelf {
  /** The test target, then the trial's own pictures. */
  readonly pictures?: readonly Option[];
}

/** What can be chosen for a factor: methods, pictures, items of the shelf, or what any of the methods offers. */
export function optionsFor(
  key: FactorKey,
  shelf: Things,
  methods: readonly Method[],
  all: readonly Method[] = [],
): readonly Option[] {
  const factor = FACTORS[key];
  if (factor.levels === 'methods') return all;
  if (factor.levels === 'pictures') return shelf.pictures ?? [];
  if (factor.levels === 'items') return shelf[factor.shelf];
  if (factor.levels !== 'options') return [];
  const offered = methods.flatMap(m => m.options[factor.option]);
  return offered.filter((o, i) => offered.findIndex(other => other.id === o.id) === i);
}

/** One of the methods compared, with what is usual in it, and what rules say there. */
export interface Way {
  readonly method: Method;
  readonly usual: PlanRequest['usual'];
  readonly speak: Speak;
}

/** The methods of a request, its own first. */
export function useWays(request: PlanRequest, own: readonly Method[], shelf: Shelf): readonly Way[] {
  return useMemo(
    () =>
      [{ method: request.method, usual: request.usual }, ...(request.compared ?? [])].flatMap(way => {
        const method = findMethod(way.method, own);
        return method ? [{ ...way, method, speak: speakOf(request, way.usual, method, shelf) }] : [];
      }),
    [request, own, shelf],
  );
}

/** What rules say of a choice whatever the method: what they say in each that has it. */
export const spokenInAll =
  (ways: readonly Way[], of: Factor): Speak =>
  (key, value) => {
    const own = ways.filter(w => isVariedIn(of, w.method));
    const [first, ...rest] = own.map(w => w.speak(key, value));
    return (first ?? []).filter(rule => rest.every(rules => rules.includes(rule)));
  };

const MARK = { stop: 'stopped', warn: 'careful', advise: '' } as const;

/** A list to choose from; what a rule stops or warns of says so in the list, and the reason stands below once chosen. */
export function ItemChoice({
  label,
  factor,
  value,
  options,
  without = [],
  speak,
  quiet = false,
  onChange,
}: {
  label: React.ReactNode;
  factor: FactorKey;
  value: string;
  options: readonly Option[];
  without?: readonly (string | number)[];
  speak: Speak;
  /** The reasons are shown elsewhere. */
  quiet?: boolean;
  onChange: (id: string) => void;
}) {
  const said = useWrite();
  return (
    <Field.Root>
      <Field.Label>{label}</Field.Label>
      <NativeSelect.Root>
        <NativeSelect.Field value={value} onChange={e => onChange(e.target.value)}>
          {!options.some(o => o.id === value) && <option value={value}>{value || 'not said'}</option>}
          {options.map(o => {
            const rules = speak(factor, o.id);
            const worst = rules.find(r => r.severity === 'stop') ?? rules.find(r => r.severity === 'warn');
            const mark = worst ? MARK[worst.severity] : '';
            return (
              <option
                key={o.id}
                value={o.id}
                disabled={o.id !== value && without.includes(o.id)}
                title={worst?.why}
              >
                {said(o.name)}
                {mark && ` (${mark})`}
              </option>
            );
          })}
        </NativeSelect.Field>
        <NativeSelect.Indicator />
      </NativeSelect.Root>
      {!quiet && <Reasons rules={speak(factor, value)} />}
    </Field.Root>
  );
}

/** How a factor's numbers are shown: hours in seconds, minutes or days where that is what a maker would say. */
export function fieldOf(
  key: FactorKey,
  method: Method,
  system: System,
): { unit: string; factor: number; step: number; limit: NumberLimitName } {
  const kind = FACTORS[key];
  const limit = key in NUMBER_LIMITS ? (key as NumberLimitName) : 'measure';
  if (kind.levels !== 'numbers') return { unit: '', factor: 1, step: 1, limit };
  if (key === 'dryHours') {
    const { unit, hours } = timeUnit(method.usual.dryHours);
    return { unit, factor: hours, step: { s: 5, min: 1, h: 0.5, days: 0.5 }[unit], limit };
  }
  const thin = unitFor('thickness', system);
  if (kind.unit === 'mm' && thin.per !== 1)
    return { unit: thin.name, factor: thin.per, step: thin.step, limit };
  return { unit: kind.unit, factor: 1, step: kind.step, limit };
}
