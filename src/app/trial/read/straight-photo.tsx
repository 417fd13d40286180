import { usePhotoUrl, type WorkshopName } from '../../../store/index.ts';

/** A patch's straightened photo on the board, with a few words on a plain band so that they can be read. */
export function StraightPhoto({
  workshop,
  trial,
  id,
  size,
  words,
}: {
  workshop: WorkshopName;
  trial: string;
  id: string | null;
  size: number;
  words: string;
}) {
  const url = usePhotoUrl(workshop, trial, id);
  const u = size / 40;
  return (
    <g>
      {url && <image href={url} width={size} height={size} preserveAspectRatio="none" />}
      <rect
        y={size - 9 * u}
        width={size}
        height={9 * u}
        fill="var(--chakra-colors-bg-panel)"
        stroke="var(--chakra-colors-border-emphasized)"
        strokeWidth="0.3"
      />
      <text
        x={size / 2}
        y={size - 2.4 * u}
        style={{ fontSize: `${6.4 * u}px`, fontWeight: 700 }}
        textAnchor="middle"
        fill="var(--chakra-colors-fg)"
      >
        {words}
      </text>
    </g>
  );
}
