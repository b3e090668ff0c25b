import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { lazy, Suspense, useEffect, type ReactNode } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { Press } from "../../../shared/Press";

const Box = chakra("div", { base: { display: "grid", gap: "3", justifyItems: "start" } });

// What comes last is fetched while the times are looked at: the first picture does not wait for it.
const details = () => import("./Details"),
  paying = () => import("./Paying"),
  done = () => import("./Done");

// A connection that is away is told where it is needed.
const fetchLast = () => void Promise.allSettled([details(), paying(), done()]);

/** Fetches what comes after the choice of a time, once that which stands around it is drawn. */
export function FetchLast() {
  useEffect(fetchLast, []);
  return null;
}

export const Details = lazy(async () => ({ default: (await details()).Details }));
export const Paying = lazy(async () => ({ default: (await paying()).Paying }));
export const Done = lazy(async () => ({ default: (await done()).Done }));

/** Around what comes last: what cannot be fetched says so, and everything that was chosen stays in the address. */
export function Last({ children }: { children: ReactNode }) {
  // Whoever came by a link to this step: what says that they have booked is here before they do.
  useEffect(fetchLast, []);
  return (
    <ErrorBoundary fallback={<Unfetched />}>
      <Suspense fallback={<Box role="status">{t`One moment …`}</Box>}>{children}</Suspense>
    </ErrorBoundary>
  );
}

const Unfetched = () => (
  <Box role="alert">
    <Trans>This part could not be opened. What you chose is kept.</Trans>
    <Press onClick={() => window.location.reload()}>
      <Trans>Try again</Trans>
    </Press>
  </Box>
);
