import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Day } from "../../api/staff";
import { clock, unitWords } from "../../shared/format";
import { Box, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";

/** Who is in the house and waits: since when, how late they came, for whom. */
export function InTheHouse({ day, onVisit }: { day: Day; onVisit: (id: string) => void }) {
  const waiting = day.visits
    .filter((visit) => visit.state === "arrived")
    .sort((a, b) => a.since.localeCompare(b.since));
  if (waiting.length === 0) return null;
  return (
    <Row
      as="section"
      aria-label={t`In the house`}
      borderTopWidth="line"
      borderColor="line"
      bg="sheet"
      px="3.5"
      py="1"
      gap="2"
    >
      <Box fontWeight="700">
        <Trans>In the house:</Trans>
      </Box>
      {waiting.map((visit) => {
        const late = visit.minutesLate ? t`${unitWords(visit.minutesLate, "minute")} late` : t`in time`;
        const name = `${visit.client.givenName.slice(0, 1)}. ${visit.client.familyName}`;
        const since = clock(visit.since, day.zone);
        return (
          <Press key={visit.id} size="small" onClick={() => onVisit(visit.id)}>
            <Trans>
              ◐ {name} since {since}, {late}, for {visit.lines[0]?.practitioners[0]?.name ?? ""}
            </Trans>
          </Press>
        );
      })}
    </Row>
  );
}
