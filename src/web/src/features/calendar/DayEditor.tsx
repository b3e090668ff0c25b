import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { ifMatch, type Shift, type WorkDay } from "../../api/setup";
import { staff } from "../../api/staff";
import { Outcome, useChange } from "../../shared/change";
import { TextField } from "../../shared/Field";
import { longDate } from "../../shared/format";
import { CheckField } from "../../shared/fields/CheckField";
import { Box, Row, Section, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { answerOf } from "../../shared/problem";
import { ChoicePart, Sentence } from "../../shared/sentence/Sentence";
import { usePlaces } from "../../shared/today";
import { useUnsaved } from "../../shared/unsaved";
import type { Person } from "./CalendarTab";
import { DayRibbon } from "./DayRibbon";
import { shiftsPulled, usualShift } from "./shifts";

type Kind = "rota" | "other" | "off";
const kinds: [Kind, string][] = [
  ["rota", t`works as the rota says`],
  ["other", t`works other hours`],
  ["off", t`is off`],
];

/** An edge of somebody's working time that was pulled in the book, from one time of the wall clock to another. */
export type Pulled = { edge: "from" | "until"; was: string; to: string };

type Props = {
  practitioner: Person;
  day: WorkDay;
  /** What was pulled in the book, to be saved here. */
  pulled?: Pulled | null;
};

/** One day of somebody's calendar: as the rota says, other hours drawn on a ribbon, or off. */
export function DayEditor({ practitioner, day, pulled = null }: Props) {
  const locations = usePlaces();
  const home = locations[0];
  const stored: Kind = day.isChange ? (day.shifts.length === 0 ? "off" : "other") : "rota";
  const begun = pulled ? shiftsPulled(day.shifts, pulled.edge, pulled.was, pulled.to) : day.shifts;
  const [kind, setKind] = useState<Kind>(begun === day.shifts ? stored : "other");
  const [shifts, setShifts] = useState<Shift[]>(begun);
  const [reason, setReason] = useState(day.reason ?? "");
  const [duringClosure, setDuringClosure] = useState(false);
  const isChanged =
    kind !== stored || reason !== (day.reason ?? "") || JSON.stringify(shifts) !== JSON.stringify(day.shifts);
  const settled = useUnsaved(isChanged);
  const params = { path: { id: practitioner.id!, date: day.date } };
  const save = useChange(
    (_: null, headers) => {
      const seen = { ...headers, ...ifMatch(day.version) };
      if (kind !== "rota")
        return answerOf(
          staff.PUT("/api/v1/setup/practitioners/{id}/shift-changes/{date}", {
            params,
            headers: seen,
            body: {
              date: day.date,
              version: Number(day.version),
              shifts: kind === "off" ? [] : shifts,
              worksDuringClosure: duringClosure,
              reason,
            },
          }),
        );
      return answerOf(staff.DELETE("/api/v1/setup/practitioners/{id}/shift-changes/{date}", { params, headers: seen }));
    },
    () => settled(),
  );
  return (
    <Section title={longDate(day.date)}>
      <Stack gap="2.5">
        <Sentence size="text">
          {practitioner.name?.split(" ")[0]}{" "}
          <ChoicePart
            label={t`That day`}
            options={kinds.map(([value, label]) => ({ value, label }))}
            value={kind}
            onChange={(next) => {
              setKind(next as Kind);
              if (next === "other" && shifts.length === 0 && home) setShifts([usualShift(home.id)]);
            }}
          />
          .
        </Sentence>
        {kind === "other" && home && (
          <DayRibbon
            label={t`Shifts on ${longDate(day.date)}`}
            shifts={shifts}
            home={shifts[0]?.locationId ?? home.id}
            errors={save.errors}
            onChange={setShifts}
          />
        )}
        {kind !== "rota" && (
          <TextField
            label={t`Why`}
            value={reason}
            placeholder={t`course, swapped with Ines …`}
            error={save.errors["reason"]}
            onChange={(e) => setReason(e.target.value)}
          />
        )}
        {kind === "other" && day.closures.length > 0 && (
          <CheckField
            label={t`Works although it is closed (${day.closures.join(", ")})`}
            checked={duringClosure}
            onChange={setDuringClosure}
          />
        )}
        <Row>
          <Press
            look="primary"
            disabled={save.pending || (kind === "rota" && !day.isChange)}
            onClick={() => save.run(null)}
          >
            <Trans>Save the day</Trans>
          </Press>
          <Outcome change={save} fields={["reason"]} />
        </Row>
        {kind === "other" && (
          <Box fontSize="small" color="quiet">
            <Trans>Draw the shift, drag it, or press it for figures.</Trans>
          </Box>
        )}
      </Stack>
    </Section>
  );
}
