import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import type { Business } from "../../../api/public";
import { visit as recipe } from "../../../theme/recipes/visit";
import { ExtraChoice, PractitionerChoice } from "./Choices";
import { ComesFirst } from "./ComesFirst";
import { Days } from "./Days";
import { Details, Last } from "./Last";
import { comingTo } from "./address";
import { alongWords, needing, stepNext, withLine, withoutLine, type You } from "./lines";
import { Press } from "../../../shared/Press";
import { Choice } from "./Sentence";
import { ServiceChoice } from "./ServiceChoice";
import { StepTitle } from "./StepTitle";
import { noneBeside, type Visit } from "./useVisit";

const Box = chakra("div");
type Props = { business: Business; visit: Visit; you: You; onYou: (you: You) => void };

/** The choices of the part of the sentence that is open. */
export function StepChoices({ business, visit, you, onYou }: Props) {
  const styles = useSlotRecipe({ recipe })();
  const { step, line, lines, location, wish, chosen, change } = visit;
  return (
    <Box css={styles["step"]}>
      {step === "where" && <Places business={business} visit={visit} />}
      {step === "what" && <What business={business} visit={visit} />}
      {step === "extras" && line && (
        <ExtraChoice
          service={line.service}
          chosen={chosen.lines[chosen.line]!.extras}
          onChoose={(extras) =>
            change(withLine(chosen, chosen.line, { ...chosen.lines[chosen.line]!, extras }), undefined, true)
          }
          onDone={() => change(stepNext(lines, location.id))}
        />
      )}
      {step === "who" && line && (
        <PractitionerChoice
          business={business}
          locationId={location.id}
          service={line.service}
          chosen={line.who?.id ?? null}
          onChoose={(who) =>
            change({
              ...withLine(chosen, chosen.line, { ...chosen.lines[chosen.line]!, who }),
              ...stepNext(
                lines.map((other, i) => (i === chosen.line ? { ...other, who } : other)),
                location.id,
              ),
            })
          }
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

/** The service that is being chosen: the first, another in its place, or one more. */
function What({ business, visit }: { business: Business; visit: Visit }) {
  const { line, lines, chosen, location, change } = visit;
  return (
    <>
      <ServiceChoice
        business={business}
        title={
          line || lines.length === 0
            ? t`What would you like?`
            : chosen.add < comingTo(lines)
              ? t`And what else?`
              : t`And what for ${alongWords(chosen.add)}?`
        }
        of={chosen.of}
        who={lines.length === 0 ? chosen.who : null}
        onEverything={() => change({ who: null, of: null })}
        locationId={location.id}
        besides={lines.filter((other) => other !== line).map((other) => other.service)}
        chosen={line?.service ?? null}
        onChoose={(next) => visit.choose(next, chosen.line === 0 ? noneBeside : undefined)}
      >
        {lines.length > 1 && line && (
          <Press onClick={() => change(withoutLine(chosen, chosen.line))}>
            <Trans>Take {line.service.name} out</Trans>
          </Press>
        )}
        {lines.length > 0 && !line && (
          <Press onClick={() => change({ line: 0, step: "when" })}>
            <Trans>Nothing more; to the free times</Trans>
          </Press>
        )}
      </ServiceChoice>
    </>
  );
}

function Places({ business, visit }: { business: Business; visit: Visit }) {
  const { lines, location, chosen, change } = visit;
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
            const stays = lines.length > 0 && lines.every((line) => line.service.locationIds.includes(other.id));
            change({
              where: other.id,
              at: null,
              day: null,
              lines: stays ? chosen.lines.map((line) => ({ ...line, who: null })) : [],
              ...(stays
                ? stepNext(
                    lines.map((line) => ({ ...line, who: null })),
                    other.id,
                  )
                : { line: 0, step: "what" }),
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
  const { wish, services } = visit;
  const [only, ...more] = wish!.lines;
  const html = more.length === 0 ? only!.service.html : "";
  const needs = needing(wish!);
  const first = services.find((other) => other.id === needs?.needs?.serviceId && other.bookableOnline);
  return (
    <>
      {html && html.length > 160 && (
        // The server has made it safe: formatting and links only.
        <Box
          css={{
            "& p": { marginBottom: "2" },
            "& ul": { paddingLeft: "5", listStyle: "disc" },
            "& a": { textDecoration: "underline" },
          }}
          dangerouslySetInnerHTML={{ __html: html }}
        />
      )}
      {needs?.needs ? (
        <ComesFirst
          whom={visit.whom}
          service={needs}
          needs={needs.needs}
          phone={business.phone}
          onFirst={first ? () => visit.begin(first, { after: null, wanted: needs.id }) : null}
        />
      ) : (
        <Days business={business} visit={visit} wish={wish!} />
      )}
    </>
  );
}
