import { Trans } from "@lingui/react/macro";
import { asks } from "../api/queries";
import { useQuery } from "@tanstack/react-query";
import { lazy, type ReactNode } from "react";
import { phone } from "../theme/media";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { rememberToken, staff, type DeskSetup, type Session } from "../api/staff";
import { Boundary } from "../shared/Boundary";
import { Box } from "../shared/layout";
import { answerOf, Problem } from "../shared/problem";
import { visitDrafts } from "../features/booking/visitDrafts";
import { UnsavedGuard } from "../shared/unsaved";
import { SignIn } from "../features/signin/SignIn";
import { Welcome } from "../features/signin/Welcome";
import { BookPage } from "../features/booking/BookPage";
import { Frame, Message } from "./Frame";
import { useLive } from "./live";
import { Toasts } from "./Toasts";
import { setTints } from "../features/booking/tints";

// The book opens at once; the setup is fetched when somebody goes there.
const TeamPage = lazy(() => import("../features/team/TeamPage").then((page) => ({ default: page.TeamPage })));
const PractitionerPage = lazy(() =>
  import("../features/team/PractitionerPage").then((page) => ({ default: page.PractitionerPage })),
);
const QualificationsPage = lazy(() =>
  import("../features/team/QualificationsPage").then((page) => ({ default: page.QualificationsPage })),
);
const ExtraShiftsPage = lazy(() =>
  import("../features/calendar/extra/ExtraShiftsPage").then((page) => ({ default: page.ExtraShiftsPage })),
);
const RoomsPage = lazy(() => import("../features/rooms/RoomsPage").then((page) => ({ default: page.RoomsPage })));
const ServicesPage = lazy(() =>
  import("../features/services/ServicesPage").then((page) => ({ default: page.ServicesPage })),
);
const PromosPage = lazy(() => import("../features/plans/PromosPage").then((page) => ({ default: page.PromosPage })));
const AddOnsPage = lazy(() => import("../features/services/AddOnsPage").then((page) => ({ default: page.AddOnsPage })));
const MyShiftsPage = lazy(() =>
  import("../features/calendar/MyShiftsPage").then((page) => ({ default: page.MyShiftsPage })),
);
const MessagesPage = lazy(() =>
  import("../features/messages/MessagesPage").then((page) => ({ default: page.MessagesPage })),
);
const MessageRulesPage = lazy(() =>
  import("../features/messages/RulesPage").then((page) => ({ default: page.RulesPage })),
);
const SetupPage = lazy(() => import("../features/business/SetupPage").then((page) => ({ default: page.SetupPage })));
const AccountPage = lazy(() =>
  import("../features/signin/AccountPage").then((page) => ({ default: page.AccountPage })),
);
const GuidePage = lazy(() =>
  import("../features/business/guide/GuidePage").then((page) => ({ default: page.GuidePage })),
);
const MyDayPage = lazy(() =>
  import("../features/booking/myDay/MyDayPage").then((page) => ({ default: page.MyDayPage })),
);
const ClientsPage = lazy(() =>
  import("../features/clients/list/ClientsPage").then((page) => ({ default: page.ClientsPage })),
);
const ClientPage = lazy(() =>
  import("../features/clients/record/ClientPage").then((page) => ({ default: page.ClientPage })),
);
const TidyPage = lazy(() => import("../features/clients/merge/TidyPage").then((page) => ({ default: page.TidyPage })));
const BesidePage = lazy(() =>
  import("../features/clients/merge/BesidePage").then((page) => ({ default: page.BesidePage })),
);
const WeekPage = lazy(() => import("../features/booking/views/WeekPage").then((page) => ({ default: page.WeekPage })));
const MonthPage = lazy(() =>
  import("../features/booking/views/MonthPage").then((page) => ({ default: page.MonthPage })),
);
const AgendaPage = lazy(() =>
  import("../features/booking/agenda/AgendaPage").then((page) => ({ default: page.AgendaPage })),
);
const SheetsPage = lazy(() =>
  import("../features/booking/agenda/SheetsPage").then((page) => ({ default: page.SheetsPage })),
);
const WhyNotPage = lazy(() =>
  import("../features/availability/whynot/WhyNotPage").then((page) => ({ default: page.WhyNotPage })),
);

/** Everything of the desk; only choosing a first password needs no sign-in. */
export function Desk() {
  const { pathname } = useLocation();
  return pathname.startsWith("/welcome/") ? (
    <Routes>
      <Route path="/welcome/:token" element={<Welcome />} />
    </Routes>
  ) : (
    <Inside />
  );
}

function Inside() {
  const { pathname } = useLocation();
  const session = useQuery({
    queryKey: asks.session().queryKey,
    queryFn: async () => {
      const answer = await answerOf(staff.GET("/api/v1/session"));
      rememberToken(answer.token);
      visitDrafts.belongTo(`${answer.name}, ${answer.role}`);
      return answer;
    },
    staleTime: Infinity,
  });
  if (session.isPending) return null;
  if (session.error instanceof Problem && session.error.status === 401) return <SignIn />;
  if (!session.data) return <Message>{session.error?.message}</Message>;
  const account = (
    <Frame session={session.data}>
      <Boundary>
        <AccountPage needsCode={session.data.needsCode === true} />
      </Boundary>
    </Frame>
  );
  if (pathname === "/account" || session.data.needsCode) return account;
  if (!session.data.rights.includes("see-book"))
    return (
      <Frame session={session.data}>
        <Message>
          <Trans>Your role does not see the book. The till and the figures it is for are not open yet.</Trans>
        </Message>
      </Frame>
    );
  return <SignedIn session={session.data} />;
}

