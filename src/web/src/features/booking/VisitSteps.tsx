import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect, useRef, useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { asks as questions } from "../../api/queries";
import type { Visit, VisitState } from "../../api/staff";
import { Dialog } from "../../shared/Dialog";
import { Box, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";
import type { FeeSaid } from "./CancelForm";
import { MissedDialog } from "./MissedDialog";
import { isAsked, isForward, verb } from "./steps";
import type { VisitMode } from "./VisitSheet";

type Props = {
  visit: Visit;
  mayKeep: boolean;
  mayTakeOut: boolean;
  busy: boolean;
  onState: (state: VisitState, fee?: FeeSaid) => void;
  onMode: (mode: VisitMode) => void;
  /** Whether this person may read what was written down about the client. */
  mayRead: boolean;
  onClient: () => void;
  onTakeOut: () => void;
};

/** What can be done with a visit as it stands. */
export function VisitSteps({ visit, mayKeep, mayTakeOut, busy, onState, onMode, mayRead, onClient, onTakeOut }: Props) {
  const [asks, setAsks] = useState(false);
  const [missed, setMissed] = useState(false);
  const money = useQuery({ ...questions.visitMoney(visit.id, visit.version), enabled: mayKeep });
  const fee = money.data?.noShow;
  // The step that was pressed is gone. The focus stays among what comes next, on none of it: pressed twice, nothing is taken back.
  const steps = useRef<HTMLDivElement>(null);
  const seen = useRef(visit.state);
  useEffect(() => {
    if (seen.current !== visit.state && document.activeElement === document.body) steps.current?.focus();
    seen.current = visit.state;
  }, [visit.state]);
  const mayChange = mayKeep && visit.canChange;
  return (
    <>
      {mayKeep && (
        <Row gap="1.5" mt="3.5" ref={steps} tabIndex={-1} role="group" aria-label={t`What comes next`} outline="none">
          {visit.next
            .filter((state) => state !== "cancelled")
            .map((state, i) => (
              <Press
                key={state}
                look={i === 0 && isForward(visit.state, state) ? "primary" : "plain"}
                disabled={busy}
                onClick={() => (state === "noShow" && fee && fee.fee.amount > 0 ? setMissed(true) : onState(state))}
              >
                {verb(visit.state, state)}
              </Press>
            ))}
          {visit.state === "requested" && (
            <Press onClick={() => onMode("answer")}>
              <Trans>Other times</Trans>
            </Press>
          )}
          {visit.canMove && (
            <Press onClick={() => onMode("move")} aria-keyshortcuts="m">
              <Trans>Move</Trans>
            </Press>
          )}
          {mayChange && (
            <Press onClick={() => onMode("change")}>
              <Trans>Change</Trans>
            </Press>
          )}
          {visit.next.includes("cancelled") && (
            <Press look="danger" onClick={() => onMode("cancel")}>
              {isAsked(visit.state) ? t`Decline` : t`Cancel visit`}
            </Press>
          )}
        </Row>
      )}
      <Row gap="1.5" mt="2.5">
        {mayKeep && (
          <Press look="quiet" size="small" onClick={onClient}>
            <Trans>Client</Trans>
          </Press>
        )}
        {mayRead && (
          <Press look="quiet" size="small" onClick={() => onMode("notes")}>
            <Trans>Notes</Trans>
          </Press>
        )}
        <Press look="quiet" size="small" onClick={() => onMode("history")}>
          <Trans>History</Trans>
        </Press>
        {mayTakeOut && (
          <Press look="quiet" size="small" onClick={() => setAsks(true)}>
            <Trans>Entered by mistake</Trans>
          </Press>
        )}
      </Row>
      {missed && fee && (
        <MissedDialog
          fee={fee}
          free={money.data!.cancelledByBusiness}
          mayWaive={money.data!.mayWaive}
          onStop={() => setMissed(false)}
          onMissed={(waive) => {
            setMissed(false);
            onState("noShow", { feeSeen: Number(fee.fee.amount), waive });
          }}
        />
      )}
      {asks && (
        <Dialog
          name={t`Entered by mistake`}
          title={<Trans>Entered by mistake?</Trans>}
          maxW="115"
          onClose={() => setAsks(false)}
        >
          <Box mb="4">
            <Trans>
              The visit is taken out of the book as if it had never been; only its history stays. This cannot be undone.
              A client who does not come after all is cancelled instead.
            </Trans>
          </Box>
          <Row>
            <Press
              look="danger"
              disabled={busy}
              onClick={() => {
                setAsks(false);
                onTakeOut();
              }}
            >
              <Trans>Take it out</Trans>
            </Press>
            <Press autoFocus onClick={() => setAsks(false)}>
              <Trans>Keep it</Trans>
            </Press>
          </Row>
        </Dialog>
      )}
    </>
  );
}
