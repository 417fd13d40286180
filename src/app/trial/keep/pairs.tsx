import { Table } from '@chakra-ui/react';
import type { Joint } from '../../../core/findings/index.ts';
import { many, within, write } from '../../../core/say/index.ts';
import { Box, Flex, Heading, Text } from '../../ui/kit.tsx';
import { Said } from '../../ui/settings.tsx';

const SIZE = { w: 460, h: 190, left: 36, top: 12, bottom: 28 };
/** Lines that are told apart without colour. */
const DASHES = ['', '7 4', '2 4', '9 3 2 3', '1 3', '12 5', '5 2', '3 6'];

/** What two factors do together: a line for each level of the second over the levels of the first; where lines run apart, one works differently with the other. */
export function Pairs({ joints }: { joints: readonly Joint[] }) {
  return (
    <>
      {joints.map(joint => (
        <Box key={joint.names.join()} mb="6">
          <Heading as="h2" size="md">
            {joint.names[0]} with {within(joint.names[1])}: landed, %
          </Heading>
          <Text mb="1">
            <Said>{joint.sentence}</Said>
          </Text>
          <Lines joint={joint} />
          <details>
            <summary style={{ minHeight: '32px', cursor: 'pointer' }}>The figures</summary>
            <Table.Root size="sm">
              <Table.Body>
                {joint.cells.map(c => (
                  <Table.Row key={c.levels.join()} bg="transparent">
                    <Table.Cell>
                      <Said>{c.names.join(', ')}</Said>
                    </Table.Cell>
                    <Table.Cell>{c.mean.toFixed(1)}</Table.Cell>
                    <Table.Cell>
                      {c.lo.toFixed(1)} to {c.hi.toFixed(1)}
                    </Table.Cell>
                    <Table.Cell>{write(many(c.n, 'patch'))}</Table.Cell>
                  </Table.Row>
                ))}
              </Table.Body>
            </Table.Root>
          </details>
        </Box>
      ))}
    </>
  );
}

function Lines({ joint: { cells } }: { joint: Joint }) {
  const first = [...new Map(cells.map(c => [c.levels[0], c.names[0]])).entries()];
  const second = [...new Map(cells.map(c => [c.levels[1], c.names[1]])).entries()];
  const x = (at: number) => SIZE.left + ((at + 0.5) * (SIZE.w - SIZE.left - 8)) / Math.max(1, first.length);
  const y = (value: number) => SIZE.top + ((100 - value) * (SIZE.h - SIZE.top - SIZE.bottom)) / 100;
  const ink = 'var(--chakra-colors-fg)';
  return (
    <>
      <svg
        viewBox={`0 0 ${SIZE.w} ${SIZE.h}`}
        width="100%"
        style={{ maxWidth: 560 }}
        role="img"
        aria-label={cells.map(c => `${c.names.join(' with ')}: ${c.mean.toFixed(0)}`).join('; ')}
      >
        {[0, 25, 50, 75, 100].map(v => (
          <g key={v}>
            <path d={`M${SIZE.left} ${y(v)}H${SIZE.w - 8}`} stroke="var(--chakra-colors-border)" />
            <text x={SIZE.left - 6} y={y(v) + 4} fontSize="11" textAnchor="end" fill={ink}>
              {v}
            </text>
          </g>
        ))}
        {first.map(([level, name], i) => (
          <text key={level} x={x(i)} y={SIZE.h - 8} fontSize="12" textAnchor="middle" fill={ink}>
            <Said>{name}</Said>
          </text>
        ))}
        {second.map(([level], k) => {
          const own = first.flatMap(([a], i) => {
            const cell = cells.find(c => c.levels[0] === a && c.levels[1] === level);
            return cell ? [{ x: x(i) + (k - (second.length - 1) / 2) * 5, ...cell }] : [];
          });
          return (
            <g key={level}>
              <polyline
                points={own.map(c => `${c.x},${y(c.mean)}`).join(' ')}
                fill="none"
                stroke={ink}
                strokeWidth="2"
                strokeDasharray={DASHES[k % DASHES.length]}
              />
              {own.map(c => (
                <g key={c.levels[0]}>
                  <path d={`M${c.x} ${y(c.lo)}V${y(c.hi)}`} stroke={ink} strokeWidth="1" />
                  <circle
                    cx={c.x}
                    cy={y(c.mean)}
                    r="4"
                    fill={k % 2 ? 'var(--chakra-colors-bg)' : ink}
                    stroke={ink}
                  />
                </g>
              ))}
            </g>
          );
        })}
      </svg>
      <Flex gap="4" wrap="wrap" mb="1">
        {second.map(([level, name], k) => (
          <Flex key={level} gap="2" align="center">
            <svg width="34" height="12" aria-hidden="true">
              <path d="M0 6H34" stroke={ink} strokeWidth="2" strokeDasharray={DASHES[k % DASHES.length]} />
              <circle cx="17" cy="6" r="4" fill={k % 2 ? 'var(--chakra-colors-bg)' : ink} stroke={ink} />
            </svg>
            <Said>{name}</Said>
          </Flex>
        ))}
      </Flex>
    </>
  );
}
