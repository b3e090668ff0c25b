import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Link } from "react-router";
import { andWords, longDate } from "../../shared/format";
import { Box, Empty, Panel, Row, Section, Span, Stack } from "../../shared/layout";
import { useServices } from "../team/ServicesTab";
import { useReadiness } from "../team/team";
import { causesOf, remedyOf, type Cause } from "./causes";
import { mendPath } from "./mend";

function stopsWords(count: number, from: string | null, names: string) {
  if (!from) return plural(count, { one: `# service stops: ${names}`, other: `# services stop: ${names}` });
  const first = longDate(from);
  return plural(count, {
    one: `# service stops from ${first} on: ${names}`,
    other: `# services stop from ${first} on: ${names}`,
  });
}

/** What can be booked, and what stops the rest: by cause, each with its one remedy. */
export function ReadyTab() {
  const readiness = useReadiness();
  if (!readiness.data)
    return (
      <Box aria-busy="true">
        <Trans>Asking what can be booked …</Trans>
      </Box>
    );
  const { issues, bookable, pageOpen } = readiness.data;
  const causes = causesOf(issues);
  const list = (title: string, all: Cause[]) =>
    all.length > 0 && (
      <Section title={title}>
        {all.map((cause) => (
          <CauseRow key={`${cause.text} ${cause.issues[0]!.mendId}`} cause={cause} />
        ))}
      </Section>
    );
  return (
    <Stack pb="7">
      <Panel borderInlineStartWidth="band" borderInlineStartColor={pageOpen ? "reed" : "clay"}>
        <Box fontSize="title" fontWeight="700">
          {pageOpen
            ? t`${plural(bookable, { one: "# service", other: "# services" })} can be booked online now.`
            : t`Nothing can be booked online yet.`}
        </Box>
        <Box>
          {pageOpen ? (
            <>
              <Trans>
                The booking page is at{" "}
                <a href="/book" target="_blank" rel="noreferrer">
                  <Span textDecoration="underline">{window.location.origin}/book</Span>
                </a>
                .
              </Trans>
            </>
          ) : (
            t`Mend what is listed here, from the top.`
          )}
        </Box>
      </Panel>
      {list(
        t`Cannot be booked`,
        causes.filter((cause) => cause.stops),
      )}
      {list(
        t`Will stop being bookable`,
        causes.filter((cause) => !cause.stops),
      )}
      {issues.length === 0 && (
        <Empty>
          <Trans>Every service can be booked as far ahead as its rules allow.</Trans>
        </Empty>
      )}
    </Stack>
  );
}

function CauseRow({ cause }: { cause: Cause }) {
  const services = useServices();
  const first = cause.issues[0]!;
  const named = [...new Set(cause.issues.flatMap((issue) => issue.serviceId ?? []))];
  const names = named.map((id) => services.data?.find((service) => service.id === id)?.name ?? "");
  return (
    <Row borderTopWidth="line" borderColor="line" py="2" justifyContent="space-between" alignItems="start">
      <Box minW="0" flex="1">
        <Box fontWeight="700">{cause.text}</Box>
        {named.length > 0 && <Box color="quiet">{stopsWords(named.length, cause.from, andWords(names))}</Box>}
      </Box>
      <Row gap="3.5" flexShrink={0}>
        {first.serviceId && (
          <Link
            to={`/why-not?service=${first.serviceId}&location=${first.locationId}${cause.from ? `&date=${cause.from}` : ""}`}
          >
            <Span textDecoration="underline">
              <Trans>Why not?</Trans>
            </Span>
          </Link>
        )}
        <Link to={mendPath(first)}>
          <Span fontWeight="700" textDecoration="underline">
            {remedyOf(first)}
          </Span>
        </Link>
      </Row>
    </Row>
  );
}
