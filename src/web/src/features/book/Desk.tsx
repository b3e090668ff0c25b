import { useQuery } from "@tanstack/react-query";
import { Navigate, Route, Routes } from "react-router";
import { rememberToken, staff, type DeskSetup, type Session } from "../../api/staff";
import { answerOf, Problem } from "../../shared/problem";
import { SignIn } from "../signin/SignIn";
import { BookPage } from "./BookPage";
import { Frame, Message } from "./Frame";
import { useLive } from "./live";
import { setTints } from "./tints";

/** Everything behind the sign-in. */
export function Desk() {
  const session = useQuery({
    queryKey: ["session"],
    queryFn: async () => {
      const answer = await answerOf(staff.GET("/api/v1/session"));
      rememberToken(answer.token);
      return answer;
    },
    staleTime: Infinity,
  });
  if (session.isPending) return null;
  if (session.error instanceof Problem && session.error.status === 401) return <SignIn />;
  if (!session.data) return <Message>{session.error?.message}</Message>;
  if (!session.data.rights.includes("see-book"))
    return (
      <Frame session={session.data}>
        <Message>Your role does not see the book. The till and the figures it is for are not open yet.</Message>
      </Frame>
    );
  return <SignedIn session={session.data} />;
}

function SignedIn({ session }: { session: Session }) {
  const setup = useQuery({
    queryKey: ["setup"],
    queryFn: async () => {
      const answer = await answerOf(staff.GET("/api/v1/setup"));
      document.documentElement.lang = answer.locale;
      setTints(answer.categories.map((one) => one.id));
      return answer;
    },
  });
  useLive();
  if (setup.isPending) return null;
  if (!setup.data) return <Message>{setup.error?.message}</Message>;
  return (
    <Routes>
      <Route path="/day/:locationId/:date" element={<BookPage session={session} setup={setup.data} />} />
      <Route path="*" element={<Today session={session} setup={setup.data} />} />
    </Routes>
  );
}

function Today({ session, setup }: { session: Session; setup: DeskSetup }) {
  const first = setup.locations[0];
  if (first) return <Navigate to={`/day/${first.id}/${first.today}`} replace />;
  return (
    <Frame session={session}>
      <Message>This business has nothing in it yet: no location, nobody who works, no service.</Message>
    </Frame>
  );
}
