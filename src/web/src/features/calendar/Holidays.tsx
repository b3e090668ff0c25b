import { plural } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { countryName } from "../../shared/fields/named";
import { useState } from "react";
import { type Location } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { longDate } from "../../shared/format";
import { CheckField } from "../../shared/fields/CheckField";
import { Box, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { useDeskSetup, useToday } from "../../shared/today";

const closeWords = (days: number, everywhere: boolean) =>
  everywhere
    ? plural(days, { one: "Close on this day, everywhere", other: "Close on these # days, everywhere" })
    : plural(days, { one: "Close on this day", other: "Close on these # days" });

type Holiday = { date: string; name: string };

/** Public holidays of the country, offered to be closed on. The list comes with the application and is loaded when asked for. */
export function Holidays({ location, all }: { location: Location; all: Location[] }) {
  const setup = useDeskSetup();
  const today = useToday();
  const [found, setFound] = useState<Holiday[] | null>(null);
  const [chosen, setChosen] = useState<string[]>([]);
  const country = setup.locale.split("-")[1] ?? "IE";
  const look = async () => {
    const { default: Calendar } = await import("date-holidays");
    const calendar = new Calendar(country);
    const year = Number(today.slice(0, 4));
    const known = [...calendar.getHolidays(year, "en"), ...calendar.getHolidays(year + 1, "en")]
      .filter((holiday) => holiday.type === "public")
      .map((holiday) => ({ date: holiday.date.slice(0, 10), name: holiday.name }))
      .filter(
        (item) =>
          item.date >= today &&
          !(location.closures ?? []).some(
            (closed) => closed.date === item.date || (closed.yearly && closed.date.slice(5) === item.date.slice(5)),
          ),
      );
    setFound(known.slice(0, 14));
    setChosen([]);
  };
  const save = useChange(
    (dates: string[], headers) =>
      answerOf(
        staff.POST("/api/v1/setup/closed-days", {
          headers,
          body: {
            locationIds: all.map((item) => item.id!),
            closures: dates.map((date) => ({
              date,
              yearly: false,
              reason: found!.find((other) => other.date === date)!.name,
              version: 0,
            })),
          },
        }),
      ),
    () => setFound(null),
  );
  return (
    <Box mt="3">
      {!found ? (
        <Press size="small" look="quiet" onClick={() => void look()}>
          <Trans>Offer the public holidays of {countryName(country)}</Trans>
        </Press>
      ) : (
        <Box bg="paper" borderRadius="card" p="2.5">
          {found.length === 0 && (
            <Box>
              <Trans>None that is not in the list already.</Trans>
            </Box>
          )}
          <Box columns="2">
            {found.map((holiday) => (
              <CheckField
                key={holiday.date}
                label={`${longDate(holiday.date)} ${holiday.date.slice(0, 4)}: ${holiday.name}`}
                checked={chosen.includes(holiday.date)}
                onChange={(on) =>
                  setChosen(on ? [...chosen, holiday.date] : chosen.filter((date) => date !== holiday.date))
                }
              />
            ))}
          </Box>
          <Row mt="2">
            <Press disabled={chosen.length === 0 || save.pending} onClick={() => save.run(chosen)}>
              {closeWords(chosen.length, all.length > 1)}
            </Press>
            <Press onClick={() => setFound(null)}>
              <Trans>Leave it</Trans>
            </Press>
          </Row>
        </Box>
      )}
      <Outcome change={save} />
    </Box>
  );
}
