import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { asks } from "../../api/queries";
import { shortDate } from "../../shared/format";
import { Box, Section, Table } from "../../shared/layout";
import { gateWords } from "../availability/whynot/words";
import { useDeskSetup } from "../../shared/today";

const weeks = { any: "", mondayToFriday: t`, Mondays to Fridays`, weekend: t`, Saturdays and Sundays` };
const parts = { morning: t`, mornings`, afternoon: t`, afternoons`, evening: t`, evenings` };

/** What people looked for online and did not find: where another pair of hands, a room or an hour would be booked. */
export function UnmetPart() {
  const unmet = useQuery(asks.unmet());
  const setup = useDeskSetup();
  const named = (list: readonly { id: string; name: string }[] | undefined, id: string | null | undefined) =>
    list?.find((one) => one.id === id)?.name ?? "";
  if (!unmet.data) return null;
  const { days, searches } = unmet.data;
  return (
    <Section
      title={t`What nobody found`}
      hint={t`Searches of the last ${days} days, and what stood in the way. Each device counts once a day; who looked is not kept.`}
    >
      {searches.length === 0 ? (
        <Box color="quiet">
          <Trans>Everybody who looked found a time.</Trans>
        </Box>
      ) : (
        <Table aria-label={t`What nobody found`}>
          <thead>
            <tr>
              <th>{t`Looked for`}</th>
              <th>{t`Where`}</th>
              <th>{t`In the way`}</th>
              <th>{t`Searches`}</th>
              <th>{t`Last`}</th>
            </tr>
          </thead>
          <tbody>
            {searches.map((row) => {
              const who = named(setup.practitioners, row.practitionerId);
              return (
                <tr key={[row.locationId, row.serviceId, row.practitionerId, row.gate, row.part, row.week].join()}>
                  <td>
                    {named(setup.services, row.serviceId)}
                    {who && t` with ${who}`}
                    {row.part && parts[row.part]}
                    {weeks[row.week]}
                  </td>
                  <td>{named(setup.locations, row.locationId)}</td>
                  <td>{gateWords[row.gate]}</td>
                  <td>{row.count}</td>
                  <td>{shortDate(row.last)}</td>
                </tr>
              );
            })}
          </tbody>
        </Table>
      )}
    </Section>
  );
}
