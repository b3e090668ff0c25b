import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { AreaField } from "../../../shared/Field";
import { TimeField } from "../../../shared/fields/TimeField";
import { minuteWords } from "../../../shared/ribbon/scale";
import { stretchOf } from "../../../shared/week/stretchOf";
import { Month } from "../../../shared/fields/Month";
import { shortDateWithYear } from "../../../shared/format";
import { Row, Stack } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { ManyPart } from "../../../shared/sentence/ManyPart";
import { ChoicePart, Part, Sentence } from "../../../shared/sentence/Sentence";
import { useDeskSetup, useToday } from "../../../shared/today";
import { dayNames, weekdaysInOrder } from "../../../shared/week/dayNames";
import type { Weekday } from "../../../api/setup";
import { whole } from "../../../shared/whole";
import { KeptForPart } from "../../team/rota/KeptFor";
import { StartsOf } from "./StartsOf";
import { peopleWords, weekdaysWords, type ExtraDraft } from "./extra";

type Props = { draft: ExtraDraft; errors: Record<string, string>; onChange: (draft: ExtraDraft) => void };

/** Extra shifts as one sentence. */
export function ExtraSentence({ draft, errors, onChange }: Props) {
  const setup = useDeskSetup();
  const { shift } = draft;
  const set = (change: Partial<ExtraDraft>) => onChange({ ...draft, ...change });
  return (
    <Stack gap="1">
      <Sentence>
        <Trans>
          From{" "}
          {whole(
            <DatePart
              label={t`First day`}
              value={draft.from}
              onChange={(from) => set({ from, until: draft.until < from ? from : draft.until })}
            />,
          )}{" "}
          to{" "}
          {whole(
            <DatePart label={t`Last day`} value={draft.until} min={draft.from} onChange={(until) => set({ until })} />,
          )}
          ,{" "}
          <ManyPart
            label={t`Days of the week`}
            words={weekdaysWords(draft.weekdays)}
            options={weekdaysInOrder.map((day) => ({ value: day, label: dayNames(day).long }))}
            values={draft.weekdays}
            onChange={(weekdays) => set({ weekdays: weekdays as Weekday[] })}
          />
          ,{" "}
          <ManyPart
            label={t`Who works then`}
            words={draft.practitionerIds.length === 0 ? t`who?` : peopleWords(draft.practitionerIds, setup)}
            options={setup.practitioners.map((person) => ({ value: person.id, label: person.name }))}
            values={draft.practitionerIds}
            onChange={(practitionerIds) => set({ practitionerIds })}
          />{" "}
          work {whole(<HoursPart draft={draft} errors={errors} onChange={onChange} />)} at{" "}
          <ChoicePart
            label={t`Location`}
            options={setup.locations.map((location) => ({ value: location.id, label: location.name }))}
            value={shift.locationId}
            onChange={(locationId) => set({ shift: { ...shift, locationId } })}
          />
          , for <KeptForPart shift={shift} onChange={(next) => set({ shift: next })} />.
        </Trans>
      </Sentence>
      <StartsOf serviceIds={shift.serviceIds ?? []} locationId={shift.locationId} />
      <Sentence size="text">
        <Trans>
          Where somebody works then already,{" "}
          <ChoicePart
            label={t`Where somebody works then already`}
            differs={draft.instead ?? false}
            options={[
              { value: "beside", label: t`that stays as it is` },
              { value: "instead", label: t`this takes its place` },
            ]}
            value={draft.instead ? "instead" : "beside"}
            onChange={(value) => set({ instead: value === "instead" })}
          />
          . The book says{" "}
          {whole(<ReasonPart value={draft.reason ?? ""} onChange={(reason) => set({ reason: reason || null })} />)}.
        </Trans>
      </Sentence>
    </Stack>
  );
}

type DateProps = { label: string; value: string; min?: string; onChange: (date: string) => void };

function DatePart({ label, value, min, onChange }: DateProps) {
  const today = useToday();
  return (
    <Part label={label} words={shortDateWithYear(value)}>
      {(close) => (
        <Month
          value={value}
          min={min ?? today}
          onChange={(date) => {
            onChange(date);
            close();
          }}
        />
      )}
    </Part>
  );
}

function HoursPart({ draft, errors, onChange }: Props) {
  const { shift } = draft;
  const set = (change: Partial<typeof shift>) => onChange({ ...draft, shift: { ...shift, ...change } });
  return (
    <Part label={t`Hours`} words={t`${minuteWords(stretchOf(shift).from)} to ${minuteWords(stretchOf(shift).until)}`}>
      {(close) => (
        <Stack gap="2" p="1.5" w="55">
          <Row flexWrap="nowrap" alignItems="start">
            <TimeField
              label={t`From`}
              value={shift.from}
              error={errors["shift.from"]}
              onChange={(from) => set({ from })}
            />
            <TimeField
              label={t`Until`}
              value={shift.until}
              error={errors["shift.until"]}
              onChange={(until) => set({ until })}
            />
          </Row>
          <Press size="small" look="primary" onClick={close}>
            <Trans>Done</Trans>
          </Press>
        </Stack>
      )}
    </Part>
  );
}

const ReasonPart = ({ value, onChange }: { value: string; onChange: (value: string) => void }) => (
  <Part label={t`Reason`} differs={value !== ""} words={value ? t`“${value}”` : t`nothing about it`}>
    {(close) => (
      <Stack gap="2" p="1.5" w="70">
        <AreaField
          label={t`Why, for those who read the book`}
          value={value}
          maxLength={200}
          onChange={(event) => onChange(event.target.value)}
        />
        <Press size="small" look="primary" onClick={close}>
          <Trans>Done</Trans>
        </Press>
      </Stack>
    )}
  </Part>
);
