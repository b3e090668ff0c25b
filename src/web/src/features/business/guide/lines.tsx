import { WordsField } from "../../../shared/fields/WordsField";
import { useSlotRecipe } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { MinutesField } from "../../../shared/fields/MinutesField";
import {
  countries,
  countryName,
  currencies,
  currencyName,
  currencyOf,
  languageName,
  localesIn,
  zones,
} from "../../../shared/fields/named";
import { TextField } from "../../../shared/Field";
import { andWords, money } from "../../../shared/format";
import { MoneyField, NumberField } from "../../../shared/inputs";
import { Box, Row } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { ChoicePart, Part } from "../../../shared/sentence/Sentence";
import { ManyPart } from "../../../shared/sentence/ManyPart";
import { dayNames, weekdaysInOrder } from "../../../shared/week/dayNames";
import type { Weekday } from "../../../api/setup";
import { guide } from "../../../theme/recipes/guide";
import { OpeningHours } from "../OpeningHours";
import {
  daysWords,
  hoursWords,
  replaced,
  withQualification,
  type Begin,
  type BeginPerson,
  type BeginRoom,
  type BeginService,
} from "./beginning";

export type GuideProps = {
  draft: Begin;
  errors: Record<string, string>;
  onChange: (change: Partial<Begin>) => void;
};

/** What a part of a sentence opens: a few fields, and how to be through with them. */
function Panel({ close, children, onRemove }: { close: () => void; children: ReactNode; onRemove?: () => void }) {
  const styles = useSlotRecipe({ recipe: guide })();
  return (
    <Box
      as="form"
      css={styles["panel"]}
      onSubmit={(event: React.FormEvent) => {
        event.preventDefault();
        close();
      }}
    >
      {children}
      <Row>
        <Press type="submit" look="primary" size="small">
          Done
        </Press>
        {onRemove && (
          <Press
            look="danger"
            size="small"
            onClick={() => {
              onRemove();
              close();
            }}
          >
            Take it out
          </Press>
        )}
      </Row>
    </Box>
  );
}

/** Parts in a row, with commas between them and the last one joined. */
const joined = (parts: ReactNode[], last: ReactNode) =>
  parts.map((part, i) => (
    <span key={i}>
      {part}
      {i < parts.length - 1 ? ", " : last}
    </span>
  ));

function BusinessLine({ draft, errors, onChange }: GuideProps) {
  const region = draft.region ?? "IE";
  return (
    <>
      We are{" "}
      <Part label="Name of the business" words={draft.name || "what is your business called?"}>
        {(close) => (
          <Panel close={close}>
            <TextField
              label="Name clients read"
              value={draft.name ?? ""}
              error={errors["name"]}
              autoFocus
              onChange={(event) => onChange({ name: event.target.value })}
            />
          </Panel>
        )}
      </Part>{" "}
      at{" "}
      <Part label="Address" words={draft.address || "which address?"}>
        {(close) => (
          <Panel close={close}>
            <TextField
              label="Address"
              value={draft.address ?? ""}
              error={errors["address"]}
              autoFocus
              onChange={(event) => onChange({ address: event.target.value })}
            />
          </Panel>
        )}
      </Part>{" "}
      in{" "}
      <ChoicePart
        label="Country"
        words={countryName(region)}
        options={countries()}
        value={region}
        onChange={(country) =>
          onChange({
            region: country,
            locale: `${(draft.locale ?? "en").split("-")[0]}-${country}`,
            currency: currencyOf(country) ?? draft.currency,
          })
        }
      />
      , on the clock of{" "}
      <ChoicePart
        label="Time zone"
        differs={false}
        options={zones(draft.zone ?? "")}
        value={draft.zone ?? ""}
        onChange={(zone) => onChange({ zone })}
      />
      . Prices are in{" "}
      <ChoicePart
        label="Currency"
        words={currencyName(draft.currency ?? "EUR")}
        options={currencies()}
        value={draft.currency ?? ""}
        onChange={(currency) => onChange({ currency })}
      />{" "}
      and include{" "}
      <Part
        label="Tax"
        differs={draft.taxBasisPoints != null}
        words={draft.taxBasisPoints == null ? "no tax" : `${draft.taxBasisPoints / 100} % tax`}
      >
        {(close) => (
          <Panel close={close}>
            <NumberField
              label="Tax in prices (percent)"
              step={0.5}
              value={draft.taxBasisPoints == null ? null : draft.taxBasisPoints / 100}
              error={errors["taxBasisPoints"]}
              hint="nothing where you add no tax"
              onChange={(percent) => onChange({ taxBasisPoints: percent === null ? null : Math.round(percent * 100) })}
            />
          </Panel>
        )}
      </Part>
      . Clients read{" "}
      <ChoicePart
        label="Language"
        differs={false}
        words={languageName(draft.locale ?? "en-IE")}
        options={localesIn(region, draft.locale ?? "")}
        value={draft.locale ?? ""}
        onChange={(locale) => onChange({ locale })}
      />
      .
    </>
  );
}

