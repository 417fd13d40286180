import type { PlanRequest } from '../../core/design/index.ts';
import { CAUTIONS, type CautionId, type Method, type Step } from '../../core/methods/index.ts';
import { span, within, write } from '../../core/say/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { cautionsAt, waitAfter } from '../../core/steps/index.ts';
import { lookUp, type PatchSettings, type TrialPlan } from '../../core/trial/index.ts';
import { Cautions } from '../ui/cautions.tsx';
import { Box, Flex, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';

interface Minutes {
  readonly min: number;
  readonly aim: number;
  readonly max: number;
}

/** A method as a rope of steps from top to bottom; between two knots the wait with its window on a scale of time. */
export function MethodLine({
  method,
  request,
  shelf,
}: {
  method: Method;
  request?: PlanRequest;
  shelf: Shelf;
}) {
  const settings = request && lookUp({ ...shelf, method } as TrialPlan['used'], request.usual);
  // A method whose usual is one round, and that varies none, has no rounds.
  const hasRounds = method.usual.rounds > 1 || method.vary.includes('rounds');
  const first = hasRounds ? method.steps.findIndex(s => s.eachRound) : -1;
  // A caution stands whole where it begins to matter, and by its name from then on.
  const said = new Set<CautionId>(method.setUpCautions);
  const cautions = method.steps.map(step => {
    const all = settings ? cautionsAt(step, settings) : step.cautions;
    const fresh = all.filter(id => !said.has(id));
    for (const id of fresh) said.add(id);
    return { fresh, again: all.filter(id => !fresh.includes(id)) };
  });
  const last = method.steps.findLastIndex(s => s.eachRound);
  return (
    <Box as="ol" mt="5" listStyleType="none" ps="0" aria-label={`Steps of ${method.name}`}>
      {method.steps.map((step, i) => (
        <Knot
          key={step.id}
          step={step}
          number={i + 1}
          cautions={cautions[i]}
          isAgain={hasRounds && step.eachRound}
          wait={waitOf(step, settings, request)}
          round={
            i === first
              ? last > first
                ? 'These steps come again in every round.'
                : 'This step comes again in every round.'
              : undefined
          }
          isLast={i === method.steps.length - 1}
        />
      ))}
    </Box>
  );
}

function waitOf(
  step: Step,
  settings: PatchSettings | undefined,
  request: PlanRequest | undefined,
): Minutes | undefined {
  if (step.wait.kind === 'fixed') return step.wait;
  return settings && request ? waitAfter(step, settings, request.air) : undefined;
}

const WHEN: Partial<Record<Step['wait']['kind'], string>> = {
  'open-time': 'as long as the coat stays open',
  planned: 'the time you plan',
  preparation: 'until the preparation is dry',
  finish: 'until the finish is dry',
};

function Knot({
  step,
  number,
  cautions,
  isAgain,
  wait,
  round,
  isLast,
}: {
  step: Step;
  number: number;
  /** Said here for the first time, and said before. */
  cautions: { readonly fresh: readonly CautionId[]; readonly again: readonly CautionId[] };
  /** It comes again in every round. */
  isAgain: boolean;
  wait?: Minutes;
  round?: string;
  isLast: boolean;
}) {
  const only = [
    step.onlyIfPrepared && 'if the ground is prepared',
    step.onlyIfFinished && 'if there is a finish',
    step.fromRound > 1 && `from round ${step.fromRound} on`,
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <Flex as="li" gap="4">
      <Box flex="none" w="38px" position="relative">
        <Flex
          w="38px"
          h="38px"
          borderWidth="2px"
          borderColor="fg"
          borderRadius="full"
          align="center"
          justify="center"
          fontWeight="700"
          bg="bg.panel"
          position="relative"
          zIndex="1"
        >
          {number}
        </Flex>
        {!isLast && (
          <Box
            position="absolute"
            top="38px"
            bottom="0"
            left="17px"
            w="4px"
            bg={isAgain ? undefined : 'border.emphasized'}
            css={
              isAgain
                ? {
                    backgroundImage:
                      'repeating-linear-gradient(var(--chakra-colors-fg) 0 8px, transparent 8px 13px)',
                  }
                : undefined
            }
          />
        )}
      </Box>
      <Box flex="1" minW="0" pb="5">
        {round && (
          <Text fontSize="0.9rem" fontWeight="600" color="tide.fg">
            {round}
          </Text>
        )}
        <Text fontWeight="700" fontSize="1.1rem" lineHeight="38px">
          {step.action}
          {only && (
            <Text as="span" fontWeight="400" color="fg.muted" fontSize="0.95rem">
              {' '}
              ({only})
            </Text>
          )}
        </Text>
        <Text>
          <Said>{step.instruction}</Said>
        </Text>
        {step.variants.map(v => (
          <Text key={write(v.instruction)} color="fg.muted">
            Or: <Said>{v.instruction}</Said>
          </Text>
        ))}
        {step.check && <Text fontWeight="600">Check: {step.check}</Text>}
        {cautions.fresh.length > 0 && (
          <Box mt="2">
            <Cautions ids={cautions.fresh} />
          </Box>
        )}
        {cautions.again.length > 0 && (
          <Text mt="1" fontWeight="600" color="warn.fg">
            Careful here too: {cautions.again.map(id => within(CAUTIONS[id].title)).join(', ')}.
          </Text>
        )}
        {step.wait.kind !== 'none' && (
          <Box mt="2.5">
            {wait ? (
              <WindowBar wait={wait} words={WHEN[step.wait.kind]} />
            ) : (
              <Text color="fg.muted">Then wait {WHEN[step.wait.kind]}.</Text>
            )}
            {step.ready && (
              <Text fontSize="0.95rem" mt="1">
                It is over when you can say yes to: {step.ready}
              </Text>
            )}
            {(step.tooSoon || step.tooLate) && (
              <Text fontSize="0.95rem" color="fg.muted" mt="1">
                {step.tooSoon && <>Too soon: {step.tooSoon} </>}
                {step.tooLate && <>Too late: {step.tooLate}</>}
              </Text>
            )}
          </Box>
        )}
      </Box>
    </Flex>
  );
}

const LO = 0.1;
const HI = 40_000;
const at = (minutes: number) => {
  const share = Math.log(Math.min(HI, Math.max(LO, minutes)) / LO) / Math.log(HI / LO);
  return share * 400;
};
const TICKS: readonly [number, string][] = [
  [1 / 6, '10 s'],
  [1, '1 min'],
  [10, '10 min'],
  [60, '1 h'],
  [1440, '1 day'],
  [14_400, '10 days'],
];

/** A window on a scale from seconds to weeks: hatched from "not before" to "not after", a thick tick at the best time. */
function WindowBar({ wait, words }: { wait: Minutes; words?: string }) {
  const from = at(wait.min);
  const to = at(wait.max);
  const late = wait.max >= 20_000 ? 'no hurry after that' : `not after ${span(wait.max)}`;
  const soon = wait.min > 0 ? `not before ${span(wait.min)}, ` : '';
  return (
    <Box maxW="32rem">
      <svg
        viewBox="-16 0 440 40"
        width="100%"
        role="img"
        aria-label={`Then wait: ${soon}best ${span(wait.aim)}, ${late}`}
      >
        <defs>
          <pattern
            id="window-hatch"
            width="5"
            height="5"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <rect width="2" height="5" fill="var(--chakra-colors-tide-solid)" />
          </pattern>
        </defs>
        <path d="M0 14h400" stroke="var(--chakra-colors-border-emphasized)" strokeWidth="1" />
        {TICKS.map(([minutes, label]) => (
          <g key={label}>
            <path
              d={`M${at(minutes)} 11v6`}
              stroke="var(--chakra-colors-border-emphasized)"
              strokeWidth="1"
            />
            <text
              x={at(minutes)}
              y="31"
              textAnchor="middle"
              style={{ fontSize: '11px' }}
              fill="var(--chakra-colors-fg-muted)"
            >
              {label}
            </text>
          </g>
        ))}
        <rect
          x={from}
          y="8"
          width={Math.max(2, to - from)}
          height="12"
          fill="url(#window-hatch)"
          stroke="var(--chakra-colors-tide-solid)"
        />
        <rect x={at(wait.aim) - 2.5} y="3" width="5" height="21" fill="var(--chakra-colors-fg)" />
      </svg>
      <Text fontSize="0.95rem">
        Then wait {words ? `${words}: ` : ''}
        {soon}best <b>{span(wait.aim)}</b>, {late}.
      </Text>
    </Box>
  );
}
