import { Box, Grid, Heading } from '@chakra-ui/react';
import type { PlanRequest } from '../../core/design/index.ts';
import { FACTOR_KEYS, FACTORS, factorName } from '../../core/factors/index.ts';
import type { Method } from '../../core/methods/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { NumberChoice } from '../ui/number-choice.tsx';
import { useSettings } from '../ui/settings.tsx';
import { ItemChoice, optionsFor, type Speak, unitFor } from './choice.tsx';

interface Props {
  readonly shelf: Shelf;
  readonly method: Method;
  readonly request: PlanRequest;
  readonly speak: Speak;
  /** What is known of the wait, shown where it is chosen. */
  readonly hint?: React.ReactNode;
  readonly onChange: (part: Partial<PlanRequest>) => void;
}

const ALWAYS = ['substrate', 'printer', 'donor', 'medium', 'preparation'] as const;

/** What is the same for every patch, and the air of the room. A control, if there is one, gets all of it. */
export function UsualEditor({ shelf, method, request, speak, hint, onChange }: Props) {
  const { settings } = useSettings();
  const { usual, air } = request;
  const varied = new Set(request.factors.map(f => f.key));
  const set = (part: Partial<PlanRequest['usual']>) => onChange({ usual: { ...usual, ...part } });
  const fahrenheit = settings.system === 'imperial';
  const keys = FACTOR_KEYS.filter(
    key =>
      (request.control || !varied.has(key)) && (ALWAYS.includes(key as never) || method.vary.includes(key)),
  );
  const ordered = [...keys].sort((a, b) => rank(a) - rank(b));
  return (
    <Box mt="6">
      <Heading as="h2" size="lg" mb="2">
        {request.control ? 'Your usual way' : 'The same for every patch'}
      </Heading>
      <Grid templateColumns={{ base: '1fr', md: '1fr 1fr' }} gap="3" alignItems="start">
        {ordered.map(key => {
          const label = key === 'substrate' ? 'Onto' : factorName(key, method);
          if (FACTORS[key].levels === 'numbers') {
            const { unit, factor, step } = unitFor(key, method, settings.system);
            return (
              <Box key={key}>
                <NumberChoice
                  label={unit ? `${label}, ${unit}` : label}
                  value={Number(usual[key])}
                  factor={factor}
                  step={step}
                  rules={speak(key, usual[key])}
                  onChange={value => set({ [key]: value })}
                />
                {key === 'dryHours' && hint}
              </Box>
            );
          }
          const options = optionsFor(key, shelf, method);
          if (!options.length) return null;
          return (
            <ItemChoice
              key={key}
              label={label}
              factor={key}
              value={String(usual[key])}
              options={options}
              speak={speak}
              onChange={value => set({ [key]: value })}
            />
          );
        })}
        <NumberChoice
          label={`Room, ${fahrenheit ? '°F' : '°C'}`}
          value={fahrenheit ? Math.round(air.tempC * 1.8 + 32) : air.tempC}
          factor={1}
          step={1}
          zero
          onChange={t =>
            onChange({ air: { ...air, tempC: fahrenheit ? Math.round(((t - 32) / 1.8) * 10) / 10 : t } })
          }
        />
        <NumberChoice
          label="Humidity, %"
          value={air.rh}
          factor={1}
          step={1}
          zero
          onChange={rh => onChange({ air: { ...air, rh } })}
        />
      </Grid>
    </Box>
  );
}

/** What makers settle first comes first. */
const rank = (key: string) => {
  const at = ALWAYS.indexOf(key as (typeof ALWAYS)[number]);
  return at < 0 ? 10 : at;
};
