import ApexChart from 'react-apexcharts';
import type { Findings } from '../../../core/findings/index.ts';
import { Box } from '../../ui/kit.tsx';
import { plainChart, useChartInk } from './effect-chart.tsx';

const Chart = (ApexChart as unknown as { default?: typeof ApexChart }).default ?? ApexChart;

/** A number over what lands: what is expected as a thick line, nine in ten of what the patches allow between two dashed ones. */
export default function DoseChart({
  dose,
  said,
}: {
  dose: Findings['doses'][number];
  said: (x: number) => string;
}) {
  const { ink, line, bar, mode } = useChartInk();
  const plain = plainChart(ink, mode);
  const { points } = dose;
  // As many times as much is as far everywhere.
  const place = (x: number) => Math.log(x);
  const series = (name: string, of: (p: (typeof points)[number]) => number) => ({
    name,
    data: points.map(p => ({ x: place(p.x), y: of(p) })),
  });
  const [first, middle, last] = [points[0], points[points.length >> 1], points[points.length - 1]];
  return (
    <Box
      role="img"
      aria-label={[first, middle, last]
        .map(p => `${said(p.x)}: ${p.mean.toFixed(0)} %, from ${p.lo.toFixed(0)} to ${p.hi.toFixed(0)}`)
        .join('; ')}
    >
      <Chart
        type="line"
        height={230}
        series={[
          series('expected', p => p.mean),
          series('at least', p => p.lo),
          series('at most', p => p.hi),
        ]}
        options={{
          ...plain,
          colors: [bar, ink, ink],
          stroke: { width: [4, 1.5, 1.5], dashArray: [0, 5, 5], curve: 'straight' },
          markers: { size: 0 },
          grid: { borderColor: line },
          xaxis: {
            type: 'numeric',
            min: place(first.x),
            max: place(last.x),
            tickAmount: 4,
            labels: { style: { fontSize: '14px' }, formatter: v => said(Math.exp(Number(v))) },
          },
          yaxis: {
            min: 0,
            max: 100,
            tickAmount: 4,
            labels: { style: { fontSize: '14px' }, formatter: v => `${Number(v).toFixed(0)} %` },
          },
          annotations: {
            xaxis: [
              {
                x: place(dose.from.lo),
                x2: Math.max(place(dose.from.hi), place(dose.from.lo) + 1e-6),
                fillColor: ink,
                opacity: 0.12,
                borderColor: ink,
                label: {
                  text: 'as good from',
                  orientation: 'horizontal',
                  borderWidth: 0,
                  style: { background: 'transparent', color: ink, fontSize: '13px' },
                },
              },
            ],
          },
        }}
      />
    </Box>
  );
}
