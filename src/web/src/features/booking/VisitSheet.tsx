import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { staff, type CancelledBy, type DeskSetup, type Visit, type VisitState } from "../../api/staff";
import { clockRange, dateIn, longDate, money, shortDate, clock } from "../../shared/format";
import { Press } from "../../shared/Press";
import { refreshBook, refreshFits } from "../../api/refresh";
import { answerOf, Problem } from "../../shared/problem";
import { marks } from "./BlockMark";
import { acceptHeader, type Chosen, type Fit } from "./fits";
import { CancelForm } from "./CancelForm";
import { HistoryList } from "./HistoryList";
import { MoveForm } from "./MoveForm";
import { Reasons } from "./Reasons";
import { Fact, Refusal, Sheet } from "./Sheet";

const Box = chakra("div");
const order: VisitState[] = ["requested", "confirmed", "arrived", "inTreatment", "done"];
const verbs: Partial<Record<VisitState, string>> = {
  confirmed: t`Approve`,
  arrived: t`Arrived`,
  inTreatment: t`In treatment`,
  done: t`Done`,
  noShow: t`Did not come`,
};

/** Forward steps by their name, backward ones as what they are: taking a wrong press back. */
const verb = (from: VisitState, to: VisitState) =>
  to !== "noShow" && (order.indexOf(from) > order.indexOf(to) || from === "noShow")
    ? t`Not ${marks[from].word}`
    : verbs[to];
const isForward = (from: VisitState, to: VisitState) => order.indexOf(to) > order.indexOf(from) && from !== "noShow";

type Props = {
  id: string;
  setup: DeskSetup;
  mayKeep: boolean;
  date: string;
  onFits: (fits: Fit[] | null) => void;
  onDay: (date: string) => void;
  onClient: (clientId: string) => void;
  onClose: () => void;
};

type Action =
  | { kind: "state"; state: VisitState }
  | { kind: "move"; start: string; practitionerId: string | null; chosen?: Chosen }
  | { kind: "cancel"; reason: string; by: CancelledBy };

