import { Link } from 'react-router';
import {
  commonCause,
  type Explained,
  explain,
  explained,
  isTroubled,
  signalsOf,
  type Weighed,
} from '../../../core/diagnosis/index.ts';
import { deviationsOf, skippedOf } from '../../../core/progress/index.ts';
import { say, write } from '../../../core/say/index.ts';
import { levelsLine, type Patch, readingOf, unitOf, verdictOf } from '../../../core/trial/index.ts';
import { Cautions } from '../../ui/cautions.tsx';
import { groupsBy } from '../../ui/groups.ts';
import { Box, Flex, Heading, Text } from '../../ui/kit.tsx';
import { outsideWords, stepName } from '../../ui/outside.ts';
import { Said } from '../../ui/settings.tsx';
import { Told } from '../../ui/told.tsx';
import { useTrial } from '../view.tsx';
import { Confirm } from './confirm.tsx';
import { ItWasNone, ItWasThis, TurnedOut, useTurned } from './it-was.tsx';
import { NextLook } from './next-look.tsx';
import { Where } from './where.tsx';

const likelyWords = (p: number) =>
  p > 0.6 ? 'very likely' : p > 0.3 ? 'likely' : p > 0.12 ? 'possible' : 'less likely';

/** Stage "Explain": what went wrong with the chosen patch, why we think so, what to do now and next time. */
export function ExplainStage() {
  const { plan, records, selected, workshop } = useTrial();
  const turned = useTurned(workshop);
  if (!selected) return <Overview />;
  const known = readingOf(records, selected.code) || verdictOf(records, selected.code);
  const { causes, ask, somethingElse, nothingWrong, isUnsure } = explained(plan, selected, records, turned);
  return (
    <Box>
      <Heading as="h2" size="lg">
        {selected.code}
      </Heading>
      <Text color="fg.muted" mb="3">
        <Said>{levelsLine(plan, selected)}</Said>
      </Text>
      <Deviations code={selected.code} />
      {!known && (
        <Text fontSize="1.15rem">
          Nothing is known of this {unitOf(plan).one} yet. Read a photo of it, or judge it.
        </Text>
      )}
      {known && causes.length === 0 && (
        <Text fontSize="1.15rem">
          {isTroubled(signalsOf(plan, selected, records))
            ? 'Something is wrong, but none of the causes we know fits what was read and recorded. Tick what you see under Judge.'
            : 'Nothing is wrong with it that needs explaining.'}
        </Text>
      )}
      {causes.length > 0 && nothingWrong >= 0.5 && (
        <Text fontSize="1.15rem" mb="2">
          Most likely nothing is amiss ({Math.min(99, Math.round(nothingWrong * 100))} %): a usual hand leaves
          as much. If you still mind it, these come first.
        </Text>
      )}
      {causes.length > 0 && nothingWrong < 0.5 && isUnsure && (
        <Text fontSize="1.15rem" mb="2">
          Not enough to tell yet. Answer the look below, tick what you see under Judge, or photograph it once
          more in even light.
        </Text>
      )}
      <TurnedOut patch={selected} />
      {causes.length > 0 && <NextLook patch={selected} ask={ask} />}
      <CommonView />
      {causes.slice(0, 5).map((c, i) => (
        <CauseView key={c.cause.id} explained={c} above={causes.slice(0, i)} patch={selected} />
      ))}
      {causes.length > 0 && somethingElse > 0.05 && (
        <Text borderTopWidth="1px" pt="3" color="fg.muted">
          Something that we do not know: {Math.round(somethingElse * 100)} %.
        </Text>
      )}
      {causes.length > 0 && <ItWasNone patch={selected} />}
      <Train />
    </Box>
  );
}

/** Where pieces that failed on purpose are looked at. */
function Train() {
  const { workshop } = useTrial();
  return (
    <Text mt="4">
      <Link to={`/w/${workshop}/train`} style={{ textDecoration: 'underline', lineHeight: '44px' }}>
        Train your eye on pieces that failed on purpose
      </Link>
    </Text>
  );
}

/** What was done outside its window: it explains a good deal later. */
function Deviations({ code }: { code: string }) {
  const { plan, records } = useTrial();
  const found = deviationsOf(plan, records).filter(d => d.patch === code);
  const skipped = skippedOf(records).filter(d => d.patch === code);
  if (!found.length && !skipped.length) return null;
  return (
    <Box mb="3">
      {skipped.map(d => (
        <Text key={`left ${d.step}${d.round}`}>
          <b>Left out:</b> {stepName(plan, d.step)}.
        </Text>
      ))}
      {found.map(d => (
        <Text key={`${d.step}${d.round}`}>
          <b>Outside its window:</b> {stepName(plan, d.step)}, {outsideWords(d.byMin)}.
        </Text>
      ))}
    </Box>
  );
}

