import { Box } from '@chakra-ui/react';
import ApexChart from 'react-apexcharts';
import type { Effect } from '../../../core/findings/index.ts';
import { measureOf } from '../../../core/measures/index.ts';
import { measured } from '../../../core/units/index.ts';
import { useSettings } from '../../ui/settings.tsx';

/** The chart package is CommonJS: a bundler may hand over the module instead of its default export. */
const Chart = (ApexChart as unknown as { default?: typeof ApexChart }).default ?? ApexChart;

/** Level means as a thick tick and 90 % intervals as bars, on a scale from nothing to all. */
export default function EffectChart({ effect }: { effect: Effect }) {
  const { settings } = useSettings();
  const dark = settings.mode === 'dark';
  const [ink, bar] = dark ? ['#eef2ec', '#7fd3dd'] : ['#14201d', '#0b5a66'];
  const { scale, digits } = measureOf(effect.measure).response!;
  const highest = Math.max(...effect.levels.map(l => l.hi));
  const most =
    'most' in scale
      ? scale.most
      : Math.min(scale.atMost, Math.ceil(Math.max(scale.atLeast, highest) * 10) / 10);
  const clip = (v: number) => Math.min(most, Math.max(0, v));
  return (
    <Box
      role="img"
      aria-label={effect.levels
        .map(
          l =>
            `${measured(l.name, settings.system)}: ${l.mean.toFixed(digits)}, from ${l.lo.toFixed(digits)} to ${l.hi.toFixed(digits)}`,
        )
        .join('; ')}
    >
      <Chart
        type="rangeBar"
        height={44 + effect.levels.length * 46}
        series={[
          {
            name: effect.name,
            data: effect.levels.map(l => ({
              x: measured(l.name, settings.system),
              y: [clip(l.lo), Math.max(clip(l.hi), clip(l.lo) + most / 200)],
              goals: [
                { name: 'Mean', value: clip(l.mean), strokeWidth: 5, strokeHeight: 16, strokeColor: ink },
              ],
            })),
          },
        ]}
        options={{
          chart: {
            toolbar: { show: false },
            animations: { enabled: false },
            fontFamily: 'inherit',
            foreColor: ink,
            background: 'transparent',
          },
          theme: { mode: dark ? 'dark' : 'light' },
          colors: [bar],
          plotOptions: { bar: { horizontal: true, barHeight: '30%' } },
          fill: { type: 'pattern', pattern: { style: 'slantedLines', width: 5, height: 5, strokeWidth: 2 } },
          stroke: { show: true, width: 1, colors: [ink] },
          grid: {
            borderColor: dark ? '#3b4a45' : '#b9c2b8',
            xaxis: { lines: { show: true } },
            yaxis: { lines: { show: false } },
          },
          xaxis: {
            min: 0,
            max: most,
            tickAmount: 5,
            labels: { style: { fontSize: '14px' }, formatter: v => Number(v).toFixed(digits) },
          },
          yaxis: { labels: { style: { fontSize: '14px' }, maxWidth: 230 } },
          legend: { show: false },
          tooltip: { enabled: false },
        }}
      />
    </Box>
  );
}
