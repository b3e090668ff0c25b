import { Month } from "../../../shared/fields/Month";
import { longDate } from "../../../shared/format";
import { ChoicePart, Part, Sentence } from "../../../shared/sentence/Sentence";
import { mostLines, type Question } from "./question";

const askers = [
  { value: "new", label: "a new client" },
  { value: "returning", label: "a client who has been here" },
  { value: "desk", label: "the desk" },
];
const anyone = "anyone";
const nothing = "nothing";

/** What is asked, as a sentence. */
export function WhyNotSentence({ question }: { question: Question }) {
  const { setup, serviceIds, service, location, date, practitionerId, who, change } = question;
  const services = setup.services.map(({ id, name }) => ({ value: id, label: name }));
  const setServices = (ids: string[]) => change({ service: ids, by: serviceIds[0] === ids[0] ? practitionerId : null });
  const people = setup.practitioners
    .filter((person) => service?.practitionerIds.includes(person.id))
    .map(({ id, name }) => ({ value: id, label: name }));
  return (
    <Sentence>
      Why can <ChoicePart label="Asked by" value={who} options={askers} onChange={(as) => change({ as })} /> not book{" "}
      <ChoicePart
        label="Service"
        value={serviceIds[0] ?? ""}
        options={services}
        onChange={(id) => setServices([id, ...serviceIds.slice(1)])}
      />
      {[...serviceIds.slice(1), nothing].slice(0, mostLines - 1).map((id, i) => (
        <span key={i}>
          {" "}
          {id === nothing ? "" : "and then "}
          <ChoicePart
            label="And then"
            value={id}
            words={id === nothing ? "and more?" : undefined}
            differs={id !== nothing}
            options={[{ value: nothing, label: "nothing more" }, ...services]}
            onChange={(chosen) =>
              setServices(
                [...serviceIds.slice(0, i + 1), chosen, ...serviceIds.slice(i + 2)].filter(
                  (other) => other !== nothing,
                ),
              )
            }
          />
        </span>
      ))}{" "}
      with{" "}
      <ChoicePart
        label="Practitioner"
        value={practitionerId ?? anyone}
        options={[{ value: anyone, label: "anyone" }, ...people]}
        onChange={(by) => change({ by: by === anyone ? null : by })}
      />
      {setup.locations.length > 1 && location && (
        <>
          {" "}
          at{" "}
          <ChoicePart
            label="Location"
            value={location.id}
            options={setup.locations.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={(id) => change({ location: id })}
          />
        </>
      )}{" "}
      on{" "}
      <Part label="Day" words={longDate(date)}>
        {(close) => (
          <Month
            value={date}
            onChange={(chosen) => {
              change({ date: chosen });
              close();
            }}
          />
        )}
      </Part>
      ?
    </Sentence>
  );
}
