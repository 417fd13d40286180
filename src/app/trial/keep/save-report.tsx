import { type Findings, kindOf } from '../../../core/findings/index.ts';
import { recipeOf } from '../../../core/recipe/index.ts';
import { inMeasures, type Report, reportSheets } from '../../../core/sheets/index.ts';
import { levelsLine, methodsOf, readingOf, sizeOf, standing } from '../../../core/trial/index.ts';
import { workshopOf } from '../../../store/index.ts';
import { makePdf } from '../../../workers/index.ts';
import { Button } from '../../ui/kit.tsx';
import { didNotWork, useAttempt } from '../../ui/notices.tsx';
import { saveFile } from '../../ui/save-file.ts';
import { useSettings } from '../../ui/settings.tsx';
import { useMayPrint } from '../../workshop/use-may-print.ts';
import { useTrial } from '../view.tsx';

/** The trial on paper: question, findings with their charts, photos, recipe and board. */
export function SaveReport({
  findings,
  chosen,
}: {
  findings: Findings;
  chosen: readonly number[] | undefined;
}) {
  const { plan, records, workshop } = useTrial();
  const { settings } = useSettings();
  const attempt = useAttempt(didNotWork);
  const mayPrint = useMayPrint();
  const save = () =>
    attempt(async () => {
      const read = plan.patches.flatMap(patch => {
        const found = readingOf(records, patch.code)?.reading;
        return found?.straight
          ? [{ patch, id: found.id, reading: found.reading, straight: found.straight }]
          : [];
      });
      const images: Record<string, Uint8Array> = {};
      for (const { id, straight } of read) {
        const photo = await workshopOf(workshop).photo(plan.id, straight);
        if (photo) images[id] = new Uint8Array(await photo.arrayBuffer());
      }
      const days = standing(records).map(r => r.at.slice(0, 10));
      const recipe = recipeOf(plan, records, chosen);
      const report: Report = {
        ...{ plan, images },
        facts: [
          `${methodsOf(plan)
            .map(m => m.name)
            .join(', ')}; ${plan.patches.length} patches, trial ${plan.code}.`,
          ...(days.length ? [`From ${days[0]} to ${days.at(-1)}.`] : []),
          ...(findings.practice.counts
            ? ['All of this is from photos of the simulated camera: made up, not measured.']
            : []),
        ],
        found: [
          findings.why ?? findings.leading?.sentence ?? 'Nothing was settled.',
          ...(findings.failing ? [findings.failing] : []),
          ...findings.checks,
        ],
        bars: findings.effects.map(effect => {
          const { response } = kindOf(effect.measure);
          const top =
            'most' in response.scale
              ? response.scale.most
              : Math.min(
                  response.scale.atMost,
                  Math.max(response.scale.atLeast, ...effect.levels.map(l => l.hi)),
                );
          return {
            heading: `${effect.name}: ${response.heading}`,
            sentence: effect.sentence,
            scale: [0, Number(top.toPrecision(2))],
            rows: effect.levels.map(l => ({
              ...{ name: l.name, value: l.mean, lo: l.lo, hi: l.hi },
              words: `${l.mean.toFixed(response.figures)} (${l.lo.toFixed(response.figures)}–${l.hi.toFixed(response.figures)})`,
            })),
          };
        }),
        photos: read
          .filter(r => images[r.id])
          .map(r => ({
            ...{ key: r.id, ...sizeOf(plan) },
            words: [
              `${r.patch.code}  ${r.reading.landed === null ? '' : `${r.reading.landed.toFixed(0)} %`}`,
              levelsLine(plan, r.patch),
            ],
          })),
        ...(recipe ? { recipe: { title: recipe.title, choices: recipe.choices, steps: recipe.steps } } : {}),
      };
      const sheets = inMeasures(reportSheets(report), settings.system);
      if (await mayPrint([sheets])) saveFile(await makePdf(sheets), `${plan.code}-report.pdf`);
    });
  return (
    <Button minH="44px" variant="outline" onClick={() => void save()}>
      Save a report (PDF)
    </Button>
  );
}
