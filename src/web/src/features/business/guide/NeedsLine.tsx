import { t } from "@lingui/core/macro";
import { whole } from "../../../shared/whole";
import { Trans } from "@lingui/react/macro";
import { TextField } from "../../../shared/Field";
import { andWords } from "../../../shared/format";
import { Part } from "../../../shared/sentence/Sentence";
import { ManyPart } from "../../../shared/sentence/ManyPart";
import { withQualification, type BeginPerson } from "./beginning";

import type { GuideProps } from "./guideProps";
import { Add, Panel } from "./Panel";
const nobody = "";

/** What needs which room, and whom. */
export function NeedsLine({ draft, onChange }: GuideProps) {
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
    chosen.length === 0 ? t`nothing yet` : andWords(chosen.map((i) => services[Number(i)]!.name || "?"));
  return (
    <>
      <Trans>
        {features.map((feature) => (
          <span key={feature}>
            <Trans>
              <ManyPart
                label={t`What needs ${feature}`}
                words={names(of("feature", feature))}
                options={options}
                values={of("feature", feature)}
                onChange={(chosen) => give("feature", feature, chosen)}
              />{" "}
              {of("feature", feature).length > 1 ? t`need a room with ${feature}` : t`needs a room with ${feature}`}
              .{" "}
            </Trans>
          </span>
        ))}
        {qualifications.map((qualification) => (
          <span key={qualification}>
            <Trans>
              <ManyPart
                label={t`What needs ${qualification}`}
                words={names(of("qualification", qualification))}
                options={options}
                values={of("qualification", qualification)}
                onChange={(chosen) => give("qualification", qualification, chosen)}
              />{" "}
              {of("qualification", qualification).length > 1 ? t`need somebody who holds` : t`needs somebody who holds`}{" "}
              <Qualification name={qualification} draft={draft} onChange={onChange} />:{" "}
              <ManyPart
                label={t`Who holds ${qualification}`}
                words={andWords(holding(people, qualification)) || t`nobody yet`}
                options={people.map((person, i) => ({ value: String(i), label: person.name || "?" }))}
                values={people.flatMap((person, i) =>
                  (person.holds ?? []).includes(qualification) ? [String(i)] : [],
                )}
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
            </Trans>
          </span>
        ))}
        Everything else is done by everybody. Is there{" "}
        {whole(
          <Add
            label={t`Another qualification`}
            words={t`another qualification?`}
            onAdd={() => onChange({ qualifications: [...qualifications, nobody] })}
          >
            {(close) => (
              <Panel
                close={close}
                onRemove={() => onChange(withQualification(draft, qualifications.at(-1) ?? nobody, null))}
              >
                <TextField
                  label={t`Name of the qualification`}
                  value={qualifications.at(-1) ?? ""}
                  autoFocus
                  onChange={(event) =>
                    onChange(withQualification(draft, qualifications.at(-1) ?? nobody, event.target.value))
                  }
                />
              </Panel>
            )}
          </Add>,
        )}
      </Trans>
    </>
  );
}

const holding = (people: readonly BeginPerson[], qualification: string) =>
  people.filter((person) => (person.holds ?? []).includes(qualification)).map((person) => person.name || "?");

function Qualification({ name, draft, onChange }: { name: string } & Omit<GuideProps, "errors">) {
  return (
    <Part label={t`Qualification`} words={name || t`what?`} differs={false}>
      {(close) => (
        <Panel close={close} onRemove={() => onChange(withQualification(draft, name, null))}>
          <TextField
            label={t`Name of the qualification`}
            value={name}
            autoFocus
            onChange={(event) => onChange(withQualification(draft, name, event.target.value))}
          />
        </Panel>
      )}
    </Part>
  );
}
