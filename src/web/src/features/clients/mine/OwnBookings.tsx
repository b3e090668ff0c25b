import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { visitors, type Own, type OwnVisit } from "../../../api/public";
import { visitorsAsk } from "../../../api/visitorQueries";
import { CheckField } from "../../../shared/fields/CheckField";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { shownHere } from "../../../shared/shownHere";
import { OwnCard } from "./OwnCard";
import { OwnContacts } from "./OwnContacts";
import { OwnPasswords } from "./OwnPasswords";

const Box = chakra("div");
const Stack = chakra("div", { base: { display: "grid", gap: "3" } });
const Onward = chakra("a", { base: { textDecoration: "underline" } });

/** Everything of one's own. */
export function OwnBookings({ mine, said, onChosen }: { mine: Own; said: string; onChosen: (after: Own) => void }) {
  const title = useRef<HTMLHeadingElement>(null);
  useEffect(() => title.current?.focus(), [said]);
  const [first, ...others] = mine.people;
  const named = (visit: OwnVisit) => others.length > 0 || visit.name !== first?.name;
  return (
    <Stack>
      <Box as="h1" ref={title} tabIndex={-1} outline="none" fontSize="page">
        <Trans>Your bookings</Trans>
      </Box>
      <Box color="quiet">{mine.people.map((person) => person.name).join(", ")}</Box>
      {said && (
        <Box role="status" fontWeight="600">
          {said}
        </Box>
      )}
      {mine.ahead.length === 0 && (
        <Box>
          <Trans>
            Nothing is booked. <Onward href="/book">Book a visit</Onward>
          </Trans>
        </Box>
      )}
      {mine.ahead.map((visit) => (
        <OwnCard key={visit.id} visit={visit} named={named(visit)} onChosen={onChosen} />
      ))}
      {mine.past.length > 0 && (
        <details>
          <Box as="summary" cursor="pointer" fontWeight="600" minH="11">
            <Trans>Before, and cancelled ({mine.past.length})</Trans>
          </Box>
          <Stack mt="2">
            {mine.past.map((visit) => (
              <OwnCard key={visit.id} visit={visit} named={named(visit)} onChosen={onChosen} />
            ))}
          </Stack>
        </details>
      )}
      <OwnContacts mine={mine} />
      <Agreed mine={mine} />
      {mine.cards.length > 0 && (
        <Box as="section" aria-label={t`Cards that are kept`}>
          <Box as="h2" fontSize="text" fontWeight="700">
            <Trans>Cards that are kept</Trans>
          </Box>
          {mine.cards.map((card) => (
            <Box key={`${card.digits} ${card.expires}`}>
              <Trans>
                ends in {card.digits}, until {card.expires}
              </Trans>
            </Box>
          ))}
        </Box>
      )}
      <OwnPasswords mine={mine} />
      <OwnData phone={mine.phone ?? null} />
    </Stack>
  );
}

/** What one agrees to; saved as it is pressed. */
function Agreed({ mine }: { mine: Own }) {
  const queries = useQueryClient();
  const save = useMutation({
    mutationFn: (consents: Own["consents"]) =>
      answerOf(visitors.PUT("/api/public/v1/mine/consents", { body: consents })),
    onSuccess: (consents) => queries.setQueryData(visitorsAsk.mine().queryKey, { ...mine, consents }),
  });
  const { texts, news } = save.isPending ? save.variables : mine.consents;
  return (
    <Box as="section" aria-label={t`What you agree to`}>
      <Box as="h2" fontSize="text" fontWeight="700">
        <Trans>What you agree to</Trans>
      </Box>
      <CheckField
        label={t`Text messages about my bookings`}
        checked={texts}
        disabled={save.isPending}
        onChange={(on) => save.mutate({ texts: on, news })}
      />
      <CheckField
        label={t`News by e-mail or text`}
        checked={news}
        disabled={save.isPending}
        onChange={(on) => save.mutate({ texts, news: on })}
      />
      {save.error && <Box role="alert">{save.error.message}</Box>}
    </Box>
  );
}

/** One's data to take along, being forgotten, and leaving. */
function OwnData({ phone }: { phone: string | null }) {
  const queries = useQueryClient();
  const [asks, setAsks] = useState(false);
  const forget = useMutation({ mutationFn: () => answerOf(visitors.POST("/api/public/v1/mine/forget", {})) });
  const leave = useMutation({
    mutationFn: () => answerOf(visitors.POST("/api/public/v1/mine/leave", {})),
    onSuccess: () => {
      shownHere.set(false);
      return queries.resetQueries({ queryKey: visitorsAsk.mine().queryKey });
    },
  });
  return (
    <Stack as="section" aria-label={t`Your data`} justifyItems="start">
      <Box as="h2" fontSize="text" fontWeight="700">
        <Trans>Your data</Trans>
      </Box>
      <Onward href="/api/public/v1/mine/data" download="my-data.json">
        <Trans>Take everything along as a file</Trans>
      </Onward>
      {forget.isSuccess ? (
        <Box role="status">
          <Trans>We have noted it. Somebody looks at it; what the law makes us keep stays.</Trans>
          {phone && t` Questions? Call ${phone}.`}
        </Box>
      ) : asks ? (
        <Box display="flex" flexWrap="wrap" gap="2" alignItems="center">
          <Trans>Shall we forget you? Somebody looks at it; bookings ahead stay until then.</Trans>
          <Press disabled={forget.isPending} onClick={() => forget.mutate()}>
            <Trans>Yes, forget me</Trans>
          </Press>
          <Press look="quiet" onClick={() => setAsks(false)}>
            <Trans>No</Trans>
          </Press>
        </Box>
      ) : (
        <Press look="quiet" onClick={() => setAsks(true)}>
          <Trans>Ask to be forgotten</Trans>
        </Press>
      )}
      {(forget.error ?? leave.error) && <Box role="alert">{(forget.error ?? leave.error)?.message}</Box>}
      <Press disabled={leave.isPending} onClick={() => leave.mutate()}>
        <Trans>Close on this device</Trans>
      </Press>
    </Stack>
  );
}
