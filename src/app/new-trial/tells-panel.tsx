import { type PlanRequest, planCost, tellsOf } from '../../core/design/index.ts';
import { type EvidenceRow, failsOf } from '../../core/evidence/index.ts';
import { canOverride, RULES } from '../../core/rules/index.ts';
import { many, span, type Words, write } from '../../core/say/index.ts';
import { forecast } from '../../core/schedule/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import { Box, Button, Flex, Heading, Text } from '../ui/kit.tsx';
import { Tick } from '../ui/tick.tsx';
import { Told } from '../ui/told.tsx';
import { AlreadyKnown } from './already-known.tsx';
import { CertaintyCurve } from './certainty-curve.tsx';
import { RehearsalPanel } from './rehearsal.tsx';
import { scatterBasis } from './use-known-noise.ts';

/** What this plan can and cannot tell, before a drop of medium is spent. */
export function TellsPanel({
  plan,
  known = [],
  basis = scatterBasis(plan.noise, undefined),
  onPatches,
}: {
  plan: TrialPlan;
  /** What the other trials of the workshop say. */
  known?: readonly EvidenceRow[];
  /** What the scatter that is assumed rests on. */
  basis?: string;
  onPatches?: (patches: number) => void;
}) {
  const tells = tellsOf(plan);
  const cost = planCost(plan);
  const { handsOnMin } = forecast(plan, [], Date.parse(plan.createdAt));
  return (
    <Box mt="6">
      <Heading as="h2" size="lg" mb="2">
        What this plan can tell
      </Heading>
      <AlreadyKnown plan={plan} rows={known} />
      <RehearsalPanel plan={plan} fails={failsOf(known, plan.method)} basis={basis} />
      {tells.can.map(line => (
        <Line key={write(line)} word="Yes" text={line} />
      ))}
      {tells.cannot.map(line => (
        <Line key={write(line)} word="No" text={line} />
      ))}
      {tells.changes && (
        <Line
          word="Saves"
          text={`Made together, it is changed ${tells.changes.grouped} times instead of about ${tells.changes.shuffled}.`}
        />
      )}
      {tells.curve.length > 1 && (
        <CertaintyCurve
          curve={tells.curve}
          now={tells.runs}
          costOf={times => cost.total * times}
          hoursOf={times => span(handsOnMin * times)}
          onPatches={onPatches}
        />
      )}
      <Box as="details" mt="2">
        <Text as="summary" cursor="pointer" minH="32px">
          The figures
        </Text>
        <Text mt="1">
          {tells.runs} patches, {tells.effects} effects, {tells.spare} to spare for judging chance.
          D-efficiency {(100 * tells.efficiency).toFixed(1)} %. Patches made alike are taken to differ by{' '}
          {plan.noise} points. What a two-sided test at 5 % would notice:
        </Text>
        {tells.byTest.map(line => (
          <Text key={write(line)}>
            <Told>{line}</Told>
          </Text>
        ))}
        {tells.mixed.slice(0, 8).map(m => (
          <Text key={`${m.factor}-${m.others.join()}`} color="fg.muted">
            {'ABCDEFGH'[m.factor]} with {m.others.map(o => 'ABCDEFGH'[o]).join(' × ')}:{' '}
            {(100 * m.share).toFixed(0)} % mixed
          </Text>
        ))}
      </Box>
    </Box>
  );
}

function Line({ word, text }: { word: string; text: Words }) {
  return (
    <Flex gap="3" py="1.5" borderTopWidth="1px" align="baseline">
      <Text fontWeight="700" w="3.2rem" flex="none" color={word === 'No' ? 'warn.fg' : 'good.fg'}>
        {word}
      </Text>
      <Text>
        <Told>{text}</Told>
      </Text>
    </Flex>
  );
}

/** What rules keep out of the plan and why; a maker may want to see some of it fail, but never what hurts. */
export function LeftOut({
  leftOut,
  overrides,
  onChange,
}: {
  leftOut: readonly { readonly why: string; readonly count: number }[];
  overrides: readonly string[];
  onChange: (part: Partial<PlanRequest>) => void;
}) {
  const shown = new Map(leftOut.map(l => [l.why, l.count]));
  const rules = RULES.filter(r => shown.has(r.why) || overrides.includes(r.id));
  if (!rules.length) return null;
  return (
    <Box mt="6" as="section" aria-label="Left out by the rules">
      <Heading as="h2" size="lg" mb="2">
        Left out
      </Heading>
      {rules.map(rule => (
        <Flex
          key={rule.id}
          borderTopWidth="1px"
          py="2"
          gap="3"
          direction={{ base: 'column', md: 'row' }}
          align={{ md: 'baseline' }}
        >
          <Text flex="1">
            <b>
              {overrides.includes(rule.id) ? 'Kept in' : write(many(shown.get(rule.why) ?? 0, 'combination'))}
              .
            </b>{' '}
            {rule.why} {rule.instead}
          </Text>
          {canOverride(rule) ? (
            <Tick
              flex="none"
              minH="40px"
              checked={overrides.includes(rule.id)}
              onChange={isOn =>
                onChange({
                  overrides: isOn ? [...overrides, rule.id] : overrides.filter(id => id !== rule.id),
                })
              }
            >
              I want to see it fail
            </Tick>
          ) : (
            <Text flex="none" color="fg.muted">
              {rule.harms === 'machine'
                ? 'It harms the machine: not to be set aside.'
                : 'Someone could be hurt: not to be set aside.'}
            </Text>
          )}
        </Flex>
      ))}
    </Box>
  );
}

/** The way out when a rule stops the whole plan and may be set aside. */
export function SeeItFail({
  stoppedBy,
  overrides,
  onChange,
}: {
  stoppedBy: string | undefined;
  overrides: readonly string[];
  onChange: (part: Partial<PlanRequest>) => void;
}) {
  const rule = RULES.find(r => canOverride(r) && r.id === stoppedBy);
  if (!rule) return null;
  return (
    <Button
      mt="3"
      variant="outline"
      minH="44px"
      onClick={() => onChange({ overrides: [...overrides, rule.id] })}
    >
      I want to see it fail
    </Button>
  );
}
