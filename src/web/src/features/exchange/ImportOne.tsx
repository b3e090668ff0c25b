import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { askAnew } from "../../shared/askAnew";
import { number } from "../../shared/format";
import { asks } from "../../api/queries";
import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { chakra } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { type Import } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";
import { Outcome, useChange } from "../../shared/change";
import { Box, Panel, Row, Section, Stack, Table } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { countedRows } from "./imports";
import { Mapping } from "./ImportColumns";

const Progress = chakra("progress", {
  base: {
    display: "block",
    w: "100%",
    h: "3.5",
    appearance: "none",
    borderRadius: "card",
    overflow: "hidden",
    bg: "line",
    "&::-webkit-progress-bar": { bg: "line" },
    "&::-webkit-progress-value": { bg: "water" },
    "&::-moz-progress-bar": { bg: "water" },
  },
});
const Out = chakra("a", { base: { textDecoration: "underline", fontWeight: "600" } });
const busy = (item: Import | undefined) => item !== undefined && /ing$/.test(item.state);

/** One file on its way in: its columns, what would come of it, and how it is taken back. */
export function ImportOne({ id }: { id: string }) {
  const queries = useQueryClient();
  const found = useQuery({
    ...asks.import(id),
    refetchInterval: (query) => (busy(query.state.data) ? 300 : false),
  });
  const item = found.data;
  // What was brought in or taken back shows everywhere.
  const state = item?.state;
  const last = useRef(state);
  useEffect(() => {
    if (last.current !== state && (state === "imported" || state === "undone")) void askAnew(queries);
    last.current = state;
  }, [state, queries]);
  if (!item)
    return (
      <Box aria-busy="true">
        <Trans>Looking at the file …</Trans>
      </Box>
    );
  return (
    <Stack maxW="245" pb="7">
      <Row justifyContent="space-between">
        <Box fontSize="text" overflowWrap="anywhere">
          <b>{item.fileName}</b>, {countedRows(item.rows, item.kind)}
        </Box>
        <Link to="/setup/import">
          <Box as="span" textDecoration="underline">
            <Trans>All imports</Trans>
          </Box>
        </Link>
      </Row>
      {busy(item) ? (
        <Working upload={item} />
      ) : item.state === "imported" || item.state === "undone" ? (
        <Finished upload={item} />
      ) : (
        <Open upload={item} />
      )}
    </Stack>
  );
}

function Working({ upload }: { upload: Import }) {
  const words =
    upload.state === "checking"
      ? t`Checking every row; nothing is kept yet.`
      : upload.state === "importing"
        ? t`Taking the rows over. You may leave this page; it goes on.`
        : t`Taking the rows back.`;
  return (
    <Panel>
      <Box as="label" display="block" fontWeight="600" mb="2">
        <Box mb="1.5">{words}</Box>
        {upload.state === "undoing" ? (
          <Progress />
        ) : (
          <Progress max={Number(upload.rows)} value={Number(upload.rowsDone)} />
        )}
      </Box>
      {upload.state !== "undoing" && (
        <Box color="quiet" aria-live="polite">
          <Trans>
            {number(Number(upload.rowsDone))} of {number(Number(upload.rows))} rows
          </Trans>
        </Box>
      )}
    </Panel>
  );
}

function Finished({ upload }: { upload: Import }) {
  const queries = useQueryClient();
  const undo = useChange(
    () => answerOf(staff.POST("/api/v1/imports/{id}/undo", { params: { path: { id: upload.id! } } })),
    (made) => queries.setQueryData(["import", upload.id], made),
  );
  const where = { clients: "/", services: "/services", practitioners: "/team" }[upload.kind];
  return (
    <>
      <Panel borderLeftWidth="band" borderLeftColor={upload.state === "imported" ? "reed" : "line"}>
        <Box fontSize="text" fontWeight="700">
          {upload.state === "imported"
            ? t`${countedRows(upload.added, upload.kind)} taken over.`
            : Number(upload.kept) === 0
              ? t`Taken back. Nothing of it is left.`
              : t`Taken back. Something rests on ${countedRows(upload.kept, upload.kind)} since, so they stayed.`}
        </Box>
        {upload.made && upload.made.length > 0 && (
          <Box>
            <Trans>New beside them: {upload.made.join(", ")}.</Trans>
          </Box>
        )}
        {upload.error && <Box color="clay">{upload.error}</Box>}
        <Row mt="2.5" gap="4">
          {upload.state === "imported" && (
            <Link to={where}>
              <Box as="span" textDecoration="underline" fontWeight="600">
                {upload.kind === "clients"
                  ? t`Go to the book`
                  : upload.kind === "services"
                    ? t`Go to the services`
                    : t`Go to the team`}
              </Box>
            </Link>
          )}
          {upload.canUndo && (
            <Press disabled={undo.pending} onClick={() => undo.run(null)}>
              <Trans>Take it back</Trans>
            </Press>
          )}
          <Outcome change={undo} saved="" />
        </Row>
      </Panel>
      <Faults upload={upload} />
    </>
  );
}

