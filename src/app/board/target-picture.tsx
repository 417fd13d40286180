import { useMemo } from 'react';
import { type Scene, target } from '../../core/print/index.ts';

/** The test target as SVG shapes, `size` mm wide, as it should look after transfer. */
export function TargetPicture({ size }: { size: number }) {
  const drawing = useMemo(() => target(size), [size]);
  return <Drawn drawing={drawing} />;
}

/** A drawing of filled shapes on white. */
export function Drawn({ drawing }: { drawing: Scene }) {
  return (
    <g>
      <rect width={drawing.w} height={drawing.h} fill="#fff" />
      {drawing.shapes.map((s, i) => (
        <polygon
          key={i}
          points={s.points.map(p => p.map(v => v.toFixed(2)).join(',')).join(' ')}
          fill={`rgb(${s.grey},${s.grey},${s.grey})`}
        />
      ))}
    </g>
  );
}
