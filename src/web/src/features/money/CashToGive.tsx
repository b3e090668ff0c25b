import { Trans } from "@lingui/react/macro";
import { Link } from "react-router";
import type { components } from "../../api/generated/schema";
import { longDate, money } from "../../shared/format";
import { Box } from "../../shared/layout";

type Cash = components["schemas"]["CashAnswer"];

/** What is to be given back to a client in cash, each with the visit it was paid for. */
export function CashToGive({ cash }: { cash: readonly Cash[] }) {
  if (cash.length === 0) return null;
  return (
    <Box bg="glow" borderRadius="card" px="3" py="2" mt="1">
      {cash.map((one) => (
        <Box key={one.visitId}>
          <Trans>
            {money(one.amount)} is to be given back in cash, for{" "}
            <Box asChild textDecoration="underline">
              <Link to={`/day/${one.locationId}/${one.date}?visit=${one.visitId}`}>
                the visit of {longDate(one.date)}
              </Link>
            </Box>
            .
          </Trans>
        </Box>
      ))}
    </Box>
  );
}
