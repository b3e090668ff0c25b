import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { asks } from "../../../api/queries";
import type { DeskSetup, Session } from "../../../api/staff";
import { addDays, longDate, number } from "../../../shared/format";
import { Box, Empty, Row } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { marks } from "../BlockMark";
import { ViewHead } from "../views/ViewHead";
import { addressOf, askedOf, filterOf, nextOf, type AgendaFilter } from "./agenda";
import { AgendaSentence } from "./AgendaSentence";
import { AgendaTable } from "./AgendaTable";
import { SavedViews } from "./SavedViews";
import { useStates } from "./useStates";

const File = chakra("a", { base: { textDecoration: "underline" } });
const Anchor = chakra(Link, { base: { textDecoration: "underline" } });

/** Visits one after another: filtered by a sentence, chosen and changed together, printed, sent on. */
export function AgendaPage({ session, setup }: { session: Session; setup: DeskSetup }) {
  const { locationId = "", date = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const location = setup.locations.find((one) => one.id === locationId) ?? setup.locations[0]!;
  const mayKeep = session.rights.includes("keep-book");
  const filter = filterOf(date, search);
  const asked = askedOf(location.id, date, filter);
  const agenda = useQuery({ ...asks.agenda(asked), placeholderData: keepPreviousData });
  const rows = agenda.data?.visits ?? [];
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const chosen = rows.filter((row) => marked.has(row.id));
  const states = useStates();
  const set = (next: AgendaFilter) => setSearch(addressOf(date, next));
  const place = (where: string, day: string) => {
    const length = Math.round((Date.parse(filter.until) - Date.parse(date)) / 86_400_000);
    const next = addressOf(day, { ...filter, until: addDays(day, length) }).toString();
    void navigate(`/agenda/${where}/${day}${next ? `?${next}` : ""}`);
  };
  const query = new URLSearchParams(
    Object.entries(asked).flatMap(([name, value]): [string, string][] =>
      Array.isArray(value) ? value.map((one): [string, string] => [name, one]) : [[name, String(value)]],
    ),
  );
  return (
    <Box as="main" h="100%" overflowY="auto" px={{ base: "3", md: "6" }} py="3" display="flex" flexDirection="column">
      <ViewHead
        view="agenda"
        title={longDate(date)}
        location={location}
        date={date}
        onStep={(by) => place(location.id, addDays(date, by))}
        onToday={() => place(location.id, location.today)}
        actions={
          <>
            <Anchor to={`/sheets/${location.id}/${date}`}>
              <Trans>Print the day</Trans>
            </Anchor>
            {mayKeep && (
              <File href={`/api/v1/agenda.csv?${query.toString()}`} download>
                <Trans>Save as CSV</Trans>
              </File>
            )}
          </>
        }
      >
        <AgendaSentence
          setup={setup}
          locationId={location.id}
          date={date}
          filter={filter}
          onChange={set}
          onPlace={place}
        />
      </ViewHead>
      <Row justifyContent="space-between" mb="2" className="kc-unprinted">
        <Box aria-live="polite" fontSize="small" color="quiet">
          {agenda.data
            ? plural(rows.length, { 0: "No visit", one: "# visit", other: `${number(rows.length)} visits` })
            : t`Looking …`}
          {agenda.data?.isCut && ` · ${t`There are more: ask for fewer days.`}`}
        </Box>
        {mayKeep && <SavedViews query={search.toString()} onOpen={(next) => setSearch(new URLSearchParams(next))} />}
      </Row>
      {chosen.length > 0 && (
        <Row role="group" aria-label={t`Chosen visits`} mb="2" bg="glow" px="2.5" py="1" borderRadius="card">
          <Box fontWeight="600">{plural(chosen.length, { one: "# chosen", other: "# chosen" })}</Box>
          {nextOf(chosen).map((state) => (
            <Press
              key={state}
              size="small"
              disabled={states.isPending}
              onClick={() => states.mutate({ rows: chosen, state }, { onSuccess: () => setMarked(new Set()) })}
            >
              {marks[state].mark} {marks[state].word}
            </Press>
          ))}
          <Press size="small" look="quiet" onClick={() => setMarked(new Set())}>
            <Trans>Choose none</Trans>
          </Press>
        </Row>
      )}
      {agenda.error && <Box role="alert">{agenda.error.message}</Box>}
      {agenda.data && rows.length === 0 ? (
        <Empty>
          <Trans>Nobody comes then. Change an underlined part of the sentence to look elsewhere.</Trans>
        </Empty>
      ) : (
        <AgendaTable rows={rows} grouping={filter.grouping} marked={marked} onMark={mayKeep ? setMarked : null} />
      )}
    </Box>
  );
}