function HoursLine({ draft, errors, onChange }: GuideProps) {
  return (
    <>
      We are open{" "}
      <Part label="Opening hours" words={hoursWords(draft.opening ?? [])}>
        {(close) => (
          <Box w="min(760px, 90vw)">
            <OpeningHours hours={draft.opening ?? []} errors={errors} onChange={(opening) => onChange({ opening })} />
            <Press look="primary" size="small" mt="8px" onClick={close}>
              Done
            </Press>
          </Box>
        )}
      </Part>
      .
    </>
  );
}

const dayOptions = () => weekdaysInOrder.map((day) => ({ value: day, label: dayNames(day).long }));

function PeopleLine({ draft, errors, onChange }: GuideProps) {
  const people = draft.people ?? [];
  const set = (i: number, person: BeginPerson | null) => onChange({ people: replaced(people, i, person) });
  return (
    <>
      {joined(
        people.map((person, i) => (
          <>
            <Part label={`Name of practitioner ${i + 1}`} words={person.name || "who?"}>
              {(close) => (
                <Panel close={close} {...(people.length > 1 && { onRemove: () => set(i, null) })}>
                  <TextField
                    label="Name"
                    value={person.name ?? ""}
                    error={errors[`people[${i}].name`]}
                    autoFocus
                    onChange={(event) => set(i, { ...person, name: event.target.value })}
                  />
                </Panel>
              )}
            </Part>{" "}
            works{" "}
            <ManyPart
              label={`Days of ${person.name || "practitioner"}`}
              words={(person.weekdays ?? []).length === 0 ? "all of it" : daysWords(person.weekdays!)}
              options={dayOptions()}
              values={[...(person.weekdays ?? [])]}
              onChange={(days) => set(i, { ...person, weekdays: days as Weekday[] })}
            />
          </>
        )),
        ", and ",
      )}
      <Add
        label="Somebody else"
        words="somebody else?"
        onAdd={() => set(people.length, { name: "", weekdays: [], holds: [] })}
      >
        {(close) => (
          <Panel close={close} onRemove={() => set(people.length - 1, null)}>
            <TextField
              label="Name"
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

/** A part that adds an entry as it opens. */
function Add({
  onAdd,
  ...rest
}: {
  label: string;
  words: string;
  onAdd: () => void;
  children: (close: () => void) => ReactNode;
}) {
  return (
    <span onClickCapture={(event) => (event.target as Element).closest("[aria-expanded=false]") && onAdd()}>
      <Part {...rest} />
    </span>
  );
}

function RoomsLine({ draft, errors, onChange }: GuideProps) {
  const rooms = draft.rooms ?? [];
  const set = (i: number, room: BeginRoom | null) => onChange({ rooms: replaced(rooms, i, room) });
  const features = [...new Set(rooms.flatMap((room) => room.features ?? []))];
  const panel = (i: number, close: () => void) => (
    <Panel close={close} onRemove={() => set(i, null)}>
      <TextField
        label="Name on the door"
        value={rooms[i]?.name ?? ""}
        error={errors[`rooms[${i}].name`]}
        autoFocus
        onChange={(event) => set(i, { ...rooms[i]!, name: event.target.value })}
      />
      <WordsField
        label="What it has"
        words={rooms[i]?.features ?? []}
        offered={features}
        onChange={(words) => set(i, { ...rooms[i]!, features: words })}
      />
    </Panel>
  );
  return (
    <>
      We have{" "}
      {joined(
        rooms.map((room, i) => (
          <Part
            key={i}
            label={`Room ${i + 1}`}
            words={
              (room.features ?? []).length > 0
                ? `${room.name || "a room"} with ${andWords([...room.features!])}`
                : room.name || "a room"
            }
          >
            {(close) => panel(i, close)}
          </Part>
        )),
        ", and ",
      )}
      <Add label="Another room" words="another room?" onAdd={() => set(rooms.length, { name: "", features: [] })}>
        {(close) => panel(rooms.length - 1, close)}
      </Add>
    </>
  );
}

function ServicesLine({ draft, errors, onChange }: GuideProps) {
  const services = draft.services ?? [];
  const currency = draft.currency ?? "EUR";
  const set = (i: number, service: BeginService | null) => onChange({ services: replaced(services, i, service) });
  const panel = (i: number, close: () => void) => {
    const service = services[i];
    if (!service) return null;
    return (
      <Panel close={close} {...(services.length > 1 && { onRemove: () => set(i, null) })}>
        <TextField
          label="Name"
          value={service.name ?? ""}
          error={errors[`services[${i}].name`]}
          autoFocus
          onChange={(event) => set(i, { ...service, name: event.target.value })}
        />
        <Box display="grid" gridTemplateColumns="1fr 1fr" gap="8px">
          <MinutesField
            label="Length"
            value={service.minutes}
            error={errors[`services[${i}].phases[0].minutes`]}
            onChange={(minutes) => set(i, { ...service, minutes: minutes ?? 0 })}
          />
          <MinutesField
            label="Kept after it"
            value={service.bufferMinutes}
            error={errors[`services[${i}].bufferAfterMinutes`]}
            onChange={(minutes) => set(i, { ...service, bufferMinutes: minutes ?? 0 })}
          />
        </Box>
        <MoneyField
          label="Price"
          currency={currency}
          value={service.price}
          error={errors[`services[${i}].price`]}
          onChange={(price) => set(i, { ...service, price: price ?? 0 })}
        />
        <TextField
          label="Category"
          value={service.category ?? ""}
          error={errors[`services[${i}].category`]}
          onChange={(event) => set(i, { ...service, category: event.target.value })}
        />
      </Panel>
    );
  };
  return (
    <>
      We offer{" "}
      {joined(
        services.map((service, i) => (
          <Part
            key={i}
            label={`Service ${i + 1}`}
            words={`${service.name || "what?"} for ${money({ amount: service.price, currency })}`}
          >
            {(close) => panel(i, close)}
          </Part>
        )),
        ", and ",
      )}
      <Add
        label="Another service"
        words="more?"
        onAdd={() =>
          set(services.length, {
            name: "",
            category: services.at(-1)?.category ?? "Services",
            minutes: 60,
            bufferMinutes: 10,
            price: 0,
            feature: services.at(-1)?.feature ?? null,
            qualification: null,
          })
        }
      >
        {(close) => panel(services.length - 1, close)}
      </Add>
    </>
  );
}

const nobody = "";

function NeedsLine({ draft, onChange }: GuideProps) {
  const services = draft.services ?? [];
  const people = draft.people ?? [];
  const qualifications = draft.qualifications ?? [];
  const features = [...new Set((draft.rooms ?? []).flatMap((room) => room.features ?? []))];
  const of = (part: "feature" | "qualification", name: string) =>
    services.flatMap((service, i) => (service[part] === name ? [String(i)] : []));
  const options = services.map((service, i) => ({ value: String(i), label: service.name || "?" }));
  const give = (part: "feature" | "qualification", name: string, chosen: string[]) =>
    onChange({
      services: services.map((service, i) =>
        chosen.includes(String(i))
          ? { ...service, [part]: name }
          : service[part] === name
            ? { ...service, [part]: null }
            : service,
      ),
    });
  const names = (chosen: string[]) =>
    chosen.length === 0 ? "nothing yet" : andWords(chosen.map((i) => services[Number(i)]!.name || "?"));
  return (
    <>
      {features.map((feature) => (
        <span key={feature}>
          <ManyPart
            label={`What needs ${feature}`}
            words={names(of("feature", feature))}
            options={options}
            values={of("feature", feature)}
            onChange={(chosen) => give("feature", feature, chosen)}
          />{" "}
          {of("feature", feature).length > 1 ? "need" : "needs"} a room with {feature}.{" "}
        </span>
      ))}
      {qualifications.map((qualification) => (
        <span key={qualification}>
          <ManyPart
            label={`What needs ${qualification}`}
            words={names(of("qualification", qualification))}
            options={options}
            values={of("qualification", qualification)}
            onChange={(chosen) => give("qualification", qualification, chosen)}
          />{" "}
          {of("qualification", qualification).length > 1 ? "need" : "needs"} somebody who holds{" "}
          <Qualification name={qualification} draft={draft} onChange={onChange} />:{" "}
          <ManyPart
            label={`Who holds ${qualification}`}
            words={andWords(holding(people, qualification)) || "nobody yet"}
            options={people.map((person, i) => ({ value: String(i), label: person.name || "?" }))}
            values={people.flatMap((person, i) => ((person.holds ?? []).includes(qualification) ? [String(i)] : []))}
            onChange={(chosen) =>
              onChange({
                people: people.map((person, i) => {
                  const others = (person.holds ?? []).filter((name) => name !== qualification);
                  return { ...person, holds: chosen.includes(String(i)) ? [...others, qualification] : others };
                }),
              })
            }
          />
          .{" "}
        </span>
      ))}
      Everything else is done by everybody. Is there{" "}
      <Add
        label="Another qualification"
        words="another qualification?"
        onAdd={() => onChange({ qualifications: [...qualifications, nobody] })}
      >
        {(close) => (
          <Panel
            close={close}
            onRemove={() => onChange(withQualification(draft, qualifications.at(-1) ?? nobody, null))}
          >
            <TextField
              label="Name of the qualification"
              value={qualifications.at(-1) ?? ""}
              autoFocus
              onChange={(event) =>
                onChange(withQualification(draft, qualifications.at(-1) ?? nobody, event.target.value))
              }
            />
          </Panel>
        )}
      </Add>
    </>
  );
}

const holding = (people: readonly BeginPerson[], qualification: string) =>
  people.filter((person) => (person.holds ?? []).includes(qualification)).map((person) => person.name || "?");

function Qualification({ name, draft, onChange }: { name: string } & Omit<GuideProps, "errors">) {
  return (
    <Part label="Qualification" words={name || "what?"} differs={false}>
      {(close) => (
        <Panel close={close} onRemove={() => onChange(withQualification(draft, name, null))}>
          <TextField
            label="Name of the qualification"
            value={name}
            autoFocus
            onChange={(event) => onChange(withQualification(draft, name, event.target.value))}
          />
        </Panel>
      )}
    </Part>
  );
}

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

function RulesLine({ draft, onChange }: GuideProps) {
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

/** The sentences in the order of thinking, each with the fields of the request whose faults belong to it. */
export const linesOfGuide: { name: string; fields: string[]; Line: (props: GuideProps) => ReactNode }[] = [
  {
    name: "Business",
    fields: ["name", "place", "address", "zone", "region", "currency", "locale", "tax"],
    Line: BusinessLine,
  },
  { name: "Hours", fields: ["opening"], Line: HoursLine },
  { name: "People", fields: ["people"], Line: PeopleLine },
  { name: "Rooms", fields: ["rooms"], Line: RoomsLine },
  { name: "Services", fields: ["services"], Line: ServicesLine },
  { name: "Needs", fields: ["qualifications"], Line: NeedsLine },
  { name: "Rules", fields: ["online"], Line: RulesLine },
];
