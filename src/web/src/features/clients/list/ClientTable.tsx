import { t } from "@lingui/core/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { flexRender, tableFeatures, useTable, createColumnHelper } from "@tanstack/react-table";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef, type CSSProperties } from "react";
import { Link } from "react-router";
import type { ClientFilter } from "../../../api/queries";
import { plainDate } from "../../../shared/format";
import { Box, Span } from "../../../shared/layout";
import { list } from "../../../theme/recipes/list";
import { columnChoice, columnsOf, templateOf } from "./columns";
import { columnNames } from "./ColumnsPart";
import { usePages, type Row } from "./usePages";

const rowHeight = 40,
  ahead = 12;
const features = tableFeatures({});
const helper = createColumnHelper<typeof features, Row>();
const day = (date: string | null) => (date ? plainDate(date) : "");

const columns = helper.columns([
  helper.display({
    id: "name",
    header: t`Name`,
    cell: ({ row }) => (
      <Link to={`/clients/${row.original.id}`}>
        {row.original.familyName}, {row.original.givenName}
      </Link>
    ),
  }),
  helper.accessor("phone", { header: columnNames.phone, cell: ({ getValue }) => getValue() ?? "" }),
  helper.accessor("email", { header: columnNames.email, cell: ({ getValue }) => getValue() ?? "" }),
  helper.display({
    id: "known",
    header: columnNames.known,
    cell: ({ row }) => (
      <>
        {row.original.alert && <Span color="clay">! {row.original.alert} </Span>}
        {row.original.tags.join(", ")}
      </>
    ),
  }),
  helper.accessor("born", { header: columnNames.born, cell: ({ getValue }) => day(getValue()) }),
  helper.accessor("source", { header: columnNames.source, cell: ({ getValue }) => getValue() ?? "" }),
  helper.accessor("visits", { header: columnNames.visits, cell: ({ getValue }) => getValue() || "" }),
  helper.accessor("noShows", { header: columnNames.noShows, cell: ({ getValue }) => getValue() || "" }),
  helper.accessor("lastVisit", { header: columnNames.lastVisit, cell: ({ getValue }) => day(getValue()) }),
  helper.accessor("nextVisit", { header: columnNames.nextVisit, cell: ({ getValue }) => day(getValue()) }),
]);

/** A table of clients of which only the rows in sight are fetched and drawn. */
export function ClientTable({ filter }: { filter: ClientFilter }) {
  const styles = useSlotRecipe({ recipe: list })({ of: "clients" });
  const frame = useRef<HTMLDivElement>(null);
  const shown = useShown(filter, frame);
  const chosen = columnsOf(columnChoice.useValue());
  const shownColumns = columns.filter((column) => {
    const name = "accessorKey" in column ? column.accessorKey : column.id;
    return name === "name" || chosen.some((one) => one === name);
  });
  const table = useTable({ features, columns: shownColumns, data: shown.rows, getRowId: (row) => row.id });
  const rows = table.getRowModel().rows;
  return (
    <Box ref={frame} css={styles["frame"]} tabIndex={0} role="group" aria-label={t`List of clients`}>
      <Box
        role="table"
        aria-label={t`Clients`}
        aria-rowcount={shown.total + 1}
        css={styles["table"]}
        style={{ "--columns": templateOf(chosen) } as CSSProperties}
      >
        <Box role="rowgroup">
          {table.getHeaderGroups().map((group) => (
            <Box key={group.id} role="row" css={styles["head"]}>
              {group.headers.map((header) => (
                <Box key={header.id} role="columnheader" css={styles["cell"]}>
                  {flexRender(header.column.columnDef.header, header.getContext())}
                </Box>
              ))}
            </Box>
          ))}
        </Box>
        <Box role="rowgroup" css={styles["body"]} style={{ blockSize: shown.height }}>
          {rows.map((row, i) => (
            <Box
              key={row.id}
              role="row"
              aria-rowindex={shown.places[i]! + 2}
              css={styles["row"]}
              data-virtual=""
              style={{ transform: `translateY(${shown.places[i]! * rowHeight}px)` }}
            >
              {row.getAllCells().map((cell) => (
                <Box key={cell.id} role="cell" css={styles["cell"]}>
                  {flexRender(cell.column.columnDef.cell, cell.getContext())}
                </Box>
              ))}
            </Box>
          ))}
        </Box>
      </Box>
    </Box>
  );
}

/** Which rows are in sight, with what is known of them. */
function useShown(filter: ClientFilter, frame: React.RefObject<HTMLDivElement | null>) {
  "use no memo"; // What is in sight changes with the scrolling, which no memo sees.
  const counted = usePages(filter, 0, 0).total;
  // eslint-disable-next-line react-hooks/incompatible-library -- said above
  const virtual = useVirtualizer({
    count: counted,
    getScrollElement: () => frame.current,
    estimateSize: () => rowHeight,
    overscan: ahead,
  });
  const items = virtual.getVirtualItems();
  const pages = usePages(filter, items[0]?.index ?? 0, items.at(-1)?.index ?? 0);
  const known = items
    .map((item) => ({ place: item.index, row: pages.rowAt(item.index) }))
    .filter((item): item is { place: number; row: Row } => item.row !== undefined);
  return {
    total: counted,
    height: virtual.getTotalSize(),
    rows: known.map(({ row }) => row),
    places: known.map(({ place }) => place),
  };
}
