import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { DeskSetup, VisitState } from "../../../api/staff";
import { andWords, longDate } from "../../../shared/format";
import { Month } from "../../../shared/fields/Month";
import { ManyPart } from "../../../shared/sentence/ManyPart";
import { ChoicePart, Part } from "../../../shared/sentence/Sentence";
import { whole } from "../../../shared/whole";
import { marks } from "../BlockMark";
import type { AgendaFilter } from "./agenda";

type Props = {
  setup: DeskSetup;
  locationId: string;
  date: string;
  filter: AgendaFilter;
  onChange: (filter: AgendaFilter) => void;
  onPlace: (locationId: string, date: string) => void;
};

/** What the agenda holds, as a sentence. */
export function AgendaSentence({ setup, locationId, date, filter, onChange, onPlace }: Props) {
  const set = (change: Partial<AgendaFilter>) => onChange({ ...filter, ...change });
  const named = (all: readonly { value: string; label: string }[], chosen: readonly string[], none: string) =>
    chosen.length === 0
      ? none
      : andWords(all.filter(({ value }) => chosen.includes(value)).map(({ label }) => label)) || none;
  const people = [
    ...setup.practitioners.map(({ id, name }) => ({ value: id, label: name })),
    ...setup.rooms.filter((room) => room.locationId === locationId).map(({ id, name }) => ({ value: id, label: name })),
  ];
  const categories = setup.categories.map(({ id, name }) => ({ value: id, label: name }));
  const states = Object.entries(marks).map(([value, { word }]) => ({ value, label: word }));
  const anywhere = "anywhere";
  return (
    <Trans>
      Visits from{" "}
      {whole(
        <Part label={t`First day`} words={longDate(date)}>
          {(close) => (
            <Month
              value={date}
              onChange={(next) => {
                onPlace(locationId, next);
                close();
              }}
            />
          )}
        </Part>,
      )}{" "}
      to{" "}
      {whole(
        <Part
          label={t`Last day`}
          words={filter.until === date ? t`the same day` : longDate(filter.until)}
          differs={filter.until !== date}
        >
          {(close) => (
            <Month
              value={filter.until}
              min={date}
              onChange={(until) => {
                set({ until });
                close();
              }}
            />
          )}
        </Part>,
      )}{" "}
      at{" "}
      <ChoicePart
        label={t`Location`}
        value={locationId}
        options={setup.locations.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(id) => onPlace(id, date)}
      />{" "}
      with{" "}
      <ManyPart
        label={t`People and rooms`}
        words={named(people, filter.resourceId, t`anybody`)}
        options={people}
        values={filter.resourceId}
        onChange={(resourceId) => set({ resourceId })}
      />{" "}
      for{" "}
      <ManyPart
        label={t`Categories`}
        words={named(categories, filter.categoryId, t`anything`)}
        options={categories}
        values={filter.categoryId}
        onChange={(categoryId) => set({ categoryId })}
      />
      ,{" "}
      <ManyPart
        label={t`States`}
        words={named(states, filter.state, t`all but cancelled`)}
        options={states}
        values={filter.state}
        onChange={(state) => set({ state: state as VisitState[] })}
      />
      ,{" "}
      <ChoicePart
        label={t`Booked`}
        value={filter.source ?? anywhere}
        differs={filter.source !== null}
        options={[
          { value: anywhere, label: t`booked anywhere` },
          { value: "Desk", label: t`booked at the desk` },
          { value: "Online", label: t`booked online` },
        ]}
        onChange={(source) => set({ source: source === anywhere ? null : source })}
      />
      ,{" "}
      <ChoicePart
        label={t`Order`}
        value={filter.grouping}
        differs={filter.grouping !== "time"}
        options={[
          { value: "time", label: t`by time` },
          { value: "practitioner", label: t`by practitioner` },
        ]}
        onChange={(grouping) => set({ grouping: grouping as AgendaFilter["grouping"] })}
      />
      .
    </Trans>
  );
}
