import { useState } from 'react';
import type { Air } from '../../core/units/index.ts';
import { Grid } from './kit.tsx';
import { NumberChoice } from './number-choice.tsx';
import { useSettings } from './settings.tsx';

/** Temperature and humidity of a room, in the maker's measure. */
export function AirFields({
  air,
  onChange,
  onWrong,
}: {
  air: Air;
  onChange: (air: Air) => void;
  /** Hears whether one of the fields holds what is not kept. */
  onWrong?: (isWrong: boolean) => void;
}) {
  const [wrong, setWrong] = useState({ room: false, humidity: false });
  const hear = (part: Partial<typeof wrong>) => {
    const next = { ...wrong, ...part };
    setWrong(next);
    onWrong?.(next.room || next.humidity);
  };
  const { settings } = useSettings();
  const fahrenheit = settings.system === 'imperial';
  return (
    <Grid templateColumns={{ base: '1fr', md: '1fr 1fr' }} gap="3" mt="3" alignItems="start">
      <NumberChoice
        label={`Room, ${fahrenheit ? '°F' : '°C'}`}
        value={fahrenheit ? Math.round(air.tempC * 1.8 + 32) : air.tempC}
        factor={1}
        step={1}
        limit={fahrenheit ? 'roomF' : 'roomC'}
        onWrong={room => hear({ room })}
        onChange={t => onChange({ ...air, tempC: fahrenheit ? Math.round(((t - 32) / 1.8) * 10) / 10 : t })}
      />
      <NumberChoice
        label="Humidity, %"
        value={air.rh}
        factor={1}
        step={1}
        limit="humidity"
        onWrong={humidity => hear({ humidity })}
        onChange={rh => onChange({ ...air, rh })}
      />
    </Grid>
  );
}
