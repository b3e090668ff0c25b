import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import type { Business, Service } from "../../../api/public";
import { andWords, money } from "../../../shared/format";
import { Press } from "../../../shared/Press";
import { Choice } from "./Sentence";
import { choiceAt } from "./lines";
import { StepTitle } from "./StepTitle";

const Box = chakra("div");

/** Extras to a service: none, some, or all of them. */
export function ExtraChoice({
  service,
  chosen,
  onChoose,
  onDone,
}: {
  service: Service;
  chosen: string[];
  onChoose: (ids: string[]) => void;
  onDone: () => void;
}) {
  return (
    <Box display="grid" gap="2">
      <StepTitle>
        <Trans>With something extra?</Trans>
      </StepTitle>
      {service.addOns.map((addOn) => {
        const on = chosen.includes(addOn.id);
        return (
          <Choice
            key={addOn.id}
            on={on}
            onClick={() => onChoose(on ? chosen.filter((id) => id !== addOn.id) : [...chosen, addOn.id])}
          >
            <b>
              {on ? "✓ " : ""}
              {addOn.name}
            </b>
            <Box as="span" color="quiet">
              {[
                addOn.minutes > 0 && t`${addOn.minutes} min more`,
                money(addOn.price),
                addOn.suggested && t`goes well with it`,
              ]
                .filter(Boolean)
                .join(" · ")}
            </Box>
            {addOn.words && <Box as="span">{addOn.words}</Box>}
          </Choice>
        );
      })}
      <Press look="primary" onClick={onDone}>
        {chosen.length > 0 ? t`To the free times` : t`No extras; to the free times`}
      </Press>
    </Box>
  );
}

/** No preference first, then everyone who does the service. */
export function PractitionerChoice({
  business,
  locationId,
  service,
  chosen,
  onChoose,
}: {
  business: Business;
  locationId: string;
  service: Service;
  chosen: string | null;
  onChoose: (id: string | null) => void;
}) {
  const here = service.practitioners.flatMap((practitioner) => {
    const person = business.practitioners.find((other) => other.id === practitioner.id);
    return person?.locationIds.includes(locationId) ? [[practitioner, person] as const] : [];
  });
  return (
    <Box display="grid" gap="2">
      <StepTitle>
        <Trans>By whom?</Trans>
      </StepTitle>
      {choiceAt(service, locationId) !== "clientMust" && (
        <Choice on={chosen === null} onClick={() => onChoose(null)}>
          <b>
            <Trans>Whoever is free</Trans>
          </b>
          <Box as="span" color="quiet">
            <Trans>The most times to choose from</Trans>
          </Box>
        </Choice>
      )}
      {here.map(([does, person]) => (
        <Choice key={does.id} on={does.id === chosen} onClick={() => onChoose(does.id)}>
          <Box as="span" display="flex" gap="3" alignItems="start">
            {person.photoId ? (
              <img
                src={`/api/public/v1/pictures/${person.photoId}`}
                alt=""
                style={{ width: 56, height: 56, borderRadius: "50%", objectFit: "cover", flexShrink: 0 }}
              />
            ) : (
              <Box
                as="span"
                aria-hidden
                w="14"
                h="14"
                flexShrink={0}
                borderRadius="50%"
                bg="woven"
                display="grid"
                placeItems="center"
                fontWeight="700"
              >
                {initials(does.name)}
              </Box>
            )}
            <Box as="span" display="grid" gap="0.5">
              <b>{does.name}</b>
              <Box as="span" color="quiet">
                <Trans>
                  {does.minutes} min · {money(does.price)}
                  {person.languages.length > 0 && ` · ${t`speaks ${andWords(person.languages)}`}`}
                </Trans>
              </Box>
              {person.about && <Box as="span">{person.about}</Box>}
            </Box>
          </Box>
        </Choice>
      ))}
    </Box>
  );
}

const initials = (name: string) =>
  name
    .split(/\s+/)
    .map((word) => word[0])
    .join("")
    .slice(0, 2);
