import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import type { Service } from "../../../api/public";
import { Press } from "../../../shared/Press";
import { needsWords } from "./lines";
import { StepTitle } from "./StepTitle";
import type { AsWhom } from "./useAsWhom";
import { WhomLine } from "./WhomLine";

const Box = chakra("div");

/** What has to come before a service, with the way to book that first. */
export function ComesFirst({
  whom,
  service,
  needs,
  phone,
  onFirst,
}: {
  whom: AsWhom;
  service: Service;
  needs: NonNullable<Service["needs"]>;
  phone: string | null;
  /** Chooses what comes first; null where that is not booked online. */
  onFirst: (() => void) | null;
}) {
  const call = phone && (
    <a href={`tel:${phone.replaceAll(" ", "")}`} style={{ textDecoration: "underline", whiteSpace: "nowrap" }}>
      {phone}
    </a>
  );
  return (
    <Box
      bg="sheet"
      borderWidth="line"
      borderColor="line"
      borderRadius="card"
      p="4"
      display="grid"
      gap="3"
      justifyItems="start"
    >
      <StepTitle>
        <Trans>First comes {needs.name}</Trans>
      </StepTitle>
      <Box>
        {needsWords(service.name, needs)}
        {onFirst && " " + t`Once it is booked, you choose a time for ${service.name} here.`}
      </Box>
      {onFirst && (
        <Press look="primary" size="big" onClick={onFirst}>
          <Trans>Book {needs.name}</Trans>
        </Press>
      )}
      <Box color="quiet">
        {!onFirst
          ? t`Please call us to book it`
          : whom.access.knownPeople
            ? t`You have had it already? Show who you are, or call us`
            : t`You have had it already? Call us`}
        {call && (
          <>
            <Trans> on {call}</Trans>
          </>
        )}
        .
      </Box>
      <WhomLine whom={whom} />
    </Box>
  );
}