function Open({ upload }: { upload: Import }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const keep = (made: Import) => queries.setQueryData(["import", upload.id], { ...upload, ...made });
  const run = useChange(
    (goodRowsOnly: boolean) =>
      answerOf(
        staff.POST("/api/v1/imports/{id}/run", { params: { path: { id: upload.id! } }, body: { goodRowsOnly } }),
      ),
    keep,
  );
  const drop = useChange(
    () => answerOf(staff.DELETE("/api/v1/imports/{id}", { params: { path: { id: upload.id! } } })),
    () => void navigate("/setup/import"),
  );
  const [again, setAgain] = useState(false);
  const good = Number(upload.good),
    bad = Number(upload.bad),
    known = Number(upload.known);
  return (
    <>
      {upload.state === "failed" && (
        <Panel role="alert" borderLeftWidth="band" borderLeftColor="clay">
          {upload.error}
        </Panel>
      )}
      {upload.state === "checked" && (
        <Panel borderLeftWidth="band" borderLeftColor={bad > 0 ? "clay" : "reed"} aria-label={t`What would come of it`}>
          <Box fontSize="text" fontWeight="700">
            {good === 0 ? t`No row can be taken over.` : t`${countedRows(good, upload.kind)} can be taken over.`}
          </Box>
          {upload.error && <Box color="clay">{upload.error}</Box>}
          <Box>
            {bad === 0
              ? t`No row is bad.`
              : plural(bad, {
                  one: "# row is bad; it is named below.",
                  other: "# rows are bad; they are named below.",
                })}{" "}
            {known > 0 &&
              plural(known, {
                one: "# row is there already and stays as it is.",
                other: "# rows are there already and stay as they are.",
              })}
          </Box>
          {upload.made && upload.made.length > 0 && (
            <Box>
              <Trans>New beside them: {upload.made.join(", ")}.</Trans>
            </Box>
          )}
          <Row mt="3">
            {good > 0 && (
              <Press look="primary" disabled={run.pending} onClick={() => run.run(bad > 0)}>
                {bad > 0 ? t`Take the ${number(good)} good rows only` : t`Take over ${countedRows(good, upload.kind)}`}
              </Press>
            )}
            <Press onClick={() => setAgain(true)}>
              <Trans>Change the columns</Trans>
            </Press>
            <Press look="quiet" disabled={drop.pending} onClick={() => drop.run(null)}>
              <Trans>Give this file up</Trans>
            </Press>
            <Outcome change={run} saved="" />
            <Outcome change={drop} saved="" />
          </Row>
          {bad > 0 && (
            <Box color="quiet" fontSize="small" mt="1.5">
              <Trans>Or mend the file and bring it in again: all of it or nothing.</Trans>
            </Box>
          )}
        </Panel>
      )}
      {(upload.state !== "checked" || again) && <Mapping upload={upload} onChecked={() => setAgain(false)} />}
      {upload.state === "checked" && <Faults upload={upload} />}
    </>
  );
}

function Faults({ upload }: { upload: Import }) {
  const some = Number(upload.bad) + Number(upload.known) > 0;
  const pages = useInfiniteQuery({
    queryKey: [...asks.import(upload.id!).queryKey, "faults", upload.state],
    queryFn: ({ pageParam }) =>
      answerOf(
        staff.GET("/api/v1/imports/{id}/faults", { params: { path: { id: upload.id! }, query: { after: pageParam } } }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => (last.length === 200 ? Number(last.at(-1)!.place) : undefined),
    enabled: some,
  });
  const rows = pages.data?.pages.flat() ?? [];
  if (!some || rows.length === 0) return null;
  return (
    <Section
      title={t`Rows that are not taken`}
      actions={
        <Out href={`/api/v1/imports/${upload.id}/faults.csv`} download>
          <Trans>As a CSV file, to be mended</Trans>
        </Out>
      }
    >
      <Table>
        <thead>
          <tr>
            <th>
              <Trans>Line</Trans>
            </th>
            <th>
              <Trans>Field</Trans>
            </th>
            <th>
              <Trans>The file says</Trans>
            </th>
            <th>
              <Trans>What is wrong</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.place}>
              <td>{row.line}</td>
              <td>{row.field ?? ""}</td>
              <td style={{ overflowWrap: "anywhere" }}>{row.value ?? ""}</td>
              <td>
                {row.isKnown && "○ "}
                {row.message}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {pages.hasNextPage && (
        <Press disabled={pages.isFetchingNextPage} onClick={() => void pages.fetchNextPage()}>
          <Trans>Show more</Trans>
        </Press>
      )}
    </Section>
  );
}
