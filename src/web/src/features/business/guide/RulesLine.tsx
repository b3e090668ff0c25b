import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { ChoicePart } from "../../../shared/sentence/Sentence";

import type { GuideProps } from "./guideProps";
const leads = [
  [0, t`at any time before`],
  [60, t`an hour ahead`],
  [120, t`two hours ahead`],
  [240, t`four hours ahead`],
  [720, t`half a day ahead`],
  [1440, t`a day ahead`],
  [2880, t`two days ahead`],
] as const;
const horizons = [
  [14, t`two weeks`],
  [30, t`30 days`],
  [60, t`60 days`],
  [90, t`90 days`],
  [180, t`half a year`],
  [365, t`a year`],
] as const;
const notices = [
  [0, t`the beginning`],
  [2, t`two hours before`],
  [12, t`12 hours before`],
  [24, t`24 hours before`],
  [48, t`two days before`],
  [72, t`three days before`],
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
      <Trans>
        New clients book {part(t`Lead time of new clients`, "newLeadMinutes", leads)}, everybody else{" "}
        {part(t`Lead time`, "leadMinutes", leads)}, at most {part(t`How far ahead`, "horizonDays", horizons)} from
        today. They may cancel until {part(t`Cancelling`, "cancelNoticeHours", notices)}.
      </Trans>
    </>
  );
}
