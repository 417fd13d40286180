import { useMemo } from 'react';
import { mirrored, target } from '../../core/print/index.ts';

/** The test target as SVG shapes, `size` mm wide; mirrored as on the donor, or as it should look after transfer. */
export function TargetPicture({ size, mirror = false }: { size: number; mirror?: boolean }) {
  const scene = useMemo(() => (mirror ? mirrored(target(size)) : target(size)), [size, mirror]);
  return (
    <g>
      <rect width={size} height={size} fill="#fff" />
      {scene.shapes.map((s, i) => (
        <polygon
          key={i}
          points={s.points.map(p => p.map(v => v.toFixed(2)).join(',')).join(' ')}
          fill={`rgb(${s.grey},${s.grey},${s.grey})`}
        />
      ))}
    </g>
  );
}
