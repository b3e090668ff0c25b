import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { asks } from "../../../api/queries";
import type { Client, DeskSetup, Visit } from "../../../api/staff";
import { longDate, plainDate } from "../../../shared/format";
import { Box, Page, Row, Stack } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { record } from "../../../theme/recipes/record";
import { linesAgain } from "../../booking/lines/lineDrafts";
import { visitDrafts } from "../../booking/visitDrafts";
import { CashToGive } from "../../money/CashToGive";
import { ClientSheet } from "../ClientSheet";
import { pressures } from "../likes";
import { AlikePart } from "./AlikePart";
import { ClientVisits } from "./ClientVisits";
import { ConsentsPart } from "./ConsentsPart";
import { NotesPart } from "./NotesPart";
import { ReachPart } from "./ReachPart";
import { Timeline } from "./Timeline";
import { TwoYears } from "./TwoYears";

/** A client with everything that has gathered about them. */
export function ClientPage({ setup }: { setup: DeskSetup }) {
  const { id = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const styles = useSlotRecipe({ recipe: record })();
  const found = useQuery(asks.clientRecord(id));
  const usual = useQuery(asks.again(id, null)).data?.usual;
  const file = found.data;
  if (!file) return <Page title={t`Client`}>{found.error?.message ?? t`Opening …`}</Page>;
  const client = file.client;
  const name = `${client.givenName} ${client.familyName}`;
  const book = (whom: Client, again?: Visit) => {
    // Where they were last, or first of all places.
    const last = again?.locationId ?? file.marks.at(-1)?.locationId;
    const location = setup.locations.find((place) => place.id === last) ?? setup.locations[0]!;
    const draft = visitDrafts.forClient(whom, null, location.id);
    if (again) visitDrafts.set(draft, location.id, { lines: linesAgain(again, setup) });
    navigate(`/day/${location.id}/${location.today}?new=${draft}`);
  };
  const likes = [
    client.likesQuiet && t`likes it quiet`,
    client.likesPressure && pressures[client.likesPressure],
    setup.practitioners.find((one) => one.id === client.likesPractitionerId)?.name,
    setup.rooms.find((room) => room.id === client.likesRoomId)?.name,
    client.likesWords,
  ].filter((word): word is string => typeof word === "string" && word !== "");
  const facts = [
    t`Client since ${plainDate(file.since.slice(0, 10))}`,
    plural(client.visits ?? 0, { 0: "no visits yet", one: "# visit", other: "# visits" }),
    file.lastVisit && t`the last on ${longDate(file.lastVisit)}`,
    (client.noShows ?? 0) > 0 && plural(client.noShows ?? 0, { one: "missed #", other: "missed #" }),
    file.everyDays && plural(file.everyDays, { one: "usually every day", other: "usually every # days" }),
    file.due && (file.due < file.today ? t`due since ${longDate(file.due)}` : t`due on ${longDate(file.due)}`),
  ].filter((word): word is string => typeof word === "string");
  return (
    <Box position="relative" h="100%">
      <Page
        title={name}
        lead={facts.join(" · ")}
        actions={
          !client.mergedInto && (
            <>
              <Press onClick={() => setSearch({ open: "details" })}>
                <Trans>Change details</Trans>
              </Press>
              {usual && (
                <Press onClick={() => book(client as Client, usual)}>
                  <Trans>The usual: {usual.lines.map((line) => line.service).join(" + ")}</Trans>
                </Press>
              )}
              <Press look="primary" onClick={() => book(client as Client)}>
                <Trans>New visit</Trans>
              </Press>
            </>
          )
        }
      >
        <Stack pb="7">
          {client.mergedInto && (
            <Row role="status" bg="glow" px="3.5" py="2" borderRadius="card">
              <Trans>
                This record has been made one with another.{" "}
                <Box asChild textDecoration="underline">
                  <Link to={`/clients/${client.mergedInto}`}>Open that one</Link>
                </Box>
              </Trans>
            </Row>
          )}
          {(client.alert || likes.length > 0 || (client.tags ?? []).length > 0) && (
            <Box css={styles["badges"]}>
              {client.alert && (
                <Box css={styles["badge"]} data-alert="">
                  ! {client.alert}
                </Box>
              )}
              {likes.map((word) => (
                <Box key={word} css={styles["badge"]}>
                  {word}
                </Box>
              ))}
              {(client.tags ?? []).map((tag) => (
                <Box key={tag} css={styles["badge"]}>
                  # {tag}
                </Box>
              ))}
            </Box>
          )}
          <CashToGive cash={file.cashToGive} />
          <TwoYears file={file} setup={setup} />
          <Box css={styles["grid"]}>
            <Stack>
              <AlikePart file={file} />
              <ClientVisits id={id} setup={setup} />
              <Timeline id={id} setup={setup} />
            </Stack>
            <Stack>
              <ReachPart file={file} />
              <NotesPart file={file} />
              <ConsentsPart file={file} />
            </Stack>
          </Box>
        </Stack>
      </Page>
      {search.get("open") === "details" && (
        <ClientSheet id={id} setup={setup} onVisit={(whom) => book(whom)} onClose={() => setSearch({})} />
      )}
    </Box>
  );
}
