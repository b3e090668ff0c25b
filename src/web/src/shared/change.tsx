import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { MouseEvent } from "react";
import { Link } from "react-router";
import type { Headers, NeedsPlace } from "../api/setup";
import { asks } from "../api/queries";
import { refreshSetup } from "../api/refresh";
import { askAnew } from "./askAnew";
import { andWords, clock, shortDate } from "./format";
import { Dialog } from "./Dialog";
import type { Theirs } from "./draft";
import { useFirstFault } from "./firstFault";
import { Box, Row, Table } from "./layout";
import { Press } from "./Press";
import { Problem } from "./problem";

type Sent<A> = { arg: A; accept?: string };

/**
 * A change of the setup. Where it would take the place of visits booked ahead, the server answers with them; they are shown,
 * and the change is sent again only when somebody has seen them and says so.
 */
export function useChange<A, T>(
  call: (arg: A, headers: Headers) => Promise<T>,
  done?: (data: T, arg: A) => void,
  /** Hears what was refused where the screen has no place to say it. */
  failed?: (problem: Error) => void,
) {
  const queries = useQueryClient();
  const change = useMutation<T, Error, Sent<A>>({
    mutationFn: ({ arg, accept }) => call(arg, accept ? { "X-Accept-Hits": accept } : {}),
    onSuccess: (data, { arg }) => {
      refreshSetup(queries);
      void askAnew(queries, { queryKey: asks.imports().queryKey });
      done?.(data, arg);
    },
    onError: (error) => {
      // What is stored by now is what one goes on from.
      if (error instanceof Problem && error.code === "stale") refreshSetup(queries);
      failed?.(error);
    },
  });
  useFirstFault(change.error);
  const problem = change.error instanceof Problem ? change.error : null;
  const hits = problem?.code === "hits-appointments" ? problem : null;
  return {
    run: (arg: A) => change.mutate({ arg }),
    pending: change.isPending,
    saved: change.isSuccess,
    problem: hits ? null : problem,
    errors: problem?.errors ?? {},
    hits,
    accept: () =>
      change.variables && change.mutate({ arg: change.variables.arg, accept: String(hits?.body["accept"]) }),
    forget: () => change.reset(),
  };
}

type Change = { hits: Problem | null; accept: () => void; forget: () => void };

/** The visits a change would hit, before it is made. */
export function Hits({ change }: { change: Change }) {
  const { hits } = change;
  if (!hits) return null;
  const visits = hits.body["visits"] as NeedsPlace[];
  return (
    <Dialog
      name={t`Visits that would lose their place`}
      title={plural(visits.length, { one: "One visit would lose its place", other: "# visits would lose their place" })}
      maxW="180"
      onClose={change.forget}
    >
      <Box mb="3">{hits.message}</Box>
      <Table mb="4">
        <thead>
          <tr>
            <th>
              <Trans>When</Trans>
            </th>
            <th>
              <Trans>Who</Trans>
            </th>
            <th>
              <Trans>What</Trans>
            </th>
            <th>
              <Trans>Why</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {visits.slice(0, 40).map((visit) => (
            <tr key={visit.visitId}>
              <td>
                {shortDate(visit.date)}, {clock(visit.start, visit.zone)}
              </td>
              <td>
                <Link to={`/day/${visit.locationId}/${visit.date}?visit=${visit.visitId}`}>{visit.client}</Link>
              </td>
              <td>{visit.service}</td>
              <td>{visit.reasons[0]?.text}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {visits.length > 40 && (
        <Box mb="3">
          <Trans>and {plural(visits.length - 40, { one: "# more", other: "# more" })}</Trans>
        </Box>
      )}
      <Row>
        <Press look="danger" onClick={change.accept}>
          <Trans>Save; they wait for a place</Trans>
        </Press>
        <Press onClick={change.forget}>
          <Trans>Leave things as they are</Trans>
        </Press>
      </Row>
    </Dialog>
  );
}

/** What was refused and belongs to no field, and that it was saved. */
export function Outcome({
  change,
  fields = [],
  saved = t`Saved.`,
}: {
  change: {
    problem: Problem | null;
    saved: boolean;
    errors: Record<string, string>;
    /** What somebody else has saved meanwhile, and how to go on from it. */
    meanwhile?: { theirs: Theirs; goOn: (withMine: boolean) => void } | undefined;
  } & Change;
  fields?: string[];
  saved?: string;
}) {
  const hasFaults = Object.keys(change.errors).length > 0;
  const goOn = (withMine: boolean) => (event: MouseEvent<HTMLElement>) => {
    // The way on is gone with the press; saving is what comes next.
    event.currentTarget.parentElement?.querySelector("button")?.focus();
    change.meanwhile?.goOn(withMine);
  };
  const loose = Object.entries(change.errors).filter(([field]) => !fields.includes(field));
  return (
    <>
      <Hits change={change} />
      <Box aria-live="polite" fontSize="small">
        {change.saved && <Box color="reed">✓ {saved}</Box>}
        {(change.problem || hasFaults) && (
          <Box role="alert" color="clay" borderLeftWidth="mark" borderColor="clay" pl="2.5">
            {change.problem?.code === "stale"
              ? staleWords(change.problem, change.meanwhile?.theirs)
              : loose.length > 0
                ? loose.map(([, text]) => <Box key={text}>{text}</Box>)
                : hasFaults
                  ? t`Change what is marked above, then save again.`
                  : change.problem?.message}
          </Box>
        )}
      </Box>
      {change.problem?.code === "stale" && change.meanwhile && (
        <>
          <Press size="small" onClick={goOn(true)}>
            <Trans>Put what I wrote into theirs</Trans>
          </Press>
          <Press size="small" look="quiet" onClick={goOn(false)}>
            <Trans>Drop what I wrote</Trans>
          </Press>
        </>
      )}
    </>
  );
}

/** What may be lost stands where the choice is made. */
const staleWords = (problem: Problem, theirs: Theirs | undefined) =>
  [
    problem.message,
    theirs && theirs.texts.length > 0 && t`Where you wrote something too, they have: ${andWords(theirs.texts)}.`,
    theirs?.more && t`Some of what you changed they changed too; yours would stay.`,
  ]
    .filter(Boolean)
    .join(" ");
