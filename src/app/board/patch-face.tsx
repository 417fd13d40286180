import { useMemo } from 'react';
import { strip } from '../../core/print/index.ts';
import {
  type Face,
  faceOf,
  type Patch,
  pictureFiles,
  type TrialPlan,
  type TrialRecord,
} from '../../core/trial/index.ts';
import { usePhotoUrl, type WorkshopName } from '../../store/index.ts';
import { Drawn, TargetPicture } from './target-picture.tsx';

interface Props {
  readonly workshop: WorkshopName;
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
  readonly patch: Patch;
  /** As it lies on the donor sheet. */
  readonly mirror?: boolean;
}

/** What a patch carries, in mm from its top left: the test target, or the maker's own picture with what stands below it. */
export function PatchFace({ workshop, plan, records, patch, mirror = false }: Props) {
  const face = faceOf(plan, patch);
  const { target, picture, strip: steps } = face;
  const file = picture && pictureFiles(records).get(picture.of.id);
  return (
    <g transform={mirror ? `translate(${face.w} 0) scale(-1 1)` : undefined}>
      <rect width={face.w} height={face.h} fill="#fff" />
      {target && (
        <g transform={`translate(${target.x} ${target.y})`}>
          <TargetPicture size={target.size} />
        </g>
      )}
      {picture && <OwnPicture {...{ workshop, picture }} trial={plan.id} file={file} />}
      {steps && <Steps box={steps} />}
    </g>
  );
}

function OwnPicture({
  workshop,
  trial,
  picture,
  file,
}: {
  workshop: WorkshopName;
  trial: string;
  picture: NonNullable<Face['picture']>;
  file: string | undefined;
}) {
  const url = usePhotoUrl(workshop, trial, file);
  const { x, y, w, h } = picture;
  return url ? (
    <image href={url} {...{ x, y }} width={w} height={h} preserveAspectRatio="none" />
  ) : (
    <text x={x + 2} y={y + 7} style={{ fontSize: '4px' }} fill="#555">
      {picture.of.name}
    </text>
  );
}

function Steps({ box }: { box: NonNullable<Face['strip']> }) {
  const drawing = useMemo(() => strip(box.h), [box.h]);
  return (
    <g transform={`translate(${box.x} ${box.y})`}>
      <Drawn drawing={drawing} />
    </g>
  );
}
