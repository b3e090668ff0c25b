import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../api/queries";
import { refreshBook, refreshFits } from "../../api/refresh";
import { staff, type CancelledBy, type DeskSetup, type Visit, type VisitState } from "../../api/staff";
import { askAnew } from "../../shared/askAnew";
import { andWords } from "../../shared/format";
import { Box } from "../../shared/layout";
import { useOthersIn } from "../../shared/presence";
import { answerOf, Problem } from "../../shared/problem";
import { Press } from "../../shared/Press";
import { say } from "../../shared/toasts";
import { marks } from "./BlockMark";
import { VisitMessages } from "../messages/VisitMessages";
import { VisitMoney } from "../money/VisitMoney";
import { AnswerForm } from "./AnswerForm";
import { CancelForm, type FeeSaid } from "./CancelForm";
import type { Reach } from "./repeat/RowMove";
import type { Carried } from "./carry/carried";
import { HistoryList } from "./HistoryList";
import { LayForm } from "./LayForm";
import { Reasons } from "./Reasons";
import { RequestPart } from "./RequestPart";
import { VisitAlike } from "./VisitAlike";
import { Refusal, Sheet } from "./Sheet";
import { isAsked } from "./steps";
import { undoLast } from "./undo/undoing";
import { useLaying } from "./useLaying";
import { VisitNotes } from "./VisitNotes";
import { VisitFacts } from "./VisitFacts";
import { Versions } from "./Versions";
import { VisitSteps } from "./VisitSteps";

export type VisitMode = "look" | "move" | "change" | "answer" | "cancel" | "history" | "notes";

type Props = {
  id: string;
  /** The visit as the book shows it, until it is fetched itself. */
  known: Visit | undefined;
  setup: DeskSetup;
  /** Who looks. */
  self: string;
  /** The practitioner they are, if they are one. */
  practitionerId: string | null;
  mayKeep: boolean;
  /** Whether this person may take out what was entered by mistake. */
  mayTakeOut: boolean;
  date: string;
  mode: VisitMode;
  at: string | null;
  by: string | null;
  /** A line that was pulled, and how long it would be. */
  length: string | null;
  onMode: (mode: VisitMode) => void;
  onCarry: (carried: Carried | null) => void;
  onPoint: (practitionerId: string | null, start: string) => void;
  onDay: (date: string) => void;
  onClient: (clientId: string) => void;
  onClose: () => void;
};

type Action =
  | { kind: "state"; state: VisitState; fee?: FeeSaid }
  | { kind: "cancel"; reason: string; by: CancelledBy; reach: Reach; fee: FeeSaid; words: string }
  | { kind: "takeOut" };

