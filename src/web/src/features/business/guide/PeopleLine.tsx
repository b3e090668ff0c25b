import { t } from "@lingui/core/macro";
import { whole } from "../../../shared/whole";
import { Trans } from "@lingui/react/macro";
import { TextField } from "../../../shared/Field";
import { Part } from "../../../shared/sentence/Sentence";
import { ManyPart } from "../../../shared/sentence/ManyPart";
import { dayNames, weekdaysInOrder } from "../../../shared/week/dayNames";
import type { Weekday } from "../../../api/setup";
import { daysWords, replaced, type BeginPerson } from "./beginning";

import type { GuideProps } from "./guideProps";
import { Add, joined, Panel } from "./Panel";
const dayOptions = () => weekdaysInOrder.map((day) => ({ value: day, label: dayNames(day).long }));

/** Who works here, and on which days. */
export function PeopleLine({ draft, errors, onChange }: GuideProps) {
  const people = draft.people ?? [];
  const set = (i: number, person: BeginPerson | null) => onChange({ people: replaced(people, i, person) });
  return (
    <>
      {joined(
        people.map((person, i) => (
          <>
            <Trans>
              {whole(
                <Part label={t`Name of practitioner ${i + 1}`} words={person.name || t`who?`}>
                  {(close) => (
                    <Panel close={close} {...(people.length > 1 && { onRemove: () => set(i, null) })}>
                      <TextField
                        label={t`Name`}
                        value={person.name ?? ""}
                        error={errors[`people[${i}].name`]}
                        autoFocus
                        onChange={(event) => set(i, { ...person, name: event.target.value })}
                      />
                    </Panel>
                  )}
                </Part>,
              )}{" "}
              works{" "}
              <ManyPart
                label={t`Days of ${person.name || "practitioner"}`}
                words={(person.weekdays ?? []).length === 0 ? t`all of it` : daysWords(person.weekdays!)}
                options={dayOptions()}
                values={[...(person.weekdays ?? [])]}
                onChange={(days) => set(i, { ...person, weekdays: days as Weekday[] })}
              />
            </Trans>
          </>
        )),
        t`, and `,
      )}
      <Add
        label={t`Somebody else`}
        words={t`somebody else?`}
        onAdd={() => set(people.length, { name: "", weekdays: [], holds: [] })}
      >
        {(close) => (
          <Panel close={close} onRemove={() => set(people.length - 1, null)}>
            <TextField
              label={t`Name`}
              value={people.at(-1)?.name ?? ""}
              autoFocus
              onChange={(event) => set(people.length - 1, { ...people.at(-1)!, name: event.target.value })}
            />
          </Panel>
        )}
      </Add>
    </>
  );
}
