import { useState } from "react";
import { countries } from "../shared/fields/named";
import { Month } from "../shared/fields/Month";
import { andWords, longDate } from "../shared/format";
import { ManyPart } from "../shared/sentence/ManyPart";
import { ChoicePart, Part, Sentence } from "../shared/sentence/Sentence";
import { weekdaysInOrder, dayNames } from "../shared/week/dayNames";
import { Story } from "./Story";

/** A sentence whose parts open: few choices, many that are searched, several at once, something of its own, quiet and disabled. */
export function SentenceStories() {
  const [held, setHeld] = useState({ where: "IE", days: ["monday"], date: "2027-03-01", gap: "last" });
  const set = (change: Partial<typeof held>) => setHeld({ ...held, ...change });
  return (
    <Story name="Sentences" holds={held}>
      <Sentence>
        From{" "}
        <Part label="First day" words={longDate(held.date)}>
          {(close) => (
            <Month
              value={held.date}
              onChange={(date) => {
                set({ date });
                close();
              }}
            />
          )}
        </Part>{" "}
        on, in{" "}
        <ChoicePart label="Country" options={countries()} value={held.where} onChange={(where) => set({ where })} />, on{" "}
        <ManyPart
          label="Days"
          words={andWords(held.days.map((day) => dayNames(day as (typeof weekdaysInOrder)[number]).long))}
          options={weekdaysInOrder.map((day) => ({ value: day, label: dayNames(day).long }))}
          values={held.days}
          onChange={(days) => set({ days })}
        />
        .
      </Sentence>
      <Sentence size="text">
        A start that leaves a gap is{" "}
        <ChoicePart
          label="Gaps"
          differs={false}
          options={[
            { value: "last", label: "offered last", hint: "as usual" },
            { value: "not", label: "not offered" },
          ]}
          value={held.gap}
          onChange={(gap) => set({ gap })}
        />
        ; this part cannot be changed:{" "}
        <ChoicePart
          label="Fixed"
          disabled
          options={[{ value: "x", label: "as it is" }]}
          value="x"
          onChange={() => {}}
        />
        .
      </Sentence>
    </Story>
  );
}
