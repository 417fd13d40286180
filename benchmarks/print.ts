import sharp from 'sharp';
import { nodeFonts } from '../src/cli/fonts.ts';
import { applyEdits, lookOn, measurePicture } from '../src/core/artwork/index.ts';
import { EXAMPLE_REQUEST, examplePlan } from '../src/core/design/example.ts';
import { pdfOf } from '../src/core/pdf/index.ts';
import { donorSets } from '../src/core/sheets/index.ts';

/** A 24-megapixel picture to its preview, and the sheets of 60 patches to PDF, in units of the reference. */
export async function benchPrint(unit: number, tell: (line: string) => void) {
  const large = await sharp({
    create: {
      width: 6000,
      height: 4000,
      channels: 3,
      noise: { type: 'gaussian', mean: 140, sigma: 40 },
      background: '#888',
    },
  })
    .jpeg({ quality: 90 })
    .toBuffer();
  const start = performance.now();
  const { data, info } = await sharp(large)
    .resize(900, 600)
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const decoded = performance.now();
  const now = applyEdits({ w: info.width, h: info.height, data }, [
    { kind: 'contrast', amount: 0.3 },
    { kind: 'lighten', amount: 0.2 },
  ]);
  measurePicture(now, 100);
  for (let i = 0; i < 3; i++) lookOn(now, { ground: () => [0.6, 0.4, 0.2], widthMm: 100 });
  const end = performance.now();
  tell(
    `  24 MP picture: decode ${((decoded - start) / unit).toFixed(1)}, edits, measures and three grounds ${((end - decoded) / unit).toFixed(1)}`,
  );
  const plan = examplePlan({ repeats: 10, board: { ...EXAMPLE_REQUEST.board, w: 500, h: 400 } });
  const from = performance.now();
  const bytes = await pdfOf(donorSets(plan)[0], nodeFonts());
  tell(
    `  ${plan.patches.length} patches to PDF ${((performance.now() - from) / unit).toFixed(1)} (${Math.round(bytes.length / 1024)} kB)`,
  );
}
