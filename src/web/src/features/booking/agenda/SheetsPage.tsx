import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { asks } from "../../../api/queries";
import type { DeskSetup } from "../../../api/staff";
import { clockRange, longDate } from "../../../shared/format";
import { Box, Row } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { ChoicePart, Sentence } from "../../../shared/sentence/Sentence";
import { sheets } from "../../../theme/recipes/sheets";
import { marks } from "../BlockMark";
import { sheetsOf, type AgendaRow } from "./agenda";

const Anchor = chakra(Link, { base: { textDecoration: "underline" } });
const house = "house",
  each = "each";

/** The sheets of a day, as they lie on paper: one for the house, or one for each who works. */
export function SheetsPage({ setup }: { setup: DeskSetup }) {
  const { locationId = "", date = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const styles = useSlotRecipe({ recipe: sheets })();
  const location = setup.locations.find((one) => one.id === locationId) ?? setup.locations[0]!;
  const of = search.get("of") ?? each;
  const agenda = useQuery(
    asks.agenda({
      from: date,
      until: date,
      locationId: location.id,
      resourceId: [house, each].includes(of) ? [] : [of],
      categoryId: [],
      state: [],
    }),
  );
  const rows = agenda.data?.visits ?? [];
  const pages =
    of === house
      ? [{ id: house, name: location.name, rows }]
      : sheetsOf(rows).filter(({ id }) => of === each || id === of);
  return (
    <Box as="main" css={styles["page"]}>
      <Row className="kc-unprinted" justifyContent="space-between" mb="3">
        <Box as="h1" fontSize="page">
          <Trans>Sheets of the day</Trans>
        </Box>
        <Row>
          <Anchor to={`/agenda/${location.id}/${date}`}>
            <Trans>Back to the agenda</Trans>
          </Anchor>
          <Press look="primary" onClick={() => window.print()}>
            <Trans>Print</Trans>
          </Press>
        </Row>
      </Row>
      <Box className="kc-unprinted" mb="3">
        <Sentence size="text">
          <Trans>
            On {longDate(date)}, a sheet for{" "}
            <ChoicePart
              label={t`For whom`}
              value={of}
              options={[
                { value: each, label: t`each who works` },
                { value: house, label: t`the house` },
                ...setup.practitioners.map(({ id, name }) => ({ value: id, label: name })),
              ]}
              onChange={(next) => setSearch(next === each ? {} : { of: next }, { replace: true })}
            />{" "}
            at{" "}
            <ChoicePart
              label={t`Location`}
              value={location.id}
              options={setup.locations.map(({ id, name }) => ({ value: id, label: name }))}
              onChange={(id) => void navigate(`/sheets/${id}/${date}${window.location.search}`)}
            />
            .
          </Trans>
        </Sentence>
      </Box>
      {agenda.error && <Box role="alert">{agenda.error.message}</Box>}
      {agenda.data && pages.length === 0 && (
        <Box color="quiet">
          <Trans>Nobody comes on that day.</Trans>
        </Box>
      )}
      {pages.map((page) => (
        <Box as="section" key={page.id} css={styles["sheet"]} aria-label={page.name}>
          <Box css={styles["head"]}>
            <h2>{page.name}</h2>
            <span>{longDate(date)}</span>
          </Box>
          <SheetTable rows={page.rows} isHouse={of === house} />
        </Box>
      ))}
    </Box>
  );
}

function SheetTable({ rows, isHouse }: { rows: readonly AgendaRow[]; isHouse: boolean }) {
  const styles = useSlotRecipe({ recipe: sheets })();
  return (
    <Box as="table" css={styles["table"]}>
      <thead>
        <tr>
          <th>
            <Trans>Time</Trans>
          </th>
          <th>
            <Trans>Client</Trans>
          </th>
          <th>
            <Trans>What</Trans>
          </th>
          <th>{isHouse ? t`With` : t`Room`}</th>
          <th>
            <Trans>Note</Trans>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.id}>
            <td>{clockRange(row.start, row.end, row.zone)}</td>
            <td>
              <b>
                {row.client.givenName} {row.client.familyName}
              </b>
              {row.isFirst && ` · ${t`new`}`}
              {row.client.alert && (
                <div>
                  <b>! {row.client.alert}</b>
                </div>
              )}
            </td>
            <td>
              {row.services.join(" + ")}
              {row.state !== "confirmed" && ` (${marks[row.state].word})`}
            </td>
            <td>
              {[...(isHouse ? row.practitioners.map((who) => who.name) : []), ...row.rooms].filter(Boolean).join(", ")}
            </td>
            <td>{row.note}</td>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
