import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { asks } from "../../../api/queries";
import type { DeskSetup } from "../../../api/staff";
import { clock, money, shortDateWithYear } from "../../../shared/format";
import { Box, Section } from "../../../shared/layout";
import { record } from "../../../theme/recipes/record";
import { marks } from "../../booking/BlockMark";
import { visitAddress } from "./years";

const Anchor = chakra(Link);
const most = 20;

/** What is ahead and what is past, the latest first. */
export function ClientVisits({ id, setup }: { id: string; setup: DeskSetup }) {
  const styles = useSlotRecipe({ recipe: record })();
  const visits = useQuery(asks.clientVisits(id, most));
  const zoneOf = (locationId: string) => setup.locations.find((location) => location.id === locationId)?.zone ?? "UTC";
  return (
    <Section title={t`Ahead and past`}>
      {visits.data?.length === 0 && (
        <Box color="quiet">
          <Trans>No visit yet. New visit books the first.</Trans>
        </Box>
      )}
      {visits.data?.map((visit) => (
        <Anchor
          key={visit.id}
          to={visitAddress(visit.locationId, visit.date, visit.id)}
          css={styles["visit"]}
          data-off={["cancelled", "noShow"].includes(visit.state) ? "" : undefined}
        >
          <Box fontWeight="600">
            {shortDateWithYear(visit.date)}
            <br />
            {clock(visit.start, zoneOf(visit.locationId))}
          </Box>
          <Box>
            <Box fontWeight="600">{visit.lines.map((line) => line.service).join(" + ")}</Box>
            <Box fontSize="small">
              {[
                visit.lines[0]?.practitioners.map((who) => who.name).join(", "),
                money(visit.price),
                visit.state !== "confirmed" && `${marks[visit.state].mark} ${marks[visit.state].word}`,
                visit.cancelReason,
              ]
                .filter(Boolean)
                .join(" · ")}
            </Box>
            {visit.note && <Box fontSize="small">“{visit.note}”</Box>}
          </Box>
        </Anchor>
      ))}
    </Section>
  );
}