/** A visit in the book: what it is, and what can be done with it. */
export function VisitSheet({ id, setup, mayKeep, date, onFits, onDay, onClient, onClose }: Props) {
  const queries = useQueryClient();
  const [mode, setMode] = useState<"look" | "move" | "cancel" | "history">("look");
  const [moved, setMoved] = useState<{ from: string; by: string | null } | null>(null);
  const visit = useQuery(asks.visit(id));
  const act = useMutation({
    mutationFn: (action: Action) => {
      const params = { path: { id }, header: { "If-Match": String(visit.data!.version) } };
      if (action.kind === "state")
        return answerOf(staff.POST("/api/v1/visits/{id}/state", { params, body: { state: action.state } }));
      if (action.kind === "cancel")
        return answerOf(
          staff.POST("/api/v1/visits/{id}/cancel", { params, body: { reason: action.reason, by: action.by } }),
        );
      // Putting it back is a move like any other: who has come in between is told, never booked over unread.
      return answerOf(
        staff.POST("/api/v1/visits/{id}/move", {
          params,
          headers: acceptHeader(action.chosen ?? null),
          body: { start: action.start, practitionerId: action.practitionerId },
        }),
      );
    },
    onSuccess: (next, action) => {
      if (action.kind === "move")
        setMoved(moved ? null : { from: visit.data!.start, by: visit.data!.lines[0]?.practitioners[0]?.id ?? null });
      // A move may have been to another day; both are looked at again.
      refreshBook(queries);
      queries.setQueryData(asks.visit(id).queryKey, next);
      // What was opened while this was on its way stays open, with whatever was typed into it.
      setMode((now) => (now === action.kind ? "look" : now));
      if (next.date !== date && action.kind === "move") onDay(next.date);
    },
    // Stale or taken: show how it stands now beside the sentence that says so.
    onError: () => {
      void queries.invalidateQueries({ queryKey: asks.visit(id).queryKey });
      refreshFits(queries);
    },
  });
  if (!visit.data)
    return (
      <Sheet title={t`Visit`} onClose={onClose}>
        {visit.error?.message ?? t`Opening …`}
      </Sheet>
    );
  const item = visit.data;
  const location = setup.locations.find((place) => place.id === item.locationId)!;
  const { mark, word } = marks[item.state];
  const problem = act.error instanceof Problem ? act.error : null;
  return (
    <Sheet title={`${item.client.givenName} ${item.client.familyName}`} onClose={onClose}>
      <Box fontWeight="600" mb="2" aria-live="polite">
        <Box as="span" fontFamily="sans-serif" aria-hidden>
          {mark}
        </Box>{" "}
        {word}
        {item.isFirst && ` · ${t`first visit`}`} · {item.source === "Online" ? t`booked online` : t`booked at the desk`}
      </Box>
      {item.client.alert && (
        <Box color="clay" fontWeight="700" borderLeftWidth="mark" borderColor="clay" pl="2.5" mb="2">
          ! {item.client.alert}
        </Box>
      )}
      {item.claims.some((claim) => claim.overbooked) && (
        <Box color="clay" fontWeight="700" borderLeftWidth="mark" borderColor="clay" pl="2.5" mb="2">
          <Trans>◥ Clash: booked over another visit.</Trans>
        </Box>
      )}
      {problem && (
        <Refusal>
          {problem.message} <Reasons body={problem.body} />
        </Refusal>
      )}
      {moved && mode === "look" && (
        <Box
          role="status"
          bg="glow"
          borderRadius="card"
          px="2.5"
          py="1.5"
          mb="2"
          display="flex"
          alignItems="center"
          justifyContent="space-between"
          gap="2"
        >
          <Trans>
            Moved from {shortDate(dateIn(moved.from, item.zone))}, {clock(moved.from, item.zone)}.
            <Press
              size="small"
              onClick={() => act.mutate({ kind: "move", start: moved.from, practitionerId: moved.by })}
            >
              Put it back
            </Press>
          </Trans>
        </Box>
      )}
      {mode === "move" ? (
        <MoveForm
          visit={item}
          zone={location.zone}
          date={date}
          busy={act.isPending}
          onFits={onFits}
          onDay={onDay}
          onStop={() => setMode("look")}
          setup={setup}
          onMove={(chosen) =>
            act.mutate({ kind: "move", start: chosen.start, practitionerId: chosen.practitionerId, chosen })
          }
        />
      ) : mode === "cancel" ? (
        <CancelForm
          visit={item}
          busy={act.isPending}
          error={problem?.errors["reason"]}
          onStop={() => setMode("look")}
          onCancel={(reason, by) => act.mutate({ kind: "cancel", reason, by })}
        />
      ) : mode === "history" ? (
        <HistoryList id={id} setup={setup} zone={location.zone} onStop={() => setMode("look")} />
      ) : (
        <>
          <Facts visit={item} location={location.name} />
          {mayKeep && (
            <Box display="flex" flexWrap="wrap" gap="1.5" mt="3.5">
              {item.next
                .filter((state) => state !== "cancelled" && !(item.state === "noShow" && state === "confirmed"))
                .map((state, i) => (
                  <Press
                    key={state}
                    look={i === 0 && isForward(item.state, state) ? "primary" : "plain"}
                    disabled={act.isPending}
                    onClick={() => act.mutate({ kind: "state", state })}
                  >
                    {verb(item.state, state)}
                  </Press>
                ))}
              {item.canMove && (
                <Press onClick={() => setMode("move")}>
                  <Trans>Move</Trans>
                </Press>
              )}
              {item.next.includes("cancelled") && (
                <Press look="danger" onClick={() => setMode("cancel")}>
                  <Trans>Cancel visit</Trans>
                </Press>
              )}
            </Box>
          )}
          <Box display="flex" gap="1.5" mt="2.5">
            {mayKeep && (
              <Press look="quiet" size="small" onClick={() => onClient(item.client.id)}>
                <Trans>Client</Trans>
              </Press>
            )}
            <Press look="quiet" size="small" onClick={() => setMode("history")}>
              <Trans>History</Trans>
            </Press>
          </Box>
        </>
      )}
    </Sheet>
  );
}

function Facts({ visit, location }: { visit: Visit; location: string }) {
  return (
    <Box>
      <Fact label={t`When`}>
        {longDate(visit.date)}
        <br />
        {clockRange(visit.start, visit.end, visit.zone)}
      </Fact>
      {visit.lines.map((line) => (
        <Box key={line.id}>
          <Fact label={t`Service`}>{line.service}</Fact>
          <Fact label={t`With`}>{line.practitioners.map((who) => who.name).join(" and ") || t`nobody`}</Fact>
          <Fact label={t`Where`}>{[...line.rooms, location].join(", ")}</Fact>
          {line.addOns.length > 0 && <Fact label={t`Extras`}>{line.addOns.map((addOn) => addOn.name).join(", ")}</Fact>}
          {line.equipment.length > 0 && <Fact label={t`Equipment`}>{line.equipment.join(", ")}</Fact>}
        </Box>
      ))}
      <Fact label={t`Price`}>{money(visit.price)}</Fact>
      <Fact label={t`Mobile`}>
        {visit.client.phone ? <a href={`tel:${visit.client.phone}`}>{visit.client.phone}</a> : t`none`}
      </Fact>
      <Fact label={t`E-mail`}>{visit.client.email ?? t`none`}</Fact>
      <Fact label={t`Reference`}>{visit.reference}</Fact>
      {visit.answers.map((answer) => (
        <Fact key={answer.question} label={answer.question}>
          {answer.answer}
        </Fact>
      ))}
      {visit.note && <Fact label={t`Note`}>{visit.note}</Fact>}
      {visit.cancelReason && (
        <Fact label={visit.cancelledBy === "business" ? t`Cancelled by us` : t`Cancelled`}>
          {visit.cancelReason}
          {visit.cancelledLate && ` (${t`too late: counts with the no-shows`})`}
        </Fact>
      )}
    </Box>
  );
}