/** A visit in the book: what it is, and what can be done with it. */
export function VisitSheet(props: Props) {
  const {
    id,
    known,
    setup,
    self,
    practitionerId,
    mayKeep,
    mayTakeOut,
    date,
    mode,
    at,
    by,
    length,
    onMode,
    onCarry,
    onPoint,
    onDay,
    onClient,
    onClose,
  } = props;
  const queries = useQueryClient();
  // As it was seen by whoever was refused a step because it had changed.
  const [seen, setSeen] = useState<Visit | null>(null);
  const visit = useQuery({ ...asks.visit(id), placeholderData: known });
  const act = useMutation({
    mutationFn: (action: Action) => doneTo(visit.data!, action),
    onSuccess: (next, action) => {
      refreshBook(queries);
      setSeen(null);
      if (!next) {
        say(t`The visit is taken out. Its history stays.`);
        return onClose();
      }
      queries.setQueryData(asks.visit(id).queryKey, next);
      if (action.kind === "cancel") {
        say(action.reach === "one" ? t`The visit is cancelled.` : t`The visits are cancelled.`, {
          label: t`Undo (u)`,
          onClick: () => void undoLast(queries),
        });
        onMode("look");
      }
    },
    // Stale or taken: show how it stands now beside the sentence that says so.
    onError: (error) => {
      if (error instanceof Problem && error.code === "stale") setSeen(visit.data ?? null);
      void askAnew(queries, { queryKey: asks.visit(id).queryKey });
      refreshFits(queries);
    },
  });
  const laid = (next: Visit) => {
    // What was opened while this was on its way stays open, with whatever was typed into it.
    if (mode === "move" || mode === "change") onMode("look");
    if (next.date !== date) onDay(next.date);
  };
  const lay = useLaying(laid);
  if (!visit.data)
    return (
      <Sheet title={t`Visit`} onClose={onClose}>
        {visit.error?.message ?? t`Opening …`}
      </Sheet>
    );
  const item = visit.data;
  const location = setup.locations.find((place) => place.id === item.locationId)!;
  const { mark, word } = marks[item.state];
  const failed = act.error ?? lay.error;
  const problem = failed instanceof Problem ? failed : null;
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
      <OthersHere visitId={id} self={self} />
      {problem && (
        <Refusal>
          {problem.message} <Reasons body={problem.body} />
          {seen && seen.version < item.version && <Versions seen={seen} now={item} />}
        </Refusal>
      )}
      {mode === "move" || mode === "change" ? (
        <LayForm
          key={`${mode} ${length ?? ""}`}
          visit={item}
          setup={setup}
          zone={location.zone}
          date={date}
          withLines={mode === "change"}
          at={at}
          by={by}
          length={length}
          busy={lay.isPending}
          errors={lay.error instanceof Problem ? lay.error.errors : {}}
          onCarry={onCarry}
          onPoint={onPoint}
          onDay={onDay}
          onMoved={laid}
          onLay={(start, lines) => lay.mutate({ visit: item, start, lines })}
          onStop={() => onMode("look")}
        />
      ) : mode === "answer" && item.state === "requested" ? (
        <AnswerForm
          visit={item}
          setup={setup}
          zone={location.zone}
          date={date}
          at={at}
          onCarry={onCarry}
          onPoint={onPoint}
          onDay={onDay}
          onStop={() => onMode("look")}
        />
      ) : mode === "cancel" ? (
        <CancelForm
          visit={item}
          busy={act.isPending}
          errors={problem?.errors ?? {}}
          onStop={() => onMode("look")}
          reasons={setup.cancelReasons}
          onCancel={(reason, who, reach, fee, words) =>
            act.mutate({ kind: "cancel", reason, by: who, reach, fee, words })
          }
        />
      ) : mode === "history" ? (
        <HistoryList id={id} setup={setup} zone={location.zone} onStop={() => onMode("look")} />
      ) : mode === "notes" ? (
        <>
          <VisitNotes visitId={id} />
          <Press onClick={() => onMode("look")}>
            <Trans>Back to the visit</Trans>
          </Press>
        </>
      ) : (
        <>
          <VisitFacts visit={item} location={location.name} mayKeep={mayKeep} />
          {mayKeep && isAsked(item.state) && <RequestPart visit={item} zone={location.zone} />}
          <VisitSteps
            visit={item}
            mayKeep={mayKeep}
            mayTakeOut={mayTakeOut}
            busy={act.isPending}
            onState={(state, fee) => act.mutate({ kind: "state", state, ...(fee && { fee }) })}
            onMode={onMode}
            mayRead={mayKeep || item.claims.some((claim) => claim.resourceId === practitionerId)}
            onClient={() => onClient(item.client.id)}
            onTakeOut={() => act.mutate({ kind: "takeOut" })}
          />
          {/* Below what is pressed: what comes a moment later moves no button from under a finger. */}
          {mayKeep && <VisitAlike visit={item} />}
          {mayKeep && <VisitMoney visitId={id} version={item.version} zone={location.zone} />}
          {mayKeep && <VisitMessages visitId={id} version={item.version} zone={location.zone} />}
        </>
      )}
    </Sheet>
  );
}

/** Who else has the same visit open just now. */
function OthersHere({ visitId, self }: { visitId: string; self: string }) {
  const others = useOthersIn(visitId, self);
  return (
    <Box role="status" fontSize="small">
      {others.length > 0 && (
        <Box bg="glow" borderRadius="card" px="2.5" py="1" mb="2">
          <Trans>Open here too: {andWords(others)}</Trans>
        </Box>
      )}
    </Box>
  );
}

/** Does something to a visit over the version that was seen; gives it as it stands then, or nothing where it was taken out. */
async function doneTo(visit: Visit, action: Action): Promise<Visit | null> {
  const params = { path: { id: visit.id }, header: { "If-Match": String(visit.version) } };
  if (action.kind === "state")
    return answerOf(staff.POST("/api/v1/visits/{id}/state", { params, body: { state: action.state, ...action.fee } }));
  if (action.kind === "takeOut") {
    await answerOf(staff.DELETE("/api/v1/visits/{id}", { params }));
    return null;
  }
  const { reason, by, reach, fee, words } = action;
  if (reach === "one")
    return answerOf(staff.POST("/api/v1/visits/{id}/cancel", { params, body: { reason, by, words, ...fee } }));
  const { visits } = await answerOf(
    staff.POST("/api/v1/visits/{id}/series/cancel", { params, body: { reason, by, all: reach === "all" } }),
  );
  return visits.find((other) => other.id === visit.id) ?? visit;
}
