import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { type Client, type DeskSetup, type Session } from "../../api/staff";
import { addDays } from "../../shared/format";
import { Frame, Message } from "../../desk/Frame";
import { Keys } from "../../desk/Keys";
import { Lanes } from "./Lanes";
import { NewVisitSheet } from "./NewVisitSheet";
import { TopLine } from "./TopLine";
import { Tray } from "./Tray";
import { VisitSheet } from "./VisitSheet";
import type { Fit } from "./fits";
import { Sheet, underneath } from "./Sheet";
import { visitDrafts } from "./visitDrafts";

const Box = chakra("div");
const ClientSheet = lazy(() => import("../clients/ClientSheet").then((part) => ({ default: part.ClientSheet })));

// A sheet opens and closes in the very moment: the next key that is pressed already means the book.
const atOnce = { flushSync: true };

/** One day of the book of one location, with the sheet of what is chosen. The address says all of it. */
export function BookPage({ session, setup }: { session: Session; setup: DeskSetup }) {
  const { locationId = "", date = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const [fits, setFits] = useState<Fit[] | null>(null);
  const [showKeys, setShowKeys] = useState(false);
  const location = setup.locations.find((other) => other.id === locationId);
  const mayKeep = session.rights.includes("keep-book");
  const draftId = mayKeep ? search.get("new") : null;
  const isNew = draftId !== null;

  const day = useQuery({
    ...asks.day(locationId, date),
    placeholderData: (before) => (before?.locationId === locationId ? before : undefined),
    refetchInterval: 120_000,
  });
  // A link may name one appointment; what opens is the visit it belongs to.
  const appointmentId = search.get("appointment");
  const visitId =
    search.get("visit") ??
    (appointmentId && day.data?.visits.find((visit) => visit.lines.some((line) => line.id === appointmentId))?.id) ??
    null;

  const clientId = mayKeep && !isNew && !visitId ? search.get("client") : null;
  // A sheet that was just closed is gone for the next key, even where the address still follows.
  const hasLeft = useRef(false);
  const open = useMemo(() => {
    const show = (next: Record<string, string>) => {
      hasLeft.current = false;
      setSearch(next, atOnce);
    };
    return {
      visit: (id: string) => show({ visit: id }),
      draft: (id: string) => show({ new: id }),
      client: (id: string) => show({ client: id }),
      none: () => {
        hasLeft.current = true;
        document.getElementById(underneath)?.focus();
        setSearch({}, atOnce);
      },
      day: (next: string, where = locationId) =>
        navigate(`/day/${where}/${next}${hasLeft.current ? "" : window.location.search}`),
    };
  }, [locationId, navigate, setSearch]);

  // Another place pointed at keeps who and what: a sheet that is open goes on.
  const fresh = useCallback(() => open.draft(draftId ?? crypto.randomUUID()), [draftId, open]);
  // A client who was found: the visit that is open goes on with them, or their own is opened.
  const forClient = (client: Client) => {
    const id = visitDrafts.forClient(client, draftId, locationId);
    if (id !== draftId) open.draft(id);
  };
  const pointAt = (practitionerId: string | null, at: string) => {
    const id = draftId ?? crypto.randomUUID();
    visitDrafts.set(id, locationId, { practitionerId: practitionerId ?? "" });
    hasLeft.current = false;
    setSearch({ new: id, at, ...(practitionerId && { by: practitionerId }) }, atOnce);
  };

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.defaultPrevented) return;
      if (event.key === "Escape") return open.none();
      if (event.ctrlKey || event.metaKey || event.altKey || /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName)) return;
      // Keys pressed in a sheet or in something that floats belong there.
      if (target.closest("aside, dialog, [role=dialog], [role=listbox], [role=menu]")) return;
      const keys: Record<string, () => void> = {
        n: () => mayKeep && fresh(),
        t: () => location && open.day(location.today),
        ArrowLeft: () => open.day(addDays(date, -1)),
        ArrowRight: () => open.day(addDays(date, 1)),
        "/": () => document.getElementById("find")?.focus(),
        "?": () => setShowKeys(true),
      };
      const action = keys[event.key];
      if (!action) return;
      event.preventDefault();
      action();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [date, fresh, location, mayKeep, open]);

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
        onClient={forClient}
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
              fits={isNew || visitId ? fits : null}
              onVisit={open.visit}
              onFree={mayKeep ? pointAt : undefined}
            />
          ) : (
            <Message>{day.error?.message ?? t`Opening the day …`}</Message>
          )}
        </Box>
        {isNew && (
          <NewVisitSheet
            key={draftId}
            id={draftId}
            setup={setup}
            location={location}
            date={date}
            at={search.get("at")}
            by={search.get("by")}
            onFits={setFits}
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
            <ClientSheet key={clientId} id={clientId} onVisit={forClient} onClose={open.none} />
          </Suspense>
        )}
        {visitId && !isNew && (
          <VisitSheet
            key={visitId}
            id={visitId}
            setup={setup}
            mayKeep={mayKeep}
            date={date}
            onFits={setFits}
            onDay={(next) => open.day(next)}
            onClient={open.client}
            onClose={open.none}
          />
        )}
      </Box>
      <Tray open={draftId} onDraft={open.draft} />
      {showKeys && <Keys onClose={() => setShowKeys(false)} />}
    </Frame>
  );
}
