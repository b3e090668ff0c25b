import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, type CSSProperties } from "react";
import type { Business } from "../../../api/public";
import { visitorsAsk } from "../../../api/visitorQueries";
import { useKeptHere } from "../../../shared/keptHere";
import { visit as recipe } from "../../../theme/recipes/visit";
import { useChosen } from "./address";
import { opensIn } from "./framed";
import { House } from "./House";
import { Done, Last, Paying } from "./Last";
import { openedBy, type You } from "./lines";
import { OwnersView } from "./OwnersView";
import { StepChoices } from "./StepChoices";
import { noneBeside, useVisit } from "./useVisit";
import { VisitSentence } from "./VisitSentence";
import { usualColours } from "../../../theme/colours";

const Box = chakra("div");
const Logo = chakra("img");
const Call = chakra("a");

/** The visit as a sentence the client completes; each part opens its choices. */
export function BookingPage() {
  const { link, lines, where } = useChosen().chosen;
  const what = lines[0]?.what;
  const business = useQuery(visitorsAsk.business(link));
  useEffect(() => {
    if (!business.data) return;
    document.documentElement.lang = business.data.locale;
    // As the server names it, for whoever keeps or sends the link.
    const services = business.data.categories.flatMap((category) => category.services);
    const service = services.find((other) => other.id === what);
    const location = business.data.locations.length > 1 && business.data.locations.find((other) => other.id === where);
    document.title = service
      ? t`${service.name} at ${business.data.name}`
      : location
        ? t`Book at ${business.data.name}, ${location.name}`
        : t`Book at ${business.data.name}`;
  }, [business.data, what, where]);
  if (!business.data)
    return (
      <Box p="6" role={business.error ? "alert" : "status"}>
        {business.error?.message ?? t`One moment …`}
      </Box>
    );
  return (
    <>
      <OwnersView />
      <Page business={business.data} />
    </>
  );
}

function Page({ business }: { business: Business }) {
  const styles = useSlotRecipe({ recipe })();
  const own = business.colourMain !== usualColours.main || business.colourAccent !== usualColours.accent;
  const look = {
    "--chakra-colors-water": business.colourMain,
    "--chakra-colors-water-deep": business.colourMain,
    "--chakra-colors-on-water": usualColours.onMain,
    "--chakra-colors-kingcup": business.colourAccent,
    "--chakra-colors-kingcup-line": business.colourAccent,
  } as CSSProperties;
  return (
    <Box css={styles["page"]} style={own ? look : undefined}>
      <Box as="header" css={styles["head"]}>
        <Box css={styles["name"]}>
          {business.logoId && <Logo css={styles["logo"]} src={`/api/public/v1/pictures/${business.logoId}`} alt="" />}
          {business.name}
        </Box>
        <Box display="flex" flexWrap="wrap" columnGap="4">
          <Call whiteSpace="nowrap" href="/book/mine" target={opensIn}>
            <Trans>Your bookings</Trans>
          </Call>
          {business.phone && business.isPhoneAlwaysShown && (
            <Call whiteSpace="nowrap" href={`tel:${business.phone.replaceAll(" ", "")}`}>
              {business.phone}
            </Call>
          )}
        </Box>
      </Box>
      <House business={business} />
      {business.locations.length === 0 ? (
        <Box as="main">
          <Trans>
            {business.name} does not take bookings online yet.
            {business.phone && t` Please call ${business.phone}.`}
          </Trans>
        </Box>
      ) : (
        <Choosing business={business} />
      )}
    </Box>
  );
}

function Choosing({ business }: { business: Business }) {
  const styles = useSlotRecipe({ recipe })();
  const visit = useVisit(business);
  const { booked, services, beside, paying } = visit;
  const [you, setYou] = useKeptHere("kingcup-you", nobody);
  if (booked) {
    const wanted = services.find((other) => other.id === beside.wanted) ?? null;
    return (
      <Last>
        <Done
          booked={booked}
          phone={business.phone}
          opened={openedBy(booked, wanted)}
          onOpened={(id) => {
            const next = services.find((other) => other.id === id);
            if (!next || !booked.sequel) return;
            visit.setBooked(null);
            visit.begin(next, { ...noneBeside, after: booked.sequel.token });
          }}
          onAgain={visit.again}
        />
      </Last>
    );
  }
  if (paying.token)
    return (
      <Last>
        <Paying
          token={paying.token}
          onBooked={(made) => {
            paying.keep(null);
            visit.setBooked(made);
          }}
          onOver={() => paying.keep(null)}
        />
      </Last>
    );
  return (
    <Box as="main" css={styles["main"]}>
      <VisitSentence business={business} visit={visit} />
      <StepChoices
        key={`${visit.step} ${visit.chosen.line}`}
        business={business}
        visit={visit}
        you={you}
        onYou={setYou}
      />
    </Box>
  );
}

const nobody: You = { givenName: "", familyName: "", email: "", phone: "" };
