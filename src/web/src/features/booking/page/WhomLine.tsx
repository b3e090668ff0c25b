import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { lazy, Suspense, useState } from "react";
import { Press } from "../../../shared/Press";
import { isFramed, opensIn } from "./framed";
import type { AsWhom } from "./useAsWhom";

const Box = chakra("div");
const Select = chakra("select");
// Fetched only by whoever wants it: most book without.
const Door = lazy(async () => ({ default: (await import("../../clients/mine/Door")).Door }));

/** As whom somebody books, and the way to show who one is: from then on the times are those they may have. */
export function WhomLine({ whom }: { whom: AsWhom }) {
  const [opens, setOpens] = useState(false);
  if (whom.person)
    return (
      <Box display="flex" flexWrap="wrap" columnGap="3" alignItems="center" role="status">
        {whom.people.length > 1 ? (
          <Trans>
            For{" "}
            <Select
              aria-label={t`Who comes`}
              borderWidth="line"
              borderColor="line"
              borderRadius="card"
              bg="sheet"
              px="2"
              minH="11"
              value={whom.person.id}
              onChange={(event) => whom.choose(event.target.value)}
            >
              {whom.people.map((person) => (
                <option key={person.id} value={person.id}>
                  {person.name}
                </option>
              ))}
            </Select>
          </Trans>
        ) : (
          <span>
            <Trans>
              For <b>{whom.person.name}</b>
            </Trans>
          </span>
        )}
        {whom.mayBookAsNew && (
          <Press look="quiet" onClick={() => whom.choose(null)}>
            <Trans>Somebody else</Trans>
          </Press>
        )}
      </Box>
    );
  if (whom.people.length > 0)
    return (
      <Box display="flex" flexWrap="wrap" gap="2">
        {whom.people.map((person) => (
          <Press key={person.id} look="quiet" onClick={() => whom.choose(person.id)}>
            <Trans>For {person.name}</Trans>
          </Press>
        ))}
      </Box>
    );
  if (!whom.access.knownPeople) return null;
  return opens ? (
    <Box
      as="section"
      aria-label={t`Show who you are`}
      borderWidth="line"
      borderColor="line"
      borderRadius="card"
      bg="sheet"
      p="4"
    >
      <Showing whom={whom} onIn={() => setOpens(false)} />
      <Press look="quiet" onClick={() => setOpens(false)}>
        <Trans>Go on without</Trans>
      </Press>
    </Box>
  ) : (
    // In line with what stands around it: its own edge is not seen.
    <Box ms="-3.5">
      <Press look="quiet" onClick={() => (isFramed ? window.open(window.location.href, opensIn) : setOpens(true))}>
        <Trans>Been here before? Show who you are</Trans>
      </Press>
    </Box>
  );
}

/** The way to show who one is, for whoever is about to book. */
export function Showing({ whom, says, onIn }: { whom: AsWhom; says?: string; onIn?: () => void }) {
  return (
    <Suspense fallback={<Box role="status">{t`One moment …`}</Box>}>
      <Door
        title={t`Show who you are`}
        level="h2"
        toBook
        says={says}
        onIn={async () => {
          await whom.shown();
          onIn?.();
        }}
      />
    </Suspense>
  );
}
