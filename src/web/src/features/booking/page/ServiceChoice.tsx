import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { Fragment, useMemo, useState, type ReactNode } from "react";
import type { Business, Service } from "../../../api/public";
import { TextField } from "../../../shared/Field";
import { money } from "../../../shared/format";
import { Press } from "../../../shared/Press";
import { Later } from "../../../shared/Later";
import { visit as recipe } from "../../../theme/recipes/visit";
import { Choice } from "./Sentence";
import { doneBy, firstOf, matching, plain } from "./finding";
import { StepTitle } from "./StepTitle";

const Box = chakra("div");
const Folding = chakra("details");
/** From so many services on nobody reads all of them. */
const many = 8;

type Props = {
  business: Business;
  locationId: string;
  title: string;
  /** What else is wanted: it has to be done at the same place. */
  besides: Service[];
  chosen: Service | null;
  /** The category a link leads to. */
  of: string | null;
  /** Whom a link leads to. */
  who: string | null;
  onEverything: () => void;
  onChoose: (service: Service) => void;
  /** What else can be done with this part of the visit. */
  children: ReactNode;
};

/** Services by category, which fold; looked for by a word where there are many. */
export function ServiceChoice(props: Props) {
  const { business, title, locationId, besides, chosen, of, who, onEverything, onChoose, children } = props;
  const styles = useSlotRecipe({ recipe })();
  const [sought, setSought] = useState("");
  const theirs = useMemo(() => doneBy(business.categories, who), [business.categories, who]);
  const offered = useMemo(
    () => firstOf(theirs?.categories ?? business.categories, of),
    [theirs, business.categories, of],
  );
  const categories = useMemo(() => matching(offered, sought), [offered, sought]);
  const isHad = (service: Service) =>
    service.bookableOnline && (besides.length === 0 || service.locationIds.includes(locationId));
  const isLinked = offered[0]?.id === of;
  const found = categories.flatMap((category) => category.services);
  const hasMany = business.categories.flatMap((category) => category.services).length >= many;
  return (
    <Box display="grid" gap="4">
      <StepTitle>{title}</StepTitle>
      {children}
      {hasMany && (
        <TextField
          label={t`Look for a service`}
          type="search"
          value={sought}
          onChange={(event) => setSought(event.target.value)}
          onKeyDown={(event) => {
            // Whoever has typed until one is left need not point at it.
            if (event.key === "Enter" && found.length === 1 && isHad(found[0]!)) onChoose(found[0]!);
          }}
        />
      )}
      {found.length === 0 && (
        <Box role="status" css={styles["quiet"]}>
          <Trans>Nothing here is called that. Try a shorter word, or call us and ask.</Trans>
        </Box>
      )}
      {theirs && (
        <Box css={styles["quiet"]} display="flex" flexWrap="wrap" alignItems="center" gap="2">
          <Trans>What {theirs.name} does.</Trans>
          <Press size="small" look="quiet" onClick={onEverything}>
            <Trans>Show everything</Trans>
          </Press>
        </Box>
      )}
      {categories.map((category, i) => {
        const Moment = i === 0 || sought ? Fragment : Later;
        return (
          <Moment key={category.id}>
            <Folding open={!isLinked || i === 0 || sought !== ""} css={styles["category"]}>
              <Box as="summary" css={styles["categoryName"]}>
                <h2>{category.name}</h2>
              </Box>
              <Box as="section" aria-label={category.name} display="grid" gap="1.5">
                {category.services.map((service) => (
                  <OneService
                    key={service.id}
                    service={service}
                    business={business}
                    locationId={locationId}
                    isChosen={service.id === chosen?.id}
                    isHad={isHad(service)}
                    onChoose={onChoose}
                  />
                ))}
              </Box>
            </Folding>
          </Moment>
        );
      })}
    </Box>
  );
}

type OneProps = {
  service: Service;
  business: Business;
  locationId: string;
  isChosen: boolean;
  /** Whether it can be booked here, with what else is wanted. */
  isHad: boolean;
  onChoose: (service: Service) => void;
};

/** A service with its picture, price, length and text; one that cannot be booked here says what to do instead. */
function OneService({ service, business, locationId, isChosen, isHad, onChoose }: OneProps) {
  const styles = useSlotRecipe({ recipe })();
  const elsewhere = !service.locationIds.includes(locationId);
  const where = business.locations.find((location) => location.id === service.locationIds[0])?.name;
  return (
    <Choice on={isChosen} disabled={!isHad} onClick={() => onChoose(service)}>
      {service.pictureId && (
        <Box as="span" css={styles["picture"]}>
          <img src={`/api/public/v1/pictures/${service.pictureId}`} alt="" loading="lazy" />
        </Box>
      )}
      <Box as="span" display="flex" justifyContent="space-between" gap="3" fontWeight="700">
        <span>{service.name}</span>
        <Box as="span" whiteSpace="nowrap">
          {priceOf(service)}
        </Box>
      </Box>
      <Box as="span" color="quiet" fontSize="text">
        {[
          t`${service.minutes} min`,
          elsewhere && where ? (isHad ? t`at ${where}` : t`only at ${where}`) : "",
          service.needs ? t`needs ${service.needs.name} first` : "",
          service.bookableOnline ? "" : t`by phone only${business.phone ? `: ${business.phone}` : ""}`,
        ]
          .filter(Boolean)
          .join(" · ")}
      </Box>
      {service.html && (
        <Box as="span" color="quiet" fontSize="text">
          {plain(service.html)}
        </Box>
      )}
    </Choice>
  );
}

const priceOf = (service: Service) =>
  service.priceForm === "onRequest"
    ? t`on request`
    : service.priceForm === "free"
      ? t`free`
      : service.priceVaries
        ? t`from ${money(service.price)}`
        : money(service.price);
