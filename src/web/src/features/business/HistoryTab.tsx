import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { moment } from "../../shared/format";
import { Box, Empty, Panel, Row, Stack, Table } from "../../shared/layout";
import { Press } from "../../shared/Press";

/** Every change of the setup. */
export function HistoryTab() {
  const [before, setBefore] = useState<number[]>([]);
  const at = before.at(-1);
  const rows = useQuery(asks.setupHistory(at ?? null));
  const [open, setOpen] = useState<number | string | null>(null);
  return (
    <Stack maxW="980px" pb="30px">
      {rows.data?.length === 0 && <Empty>Nothing was changed yet.</Empty>}
      {rows.data && rows.data.length > 0 && (
        <Panel>
          <Table
            tableLayout="fixed"
            css={{
              "& th:nth-of-type(1)": { w: "130px" },
              "& th:nth-of-type(2)": { w: "140px" },
              "& th:nth-of-type(3)": { w: "200px" },
            }}
          >
            <thead>
              <tr>
                <th>When</th>
                <th>Who</th>
                <th>What</th>
                <th>Before and after</th>
              </tr>
            </thead>
            <tbody>
              {rows.data.map((row) => (
                <tr key={row.id}>
                  <td style={{ whiteSpace: "nowrap" }}>
                    {moment(row.at!, Intl.DateTimeFormat().resolvedOptions().timeZone)}
                  </td>
                  <td>{row.actor}</td>
                  <td>
                    {row.subjectKind}: {row.action}
                  </td>
                  <td>
                    {open === row.id ? (
                      <Differences before={row.before} after={row.after} />
                    ) : (
                      <Press size="small" look="quiet" onClick={() => setOpen(row.id!)}>
                        Show
                      </Press>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
          <Row mt="10px">
            {before.length > 0 && <Press onClick={() => setBefore(before.slice(0, -1))}>Newer</Press>}
            {rows.data.length === 50 && (
              <Press onClick={() => setBefore([...before, Number(rows.data!.at(-1)!.id)])}>Older</Press>
            )}
          </Row>
        </Panel>
      )}
    </Stack>
  );
}

/** Only what differs, field by field. */
function Differences({ before, after }: { before: string | null | undefined; after: string | null | undefined }) {
  const parse = (text: string | null | undefined) => {
    const value: unknown = text ? JSON.parse(text) : {};
    return (typeof value === "object" && value !== null && !Array.isArray(value) ? value : { value }) as Record<
      string,
      unknown
    >;
  };
  const was = parse(before),
    is = parse(after);
  const lower = (record: Record<string, unknown>) =>
    Object.fromEntries(Object.entries(record).map(([key, value]) => [key.toLowerCase(), value]));
  const a = lower(was),
    b = lower(is);
  const keys = [...new Set([...Object.keys(a), ...Object.keys(b)])].filter(
    (key) => !/^(id|version)$|id$/.test(key) && JSON.stringify(a[key] ?? null) !== JSON.stringify(b[key] ?? null),
  );
  const words = (value: unknown) =>
    value === undefined || value === null || value === ""
      ? "–"
      : typeof value === "string"
        ? value
        : JSON.stringify(value).slice(0, 160);
  return (
    <Box fontSize="14px" overflowWrap="anywhere">
      {keys.length === 0 && "No difference."}
      {keys.map((key) => (
        <Box key={key}>
          <b>{key}</b>: {before ? `${words(a[key])} → ` : ""}
          {words(b[key])}
        </Box>
      ))}
    </Box>
  );
}
