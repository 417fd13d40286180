import { useState } from 'react';
import { type Findings, lossesOf } from '../../../core/findings/index.ts';
import { type Recipe, recipeOf } from '../../../core/recipe/index.ts';
import type { KeptRecipe } from '../../../core/recipe-book/index.ts';
import { agree, joined, many, percent, say, span, within, write } from '../../../core/say/index.ts';
import { WEAR } from '../../../core/steps/index.ts';
import { type TrialPlan, type TrialRecord, verdictOf } from '../../../core/trial/index.ts';
import { workshopOf } from '../../../store/index.ts';
import { RecipeCardView } from '../../recipes/recipe-card-view.tsx';
import { Box, Button, Flex, Heading, Text } from '../../ui/kit.tsx';
import { asNotice, didNotWork, useNotice } from '../../ui/notices.tsx';
import { saveFile } from '../../ui/save-file.ts';
import { Said, useWrite } from '../../ui/settings.tsx';
import { Told } from '../../ui/told.tsx';
import { useFindings } from '../findings-at-hand.ts';
import { useTrial } from '../view.tsx';
import { Effects } from './effects.tsx';
import { IntoTheRecipe } from './into-the-recipe.tsx';
import { KeepRecipe } from './keep-recipe.tsx';
import { NextPanel } from './next-panel.tsx';
import { OffTheShelf } from './off-the-shelf.tsx';
import { PiecesPanel } from './pieces-panel.tsx';
import { SaveReport } from './save-report.tsx';
import { TradeOffs } from './trade-offs.tsx';
import { WantedPanel } from './wanted-panel.tsx';

/** Stage "Keep": what the trial showed, the recipe that follows, and the whole trial as a file. */
export function KeepStage() {
  const { plan } = useTrial();
  return plan.real ? (
    <Box>
      <IntoTheRecipe recipe={plan.real.recipe} />
      <OffTheShelf />
      <ExportTrial />
    </Box>
  ) : (
    <KeepTrial />
  );
}

function KeepTrial() {
  const { workshop, plan, records } = useTrial();
  const working = useFindings(workshop, plan, records);
  if (working.state === 'found') return <Shown findings={working.findings} />;
  return (
    <Box>
      {working.state === 'working' ? (
        <Flex gap="3" align="center" mb="4" role="status">
          <Text fontSize="1.15rem">Weighing what was measured, {Math.round(100 * working.share)} %</Text>
          <Button variant="outline" minH="44px" onClick={working.stop}>
            Stop
          </Button>
        </Flex>
      ) : (
        <Flex gap="3" align="center" mb="4" role="status">
          <Text fontSize="1.15rem">
            {working.state === 'failed' ? working.why : 'Stopped. Nothing is lost.'}
          </Text>
          <Button variant="outline" minH="44px" onClick={working.again}>
            Work it out
          </Button>
        </Flex>
      )}
      <ExportTrial />
    </Box>
  );
}

/** What was found. */
function Shown({ findings }: { findings: Findings }) {
  const { plan, records, workshop } = useTrial();
  const [chosen, setChosen] = useState<readonly number[]>();
  const { practice } = findings;
  const batches = new Set(plan.patches.flatMap(p => p.batch ?? [])).size;
  const recipe = recipeOf(plan, records, chosen);
  const said = useWrite();
  return (
    <Box>
      {findings.why ? (
        <Text fontSize="1.15rem" mb="4">
          <Told>{findings.why}</Told>
        </Text>
      ) : (
        <>
          {findings.leading && (
            <Text fontFamily="heading" fontWeight="700" fontSize="1.6rem" lineHeight="1.2" mb="2">
              <Told>{findings.leading.sentence}</Told>
            </Text>
          )}
          {findings.next && <NextPanel next={findings.next} />}
          <WantedPanel />
          {batches > 0 && (
            <Text mb="3">
              {batches === 1 ? 'One batch was' : `${batches} batches were`} made later, each a block of its
              own: what a whole batch or board differs by is taken out of what is compared here.
            </Text>
          )}
          {practice.patches > 0 && workshop !== 'demo' && (
            <Text mb="2" fontWeight="700" color="warn.fg" role="note">
              {practice.counts
                ? 'All of this is from practice photos of the simulated camera: made up, not measured.'
                : `Left out, since only a practice photo speaks of them: ${write(many(practice.patches, 'patch'))}.`}
            </Text>
          )}
          {findings.strayed.length > 0 && (
            <Text mb="2" role="note">
              Left out, because they were not given the time of their level:{' '}
              {findings.strayed
                .map(w => `${w.patch} (planned ${span(w.plannedMin)}, waited ${span(w.waitedMin)})`)
                .join(', ')}
              .
            </Text>
          )}
          {findings.failing && (
            <Text mb="2" fontWeight="700">
              <Told>{findings.failing}</Told>
            </Text>
          )}
          {findings.checks.map(check => (
            <Text key={write(check)} mb="2" role="note">
              <Told>{check}</Told>
            </Text>
          ))}
          <Text color="fg.muted" mb="4">
            From {findings.measured} patches read dry that worked
            {findings.missing ? `; ${findings.missing} are missing` : ''}. Bars are 90 % intervals of what to
            expect on a new board: the truth lies inside nine times in ten.
          </Text>
          <TradeOffs
            all={findings.tradeOffs}
            picked={(chosen ?? findings.leading?.levels ?? []).join()}
            onPick={setChosen}
          />
          <Effects findings={findings} />
        </>
      )}
      {findings.leading && (
        <PiecesPanel
          {...seenOf(plan, records, findings.leading.patches)}
          what={said(findings.leading.name)}
        />
      )}
      {plan.wear.length > 0 && <Lasts {...{ plan, records }} lasting={findings.lasting} />}
      {recipe && <RecipeView recipe={recipe} chosen={chosen} />}
      <OffTheShelf />
      <Box mt="8">
        <Heading as="h2" size="lg" mb="1">
          On paper
        </Heading>
        <Text mb="3">
          What was asked and found, the charts, the photos, the recipe and where each patch lies.
        </Text>
        <SaveReport {...{ findings, chosen }} />
      </Box>
      <ExportTrial />
    </Box>
  );
}

