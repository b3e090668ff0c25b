import { ChoicePart } from "../../../shared/sentence/Sentence";

import type { GuideProps } from "./guideProps";
const leads = [
  [0, "at any time before"],
  [60, "an hour ahead"],
  [120, "two hours ahead"],
  [240, "four hours ahead"],
  [720, "half a day ahead"],
  [1440, "a day ahead"],
  [2880, "two days ahead"],
] as const;
const horizons = [
  [14, "two weeks"],
  [30, "30 days"],
  [60, "60 days"],
  [90, "90 days"],
  [180, "half a year"],
  [365, "a year"],
] as const;
const notices = [
  [0, "the beginning"],
  [2, "two hours before"],
  [12, "12 hours before"],
  [24, "24 hours before"],
  [48, "two days before"],
  [72, "three days before"],
] as const;
const optionsOf = (all: readonly (readonly [number, string])[]) =>
  all.map(([value, label]) => ({ value: String(value), label }));

/** How far ahead, and until when. */
export function RulesLine({ draft, onChange }: GuideProps) {
  const online = draft.online ?? {};
  const part = (
    label: string,
    key: "leadMinutes" | "newLeadMinutes" | "horizonDays" | "cancelNoticeHours",
    all: readonly (readonly [number, string])[],
  ) => (
    <ChoicePart
      label={label}
      options={optionsOf(all)}
      value={String(online[key] ?? "")}
      onChange={(value) => onChange({ online: { ...online, [key]: Number(value) } })}
    />
  );
  return (
    <>
      New clients book {part("Lead time of new clients", "newLeadMinutes", leads)}, everybody else{" "}
      {part("Lead time", "leadMinutes", leads)}, at most {part("How far ahead", "horizonDays", horizons)} from today.
      They may cancel until {part("Cancelling", "cancelNoticeHours", notices)}.
    </>
  );
}
