import { useState } from 'react';
import { unitFor } from '../../core/say/index.ts';
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
  const unit = unitFor('temperature', settings.system);
  // Degrees of half a step are nobody's.
  const isInner = unit.per === 1;
  return (
    <Grid templateColumns={{ base: '1fr', md: '1fr 1fr' }} gap="3" mt="3" alignItems="start">
      <NumberChoice
        label={`Room, ${unit.name}`}
        value={isInner ? air.tempC : Math.round(unit.shown(air.tempC))}
        factor={1}
        step={1}
        limit={isInner ? 'roomC' : 'roomF'}
        onWrong={room => hear({ room })}
        onChange={t => onChange({ ...air, tempC: isInner ? t : Math.round(unit.inner(t) * 10) / 10 })}
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
