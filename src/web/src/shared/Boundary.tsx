import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Suspense, type ReactNode } from "react";
import { ErrorBoundary, type FallbackProps } from "react-error-boundary";
import { useLocation } from "react-router";
import { Box, Row } from "./layout";
import { Press } from "./Press";
import { Problem } from "./problem";

/** Parts of the program that cannot be fetched say so in words of the browser's own. */
const isFetching = (error: unknown) =>
  error instanceof Error && /dynamically imported module|module script|Failed to fetch/i.test(error.message);

/** Around each part of a screen: while it is fetched it says so, and where it fails it says what can be done; never white. */
export function Boundary({ children }: { children: ReactNode }) {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={Failed} resetKeys={[pathname]}>
      <Suspense fallback={<Opening />}>{children}</Suspense>
    </ErrorBoundary>
  );
}

const Opening = () => (
  <Box as="main" aria-busy="true" p="6" color="quiet">
    <Trans>Opening …</Trans>
  </Box>
);

function Failed({ error, resetErrorBoundary }: FallbackProps) {
  const words = isFetching(error)
    ? t`This part of Kingcup could not be fetched: the connection is gone, or Kingcup has been brought up to date meanwhile.`
    : error instanceof Problem
      ? error.message
      : t`Something on this page went wrong. What you saved before is safe.`;
  return (
    <Box as="main" role="alert" p="6">
      <Box mb="3">{words}</Box>
      <Row>
        {!isFetching(error) && (
          <Press onClick={resetErrorBoundary}>
            <Trans>Try again</Trans>
          </Press>
        )}
        <Press look="primary" onClick={() => window.location.reload()}>
          <Trans>Load the page anew</Trans>
        </Press>
      </Row>
    </Box>
  );
}
