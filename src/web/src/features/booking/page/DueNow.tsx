import { plural } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import type { Hold } from "../../../api/public";
import { money } from "../../../shared/format";

const Box = chakra("div");
const List = chakra("ul");

/** What is due before the visit is booked, and what cancelling it costs. */
export function DueNow({ kept }: { kept: Hold }) {
  const isDue = Number(kept.due.amount) > 0;
  return (
    <>
      {kept.answerHours != null && (
        <Box borderLeftWidth="mark" borderColor="kingcup" pl="3">
          <Trans>
            We look at each of these bookings first. The time is kept for you, and you hear from us within{" "}
            {plural(Number(kept.answerHours), { one: "an hour", other: "# hours" })}.
          </Trans>
        </Box>
      )}
      {(isDue || kept.needsCard) && (
        <Box bg="glow" borderRadius="card" px="3.5" py="2.5">
          {isDue ? (
            <Trans>
              Due now by card: <b>{money(kept.due)}</b>. {money(kept.rest)} is left to pay at the visit.
            </Trans>
          ) : (
            <Trans>
              A card has to be kept before this is booked. <b>Nothing is taken now.</b>
            </Trans>
          )}{" "}
          <Trans>The card is kept for what cancelling late or not coming costs.</Trans>
        </Box>
      )}
      {kept.policy.length > 0 && (
        <Box as="section" aria-labelledby="policy">
          <Box as="h3" id="policy" fontSize="text" fontWeight="700">
            <Trans>If you cannot come</Trans>
          </Box>
          <List ps="5" listStyleType="disc">
            {kept.policy.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </List>
        </Box>
      )}
    </>
  );
}
