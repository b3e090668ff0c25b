import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { Link, useLocation } from "react-router";
import { ifMatch, type Business } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { useChange } from "../../shared/change";
import { Box, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { useLocations, usePractitioners, useReadiness } from "../team/team";

/**
 * The first-run guide: the way from an empty business to a page that takes bookings. Each step is the screen the setup has
 * anyway, so nothing has to be learned twice; what is done is read off the business itself.
 */
export function GuideBar() {
  const { pathname } = useLocation();
  const business = useQuery(asks.business());
  const locations = useLocations();
  const people = usePractitioners();
  const rooms = useQuery(asks.rooms());
  const services = useQuery(asks.services());
  const readiness = useReadiness();
  const away = useChange((wanted: Business, headers) =>
    answerOf(
      staff.PUT("/api/v1/setup/business", {
        headers: { ...headers, ...ifMatch(wanted.version) },
        body: { ...wanted, guideFinished: true },
      }),
    ),
  );
  if (!business.data || business.data.guideFinished) return null;
  const noRota = (people.data ?? []).find((person) =>
    readiness.data?.issues.some((issue) => issue.mend === "rota" && issue.mendId === person.id),
  );
  const steps: { name: string; path: string; done: boolean }[] = [
    {
      name: "Business",
      path: "/setup/business",
      done: business.data.name !== "My business" && Boolean(business.data.name),
    },
    {
      name: "Location and hours",
      path: "/setup/locations",
      done: (locations.data ?? []).some((location) => (location.opening ?? []).length > 0),
    },
    {
      name: "Practitioners",
      path: noRota && pathname === "/team" ? "/team" : noRota ? `/team/${noRota.id}/rota` : "/team",
      done: (people.data ?? []).length > 0 && !noRota,
    },
    { name: "Rooms", path: "/rooms", done: (rooms.data ?? []).length > 0 },
    { name: "Services", path: "/services", done: (services.data ?? []).length > 0 },
    { name: "Check", path: "/setup", done: readiness.data?.pageOpen ?? false },
  ];
  const here = steps.findIndex(
    (step) =>
      pathname === step.path ||
      (step.path !== "/setup" &&
        pathname.startsWith(step.path.split("/").slice(0, 2).join("/") + "/") &&
        !pathname.startsWith("/setup")),
  );
  const next = steps.find((step, i) => !step.done && i !== here);
  return (
    <Row
      as="nav"
      aria-label="First steps"
      bg="glow"
      borderBottomWidth="1px"
      borderColor="line"
      px="16px"
      py="7px"
      gap="4px"
      flexShrink={0}
    >
      <Box fontWeight="700" mr="8px">
        First steps
      </Box>
      {steps.map((step, i) => (
        <Link key={step.name} to={step.path} aria-current={i === here ? "step" : undefined}>
          <Box
            as="span"
            display="inline-block"
            px="9px"
            py="4px"
            borderRadius="card"
            fontWeight={i === here ? "700" : "400"}
            bg={i === here ? "sheet" : "transparent"}
            textDecoration={i === here ? "none" : "underline"}
            textUnderlineOffset="3px"
          >
            {step.done ? "✓" : `${i + 1}.`} {step.name}
          </Box>
        </Link>
      ))}
      <Row ml="auto" gap="10px">
        {next ? (
          <Link to={next.path}>
            <Box as="span" fontWeight="700" textDecoration="underline">
              Next: {next.name} ›
            </Box>
          </Link>
        ) : (
          <a href="/book" target="_blank" rel="noreferrer">
            <Box as="span" fontWeight="700" textDecoration="underline">
              See the booking page
            </Box>
          </a>
        )}
        <Press size="small" look="quiet" onClick={() => away.run(business.data)}>
          Put the guide away
        </Press>
      </Row>
    </Row>
  );
}
