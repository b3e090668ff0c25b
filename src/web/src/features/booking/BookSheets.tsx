import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { lazy, Suspense } from "react";
import type { Client, DeskSetup, Lane, Visit } from "../../api/staff";
import { wallTime } from "../../shared/format";
import type { Carried } from "./carry/carried";
import type { Pulled } from "../calendar/DayEditor";
import { CoverSheet } from "./covering/CoverSheet";
import { LaneSheet } from "./lane/LaneSheet";
import { NewVisitSheet } from "./NewVisitSheet";
import { Sheet } from "./Sheet";
import type { Opening } from "./useOpening";
import { VisitSheet, type VisitMode } from "./VisitSheet";

const ClientSheet = lazy(() => import("../clients/ClientSheet").then((part) => ({ default: part.ClientSheet })));

type Props = {
  setup: DeskSetup;
  location: DeskSetup["locations"][number];
  date: string;
  self: string;
  practitionerId: string | null;
  mayKeep: boolean;
  mayTakeOut: boolean;
  mayChangeDays: boolean;
  draftId: string | null;
  visitId: string | null;
  /** The chosen visit as the book shows it. */
  visit: Visit | undefined;
  clientId: string | null;
  lane: Lane | undefined;
  isCovering: boolean;
  mode: VisitMode;
  at: string | null;
  by: string | null;
  /** More of what the address says: the end of a stretch that was drawn, a line that was pulled. */
  search: URLSearchParams;
  open: Opening;
  onCarry: (carried: Carried | null) => void;
  onPoint: (practitionerId: string | null, start: string) => void;
  onPointFor: (practitionerId: string | null, start: string) => void;
  onMode: (mode: VisitMode) => void;
  onClient: (client: Client) => void;
};

/** A stretch that was drawn in a lane, as wall times. */
function drawnIn(search: URLSearchParams, zone: string) {
  const [from, until] = [search.get("from"), search.get("until")];
  return from && until ? { from: `${wallTime(from, zone)}:00`, until: `${wallTime(until, zone)}:00` } : null;
}

/** An edge of a shift that was pulled, as wall times. */
function pulledIn(search: URLSearchParams, zone: string): Pulled | null {
  const [edge, was, to] = [search.get("edge"), search.get("was"), search.get("to")];
  if ((edge !== "from" && edge !== "until") || !was || !to) return null;
  return { edge, was: wallTime(was, zone), to: `${wallTime(to, zone)}:00` };
}

/** The sheet of what is chosen in the book; one at a time. */
export function BookSheets(props: Props) {
  const {
    setup,
    location,
    date,
    self,
    practitionerId,
    mayKeep,
    mayTakeOut,
    mayChangeDays,
    draftId,
    visitId,
    visit,
    clientId,
    lane,
    isCovering,
    mode,
    at,
    by,
    search,
    open,
  } = props;
  const { onCarry, onPoint, onPointFor, onMode, onClient } = props;
  return (
    <>
      {draftId !== null && (
        <NewVisitSheet
          key={draftId}
          id={draftId}
          setup={setup}
          location={location}
          date={date}
          at={at}
          by={by}
          until={search.get("until")}
          onBlock={mayChangeDays ? open.drawn : null}
          onCarry={onCarry}
          onPoint={onPoint}
          onDay={(next) => open.day(next)}
          onDone={(id) => open.visit(id)}
          onClient={open.client}
          onClose={open.none}
        />
      )}
      {clientId && (
        <Suspense
          fallback={
            <Sheet title={t`Client`} onClose={open.none}>
              <Trans>Opening …</Trans>
            </Sheet>
          }
        >
          <ClientSheet key={clientId} id={clientId} setup={setup} onVisit={onClient} onClose={open.none} />
        </Suspense>
      )}
      {lane && (
        <LaneSheet
          key={`${lane.id} ${date} ${search.get("from") ?? search.get("to") ?? ""}`}
          lane={lane}
          locationId={location.id}
          date={date}
          drawn={drawnIn(search, location.zone)}
          pulled={pulledIn(search, location.zone)}
          onCover={open.cover}
          onClose={open.none}
        />
      )}
      {isCovering && (
        <CoverSheet
          key={date}
          locationId={location.id}
          date={date}
          onMove={(id) => open.visit(id, "move")}
          onClose={open.none}
        />
      )}
      {visitId && draftId === null && (
        <VisitSheet
          key={visitId}
          id={visitId}
          known={visit}
          setup={setup}
          self={self}
          practitionerId={practitionerId}
          mayKeep={mayKeep}
          mayTakeOut={mayTakeOut}
          date={date}
          mode={mode}
          at={at}
          by={by}
          length={search.get("length")}
          onMode={onMode}
          onCarry={onCarry}
          onPoint={onPointFor}
          onDay={(next) => open.day(next)}
          onClient={open.client}
          onClose={open.none}
        />
      )}
    </>
  );
}
