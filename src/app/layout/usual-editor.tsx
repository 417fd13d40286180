import { Box, Field, Grid, Heading, Input, NativeSelect } from '@chakra-ui/react';
import type { PlanRequest } from '../../core/design/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { FACTOR_NAMES, type FactorKey } from '../../core/trial/index.ts';
import { useSettings } from '../shell/settings.tsx';

interface Props {
  readonly shelf: Shelf;
  readonly request: PlanRequest;
  readonly onChange: (part: Partial<PlanRequest>) => void;
}

/** What is the same for every patch, and the air of the room. */
export function UsualEditor({ shelf, request, onChange }: Props) {
  const { settings } = useSettings();
  const { usual, air } = request;
  const varied = new Set(request.factors.map(f => f.key));
  const set = (part: Partial<PlanRequest['usual']>) => onChange({ usual: { ...usual, ...part } });
  const fahrenheit = settings.system === 'imperial';
  const items = (key: FactorKey) =>
    key === 'medium' ? shelf.mediums : key === 'donor' ? shelf.donors : shelf.preparations;
  return (
    <Box mt="6">
      <Heading as="h2" size="lg" mb="2">
        The same for every patch
      </Heading>
      <Grid templateColumns={{ base: '1fr', md: '1fr 1fr' }} gap="3">
        <Choice
          label="Onto"
          value={usual.substrate}
          items={shelf.substrates}
          onChange={substrate => set({ substrate })}
        />
        <Choice
          label="Printer"
          value={usual.printer}
          items={shelf.printers}
          onChange={printer => set({ printer })}
        />
        {(['donor', 'medium', 'preparation'] as const)
          .filter(k => !varied.has(k))
          .map(k => (
            <Choice
              key={k}
              label={FACTOR_NAMES[k]}
              value={usual[k]}
              items={items(k)}
              onChange={value => set({ [k]: value })}
            />
          ))}
        {!varied.has('coatMm') && (
          <Figure
            label="Coat thickness, mm"
            value={usual.coatMm}
            step={0.05}
            onChange={coatMm => set({ coatMm })}
          />
        )}
        {!varied.has('dryHours') && (
          <Figure
            label="Cure time, h"
            value={usual.dryHours}
            step={0.5}
            onChange={dryHours => set({ dryHours })}
          />
        )}
        {!varied.has('rounds') && (
          <Figure label="Rubbing rounds" value={usual.rounds} step={1} onChange={rounds => set({ rounds })} />
        )}
        <Figure
          label={`Room, ${fahrenheit ? '°F' : '°C'}`}
          value={fahrenheit ? Math.round(air.tempC * 1.8 + 32) : air.tempC}
          step={1}
          onChange={t =>
            onChange({ air: { ...air, tempC: fahrenheit ? Math.round(((t - 32) / 1.8) * 10) / 10 : t } })
          }
        />
        <Figure
          label="Humidity, %"
          value={air.rh}
          step={1}
          onChange={rh => onChange({ air: { ...air, rh } })}
        />
      </Grid>
    </Box>
  );
}

function Choice({
  label,
  value,
  items,
  onChange,
}: {
  label: string;
  value: string;
  items: readonly { id: string; name: string }[];
  onChange: (id: string) => void;
}) {
  return (
    <Field.Root>
      <Field.Label>{label}</Field.Label>
      <NativeSelect.Root>
        <NativeSelect.Field value={value} onChange={e => onChange(e.target.value)}>
          {items.map(i => (
            <option key={i.id} value={i.id}>
              {i.name}
            </option>
          ))}
        </NativeSelect.Field>
        <NativeSelect.Indicator />
      </NativeSelect.Root>
    </Field.Root>
  );
}

function Figure({
  label,
  value,
  step,
  onChange,
}: {
  label: string;
  value: number;
  step: number;
  onChange: (value: number) => void;
}) {
  return (
    <Field.Root>
      <Field.Label>{label}</Field.Label>
      <Input
        type="number"
        step={step}
        value={value === 0 ? '' : value}
        onChange={e => onChange(Number(e.target.value))}
      />
    </Field.Root>
  );
}