function CauseView({
  explained: e,
  above,
  patch,
}: {
  explained: Explained;
  /** The likelier causes, which stand above it. */
  above: readonly Explained[];
  patch: Patch;
}) {
  const { plan } = useTrial();
  const rank = above.length + 1;
  return (
    <Box borderTopWidth="1px" py="4">
      <Flex gap="3" align="baseline" wrap="wrap">
        <Text
          fontFamily="heading"
          fontWeight="700"
          fontSize={rank === 1 ? '1.7rem' : '1.25rem'}
          lineHeight="1.15"
        >
          {rank}. {e.cause.name}
        </Text>
        <Text fontWeight="600" title={`${Math.round(e.likely * 100)} % likely to be at work`}>
          {likelyWords(e.likely)}
        </Text>
        <Text color="fg.muted">{Math.min(99, Math.round(e.likely * 100))} % likely to be at work</Text>
      </Flex>
      <Weights title="For" list={e.for} />
      <Weights title="Against" list={e.against} />
      <Where explained={e} {...{ above, patch }} />
      <Text mt="1">
        <b>To be sure:</b> <Said>{e.cause.check}</Said>
      </Text>
      <Text mt="1">
        <b>This {unitOf(plan).one}, now:</b> <Said>{e.cause.rescue}</Said>
      </Text>
      <Text mt="1">
        <b>Next time:</b> <Said>{e.cause.prevent}</Said>
      </Text>
      <Cautions ids={e.cause.cautions ?? []} />
      <ItWasThis cause={e.cause} patch={patch} />
      {rank <= CONFIRMED && <Confirm cause={e.cause} patch={patch} />}
    </Box>
  );
}

/** For so many causes a trial is offered that would tell. */
const CONFIRMED = 3;

/** The longest bar: evidence that is twenty times likelier with the cause than without. */
const LONGEST = Math.log(20);

/** Evidence for or against a cause in words, each with its weight as a bar. */
function Weights({ title, list }: { title: string; list: readonly Weighed[] }) {
  if (!list.length) return null;
  return (
    <Box mt="1">
      <Text fontWeight="700">{title}:</Text>
      {list.map(w => (
        <Flex key={write(say`${w.signal} ${w.say}`)} gap="3" align="center">
          <Box w="5.5rem" flexShrink="0" h="0.7rem" borderWidth="1px" title={`weight ${w.weight.toFixed(1)}`}>
            <Box
              h="100%"
              bg={w.weight > 0 ? 'tide.solid' : 'fg.muted'}
              style={{ width: `${Math.min(100, (100 * Math.abs(w.weight)) / LONGEST)}%` }}
            />
          </Box>
          <Text flex="1">
            <Told>{w.say}</Told>
          </Text>
        </Flex>
      ))}
    </Box>
  );
}

/** What patches that went wrong have in common, where they do. */
function CommonView() {
  const { plan, records, selected } = useTrial();
  const common = commonCause(plan, records);
  if (!common || (selected && !common.patches.includes(selected.code))) return null;
  return (
    <Box mb="3" p="3" borderWidth="2px" borderColor="buoy.solid">
      <Text fontWeight="700" fontSize="1.1rem">
        <Told>{common.sentence}</Told>
      </Text>
      <Text color="fg.muted">
        {Math.min(99, Math.round(common.likely * 100))} % likely, against each patch by itself:{' '}
        {common.patches.join(', ')}
      </Text>
    </Box>
  );
}

function Overview() {
  const { plan, records, select } = useTrial();
  const all = plan.patches.flatMap(p => {
    const top = explain(plan, p, records)[0];
    return top ? [{ code: p.code, top }] : [];
  });
  const groups = groupsBy(all, a => a.top.cause.id).sort((a, b) => b.length - a.length);
  return (
    <Box>
      <Text fontSize="1.15rem" mb="3">
        {groups.length
          ? `What most likely went wrong, over the whole board. Choose a ${unitOf(plan).one} to see why we think so.`
          : `Nothing to explain yet. Read the photos or judge the ${unitOf(plan).many} first.`}
      </Text>
      <CommonView />
      {groups.map(g => (
        <Box key={g[0].top.cause.id} borderTopWidth="1px" py="3">
          <Text fontFamily="heading" fontWeight="700" fontSize="1.25rem">
            {g[0].top.cause.name}
          </Text>
          <Text>
            <Said>{g[0].top.cause.prevent}</Said>
          </Text>
          <Flex gap="2" mt="2" wrap="wrap">
            {g.map(({ code }) => (
              <Box
                as="button"
                key={code}
                minH="40px"
                px="3"
                borderWidth="1px"
                fontWeight="600"
                onClick={() => select(code)}
              >
                {code}
              </Box>
            ))}
          </Flex>
        </Box>
      ))}
    </Box>
  );
}