function SignedIn({ session }: { session: Session }) {
  const setup = useQuery({
    queryKey: asks.desk().queryKey,
    queryFn: async () => {
      const answer = await answerOf(staff.GET("/api/v1/setup"));
      document.documentElement.lang = answer.locale;
      setTints(
        answer.categories.map((category) => category.id),
        answer.practitioners.map((practitioner) => practitioner.id),
      );
      return answer;
    },
  });
  const isLive = useLive();
  if (setup.isPending) return null;
  if (!setup.data) return <Message>{setup.error?.message}</Message>;
  const framed = (page: ReactNode) => (
    <Frame session={session}>
      <Boundary>{page}</Boundary>
    </Frame>
  );
  return (
    <>
      {!isLive && <Down />}
      <UnsavedGuard />
      <Toasts />
      <Routes>
        <Route path="/day/:locationId/:date" element={<BookPage session={session} setup={setup.data} />} />
        {setup.data.locations.length > 0 && (
          <>
            <Route path="/week/:locationId/:date" element={framed(<WeekPage session={session} setup={setup.data} />)} />
            <Route path="/month/:locationId/:date" element={framed(<MonthPage setup={setup.data} />)} />
            <Route
              path="/agenda/:locationId/:date"
              element={framed(<AgendaPage session={session} setup={setup.data} />)}
            />
            <Route path="/sheets/:locationId/:date" element={framed(<SheetsPage setup={setup.data} />)} />
          </>
        )}
        {session.rights.includes("keep-book") && (
          <>
            <Route path="/why-not" element={framed(<WhyNotPage mayEdit={session.rights.includes("edit-setup")} />)} />
            <Route path="/messages" element={framed(<MessagesPage session={session} />)} />
            <Route path="/clients" element={framed(<ClientsPage session={session} />)} />
            <Route path="/clients/tidy" element={framed(<TidyPage />)} />
            <Route path="/clients/:id" element={framed(<ClientPage setup={setup.data} />)} />
            <Route path="/clients/:id/beside/:other" element={framed(<BesidePage setup={setup.data} />)} />
          </>
        )}
        {session.practitionerId && setup.data.locations.length > 0 && (
          <Route path="/my-day" element={framed(<MyDayPage session={session} setup={setup.data} />)} />
        )}
        {session.practitionerId && session.rights.includes("edit-shifts") && (
          <Route path="/my-shifts/:tab?" element={framed(<MyShiftsPage session={session} />)} />
        )}
        {session.rights.includes("edit-setup") && (
          <>
            <Route path="/team" element={framed(<TeamPage />)} />
            <Route path="/team/qualifications" element={framed(<QualificationsPage />)} />
            <Route path="/team/extra-shifts" element={framed(<ExtraShiftsPage />)} />
            <Route path="/team/:id/:tab?" element={framed(<PractitionerPage />)} />
            <Route path="/rooms" element={framed(<RoomsPage />)} />
            <Route path="/services/add-ons" element={framed(<AddOnsPage />)} />
            <Route path="/services/promos" element={framed(<PromosPage />)} />
            <Route path="/services/:id?" element={framed(<ServicesPage />)} />
            <Route path="/messages/rules" element={framed(<MessageRulesPage />)} />
            <Route path="/setup/:part?" element={framed(<SetupPage />)} />
            <Route path="/begin" element={framed(<GuidePage session={session} />)} />
          </>
        )}
        <Route path="*" element={<Today session={session} setup={setup.data} />} />
      </Routes>
    </>
  );
}

/** Said while this screen hears nothing of what others change. */
const Down = () => (
  <Box
    role="status"
    position="fixed"
    bottom="2.5"
    insetInline="0"
    mx="auto"
    w="fit-content"
    maxW="92vw"
    zIndex={70}
    px="3.5"
    py="2"
    bg="ink"
    color="paper"
    borderRadius="card"
  >
    <Trans>The connection is down. What you see may be old; it is tried again by itself.</Trans>
  </Box>
);

function Today({ session, setup }: { session: Session; setup: DeskSetup }) {
  const first = setup.locations[0];
  // On a telephone a practitioner has their own day first, and the desk the agenda: not the lanes.
  if (first && window.matchMedia(phone.slice("@media ".length)).matches)
    return <Navigate to={session.practitionerId ? "/my-day" : `/agenda/${first.id}/${first.today}`} replace />;
  if (first) return <Navigate to={`/day/${first.id}/${first.today}`} replace />;
  if (session.rights.includes("edit-setup")) return <Navigate to="/begin" replace />;
  return (
    <Frame session={session}>
      <Message>
        <Trans>
          This business has nothing in it yet: no location, nobody who works, no service. Its owner has to describe it
          first.
        </Trans>
      </Message>
    </Frame>
  );
}
