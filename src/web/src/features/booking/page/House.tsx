import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useState } from "react";
import type { Business } from "../../../api/public";
import { visit as recipe } from "../../../theme/recipes/visit";
import { useChosen } from "./address";

const Box = chakra("div");
const Link = chakra("a");

/** Where an address is, on an open map. */
const onTheMap = (address: string) => `https://www.openstreetmap.org/search?query=${encodeURIComponent(address)}`;

/** The business in a few lines; when it is open and where it is, for whoever asks. */
export function House({ business }: { business: Business }) {
  const styles = useSlotRecipe({ recipe })();
  // Nothing is drawn of it before somebody asks: most come to book.
  const [asked, setAsked] = useState(false);
  return (
    <Box as="section" aria-label={business.name} css={styles["house"]}>
      {business.about && <Box as="p">{business.about}</Box>}
      {business.pictures.length > 0 && (
        <Box css={styles["pictures"]} role="group" aria-label={t`Pictures`} tabIndex={0}>
          {business.pictures.map((picture) => (
            <img key={picture.id} src={`/api/public/v1/pictures/${picture.id}`} alt={picture.words} />
          ))}
        </Box>
      )}
      <Box as="details" onToggle={() => setAsked(true)}>
        <Box as="summary" css={styles["ask"]}>
          <Trans>Opening hours, and where to find us</Trans>
        </Box>
        {asked && <Places business={business} />}
      </Box>
    </Box>
  );
}

/** Each location: where it is, when it is open, and when it is closed soon. */
function Places({ business }: { business: Business }) {
  const styles = useSlotRecipe({ recipe })();
  const { where } = useChosen().chosen;
  // Where they are about to go comes first.
  const locations = [...business.locations].sort((one, other) => Number(other.id === where) - Number(one.id === where));
  return (
    <Box css={styles["places"]}>
      {locations.map((location) => (
        <Box as="section" key={location.id} aria-label={location.name}>
          <Box css={styles["placeName"]}>{location.name}</Box>
          {location.address && (
            <div>
              {location.address}{" "}
              <Link
                href={onTheMap(location.address)}
                target="_blank"
                rel="noreferrer"
                textDecoration="underline"
                aria-label={t`Show the way to ${location.name}`}
              >
                <Trans>Show the way</Trans>
              </Link>
            </div>
          )}
          <Box as="dl" css={styles["hours"]}>
            {location.hours.map((hours) => [
              <dt key={hours.days}>{hours.days}</dt>,
              <dd key={`${hours.days} open`}>{hours.open}</dd>,
            ])}
          </Box>
          {location.closed.length > 0 && (
            <Box as="dl" css={styles["hours"]} aria-label={t`Closed soon`}>
              {location.closed.map((closed) => [
                <dt key={closed.days}>{closed.days}</dt>,
                <dd key={`${closed.days} closed`}>{closed.words ?? t`closed`}</dd>,
              ])}
            </Box>
          )}
        </Box>
      ))}
    </Box>
  );
}
