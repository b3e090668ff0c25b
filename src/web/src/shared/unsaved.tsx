import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useCallback, useEffect, useId } from "react";
import { useBlocker } from "react-router";
import { Dialog } from "./Dialog";
import { Box, Row } from "./layout";
import { Press } from "./Press";

const written = new Set<string>();

/**
 * Says that something was written here and not saved: leaving the page, or opening another entry, then asks first. What is
 * given back is called once it was saved, before anything else is opened.
 */
export function useUnsaved(dirty: boolean): () => void {
  const id = useId();
  useEffect(() => {
    if (dirty) written.add(id);
    else written.delete(id);
    return () => void written.delete(id);
  }, [id, dirty]);
  return useCallback(() => void written.delete(id), [id]);
}

/** Whether anything on the screen was written and not saved. */
export const anythingUnsaved = () => written.size > 0;

/** Asks before what is unsaved is left, whichever way: a link, Back, another entry, closing the window. */
export function UnsavedGuard() {
  const blocker = useBlocker(
    ({ currentLocation: from, nextLocation: to }) =>
      anythingUnsaved() && (from.pathname !== to.pathname || from.search !== to.search),
  );
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent) => {
      if (anythingUnsaved()) event.preventDefault();
    };
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, []);
  if (blocker.state !== "blocked") return null;
  return (
    <Dialog name={t`Not saved yet`} title={<Trans>Not saved yet</Trans>} maxW="115" onClose={() => blocker.reset()}>
      <Box mb="4">
        <Trans>What you changed here has not been saved. If you go on, it is gone.</Trans>
      </Box>
      <Row>
        <Press look="primary" autoFocus onClick={() => blocker.reset()}>
          <Trans>Stay here</Trans>
        </Press>
        <Press
          look="danger"
          onClick={() => {
            written.clear();
            blocker.proceed();
          }}
        >
          <Trans>Leave without saving</Trans>
        </Press>
      </Row>
    </Dialog>
  );
}
