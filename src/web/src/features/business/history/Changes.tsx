import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { asks } from "../../../api/queries";
import type { HistoryRow } from "../../../api/setup";
import { moment } from "../../../shared/format";
import { Box, Row, Table } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { usePractitioners } from "../../team/team";
import { differences, kindWords, nameOf, pathOf } from "./historyWords";

const page = 50;

/** Changes of the setup, of one thing or of all, newest first; what was changed is named and leads to itself. */
export function Changes({ subjectId = null }: { subjectId?: string | null }) {
  const [before, setBefore] = useState<number[]>([]);
  const [open, setOpen] = useState<number | string | null>(null);
  const rows = useQuery(asks.setupHistory(before.at(-1) ?? null, subjectId));
  const people = usePractitioners();
  const names = new Map((people.data ?? []).map((person) => [person.id!, person.name ?? ""]));
  if (!rows.data)
    return (
      <Box aria-busy="true">
        <Trans>Looking …</Trans>
      </Box>
    );
  if (rows.data.length === 0 && before.length === 0)
    return (
      <Box color="quiet">
        <Trans>Nothing was changed yet.</Trans>
      </Box>
    );
  return (
    <>
      <Box overflowX="auto" position="relative">
        <Table>
          <thead>
            <tr>
              <th>
                <Trans>When</Trans>
              </th>
              <th>
                <Trans>Who</Trans>
              </th>
              {!subjectId && (
                <th>
                  <Trans>What</Trans>
                </th>
              )}
              <th>
                <Trans>Done</Trans>
              </th>
              <th>
                <Trans>What differs</Trans>
              </th>
            </tr>
          </thead>
          <tbody>
            {(rows.data as HistoryRow[]).map((row) => (
              <tr key={row.id}>
                <Box as="td" whiteSpace="nowrap">
                  {moment(row.at, Intl.DateTimeFormat().resolvedOptions().timeZone)}
                </Box>
                <td>{row.actor}</td>
                {!subjectId && (
                  <td>
                    <Subject row={row} name={nameOf(row, names)} />
                  </td>
                )}
                <td>{row.action}</td>
                <td>
                  {open === row.id ? (
                    <Differences row={row} />
                  ) : (
                    <Press size="small" look="quiet" aria-expanded={false} onClick={() => setOpen(row.id)}>
                      <Trans>Show</Trans>
                    </Press>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Box>
      <Row mt="2.5">
        {before.length > 0 && (
          <Press onClick={() => setBefore(before.slice(0, -1))}>
            <Trans>Newer</Trans>
          </Press>
        )}
        {rows.data.length === page && (
          <Press onClick={() => setBefore([...before, Number(rows.data.at(-1)!.id)])}>
            <Trans>Older</Trans>
          </Press>
        )}
      </Row>
    </>
  );
}

function Subject({ row, name }: { row: HistoryRow; name: string | undefined }) {
  const path = pathOf(row);
  const words = (
    <>
      {kindWords(row.subjectKind)}
      {name && name !== kindWords(row.subjectKind) && (
        <>
          {" "}
          <b>{name}</b>
        </>
      )}
    </>
  );
  return path ? (
    <Link to={path}>
      <Box as="span" textDecoration="underline">
        {words}
      </Box>
    </Link>
  ) : (
    words
  );
}

function Differences({ row }: { row: HistoryRow }) {
  const found = differences(row);
  return (
    <Box fontSize="small" overflowWrap="anywhere">
      {found.length === 0 && t`Nothing that is kept here.`}
      {found.map(({ field, was, is }) => (
        <Box key={field}>
          <b>{field}</b>: {row.before ? `${was} → ` : ""}
          {is}
        </Box>
      ))}
    </Box>
  );
}
