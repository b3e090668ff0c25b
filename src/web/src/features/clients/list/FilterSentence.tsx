import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { ClientFilter } from "../../../api/queries";
import { addDays, monthName } from "../../../shared/format";
import { ChoicePart, Sentence } from "../../../shared/sentence/Sentence";
import { useToday } from "../../../shared/today";

const any = "any";
type Props = { filter: ClientFilter; tags: readonly string[]; onChange: (filter: ClientFilter) => void };

/** Which clients the list holds, as a sentence. */
export function FilterSentence({ filter, tags, onChange }: Props) {
  const today = useToday();
  const set = (change: { [name in keyof ClientFilter]?: ClientFilter[name] | undefined }) =>
    onChange({ ...filter, ...change } as ClientFilter);
  const asked = (value: boolean | undefined) => (value === undefined ? any : String(value));
  const said = (value: string) => (value === any ? undefined : value === "true");
  const sinceOptions = [90, 180, 365, 730].map((days) => ({
    value: addDays(today, -days),
    label: t`who have not been here for ${days} days`,
  }));
  const months = Array.from({ length: 12 }, (_, i) => ({
    value: String(i + 1),
    label: t`born in ${monthName(`2027-${String(i + 1).padStart(2, "0")}-01`).split(" ")[0]!}`,
  }));
  return (
    <Sentence size="text">
      <Trans>
        Clients{" "}
        <ChoicePart
          label={t`Tag`}
          value={filter.tag ?? any}
          differs={filter.tag !== undefined}
          options={[
            { value: any, label: t`with any tag or none` },
            ...tags.map((tag) => ({ value: tag, label: t`tagged ${tag}` })),
          ]}
          onChange={(tag) => set({ tag: tag === any ? undefined : tag })}
        />
        ,{" "}
        <ChoicePart
          label={t`When they come`}
          value={filter.notSince ?? asked(filter.hasAhead)}
          differs={filter.notSince !== undefined || filter.hasAhead !== undefined}
          options={[
            { value: any, label: t`whenever they come` },
            { value: "true", label: t`who have a visit ahead` },
            { value: "false", label: t`who have none ahead` },
            ...sinceOptions,
          ]}
          onChange={(value) =>
            value.length === 10
              ? set({ notSince: value, hasAhead: undefined })
              : set({ notSince: undefined, hasAhead: said(value) })
          }
        />
        ,{" "}
        <ChoicePart
          label={t`Birthday`}
          value={filter.bornIn === undefined ? any : String(filter.bornIn)}
          differs={filter.bornIn !== undefined}
          options={[{ value: any, label: t`born whenever` }, ...months]}
          onChange={(month) => set({ bornIn: month === any ? undefined : Number(month) })}
        />
        ,{" "}
        <ChoicePart
          label={t`Online booking`}
          value={asked(filter.mayBookOnline)}
          differs={filter.mayBookOnline !== undefined}
          options={[
            { value: any, label: t`whether they may book online or not` },
            { value: "true", label: t`who may book online` },
            { value: "false", label: t`who may not book online` },
          ]}
          onChange={(value) => set({ mayBookOnline: said(value) })}
        />
        ,{" "}
        <ChoicePart
          label={t`Alert`}
          value={asked(filter.hasAlert)}
          differs={filter.hasAlert !== undefined}
          options={[
            { value: any, label: t`with an alert or without` },
            { value: "true", label: t`with an alert` },
            { value: "false", label: t`without an alert` },
          ]}
          onChange={(value) => set({ hasAlert: said(value) })}
        />
        .
      </Trans>
    </Sentence>
  );
}
