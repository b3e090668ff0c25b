import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { ifMatch, type Location } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { SelectField, TextField } from "../../shared/Field";
import { longDate } from "../../shared/format";
import { DateField } from "../../shared/fields/DateField";
import { CheckField } from "../../shared/fields/CheckField";
import { Box, Row, Section } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { useDeskSetup, useToday } from "../../shared/today";
import { YearRibbon } from "./YearRibbon";
import { Holidays } from "./Holidays";

/** Days on which a location is closed, or takes no more bookings online. */
export function Closures({ location, all }: { location: Location; all: Location[] }) {
  const today = useToday();
  const setup = useDeskSetup();
  const [date, setDate] = useState<string | null>(null);
  const [reason, setReason] = useState("");
  const [forClients, setForClients] = useState("");
  const [kind, setKind] = useState("once");
  const [everywhere, setEverywhere] = useState(false);
  const save = useChange(
    (wanted: { date: string; reason: string; forClients: string; kind: string }, headers) =>
      answerOf(
        staff.POST("/api/v1/setup/closed-days", {
          headers,
          body: {
            locationIds: (everywhere ? all : [location]).map((item) => item.id!),
            ...(wanted.kind === "stop"
              ? { stops: [{ date: wanted.date, reason: wanted.reason, version: 0 }] }
              : {
                  closures: [
                    {
                      date: wanted.date,
                      yearly: wanted.kind === "yearly",
                      reason: wanted.reason,
                      forClients: wanted.forClients,
                      version: 0,
                    },
                  ],
                }),
          },
        }),
      ),
    () => {
      setDate(null);
      setReason("");
      setForClients("");
    },
  );
  const remove = useChange((day: { kind: "closures" | "stops"; date: string; version?: number | string }, headers) =>
    answerOf(
      staff.DELETE(`/api/v1/setup/locations/{id}/${day.kind}/{date}`, {
        params: { path: { id: location.id!, date: day.date } },
        headers: { ...headers, ...ifMatch(day.version) },
      }),
    ),
  );
  const ahead = [
    ...(location.closures ?? [])
      .filter((closure) => closure.yearly || closure.date >= today)
      .map((closure) => ({
        ...closure,
        kind: "closures" as const,
        words: closure.yearly
          ? t`every year on ${longDate(closure.date).split(" ").slice(1).join(" ")}`
          : longDate(closure.date),
        stop: false,
      })),
    ...(location.stops ?? [])
      .filter((stop) => stop.date >= today)
      .map((stop) => ({
        ...stop,
        yearly: false,
        forClients: null,
        kind: "stops" as const,
        words: longDate(stop.date),
        stop: true,
      })),
  ].sort((a, b) => a.date.slice(a.yearly ? 5 : 0).localeCompare(b.date.slice(b.yearly ? 5 : 0)));
  return (
    <Section title={t`Closed, and stopped for online booking`}>
      <YearRibbon today={today} days={ahead} date={date} onDate={setDate} />
      <Row alignItems="end">
        <Box w="48">
          <SelectField label={t`What`} value={kind} onChange={(e) => setKind(e.target.value)}>
            <option value="once">
              <Trans>closed on one day</Trans>
            </option>
            <option value="yearly">
              <Trans>closed every year</Trans>
            </option>
            <option value="stop">
              <Trans>no more online that day</Trans>
            </option>
          </SelectField>
        </Box>
        <Box w="41">
          <DateField
            label={t`Date`}
            value={date}
            error={save.errors["closures[0].date"] ?? save.errors["stops[0].date"]}
            onChange={setDate}
          />
        </Box>
        <Box w="48">
          <TextField
            label={t`Why`}
            value={reason}
            error={save.errors["closures[0].reason"] ?? save.errors["stops[0].reason"]}
            onChange={(e) => setReason(e.target.value)}
          />
        </Box>
        {kind !== "stop" && (
          <Box w="55">
            <TextField
              label={t`What clients read (optional)`}
              value={forClients}
              error={save.errors["closures[0].forClients"]}
              onChange={(e) => setForClients(e.target.value)}
            />
          </Box>
        )}
        <Press disabled={!date || save.pending} onClick={() => save.run({ date: date!, reason, forClients, kind })}>
          {kind === "stop" ? t`Stop it` : t`Close`}
        </Press>
        {all.length > 1 && <CheckField label={t`everywhere`} checked={everywhere} onChange={setEverywhere} />}
      </Row>
      <Outcome
        change={save}
        fields={[
          "closures[0].date",
          "closures[0].reason",
          "closures[0].forClients",
          "stops[0].date",
          "stops[0].reason",
        ]}
      />
      <Outcome change={remove} saved={t`Taken back.`} />
      <Box mt="2.5">
        {ahead.map((item) => (
          <Row
            key={`${item.kind} ${item.date}`}
            borderTopWidth="line"
            borderColor="line"
            py="1"
            justifyContent="space-between"
          >
            <Box>
              <b>{item.words}</b> {item.stop ? t`no more online` : t`closed`}: {item.reason}
              {item.forClients && (
                <Box color="quiet">
                  <Trans>Clients read: {item.forClients}</Trans>
                </Box>
              )}
            </Box>
            <Press
              size="small"
              look="quiet"
              aria-label={t`Take back ${item.reason ?? ""}`}
              onClick={() => remove.run(item)}
            >
              <Trans>Take back</Trans>
            </Press>
          </Row>
        ))}
        {ahead.length === 0 && (
          <Box color="quiet">
            <Trans>Nothing ahead.</Trans>
          </Box>
        )}
      </Box>
      <Holidays key={setup.locale} location={location} all={all} />
    </Section>
  );
}
