import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Visit } from "../../api/staff";
import { Box, Row, Table } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { factsOf, type Facts } from "./facts";

type Props = {
  /** The visit as this person saw it. */
  seen: Visit;
  /** As it stands now. */
  now: Visit;
  /** What this person was about to save, where that is more than a press. */
  mine?: Partial<Facts>;
};

/** Somebody else has changed a visit meanwhile: as it was seen, as it is now and as it was to be, side by side. */
export function Versions({ seen, now, mine }: Props) {
  const labels: Record<keyof Facts, string> = {
    when: t`When`,
    what: t`Services`,
    who: t`With`,
    where: t`Where`,
    state: t`State`,
  };
  const [before, after] = [factsOf(seen), factsOf(now)];
  const rows = (Object.keys(labels) as (keyof Facts)[]).filter(
    (row) => before[row] !== after[row] || (mine?.[row] !== undefined && mine[row] !== before[row]),
  );
  if (rows.length === 0)
    return (
      <Box fontSize="small">
        <Trans>What was changed is none of its times, services or people; look at its history.</Trans>
      </Box>
    );
  return (
    <Table fontSize="small" aria-label={t`What differs`}>
      <thead>
        <tr>
          <td />
          <th scope="col">
            <Trans>You saw</Trans>
          </th>
          <th scope="col">
            <Trans>Now</Trans>
          </th>
          {mine && (
            <th scope="col">
              <Trans>You want</Trans>
            </th>
          )}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row}>
            <th scope="row">{labels[row]}</th>
            <td>{before[row] || "–"}</td>
            <td>{before[row] === after[row] ? after[row] || "–" : <b>{after[row] || "–"}</b>}</td>
            {mine && <td>{mine[row] ?? ""}</td>}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

type MeanwhileProps = Props & { onMine: () => void; onTheirs: () => void };

/** The same, with the two ways to go on: nothing is saved over what somebody else did before one was chosen. */
export function Meanwhile({ onMine, onTheirs, ...versions }: MeanwhileProps) {
  return (
    <Box role="alert" borderLeftWidth="mark" borderColor="clay" pl="2.5">
      <Box fontWeight="700" mb="1.5">
        <Trans>Somebody else has changed this visit meanwhile.</Trans>
      </Box>
      <Versions {...versions} />
      <Row gap="2" mt="2">
        <Press size="small" onClick={onMine}>
          <Trans>Go on with what I want</Trans>
        </Press>
        <Press size="small" onClick={onTheirs}>
          <Trans>Begin from how it is now</Trans>
        </Press>
      </Row>
    </Box>
  );
}