/** How many of these patches were judged, and how many of those to keep. */
function seenOf(plan: TrialPlan, records: readonly TrialRecord[], codes: readonly string[]) {
  const verdicts = plan.patches
    .filter(p => codes.includes(p.code))
    .flatMap(p => verdictOf(records, p.code) ?? []);
  return { seen: verdicts.length, good: verdicts.filter(v => v.verdict === 'keep').length };
}

/** What wear took off, test by test: what each choice lost, or what is still to be photographed. */
function Lasts({
  plan,
  records,
  lasting,
}: {
  plan: TrialPlan;
  records: readonly TrialRecord[];
  lasting: Findings['lasting'];
}) {
  const losses = lossesOf(plan, records);
  return (
    <Box as="section" aria-label="Does it last?" mt="6">
      <Heading as="h2" size="lg" mb="1">
        Does it last?
      </Heading>
      {plan.wear.map(test => {
        const own = losses.filter(l => l.test === test);
        const told = lasting.filter(l => l.test === test);
        const mean = own.reduce((sum, l) => sum + l.lost, 0) / (own.length || 1);
        return (
          <Box key={test} borderTopWidth="1px" py="2">
            <Text fontWeight="700">{WEAR[test].name}</Text>
            {own.length ? (
              <Text>
                {mean.toFixed(1)} % of the picture lost, in the mean of {own.length}{' '}
                {agree(own.length, 'patch', 'patches')} photographed before and after.
              </Text>
            ) : (
              <Text color="fg.muted">
                No patch is photographed dry before and after it yet. In Read, choose “dry, after:{' '}
                {within(WEAR[test].name)}” for the second photo.
              </Text>
            )}
            {told.map(l => (
              <Box key={l.factor}>
                <Text>
                  {l.name}: <Told>{l.sentence}</Told>
                </Text>
                <Text color="fg.muted" fontSize="0.95rem">
                  <Said>
                    {joined(
                      l.levels.map(
                        level => say`${level.name}: ${percent(level.mean, { places: 1 })} lost (${level.n})`,
                      ),
                      ' · ',
                    )}
                  </Said>
                </Text>
              </Box>
            ))}
          </Box>
        );
      })}
    </Box>
  );
}

function RecipeView({ recipe, chosen }: { recipe: Recipe; chosen: readonly number[] | undefined }) {
  return (
    <Box borderTopWidth="3px" borderColor="fg" pt="3" mt="4">
      <Heading as="h2" size="xl" mb="2">
        Recipe: {recipe.title}
      </Heading>
      <RecipeCardView card={recipe as KeptRecipe['card']} />
      <KeepRecipe chosen={chosen} />
    </Box>
  );
}

function ExportTrial() {
  const { plan, workshop } = useTrial();
  const tell = useNotice();
  const [busy, setBusy] = useState(false);
  const save = async () => {
    setBusy(true);
    try {
      const zip = await workshopOf(workshop).exportTrial(plan.id);
      if (zip.ok)
        saveFile(
          new Blob([zip.value as BlobPart], { type: 'application/zip' }),
          `${plan.code}-${plan.name
            .toLowerCase()
            .replace(/[^a-z0-9]+/g, '-')
            .slice(0, 40)}.zip`,
        );
      tell(
        zip.ok
          ? { say: 'The trial is in your downloads, with its photos and tables.' }
          : asNotice(zip.problem),
      );
    } catch (error) {
      tell(didNotWork(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Box mt="8">
      <Heading as="h2" size="lg" mb="1">
        Keep all of it
      </Heading>
      <Text mb="3">
        A ZIP with the plan and every record as JSON, three tables as CSV, and all photos. It can be imported
        again, here or on another machine.
      </Text>
      <Button size="xl" variant="outline" loading={busy} loadingText="Packing" onClick={save}>
        Export the trial (ZIP)
      </Button>
    </Box>
  );
}
