import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState, type CSSProperties } from "react";
import { visitors, type Booked, type Business, type Price, type Service } from "../../../api/public";
import { clock, dateIn, money, shortDate } from "../../../shared/format";
import { answerOf } from "../../../shared/problem";
import { ComesFirst } from "./ComesFirst";
import { Days } from "./Days";
import { Details } from "./Details";
import { Done } from "./Done";
import { ExtraChoice, PractitionerChoice, ServiceChoice } from "./Choices";
import { choiceAt, linesOf, openedBy } from "./lines";
import { OwnersView } from "./OwnersView";
import { Blank, Choice } from "./Sentence";

const Box = chakra("div");
export type Wish = {
  locationId: string;
  service: Service;
  practitionerId: string | null;
  addOnIds: string[];
  returning: boolean;
  /** The token of a visit just booked that has to come first. */
  after: string | null;
  link: string | null;
};
export type You = { givenName: string; familyName: string; email: string; phone: string };
type Part = "where" | "what" | "extras" | "who" | "when" | "you";

/** The direct link a client came with opens services that are not shown to everyone. */
const link = new URLSearchParams(window.location.search).get("with");

/** The visit as a sentence the client completes; each part opens its choices. */
export function BookingPage() {
  const business = useQuery({
    queryKey: ["business"],
    queryFn: () => answerOf(visitors.GET("/api/public/v1/business", { params: { query: link ? { link } : {} } })),
  });
  useEffect(() => {
    if (!business.data) return;
    document.documentElement.lang = business.data.locale;
    document.title = `Book at ${business.data.name}`;
  }, [business.data]);
  if (!business.data)
    return (
      <Box p="24px" role={business.error ? "alert" : "status"}>
        {business.error?.message ?? "One moment …"}
      </Box>
    );
  if (business.data.locations.length === 0)
    return (
      <Box as="main" p="24px" fontSize="18px">
        {business.data.name} does not take bookings online yet.
        {business.data.phone && ` Please call ${business.data.phone}.`}
      </Box>
    );
  return (
    <>
      <OwnersView />
      <Sentence business={business.data} />
    </>
  );
}

const priceWords = (service: Service, price: Price) =>
  service.priceForm === "onRequest"
    ? "price on request"
    : service.priceForm === "free"
      ? "free"
      : `${price.isFrom ? "from " : ""}${money(price.price)}`;

