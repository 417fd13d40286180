import type { ApexOptions } from 'apexcharts';
import ApexChart from 'react-apexcharts';
import { type Effect, kindOf } from '../../../core/findings/index.ts';
import { write } from '../../../core/say/index.ts';
import { Box } from '../../ui/kit.tsx';
import { useSettings } from '../../ui/settings.tsx';

/** The chart package is CommonJS: a bundler may hand over the module instead of its default export. */
const Chart = (ApexChart as unknown as { default?: typeof ApexChart }).default ?? ApexChart;

/** Ink and paper for charts: readable in black and white. */
export function useChartInk() {
  const dark = useSettings().settings.mode === 'dark';
  return {
    ink: dark ? '#eef2ec' : '#14201d',
    line: dark ? '#3b4a45' : '#b9c2b8',
    bar: dark ? '#7fd3dd' : '#0b5a66',
    mode: dark ? ('dark' as const) : ('light' as const),
  };
}

/** What every chart here has in common. */
export const plainChart = (ink: string, mode: 'dark' | 'light'): ApexOptions => ({
  chart: {
    toolbar: { show: false },
    zoom: { enabled: false },
    animations: { enabled: false },
    fontFamily: 'inherit',
    foreColor: ink,
    background: 'transparent',
  },
  theme: { mode },
  legend: { show: false },
  tooltip: { enabled: false },
});

/**
 * Every level's 90 % interval as a bar with its mean as a square, and a ring for each patch behind it; a ring that is
 * chosen is chosen on the board.
 */
export default function EffectChart({
  effect,
  onSelect,
}: {
  effect: Effect;
  onSelect: (code: string) => void;
}) {
  const { settings } = useSettings();
  const { ink, line, bar, mode } = useChartInk();
  const { scale, digits } = kindOf(effect.measure).response;
  const { levels, dots } = effect;
  const highest = Math.max(...levels.map(l => l.hi), ...dots.map(d => d.value));
  const most =
    'most' in scale
      ? scale.most
      : Math.min(scale.atMost, Math.ceil(Math.max(scale.atLeast, highest) * 10) / 10);
  const clip = (v: number) => Math.min(most, Math.max(0, v));
  const names = levels.map(l => write(l.name, settings));
  // Drawn from below: the first level lies on top.
  const row = (level: number) => levels.length - levels.findIndex(l => l.level === level);
  const shown = dots.filter(d => levels.some(l => l.level === d.level));
  const plain = plainChart(ink, mode);
  return (
    <Box
      role="img"
      aria-label={levels
        .map(
          (l, i) =>
            `${names[i]}: ${l.mean.toFixed(digits)}, from ${l.lo.toFixed(digits)} to ${l.hi.toFixed(digits)}`,
        )
        .join('; ')}
    >
      <Chart
        type="line"
        height={62 + levels.length * 64}
        series={[
          ...levels.map(l => ({
            name: 'interval',
            type: 'line',
            data: [
              { x: clip(l.lo), y: row(l.level) },
              { x: Math.max(clip(l.hi), clip(l.lo) + most / 200), y: row(l.level) },
            ],
          })),
          {
            name: 'mean',
            type: 'scatter',
            data: levels.map(l => ({ x: clip(l.mean), y: row(l.level) })),
          },
          {
            name: 'patches',
            type: 'scatter',
            // Below the bar, one beside the other where they are alike.
            data: shown.map((d, i) => ({ x: clip(d.value), y: row(d.level) - 0.2 - 0.05 * (i % 3) })),
          },
        ]}
        options={{
          ...plain,
          chart: {
            ...plain.chart,
            events: {
              markerClick: (_event, _chart, config) => {
                const dot =
                  config?.seriesIndex === levels.length + 1 ? shown[config.dataPointIndex] : undefined;
                if (dot) onSelect(dot.code);
              },
            },
          },
          colors: [...levels.map(() => bar), ink, ink],
          stroke: { width: [...levels.map(() => 7), 0, 0], lineCap: 'butt' },
          markers: {
            size: [...levels.map(() => 0), 7, 6],
            shape: [...levels.map(() => 'circle' as const), 'square', 'circle'],
            strokeColors: ink,
            strokeWidth: [...levels.map(() => 0), 0, 2],
            fillOpacity: [...levels.map(() => 0), 1, 0],
            hover: { sizeOffset: 2 },
          } as ApexOptions['markers'],
          fill: { opacity: [...levels.map(() => 1), 1, 0] },
          grid: {
            borderColor: line,
            xaxis: { lines: { show: true } },
            yaxis: { lines: { show: false } },
          },
          xaxis: {
            type: 'numeric',
            min: 0,
            max: most,
            tickAmount: 5,
            labels: { style: { fontSize: '14px' }, formatter: v => Number(v).toFixed(digits) },
          },
          yaxis: {
            min: 0.4,
            max: levels.length + 0.6,
            stepSize: 1,
            forceNiceScale: false,
            tickAmount: undefined,
            labels: { show: false },
          },
          annotations: {
            points: levels.map((l, i) => ({
              x: 0,
              y: row(l.level) + 0.3,
              marker: { size: 0 },
              label: {
                text: names[i],
                textAnchor: 'start',
                offsetX: 4,
                offsetY: 8,
                borderWidth: 0,
                style: { background: 'transparent', color: ink, fontSize: '14px', fontWeight: 600 },
              },
            })),
          },
        }}
      />
    </Box>
  );
}
