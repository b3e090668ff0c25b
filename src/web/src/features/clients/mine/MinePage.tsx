import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { visitors, type Own } from "../../../api/public";
import { visitorsAsk } from "../../../api/visitorQueries";
import { Press } from "../../../shared/Press";
import { askAnew } from "../../../shared/askAnew";
import { answerOf, Problem } from "../../../shared/problem";
import { shownHere } from "../../../shared/shownHere";
import { visit as recipe } from "../../../theme/recipes/visit";
import { CancelStep } from "./CancelStep";
import { Door } from "./Door";
import { MoveStep } from "./MoveStep";
import { OwnBookings } from "./OwnBookings";
import { PaidStep } from "./PaidStep";
import { goTo, leave, useStep } from "./steps";

const Box = chakra("div");
const Home = chakra("a", { base: { textDecoration: "underline" } });

/** The secret of the link that was sent, taken out of the address before anything else is done. */
function takeToken(): string | null {
  const token = window.location.hash.slice(1);
  if (token) window.history.replaceState(null, "", window.location.pathname + window.location.search);
  return token || null;
}

/** One's own bookings: by the link that was sent, or by a code. */
export function MinePage() {
  const styles = useSlotRecipe({ recipe })();
  const [token] = useState(takeToken);
  const opened = useQuery({
    queryKey: ["mine", "opened", token],
    queryFn: async () => {
      await answerOf(visitors.POST("/api/public/v1/mine/open", { body: { token } }));
      shownHere.set(true);
      return true;
    },
    enabled: token !== null,
    retry: false,
    staleTime: Infinity,
  });
  const mine = useQuery({ ...visitorsAsk.mine(), enabled: token === null || !opened.isPending });
  useEffect(() => {
    document.title = mine.data ? t`Your bookings at ${mine.data.business}` : t`Your bookings`;
    if (mine.data) document.documentElement.lang = mine.data.locale;
  }, [mine.data]);
  const isOut = mine.error instanceof Problem && mine.error.status === 401;
  return (
    <Box css={styles["page"]}>
      <Box as="header" css={styles["head"]}>
        <Box css={styles["name"]}>{mine.data?.business ?? t`Your bookings`}</Box>
        <Home href="/book">
          <Trans>Book a visit</Trans>
        </Home>
      </Box>
      <Box as="main" maxW="170">
        {isOut ? (
          <Door title={t`Your bookings`} says={opened.error?.message} onIn={() => void mine.refetch()} />
        ) : mine.data ? (
          <Inside mine={mine.data} />
        ) : (
          <Box role={mine.error ? "alert" : "status"}>
            {mine.error?.message ?? t`One moment …`}
            {mine.error && (
              <Press onClick={() => void mine.refetch()}>
                <Trans>Try again</Trans>
              </Press>
            )}
          </Box>
        )}
      </Box>
    </Box>
  );
}

function Inside({ mine }: { mine: Own }) {
  const step = useStep();
  const queries = useQueryClient();
  const [said, setSaid] = useState("");
  const visit = mine.ahead.find((own) => own.id === step.id);
  const done = (words: string) => (after: Own) => {
    queries.setQueryData(visitorsAsk.mine().queryKey, after);
    setSaid(words);
    goTo(null);
  };
  const over = useCallback(
    (words: string) => {
      void askAnew(queries, { queryKey: visitorsAsk.mine().queryKey });
      setSaid(words);
      leave();
    },
    [queries],
  );
  if (step.does === "paid") return <PaidStep id={step.id} onOver={over} />;
  if (visit && step.does === "moves") return <MoveStep key={visit.id} visit={visit} onDone={done(t`It is moved.`)} />;
  if (visit && step.does === "cancels")
    return <CancelStep key={visit.id} visit={visit} onDone={done(t`It is cancelled.`)} />;
  return <OwnBookings mine={mine} said={said} onChosen={done(t`It is booked at the time you chose.`)} />;
}
