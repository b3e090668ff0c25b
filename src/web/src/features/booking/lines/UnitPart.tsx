import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../../api/queries";
import { refreshBook } from "../../../api/refresh";
import { staff, type UnitHeld, type UnitOption, type Visit } from "../../../api/staff";
import { askAnew } from "../../../shared/askAnew";
import { useFocusBack } from "../../../shared/focusBack";
import { andWords, clock } from "../../../shared/format";
import { Box, Stack } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { say } from "../../../shared/toasts";
import { Fact, Refusal } from "../Sheet";
import { undoLast } from "../undo/undoing";

type Props = { visit: Visit; held: UnitHeld; mayKeep: boolean };

/** Which of several equal places or things a visit has: told, and changed to another one. */
export function UnitPart({ visit, held, mayKeep }: Props) {
  const [isShown, setShown] = useState(false);
  const opener = useFocusBack(isShown);
  const own = visit.units.filter((other) => other.line === held.line && other.resourceId === held.resourceId);
  return (
    <>
      <Fact label={held.name}>
        <Trans>
          no. {held.unit + 1} of {held.of}
        </Trans>
        {mayKeep && visit.canChange && own.length < held.of && (
          <Press
            size="small"
            ml="2"
            ref={opener}
            aria-expanded={isShown}
            aria-label={t`Another ${held.name}`}
            onClick={() => setShown(!isShown)}
          >
            <Trans>Another</Trans>
          </Press>
        )}
      </Fact>
      {isShown && <Others visit={visit} held={held} onDone={() => setShown(false)} />}
    </>
  );
}

function Others({ visit, held, onDone }: { visit: Visit; held: UnitHeld; onDone: () => void }) {
  const queries = useQueryClient();
  const units = useQuery(asks.visitUnits(visit.id));
  const put = useMutation({
    mutationFn: (to: number) =>
      answerOf(
        staff.POST("/api/v1/visits/{id}/unit", {
          params: { path: { id: visit.id }, header: { "If-Match": String(visit.version) } },
          body: { line: held.line, resourceId: held.resourceId, from: held.unit, to },
        }),
      ),
    onSuccess: (next, to) => {
      refreshBook(queries);
      queries.setQueryData(asks.visit(next.id).queryKey, next);
      say(t`${held.name}: no. ${to + 1}.`, { label: t`Undo (u)`, onClick: () => void undoLast(queries) });
      onDone();
    },
    onError: () => void askAnew(queries, { queryKey: asks.visit(visit.id).queryKey }),
  });
  const problem = put.error ?? units.error;
  const others = units.data?.find(
    ({ held: own }) => own.line === held.line && own.resourceId === held.resourceId && own.unit === held.unit,
  )?.others;
  return (
    <Stack gap="1" mb="2" role="group" aria-label={t`Another ${held.name}`}>
      {problem && <Refusal>{problem.message}</Refusal>}
      {others?.map((option) => (
        <Press
          key={option.unit}
          size="small"
          textAlign="left"
          justifyContent="start"
          disabled={put.isPending || !!option.refused}
          onClick={() => put.mutate(option.unit)}
        >
          <Trans>no. {option.unit + 1}</Trans>
          <Box as="span" ml="1" fontWeight="400">
            {wordsOf(option, visit.zone)}
          </Box>
        </Press>
      ))}
    </Stack>
  );
}

/** What taking another one would mean. */
export function wordsOf(option: UnitOption, zone: string): string {
  if (option.refused) return option.refused;
  if (option.moves.length === 0) return t`free`;
  return andWords(
    option.moves.map((move) => t`${move.name}, ${clock(move.start, zone)}, goes to no. ${move.unit + 1}`),
  );
}
