import { useState } from "react";
import { AreaField, SelectField, TextField } from "../shared/Field";
import { ChosenField } from "../shared/fields/ChosenField";
import { DateField } from "../shared/fields/DateField";
import { DayOfYearField } from "../shared/fields/DayOfYearField";
import { FileField } from "../shared/fields/FileField";
import { MinutesField } from "../shared/fields/MinutesField";
import { countries } from "../shared/fields/named";
import { TimeField } from "../shared/fields/TimeField";
import { WordsField } from "../shared/fields/WordsField";
import { CheckField } from "../shared/fields/CheckField";
import { ChoiceField, MoneyField, NumberField } from "../shared/inputs";
import { Columns } from "../shared/layout";
import { Story } from "./Story";

/** Every field, empty or filled, and one that was refused. */
export function FieldStories() {
  const [held, setHeld] = useState({
    text: "Willow",
    long: "",
    one: "couch",
    country: "IE",
    date: "2027-03-01" as string | null,
    season: "05-01" as string | null,
    minutes: 75 as number | null,
    time: "08:15:00",
    words: ["couch", "quiet"],
    tick: true,
    some: ["wet"] as ("couch" | "wet" | "laser")[],
    money: 8400 as number | null,
    number: 4 as number | null,
    file: "",
  });
  const set = (change: Partial<typeof held>) => setHeld({ ...held, ...change });
  const features = [
    ["couch", "Couch"],
    ["wet", "Wet room"],
    ["laser", "Laser-safe"],
  ] as const;
  return (
    <Story name="Fields" holds={held}>
      <Columns>
        <TextField label="Text" value={held.text} onChange={(event) => set({ text: event.target.value })} />
        <TextField label="Refused" defaultValue="Willow" error="There is a room of that name already." />
        <AreaField label="Longer text" value={held.long} onChange={(event) => set({ long: event.target.value })} />
        <SelectField label="One of few" value={held.one} onChange={(event) => set({ one: event.target.value })}>
          {features.map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </SelectField>
        <ChosenField
          label="One of many"
          value={held.country}
          options={countries()}
          onChange={(country) => set({ country })}
        />
        <TimeField label="Time" value={held.time} onChange={(time) => set({ time })} />
        <DateField label="Date" value={held.date} onChange={(date) => set({ date })} />
        <DayOfYearField label="Day of the year" value={held.season} onChange={(season) => set({ season })} />
        <MinutesField label="Minutes" value={held.minutes} onChange={(minutes) => set({ minutes })} />
        <MoneyField label="Money" currency="EUR" value={held.money} onChange={(money) => set({ money })} />
        <NumberField label="Number" value={held.number} onChange={(number) => set({ number })} />
        <FileField
          label="File"
          choose="Choose a file"
          accept="image/*"
          chosen={held.file}
          onFile={(file) => set({ file: file.name })}
        />
      </Columns>
      <WordsField label="Words" words={held.words} offered={["wet"]} onChange={(words) => set({ words })} />
      <ChoiceField label="Some of few" options={features} chosen={held.some} onChange={(some) => set({ some })} />
      <CheckField label="A tick" checked={held.tick} onChange={(tick) => set({ tick })} />
    </Story>
  );
}
