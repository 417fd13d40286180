import { Box, Flex, Heading, Text } from '@chakra-ui/react';
import { type Explained, explain, isTroubled, signalsOf } from '../../../core/diagnosis/index.ts';
import { deviationsOf, skippedOf } from '../../../core/progress/index.ts';
import { levelNames, readingOf, verdictOf } from '../../../core/trial/index.ts';
import { outsideWords, stepName } from '../../ui/outside.ts';
import { Said } from '../../ui/settings.tsx';
import { useTrial } from '../view.tsx';

const likelyWords = (p: number) =>
  p > 0.6 ? 'very likely' : p > 0.3 ? 'likely' : p > 0.12 ? 'possible' : 'less likely';

/** Stage "Explain": what went wrong with the chosen patch, why we think so, what to do now and next time. */
export function ExplainStage() {
  const { plan, records, selected } = useTrial();
  if (!selected) return <Overview />;
  const known = readingOf(records, selected.code) || verdictOf(records, selected.code);
  const causes = explain(plan, selected, records);
  return (
    <Box>
      <Heading as="h2" size="lg">
        {selected.code}
      </Heading>
      <Text color="fg.muted" mb="3">
        <Said>{levelNames(plan, selected).join(', ')}</Said>
      </Text>
      <Deviations code={selected.code} />
      {!known && (
        <Text fontSize="1.15rem">Nothing is known of this patch yet. Read a photo of it, or judge it.</Text>
      )}
      {known && causes.length === 0 && (
        <Text fontSize="1.15rem">
          {isTroubled(signalsOf(plan, selected, records))
            ? 'Something is wrong, but none of the causes we know fits what was read and recorded. Tick what you see under Judge.'
            : 'Nothing is wrong with it that needs explaining.'}
        </Text>
      )}
      {causes.slice(0, 5).map((c, i) => (
        <CauseView key={c.cause.id} explained={c} rank={i + 1} />
      ))}
    </Box>
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

function CauseView({ explained: e, rank }: { explained: Explained; rank: number }) {
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
        <Text color="fg.muted">{Math.round(e.likely * 100)} % likely to be at work</Text>
      </Flex>
      <Text mt="1">
        <b>For:</b> <Said>{e.for.map(x => x.say).join(' ')}</Said>
      </Text>
      {e.against.length > 0 && (
        <Text mt="1">
          <b>Against:</b> <Said>{e.against.map(x => x.say).join(' ')}</Said>
        </Text>
      )}
      <Text mt="1">
        <b>To be sure:</b> <Said>{e.cause.check}</Said>
      </Text>
      <Text mt="1">
        <b>This patch, now:</b> <Said>{e.cause.rescue}</Said>
      </Text>
      <Text mt="1">
        <b>Next time:</b> <Said>{e.cause.prevent}</Said>
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
  const groups = [...Map.groupBy(all, a => a.top.cause.id).values()].sort((a, b) => b.length - a.length);
  return (
    <Box>
      <Text fontSize="1.15rem" mb="3">
        {groups.length
          ? 'What most likely went wrong, over the whole board. Choose a patch to see why we think so.'
          : 'Nothing to explain yet. Read the photos or judge the patches first.'}
      </Text>
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
