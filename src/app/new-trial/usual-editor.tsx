import type { PlanRequest } from '../../core/design/index.ts';
import { FACTORS, factorName, SETTING_KEYS } from '../../core/factors/index.ts';
import { within } from '../../core/say/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { isVariedIn } from '../../core/trial/index.ts';
import { Box, Grid, Heading } from '../ui/kit.tsx';
import { NumberChoice } from '../ui/number-choice.tsx';
import { useSettings } from '../ui/settings.tsx';
import { fieldOf, ItemChoice, optionsFor, type Way } from './choice.tsx';

interface Props {
  readonly shelf: Shelf;
  /** The method it is about, where several are compared one of them. */
  readonly way: Way;
  readonly request: PlanRequest;
  /** What is known of the wait, shown where it is chosen. */
  readonly hint?: React.ReactNode;
  readonly onChange: (usual: PlanRequest['usual']) => void;
}

const ALWAYS = ['substrate', 'printer', 'donor', 'medium', 'preparation'] as const;

/** What is the same for every patch of a method. A control, if there is one, gets all of it. */
export function UsualEditor({ shelf, way, request, hint, onChange }: Props) {
  const { settings } = useSettings();
  const { method, usual, speak } = way;
  const isControl = request.control && request.method === method.id;
  const several = request.factors.some(f => f.key === 'method');
  const varied = new Set<string>(request.factors.filter(f => isVariedIn(f, method)).map(f => f.key));
  const set = (part: Partial<PlanRequest['usual']>) => onChange({ ...usual, ...part });
  const keys = SETTING_KEYS.filter(
    key =>
      (isControl || !varied.has(key)) &&
      (ALWAYS.includes(key as never) || method.vary.includes(key)) &&
      // All methods are tried on the same ground.
      (key !== 'substrate' || request.method === method.id),
  );
  const ordered = [...keys].sort((a, b) => rank(a) - rank(b));
  return (
    <Box mt="6">
      <Heading as="h2" size="lg" mb="2">
        {isControl ? 'Your usual way' : 'The same for every patch'}
        {several && ` by ${within(method.name)}`}
      </Heading>
      <Grid templateColumns={{ base: '1fr', md: '1fr 1fr' }} gap="3" alignItems="start">
        {ordered.map(key => {
          const label = key === 'substrate' ? 'Onto' : factorName(key, method);
          if (FACTORS[key].levels === 'numbers') {
            const { unit, factor, step, limit } = fieldOf(key, method, settings.system);
            return (
              <Box key={key}>
                <NumberChoice
                  label={unit ? `${label}, ${unit}` : label}
                  value={Number(usual[key])}
                  factor={factor}
                  step={step}
                  limit={limit}
                  rules={speak(key, usual[key])}
                  onChange={value => set({ [key]: value })}
                />
                {key === 'dryHours' && hint}
              </Box>
            );
          }
          const options = optionsFor(key, shelf, [method]);
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
      </Grid>
    </Box>
  );
}

/** What makers settle first comes first. */
const rank = (key: string) => {
  const at = ALWAYS.indexOf(key as (typeof ALWAYS)[number]);
  return at < 0 ? 10 : at;
};
