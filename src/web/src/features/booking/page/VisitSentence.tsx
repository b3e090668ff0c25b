import { whole } from "../../../shared/whole";
import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import type { Business, Price, Service } from "../../../api/public";
import { clock, dateIn, money, shortDate } from "../../../shared/format";
import { Plain } from "../../../shared/Plain";
import { visit as recipe } from "../../../theme/recipes/visit";
import { choiceAt } from "./lines";
import { Blank } from "./Sentence";
import type { Visit } from "./useVisit";

const Box = chakra("div");
const Span = chakra("span");
type Props = { business: Business; visit: Visit };

const priceWords = (service: Service, price: Price) =>
  service.priceForm === "onRequest"
    ? t`price on request`
    : service.priceForm === "free"
      ? t`free`
      : price.isFrom
        ? t`from ${money(price.price)}`
        : money(price.price);

/** Length and price, as far as they are known. */
const sums = ({ service, price }: Visit) =>
  !service ? t`Choose a service to begin` : price ? t`${price.minutes} min · ${priceWords(service, price)}` : "…";

/** What became of the promo code they came with or named; null where they named none. */
const promoWords = ({ price, step }: Visit) => {
  const said = price?.promo;
  // At the last step a code that does not hold is said at its field.
  if (!said || (said.fault && step === "you")) return null;
  return said.fault ? `${said.code}: ${said.fault}` : t`with ${said.code}, ${money(said.off)} off`;
};

/** What is due before it is booked, as far as that is known before a time is chosen. */
const dueWords = ({ holding: { kept }, price }: Visit) => {
  const due = kept?.due ?? price?.due;
  if (!due) return null;
  if (Number(due.amount) > 0) return t`${money(due)} to pay now`;
  return (kept ?? price)?.needsCard ? t`a card to be kept, nothing to pay now` : t`nothing to pay now`;
};

/** The visit as a sentence; what stands under it is always true. Scrolled away, one line of it stays on top. */
export function VisitSentence({ business, visit }: Props) {
  const styles = useSlotRecipe({ recipe })();
  const card = useRef<HTMLDivElement>(null);
  const [isAway, setAway] = useState(false);
  useEffect(() => {
    const watch = new IntersectionObserver(([entry]) => setAway(entry?.isIntersecting === false));
    if (card.current) watch.observe(card.current);
    return () => watch.disconnect();
  }, []);
  return (
    <>
      <Box css={styles["card"]} ref={card}>
        <Words business={business} visit={visit} />
        <Box css={styles["foot"]} aria-live="polite">
          <span>{sums(visit)}</span>
          {visit.service && <span>{dueWords(visit)}</span>}
          {visit.service && promoWords(visit) && <span>{promoWords(visit)}</span>}
        </Box>
      </Box>
      {isAway && visit.service && (
        <Plain css={styles["line"]} onClick={() => card.current?.scrollIntoView({ block: "end" })}>
          <Span srOnly>
            <Trans>Up to your visit: </Trans>
          </Span>
          <Span css={styles["lineWords"]}>
            <b>{visit.service.name}</b>
            {visit.extras.length > 0 && t` with ${visit.extras.map((extra) => extra.name).join(" and ")}`}
            {t`, by ${visit.who?.name ?? t`whoever is free`}`}
            {visit.chosen.at && `, ${when(visit)}`}
          </Span>
          <Span>{[sums(visit), dueWords(visit)].filter(Boolean).join(" · ")}</Span>
        </Plain>
      )}
    </>
  );
}

const when = ({ chosen, location }: Visit) =>
  t`${shortDate(dateIn(chosen.at!, location.zone))} at ${clock(chosen.at!, location.zone)}`;

function Words({ business, visit }: Props) {
  const styles = useSlotRecipe({ recipe })();
  const { service, extras, who, location, step, chosen, change } = visit;
  const choice = service ? choiceAt(service, location.id) : "clientMay";
  return (
    <Box as="h1" css={styles["words"]}>
      <Trans>
        I would like{" "}
        <Blank open={step === "what"} onClick={() => change({ step: "what" })}>
          {service?.name ?? t`what?`}
        </Blank>
        {service && service.addOns.length > 0 && (
          <>
            <Trans>
              {" "}
              with{" "}
              <Blank open={step === "extras"} onClick={() => change({ step: "extras" })}>
                {extras.length > 0 ? extras.map((extra) => extra.name).join(" and ") : t`no extras`}
              </Blank>
            </Trans>
          </>
        )}
        {business.locations.length > 1 && (
          <>
            <Trans>
              {" "}
              at{" "}
              <Blank open={step === "where"} onClick={() => change({ step: "where" })}>
                {location.name}
              </Blank>
            </Trans>
          </>
        )}
        {whole(
          choice === "house" ? (
            ", "
          ) : (
            <>
              <Trans>
                , by{" "}
                <Blank open={step === "who"} onClick={() => change({ step: "who" })} disabled={!service}>
                  {who?.name ?? (choice === "clientMust" ? t`whom?` : t`whoever is free`)}
                </Blank>{" "}
              </Trans>
            </>
          ),
        )}
        {chosen.at && t`on `}
        <Blank open={step === "when"} onClick={() => change({ step: "when" })} disabled={!service}>
          {chosen.at && service ? when(visit) : t`when?`}
        </Blank>
      </Trans>
    </Box>
  );
}
