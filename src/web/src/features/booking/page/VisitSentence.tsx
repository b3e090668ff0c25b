import { whole } from "../../../shared/whole";
import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { Fragment, useEffect, useRef, useState, type ReactNode } from "react";
import type { Business, Price } from "../../../api/public";
import { andWords, clock, dateIn, money, shortDate } from "../../../shared/format";
import { Plain } from "../../../shared/Plain";
import { visit as recipe } from "../../../theme/recipes/visit";
import { comingTo } from "./address";
import { alongWords, choiceAt } from "./lines";
import { Blank } from "./Sentence";
import type { Visit, VisitLine } from "./useVisit";

const Box = chakra("div");
const Span = chakra("span");
type Props = { business: Business; visit: Visit };

const priceWords = (lines: VisitLine[], price: Price) => {
  const forms = lines.map((line) => line.service.priceForm);
  if (forms.every((form) => form === "onRequest")) return t`price on request`;
  if (forms.every((form) => form === "free")) return t`free`;
  return price.isFrom || forms.includes("onRequest") ? t`from ${money(price.price)}` : money(price.price);
};

/** Length and price, as far as they are known. */
const sums = ({ lines, price }: Visit) =>
  lines.length === 0
    ? t`Choose a service to begin`
    : price
      ? t`${price.minutes} min · ${priceWords(lines, price)}`
      : "…";

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
          {visit.lines.length > 0 && <span>{dueWords(visit)}</span>}
          {visit.lines.length > 0 && promoWords(visit) && <span>{promoWords(visit)}</span>}
        </Box>
      </Box>
      {isAway && visit.lines.length > 0 && (
        <Plain css={styles["line"]} onClick={() => card.current?.scrollIntoView({ block: "end" })}>
          <Span srOnly>
            <Trans>Up to your visit: </Trans>
          </Span>
          <Span css={styles["lineWords"]}>
            {visit.lines.map((line, i) => (
              <Fragment key={i}>
                {i > 0 && ", "}
                <b>{line.service.name}</b>
                {line.extras.length > 0 && t` with ${andWords(line.extras.map((extra) => extra.name))}`}
                {visit.lines.length === 1
                  ? t`, by ${line.who?.name ?? t`whoever is free`}`
                  : line.who && t` by ${line.who.name}`}
              </Fragment>
            ))}
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
  const { lines, line, location, step, chosen, change } = visit;
  const isMore = step === "what" && lines.length > 0 && !line;
  const said = [
    ...lines.map(({ person }, at) => ({ person, at })),
    ...(isMore || lines.length === 0 ? [{ person: chosen.add, at: lines.length }] : []),
  ].sort((a, b) => a.person - b.person);
  const place = business.locations.length > 1 && (
    <Trans>
      {" "}
      at{" "}
      <Blank open={step === "where"} onClick={() => change({ step: "where" })}>
        {location.name}
      </Blank>
    </Trans>
  );
  return (
    <>
      <Box as="h1" css={styles["words"]}>
        <Trans>
          I would like <LineWords visit={visit} at={0} place={said.length > 1 ? null : place} />
        </Trans>
        {said.slice(1).map(({ person, at }, i) =>
          person === said[i]!.person ? (
            <Trans key={at}>
              , then <LineWords visit={visit} at={at} place={null} />
            </Trans>
          ) : (
            <Trans key={at}>
              , and for {alongWords(person)} <LineWords visit={visit} at={at} place={null} />
            </Trans>
          ),
        )}
        {said.length > 1 && place}
        {whole(
          chosen.at && lines.length > 0 ? (
            <Trans>
              {" "}
              on{" "}
              <Blank open={step === "when"} onClick={() => change({ step: "when" })}>
                {when(visit)}
              </Blank>
            </Trans>
          ) : (
            <>
              {", "}
              <Blank
                open={step === "when"}
                onClick={() => change({ step: "when" })}
                disabled={lines.length === 0}
              >{t`when?`}</Blank>
            </>
          ),
        )}
      </Box>
      {lines.length > 0 && lines.length < Number(business.mostLines) && !isMore && (
        <More business={business} visit={visit} />
      )}
    </>
  );
}

/** One more service, for somebody who comes or somebody who comes along. */
function More({ business, visit }: Props) {
  const styles = useSlotRecipe({ recipe })();
  const { lines, change } = visit;
  const come = comingTo(lines);
  const add = (person: number) => change({ line: lines.length, add: person, step: "what" });
  return (
    <Box css={styles["more"]}>
      {Array.from({ length: come }, (_, person) => (
        <Plain key={person} css={styles["add"]} onClick={() => add(person)}>
          {come === 1
            ? t`Add a service`
            : person === 0
              ? t`Add a service for you`
              : t`Add one for ${alongWords(person)}`}
        </Plain>
      ))}
      {come < Number(business.mostPeople) && (
        <Plain css={styles["add"]} onClick={() => add(come)}>
          <Trans>Bring somebody along</Trans>
        </Plain>
      )}
    </Box>
  );
}

/** A service of the visit, with extras and whoever does it. */
function LineWords({ visit, at, place }: { visit: Visit; at: number; place: ReactNode }) {
  const { lines, location, step, chosen, change } = visit;
  const line = lines[at];
  const choice = line ? choiceAt(line.service, location.id) : "clientMay";
  const isOpen = (part: typeof step) => step === part && chosen.line === at;
  return (
    <>
      <Blank open={isOpen("what")} onClick={() => change({ line: at, step: "what" })}>
        {line?.service.name ?? t`what?`}
      </Blank>
      {line && line.service.addOns.length > 0 && (
        <Trans>
          {" "}
          with{" "}
          <Blank open={isOpen("extras")} onClick={() => change({ line: at, step: "extras" })}>
            {line.extras.length > 0 ? andWords(line.extras.map((extra) => extra.name)) : t`no extras`}
          </Blank>
        </Trans>
      )}
      {place}
      {choice !== "house" && (line || at === 0) && (
        <Trans>
          , by{" "}
          <Blank open={isOpen("who")} onClick={() => change({ line: at, step: "who" })} disabled={!line}>
            {line?.who?.name ?? (choice === "clientMust" ? t`whom?` : t`whoever is free`)}
          </Blank>
        </Trans>
      )}
    </>
  );
}
