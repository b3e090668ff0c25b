import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { staff, type DeskSetup, type Session } from "../../api/staff";
import { addDays } from "../../shared/format";
import { answerOf } from "../../shared/problem";
import { ClientSheet } from "../clients/ClientSheet";
import { Frame, Message } from "../../desk/Frame";
import { Keys } from "../../desk/Keys";
import { Lanes } from "./Lanes";
import { NewVisitSheet } from "./NewVisitSheet";
import { TopLine } from "./TopLine";
import { Tray } from "./Tray";
import { VisitSheet } from "./VisitSheet";
import type { Fit } from "./fits";

const Box = chakra("div");

/** One day of the book of one location, with the sheet of what is chosen. The address says all of it. */
export function BookPage({ session, setup }: { session: Session; setup: DeskSetup }) {
  const { locationId = "", date = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const [fits, setFits] = useState<Fit[] | null>(null);
  const [showKeys, setShowKeys] = useState(false);
  const location = setup.locations.find((other) => other.id === locationId);
  const mayKeep = session.rights.includes("keep-book");
  const isNew = search.has("new") && mayKeep;

  const day = useQuery({
    queryKey: ["day", locationId, date],
    queryFn: () =>
      answerOf(staff.GET("/api/v1/locations/{locationId}/days/{date}", { params: { path: { locationId, date } } })),
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
  const open = useMemo(
    () => ({
      visit: (id: string) => setSearch({ visit: id }),
      fresh: (more: Record<string, string> = {}) => setSearch({ new: "1", ...more }),
      client: (id: string) => setSearch({ client: id }),
      none: () => setSearch({}),
      day: (next: string, where = locationId) => navigate(`/day/${where}/${next}${window.location.search}`),
    }),
    [locationId, navigate, setSearch],
  );

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.key === "Escape") return open.none();
      if (event.ctrlKey || event.metaKey || event.altKey || /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName)) return;
      const keys: Record<string, () => void> = {
        n: () => mayKeep && open.fresh(),
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
  }, [date, location, mayKeep, open]);

  if (!location) return <Message>There is no such location.</Message>;
  return (
    <Frame session={session}>
      <TopLine setup={setup} location={location} date={date} mayKeep={mayKeep} onDay={open.day} onNew={open.fresh} />
      <Box display="flex" flex="1" minH="0">
        <Box as="main" flex="1" minW="0" aria-label="Book">
          {day.data ? (
            <Lanes
              day={day.data}
              chosen={visitId}
              fits={isNew || visitId ? fits : null}
              onVisit={open.visit}
              onFree={
                mayKeep
                  ? (practitionerId, at) => open.fresh({ at, ...(practitionerId && { by: practitionerId }) })
                  : undefined
              }
            />
          ) : (
            <Message>{day.error?.message ?? "Opening the day …"}</Message>
          )}
        </Box>
        {isNew && (
          <NewVisitSheet
            key={search.get("new")}
            setup={setup}
            location={location}
            date={date}
            at={search.get("at")}
            by={search.get("by")}
            clientId={search.get("client")}
            onFits={setFits}
            onDay={(next) => open.day(next)}
            onDone={(id) => open.visit(id)}
            onClient={open.client}
            onClose={open.none}
          />
        )}
        {clientId && (
          <ClientSheet
            key={clientId}
            id={clientId}
            onVisit={() => open.fresh({ client: clientId })}
            onClose={open.none}
          />
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
      <Tray />
      {showKeys && <Keys onClose={() => setShowKeys(false)} />}
    </Frame>
  );
}
