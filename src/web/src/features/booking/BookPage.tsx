import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { chakra } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { type Client, type DeskSetup, type Session, type Visit } from "../../api/staff";
import { Frame, Message } from "../../desk/Frame";
import { Keys } from "../../desk/Keys";
import { BookSheets } from "./BookSheets";
import { InTheHouse } from "./InTheHouse";
import { Lanes } from "./Lanes";
import { TopLine } from "./TopLine";
import { Tray } from "./Tray";
import { standing, type Carried } from "./carry/carried";
import type { Drawn } from "./carry/useDrawing";
import { useFinding } from "./finding";
import { untilFree } from "./kept";
import { useNeighbours } from "./useNeighbours";
import { useOpening } from "./useOpening";
import type { VisitMode } from "./VisitSheet";
import { useBookKeys } from "./useBookKeys";
import { useLightsAhead } from "./carry/useLightsAhead";
import { usePickingUp } from "./carry/usePickingUp";
import { underneath } from "./Sheet";
import { sheetPixels } from "../../theme/book";
import { linesAgain } from "./lines/lineDrafts";
import { visitDrafts } from "./visitDrafts";

const Box = chakra("div");

/** One day of the book of one location, with the sheet of what is chosen. The address says all of it. */
export function BookPage({ session, setup }: { session: Session; setup: DeskSetup }) {
  const { locationId = "", date = "" } = useParams();
  const [search] = useSearchParams();
  const [carried, setCarried] = useState<Carried | null>(null);
  // What is dragged goes before what a sheet carries, and gives it back when it is put down.
  const [dragged, setDragged] = useState<Carried | null>(null);
  const [showKeys, setShowKeys] = useState(false);
  const location = setup.locations.find((other) => other.id === locationId);
  const mayKeep = session.rights.includes("keep-book");
  const draftId = mayKeep ? search.get("new") : null;
  const isNew = draftId !== null;

  const day = useQuery({
    ...asks.day(locationId, date),
    placeholderData: (before) => (before?.locationId === locationId ? before : undefined),
    refetchInterval: (query) => Math.min(120_000, untilFree(query.state.data) || 120_000),
  });
  useNeighbours(locationId, date, day.isSuccess && !day.isPlaceholderData);
  // A link may name one appointment; what opens is the visit it belongs to.
  const appointmentId = search.get("appointment");
  const visitId =
    search.get("visit") ??
    (appointmentId && day.data?.visits.find((visit) => visit.lines.some((line) => line.id === appointmentId))?.id) ??
    null;

  const visit = day.data?.visits.find((other) => other.id === visitId);
  useLightsAhead(visit, date, mayKeep);
  const clientId = mayKeep && !isNew && !visitId ? search.get("client") : null;
  const mayChangeDays = mayKeep && session.rights.includes("keep-days");
  const besides = mayChangeDays && !isNew && !visitId && !clientId;
  const lane = besides ? day.data?.lanes.find((other) => other.id === search.get("lane")) : undefined;
  const isCovering = besides && !lane && search.get("cover") !== null;
  const open = useOpening(locationId);

  const openVisit = useCallback((id: string) => open.visit(id), [open]);

  // Another place pointed at keeps who and what: a sheet that is open goes on.
  const fresh = useCallback(() => open.draft(draftId ?? crypto.randomUUID()), [draftId, open]);
  // A client who was found: the visit that is open goes on with them, or their own is opened.
  const forClient = (client: Client, again?: Visit) => {
    const id = visitDrafts.forClient(client, draftId, locationId);
    if (again) visitDrafts.set(id, locationId, { lines: linesAgain(again, setup) });
    if (id !== draftId) open.draft(id);
  };
  const pointAt = useCallback(
    (practitionerId: string | null, at: string) => {
      const id = draftId ?? crypto.randomUUID();
      if (practitionerId) visitDrafts.give(id, locationId, practitionerId);
      open.show({ new: id, at, ...(practitionerId && { by: practitionerId }) });
    },
    [draftId, locationId, open],
  );

  // A stroke over a practitioner's free time begins a visit; over a room's, where nobody is booked, a block.
  const draw = useCallback(
    ({ laneId, kind, from, until }: Drawn) => {
      if (kind !== "practitioner" && mayChangeDays) return open.drawn(laneId, from, until);
      const id = draftId ?? crypto.randomUUID();
      if (kind === "practitioner") visitDrafts.give(id, locationId, laneId);
      open.show({ new: id, at: from, until, ...(kind === "practitioner" && { by: laneId }) });
    },
    [draftId, locationId, mayChangeDays, open],
  );

  const find = useFinding({
    setup,
    locationId,
    date,
    onLane: mayChangeDays ? open.lane : null,
    onCover: open.cover,
    onDraft: open.draft,
    onDay: open.day,
  });
  const queries = useQueryClient();
  const mode = (search.get("do") ?? "look") as VisitMode;
  // It glows from the key on; the sheet, which narrows it down, follows. What is carried already keeps how it is narrowed down.
  const move = (taken: Visit) => {
    if (mode === "move" && visitId === taken.id) return;
    const elsewhere = (laneId: string | null, at: string) =>
      open.visit(taken.id, "move", { at, ...(laneId && { by: laneId }) });
    setCarried({
      ...standing(taken),
      take: (place) => elsewhere(place.practitionerId, place.start),
      ask: elsewhere,
    });
    open.visit(taken.id, "move");
  };
  // Only a sheet that is there carries something; one that was closed in the same moment does not.
  const carries = isNew || (visitId !== null && ["move", "change", "answer"].includes(mode));
  const setMode = (next: VisitMode) => visitId && open.visit(visitId, next);
  const pointFor = useCallback(
    (practitionerId: string | null, at: string) =>
      visitId &&
      open.visit(visitId, mode === "look" ? "move" : mode, { at, ...(practitionerId && { by: practitionerId }) }),
    [mode, open, visitId],
  );
  const { pickUp, letGo, stretch, stretchBy } = usePickingUp({
    date,
    carry: setDragged,
    onDay: open.day,
    onVisit: open.visit,
  });
  useBookKeys({
    date,
    location,
    mayKeep,
    visit,
    onDay: open.day,
    onNew: fresh,
    onMove: move,
    onCut: (taken) => {
      move(taken);
      document.getElementById(underneath)?.focus();
    },
    onAgain: (visit) => {
      const id = crypto.randomUUID();
      const known = queries.getQueryData<Client>(["client", visit.client.id]);
      visitDrafts.set(id, locationId, {
        client: known ?? { ...visit.client, visits: 1, noShows: 0, lateCancellations: 0 },
        lines: linesAgain(visit, setup),
      });
      open.draft(id);
    },
    onNone: open.none,
    onKeys: () => setShowKeys(true),
  });

  if (!location)
    return (
      <Message>
        <Trans>There is no such location.</Trans>
      </Message>
    );
  return (
    <Frame session={session}>
      <TopLine
        setup={setup}
        location={location}
        date={date}
        mayKeep={mayKeep}
        onDay={open.day}
        onNew={fresh}
        onClient={(client) => forClient(client)}
        onUsual={forClient}
        find={find}
      />
      <Box display="flex" flex="1" minH="0" position="relative">
        <Box
          as="main"
          id={underneath}
          tabIndex={-1}
          outline="none"
          flex="1"
          minW="0"
          aria-label={t`Book`}
          // The day before stays in sight while the next is fetched, but nothing in it can be pressed.
          {...(day.isPlaceholderData && { inert: true, "aria-busy": true, opacity: 0.35 })}
        >
          {day.data ? (
            <Lanes
              day={day.data}
              chosen={visitId}
              at={search.get("at")}
              covered={isNew || visitId || clientId || lane || isCovering ? sheetPixels : 0}
              carried={dragged ?? (carries ? carried : null)}
              onVisit={openVisit}
              onFree={mayKeep ? pointAt : undefined}
              onLane={mayChangeDays ? open.lane : undefined}
              pickUp={mayKeep ? pickUp : null}
              onStretch={mayKeep ? stretch : undefined}
              onStretchBy={mayKeep ? stretchBy : undefined}
              onEdge={mayChangeDays ? open.edge : undefined}
              onDraw={mayKeep ? draw : undefined}
              letGo={letGo}
            />
          ) : (
            <Message>{day.error?.message ?? t`Opening the day …`}</Message>
          )}
        </Box>
        <BookSheets
          {...{
            setup,
            location,
            date,
            mayKeep,
            mayChangeDays,
            search,
            draftId,
            visitId,
            visit,
            clientId,
            lane,
            isCovering,
            mode,
            open,
          }}
          self={session.staffId!}
          practitionerId={session.practitionerId ?? null}
          mayTakeOut={session.rights.includes("take-back")}
          at={search.get("at")}
          by={search.get("by")}
          onCarry={setCarried}
          onPoint={pointAt}
          onPointFor={pointFor}
          onMode={setMode}
          onClient={(client) => forClient(client)}
        />
      </Box>
      {day.data && <InTheHouse day={day.data} onVisit={openVisit} />}
      <Tray open={draftId} onDraft={open.draft} here={`${locationId} ${date}`} onCover={mayKeep ? open.cover : null} />
      {showKeys && <Keys onClose={() => setShowKeys(false)} />}
    </Frame>
  );
}
