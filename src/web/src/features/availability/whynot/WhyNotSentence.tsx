import { t } from "@lingui/core/macro";
import { whole } from "../../../shared/whole";
import { Trans } from "@lingui/react/macro";
import { Month } from "../../../shared/fields/Month";
import { longDate } from "../../../shared/format";
import { ChoicePart, Part, Sentence } from "../../../shared/sentence/Sentence";
import { mostLines, type Question } from "./question";

const askers = [
  { value: "new", label: t`a new client` },
  { value: "returning", label: t`a client who has been here` },
  { value: "desk", label: t`the desk` },
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
      <Trans>
        Why can <ChoicePart label={t`Asked by`} value={who} options={askers} onChange={(as) => change({ as })} /> not
        book{" "}
        <ChoicePart
          label={t`Service`}
          value={serviceIds[0] ?? ""}
          options={services}
          onChange={(id) => setServices([id, ...serviceIds.slice(1)])}
        />
        {[...serviceIds.slice(1), nothing].slice(0, mostLines - 1).map((id, i) => (
          <span key={i}>
            {" "}
            {id === nothing ? "" : t`and then `}
            <ChoicePart
              label={t`And then`}
              value={id}
              words={id === nothing ? t`and more?` : undefined}
              differs={id !== nothing}
              options={[{ value: nothing, label: t`nothing more` }, ...services]}
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
          label={t`Practitioner`}
          value={practitionerId ?? anyone}
          options={[{ value: anyone, label: t`anyone` }, ...people]}
          onChange={(by) => change({ by: by === anyone ? null : by })}
        />
        {setup.locations.length > 1 && location && (
          <>
            <Trans>
              {" "}
              at{" "}
              <ChoicePart
                label={t`Location`}
                value={location.id}
                options={setup.locations.map(({ id, name }) => ({ value: id, label: name }))}
                onChange={(id) => change({ location: id })}
              />
            </Trans>
          </>
        )}{" "}
        on{" "}
        {whole(
          <Part label={t`Day`} words={longDate(date)}>
            {(close) => (
              <Month
                value={date}
                onChange={(chosen) => {
                  change({ date: chosen });
                  close();
                }}
              />
            )}
          </Part>,
        )}
        ?
      </Trans>
    </Sentence>
  );
}
