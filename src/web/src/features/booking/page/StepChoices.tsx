import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useEffect } from "react";
import type { Business } from "../../../api/public";
import { visit as recipe } from "../../../theme/recipes/visit";
import { ExtraChoice, PractitionerChoice } from "./Choices";
import { ComesFirst } from "./ComesFirst";
import { Days } from "./Days";
import { Details, fetchLast, Last } from "./Last";
import { mustChoose, type You } from "./lines";
import { Choice } from "./Sentence";
import { ServiceChoice } from "./ServiceChoice";
import { StepTitle } from "./StepTitle";
import { noneBeside, type Visit } from "./useVisit";

const Box = chakra("div");
type Props = { business: Business; visit: Visit; you: You; onYou: (you: You) => void };

/** The choices of the part of the sentence that is open. */
export function StepChoices({ business, visit, you, onYou }: Props) {
  const styles = useSlotRecipe({ recipe })();
  const { step, service, location, wish, chosen, change } = visit;
  return (
    <Box css={styles["step"]}>
      {step === "where" && <Places business={business} visit={visit} />}
      {step === "what" && (
        <ServiceChoice
          business={business}
          of={visit.chosen.of}
          who={service ? null : visit.chosen.who}
          onEverything={() => visit.change({ who: null, of: null })}
          locationId={location.id}
          chosen={service}
          onChoose={(next) => visit.choose(next, noneBeside)}
        />
      )}
      {step === "extras" && service && (
        <ExtraChoice
          service={service}
          chosen={chosen.extras}
          onChoose={(extras) => change({ extras, at: null }, undefined, true)}
          onDone={() => change({ step: mustChoose(service, location.id) && !visit.who ? "who" : "when" })}
        />
      )}
      {step === "who" && service && (
        <PractitionerChoice
          business={business}
          locationId={location.id}
          service={service}
          chosen={visit.who?.id ?? null}
          onChoose={(who) => change({ who, at: null, day: null, step: "when" })}
        />
      )}
      {step === "when" && wish && <When business={business} visit={visit} />}
      {step === "you" && wish && chosen.at && (
        <Last>
          <Details
            whom={visit.whom}
            business={business}
            wish={wish}
            start={chosen.at}
            zone={location.zone}
            holding={visit.holding}
            promo={visit.price?.promo ?? null}
            onPromo={(promo) => change({ promo }, undefined, true)}
            you={you}
            onYou={onYou}
            onOther={(at) => change({ at }, undefined, true)}
            onWhen={() => change({ step: "when" })}
            onBooked={visit.setBooked}
            onPaying={visit.paying.keep}
          />
        </Last>
      )}
    </Box>
  );
}

function Places({ business, visit }: { business: Business; visit: Visit }) {
  const { service, location, change } = visit;
  return (
    <>
      <StepTitle>
        <Trans>Where?</Trans>
      </StepTitle>
      {business.locations.map((other) => (
        <Choice
          key={other.id}
          on={other.id === location.id}
          onClick={() => {
            const stays = service?.locationIds.includes(other.id);
            change({
              where: other.id,
              who: null,
              at: null,
              day: null,
              what: stays ? service!.id : null,
              step: !stays ? "what" : mustChoose(service!, other.id) ? "who" : "when",
            });
          }}
        >
          <b>{other.name}</b>
          <span>{other.address}</span>
        </Choice>
      ))}
    </>
  );
}

/** What the service is, what has to come before it, and the free times. */
function When({ business, visit }: { business: Business; visit: Visit }) {
  const { wish, services, beside } = visit;
  useEffect(fetchLast, []);
  const service = wish!.service;
  const first = services.find((other) => other.id === service.needs?.serviceId && other.bookableOnline);
  return (
    <>
      {service.html && service.html.length > 160 && (
        // The server has made it safe: formatting and links only.
        <Box
          css={{
            "& p": { marginBottom: "2" },
            "& ul": { paddingLeft: "5", listStyle: "disc" },
            "& a": { textDecoration: "underline" },
          }}
          dangerouslySetInnerHTML={{ __html: service.html }}
        />
      )}
      {service.needs && !beside.after && !wish!.as ? (
        <ComesFirst
          whom={visit.whom}
          service={service}
          needs={service.needs}
          phone={business.phone}
          onFirst={first ? () => visit.choose(first, { after: null, wanted: service.id }) : null}
        />
      ) : (
        <Days business={business} visit={visit} wish={wish!} />
      )}
    </>
  );
}
