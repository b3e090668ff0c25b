import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../../api/queries";
import { refreshBook, refreshFits } from "../../../api/refresh";
import { staff, type Visit } from "../../../api/staff";
import { SelectField } from "../../../shared/Field";
import { askAnew } from "../../../shared/askAnew";
import { Box, Stack } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { say } from "../../../shared/toasts";
import type { Chosen } from "../fits";
import { undoLast } from "../undo/undoing";
import { Dates } from "./Dates";
import { isMoveSolved, movesOf, type Solutions } from "./repeats";

/** What of a row is changed with a visit. */
export type Reach = "one" | "following" | "all";

type ReachProps = { value: Reach; onChange: (reach: Reach) => void };

/** How much of a row a change is for. */
export const ReachField = ({ value, onChange }: ReachProps) => (
  <SelectField label={t`How much of the row?`} value={value} onChange={(e) => onChange(e.target.value as Reach)}>
    <option value="one">
      <Trans>this visit only</Trans>
    </option>
    <option value="following">
      <Trans>this one and those that follow</Trans>
    </option>
    <option value="all">
      <Trans>all that have not begun</Trans>
    </option>
  </SelectField>
);

type Props = {
  visit: Visit;
  zone: string;
  reach: Reach;
  /** Where the visit itself is to go. */
  start: Chosen;
  onMoved: (visit: Visit) => void;
};

/** Where the others of a row would go with a visit that is moved, and what each meets there: solved first, then moved in one go. */
export function RowMove({ visit, zone, reach, start, onMoved }: Props) {
  const queries = useQueryClient();
  const practitionerId =
    start.practitionerId === visit.lines[0]?.practitioners[0]?.id ? null : (start.practitionerId ?? null);
  const asked = { start: start.start, practitionerId, all: reach === "all" };
  const here = JSON.stringify(asked);
  const [solved, setSolved] = useState<{ of: string; by: Solutions }>({ of: "", by: {} });
  const solutions = solved.of === here ? solved.by : {};
  const tried = useQuery({ ...asks.rowMoveTried(visit.id, asked), retry: false });
  const row = tried.data ?? [];
  const moves = movesOf(row, solutions, practitionerId);
  const move = useMutation({
    mutationFn: () =>
      answerOf(
        staff.POST("/api/v1/visits/{id}/series/lay", {
          params: { path: { id: visit.id } },
          body: { visits: moves },
        }),
      ),
    onSuccess: ({ visits }) => {
      refreshBook(queries);
      for (const one of visits) queries.setQueryData(asks.visit(one.id).queryKey, one);
      say(plural(visits.length, { one: "# visit of the row is moved.", other: "# visits of the row are moved." }), {
        label: t`Undo (u)`,
        onClick: () => void undoLast(queries),
      });
      onMoved(visits.find((one) => one.id === visit.id) ?? visit);
    },
    onError: () => {
      void askAnew(queries, { queryKey: asks.visit(visit.id).queryKey });
      refreshFits(queries);
    },
  });
  const problem = move.error ?? tried.error;
  return (
    <Stack as="section" gap="2" aria-label={t`The row`} bg="paper" borderRadius="card" p="2.5">
      {tried.isPending && (
        <Box aria-busy="true">
          <Trans>Looking what each of them meets …</Trans>
        </Box>
      )}
      {problem && <Box role="alert">{problem.message}</Box>}
      <Dates
        dates={row.map((one) => one.there)}
        zone={zone}
        solutions={solutions}
        kept={plural(moves.length, { one: "# visit will be moved.", other: "# visits will be moved." })}
        out={t`stays where it is`}
        onSolve={(by) => setSolved({ of: here, by })}
      />
      <Press look="primary" disabled={!isMoveSolved(row, solutions) || move.isPending} onClick={() => move.mutate()}>
        {plural(moves.length, { one: "Move # visit", other: "Move # visits" })}
      </Press>
    </Stack>
  );
}
