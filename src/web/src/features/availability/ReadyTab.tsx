import { Link } from "react-router";
import type { Issue } from "../../api/setup";
import { Box, Empty, Panel, Row, Section, Stack } from "../../shared/layout";
import { useReadiness } from "../team/team";
import { mendPath } from "./mend";

/** What can be booked, and what stops the rest. */
export function ReadyTab() {
  const readiness = useReadiness();
  if (!readiness.data) return <Box aria-busy="true">Asking what can be booked …</Box>;
  const { issues, bookable, pageOpen } = readiness.data;
  const list = (title: string, all: Issue[]) =>
    all.length > 0 && (
      <Section title={title}>
        {all.map((issue) => (
          <Row
            key={issue.text}
            borderTopWidth="1px"
            borderColor="line"
            py="8px"
            justifyContent="space-between"
            flexWrap="nowrap"
            alignItems="start"
          >
            <Box minW="0">{issue.text}</Box>
            <Row flexShrink={0} gap="12px">
              {issue.serviceId && (
                <Link to={`/why-not?service=${issue.serviceId}&location=${issue.locationId}`}>
                  <Box as="span" textDecoration="underline">
                    Why not?
                  </Box>
                </Link>
              )}
              <Link to={mendPath(issue)}>
                <Box as="span" fontWeight="700" textDecoration="underline">
                  Mend it
                </Box>
              </Link>
            </Row>
          </Row>
        ))}
      </Section>
    );
  return (
    <Stack maxW="900px" pb="30px">
      <Panel borderLeftWidth="5px" borderLeftColor={pageOpen ? "reed" : "clay"}>
        <Box fontSize="17px" fontWeight="700">
          {pageOpen
            ? `${bookable} ${bookable === 1 ? "service" : "services"} can be booked online now.`
            : "Nothing can be booked online yet."}
        </Box>
        <Box>
          {pageOpen ? (
            <>
              The booking page is at{" "}
              <a href="/book" target="_blank" rel="noreferrer" style={{ textDecoration: "underline" }}>
                {window.location.origin}/book
              </a>
              .
            </>
          ) : (
            "Mend what is listed here, from the top."
          )}
        </Box>
      </Panel>
      {list(
        "Cannot be booked",
        issues.filter((issue) => issue.stops),
      )}
      {list(
        "Will stop being bookable",
        issues.filter((issue) => !issue.stops),
      )}
      {issues.length === 0 && <Empty>Every service can be booked as far ahead as its rules allow.</Empty>}
    </Stack>
  );
}