function Sentence({ business }: { business: Business }) {
  const [locationId, setLocationId] = useState(business.locations[0]!.id);
  const [service, setService] = useState<Service | null>(null);
  const [practitionerId, setPractitionerId] = useState<string | null>(null);
  const [addOnIds, setAddOnIds] = useState<string[]>([]);
  const [returning, setReturning] = useState(false);
  const [start, setStart] = useState<string | null>(null);
  const [part, setPart] = useState<Part>("what");
  const [booked, setBooked] = useState<Booked | null>(null);
  // What was wanted when something else had to come first, and what lets it be booked now.
  const [wanted, setWanted] = useState<Service | null>(null);
  const [after, setAfter] = useState<string | null>(null);
  const [you, setYou] = useState<You>({ givenName: "", familyName: "", email: "", phone: "" });
  const location = business.locations.find((other) => other.id === locationId)!;
  const who = service?.practitioners.find((practitioner) => practitioner.id === practitionerId);
  const choose = (next: Service, after: string | null) => {
    setService(next);
    setAfter(after);
    setPractitionerId(null);
    setAddOnIds([]);
    setStart(null);
    const where = next.locationIds.includes(locationId) ? locationId : next.locationIds[0]!;
    setLocationId(where);
    setPart(choiceAt(next, where) === "clientMust" ? "who" : "when");
  };
  const again = () => {
    setBooked(null);
    setService(null);
    setWanted(null);
    setAfter(null);
    setPractitionerId(null);
    setStart(null);
    setPart("what");
  };
  const services = business.categories.flatMap((category) => category.services);
  const first = services.find((other) => other.id === service?.needs?.serviceId && other.bookableOnline) ?? null;
  const extras = service?.addOns.filter((addOn) => addOnIds.includes(addOn.id)) ?? [];
  const choice = service ? choiceAt(service, locationId) : "clientMay";
  const wish = service ? { locationId, service, practitionerId, addOnIds, returning, after, link } : null;
  const priced = useQuery({
    queryKey: ["price", service?.id, practitionerId, addOnIds],
    queryFn: () => answerOf(visitors.POST("/api/public/v1/price", { body: { lines: linesOf(wish!), link } })),
    enabled: wish !== null,
    placeholderData: (before) => before,
  });
  const own = business.colourMain !== "#17594A" || business.colourAccent !== "#F4B400";
  const look = {
    "--chakra-colors-water": business.colourMain,
    "--chakra-colors-water-deep": business.colourMain,
    "--chakra-colors-on-water": "#FFFFFF",
    "--chakra-colors-kingcup": business.colourAccent,
  } as CSSProperties;
  return (
    <Box maxW="1060px" mx="auto" px="14px" pb="40px" fontSize="17px" style={own ? look : undefined}>
      <Box
        as="header"
        display="flex"
        flexWrap="wrap"
        justifyContent="space-between"
        alignItems="baseline"
        columnGap="12px"
        py="14px"
      >
        <Box fontFamily="heading" fontWeight="700" fontSize="20px" display="flex" alignItems="center" gap="10px">
          {business.logoId && (
            <img src={`/api/public/v1/pictures/${business.logoId}`} alt="" height="40" style={{ height: 40 }} />
          )}
          {business.name}
        </Box>
        {business.phone && (
          <Box as="a" whiteSpace="nowrap" {...{ href: `tel:${business.phone.replaceAll(" ", "")}` }}>
            {business.phone}
          </Box>
        )}
      </Box>
      {booked ? (
        <Done
          booked={booked}
          phone={business.phone}
          opened={openedBy(booked, wanted)}
          onOpened={(id) => {
            const next = services.find((other) => other.id === id);
            if (!next || !booked.sequel) return;
            setBooked(null);
            setWanted(null);
            choose(next, booked.sequel.token);
          }}
          onAgain={again}
        />
      ) : (
        <Box
          as="main"
          display="grid"
          gap="16px"
          alignItems="start"
          css={{ "@media (min-width: 860px)": { gridTemplateColumns: "400px 1fr" } }}
        >
          <Box
            bg="water"
            color="onWater"
            borderRadius="card"
            p="18px"
            css={{ "@media (min-width: 860px)": { position: "sticky", top: "14px" } }}
          >
            <Box as="h1" fontSize="25px" lineHeight="1.5" fontWeight="500">
              I would like{" "}
              <Blank open={part === "what"} onClick={() => setPart("what")}>
                {service?.name ?? "what?"}
              </Blank>
              {service && service.addOns.length > 0 && (
                <>
                  {" "}
                  with{" "}
                  <Blank open={part === "extras"} onClick={() => setPart("extras")}>
                    {extras.length > 0 ? extras.map((extra) => extra.name).join(" and ") : "no extras"}
                  </Blank>
                </>
              )}
              {business.locations.length > 1 && (
                <>
                  {" "}
                  at{" "}
                  <Blank open={part === "where"} onClick={() => setPart("where")}>
                    {location.name}
                  </Blank>
                </>
              )}
              {choice === "house" ? (
                ", "
              ) : (
                <>
                  , by{" "}
                  <Blank open={part === "who"} onClick={() => setPart("who")} disabled={!service}>
                    {who?.name ?? (choice === "clientMust" ? "whom?" : "whoever is free")}
                  </Blank>{" "}
                </>
              )}
              {start && "on "}
              <Blank open={part === "when"} onClick={() => setPart("when")} disabled={!service}>
                {start ? `${shortDate(dateIn(start, location.zone))} at ${clock(start, location.zone)}` : "when?"}
              </Blank>
            </Box>
            <Box
              borderTopWidth="1px"
              borderColor="rgba(255,255,255,.4)"
              mt="12px"
              pt="9px"
              display="flex"
              justifyContent="space-between"
              fontSize="16px"
              aria-live="polite"
            >
              <span>
                {!service
                  ? "Choose a service to begin"
                  : priced.data
                    ? `${priced.data.minutes} min · ${priceWords(service, priced.data)}`
                    : "…"}
              </span>
              {service && <span>nothing to pay now</span>}
            </Box>
          </Box>
          <Box minW="0">
            {part === "where" && (
              <Box display="grid" gap="8px">
                <Box as="h2" fontSize="20px">
                  Where?
                </Box>
                {business.locations.map((other) => (
                  <Choice
                    key={other.id}
                    on={other.id === locationId}
                    onClick={() => {
                      setLocationId(other.id);
                      setStart(null);
                      setPractitionerId(null);
                      const stays = service?.locationIds.includes(other.id);
                      if (!stays) setService(null);
                      setPart(!stays ? "what" : choiceAt(service!, other.id) === "clientMust" ? "who" : "when");
                    }}
                  >
                    <b>{other.name}</b>
                    <span>{other.address}</span>
                  </Choice>
                ))}
              </Box>
            )}
            {part === "what" && (
              <ServiceChoice
                business={business}
                locationId={locationId}
                chosen={service}
                onChoose={(next) => {
                  setWanted(null);
                  choose(next, null);
                }}
              />
            )}
            {part === "extras" && service && (
              <ExtraChoice
                service={service}
                chosen={addOnIds}
                onChoose={(next) => {
                  setAddOnIds(next);
                  setStart(null);
                }}
                onDone={() => setPart("when")}
              />
            )}
            {part === "who" && service && (
              <PractitionerChoice
                business={business}
                locationId={locationId}
                service={service}
                chosen={practitionerId}
                onChoose={(next) => {
                  setPractitionerId(next);
                  setStart(null);
                  setPart("when");
                }}
              />
            )}
            {part === "when" && service?.html && service.html.length > 160 && (
              // The server has made it safe: formatting and links only.
              <Box
                mb="14px"
                css={{
                  "& p": { marginBottom: "8px" },
                  "& ul": { paddingLeft: "20px", listStyle: "disc" },
                  "& a": { textDecoration: "underline" },
                }}
                dangerouslySetInnerHTML={{ __html: service.html }}
              />
            )}
            {part === "when" && wish && service?.needs && !after && (
              <ComesFirst
                service={service}
                needs={service.needs}
                phone={business.phone}
                onFirst={
                  first &&
                  (() => {
                    setWanted(service);
                    choose(first, null);
                  })
                }
              />
            )}
            {part === "when" && wish && (!service?.needs || after) && (
              <Days
                wish={wish}
                phone={business.phone}
                onReturning={() => setReturning(true)}
                onChoose={(next) => {
                  setStart(next);
                  setPart("you");
                }}
              />
            )}
            {part === "you" && wish && start && (
              <Details
                business={business}
                wish={wish}
                start={start}
                zone={location.zone}
                you={you}
                onYou={setYou}
                onOther={setStart}
                onWhen={() => setPart("when")}
                onBooked={setBooked}
              />
            )}
          </Box>
        </Box>
      )}
    </Box>
  );
}
