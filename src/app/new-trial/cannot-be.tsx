import type { PlanRequest } from '../../core/design/index.ts';
import type { Problem } from '../../core/outcome/index.ts';
import { mm } from '../../core/say/index.ts';
import { Box, Button, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';
import { SeeItFail } from './tells-panel.tsx';

/** Why a plan cannot be made, and the way out. */
export function CannotBe({
  problem,
  request,
  onChange,
}: {
  problem: Problem;
  request: PlanRequest;
  onChange: (part: Partial<PlanRequest>) => void;
}) {
  return (
    <Box borderWidth="1px" borderStyle="dashed" p="5" role="alert">
      <Text fontWeight="700" fontSize="1.15rem">
        <Said>{problem.say}</Said>
      </Text>
      {problem.wayOut && (
        <Text mt="1">
          <Said>{problem.wayOut}</Said>
        </Text>
      )}
      {problem.board && (
        <Button
          mt="3"
          minH="48px"
          variant="outline"
          onClick={() => onChange({ board: { ...request.board, ...problem.board } })}
        >
          Take one of <Said>{mm(problem.board.w, { by: problem.board.h })}</Said>
        </Button>
      )}
      <SeeItFail stoppedBy={problem.rule} overrides={request.overrides} onChange={onChange} />
    </Box>
  );
}
