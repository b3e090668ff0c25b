import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../../api/queries";
import type { DeskSetup } from "../../../api/staff";
import { moment } from "../../../shared/format";
import { Box, Section } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { record } from "../../../theme/recipes/record";
import { done, saidOf } from "../../booking/historyWords";

/** What was done to a record, in words. */
const onRecord: Record<string, string> = {
  Added: t`Entered`,
  Imported: t`Imported`,
  Changed: t`Details changed`,
  Noted: t`Note`,
  Agreed: t`Agreed`,
  Withdrew: t`Took back`,
  Merged: t`Made one with another record`,
  "Put aside": t`Put aside for another record`,
  "Taken apart": t`Taken apart`,
  Linked: t`Linked with somebody`,
  "Link changed": t`Link changed`,
  "Link taken back": t`Link taken back`,
};

/** Everything that happened with a client and their visits, the newest first. */
export function Timeline({ id, setup }: { id: string; setup: DeskSetup }) {
  const styles = useSlotRecipe({ recipe: record })();
  const [isOpen, setIsOpen] = useState(false);
  const events = useInfiniteQuery({ ...asks.clientTimeline(id), enabled: isOpen });
  const zone = setup.locations[0]?.zone ?? "UTC";
  return (
    <Section
      title={t`Everything that happened`}
      actions={
        !isOpen && (
          <Press size="small" onClick={() => setIsOpen(true)}>
            <Trans>Show</Trans>
          </Press>
        )
      }
    >
      {events.error && <Box role="alert">{events.error.message}</Box>}
      <Box as="ol" listStyleType="none">
        {events.data?.pages.flat().map((event) => {
          const said = [saidOf(event.before ?? null, setup, zone), saidOf(event.after ?? null, setup, zone)];
          const what = event.visitId
            ? t`Visit ${event.reference ?? ""}: ${(done[event.action] ?? event.action).toLowerCase()}`
            : (onRecord[event.action] ?? event.action);
          return (
            <Box as="li" key={String(event.id)} css={styles["entry"]}>
              <Box fontWeight="600">{what}</Box>
              <Box fontSize="small" color="quiet">
                {moment(event.at, zone)}, {event.actor}
              </Box>
              {event.visitId && <Box fontSize="small">{said.filter(Boolean).join(" → ")}</Box>}
            </Box>
          );
        })}
      </Box>
      {events.hasNextPage && (
        <Press size="small" disabled={events.isFetching} onClick={() => void events.fetchNextPage()}>
          <Trans>Earlier</Trans>
        </Press>
      )}
    </Section>
  );
}
