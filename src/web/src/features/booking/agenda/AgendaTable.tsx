import { t } from "@lingui/core/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useMemo, useRef } from "react";
import { Link } from "react-router";
import { clockRange, longDate, money } from "../../../shared/format";
import { Box } from "../../../shared/layout";
import { agenda as look } from "../../../theme/recipes/agenda";
import { narrow } from "../../../theme/media";
import { marks } from "../BlockMark";
import { groupsOf, type AgendaRow, type Grouping } from "./agenda";

const Tick = chakra("input");
type Props = {
  rows: readonly AgendaRow[];
  grouping: Grouping;
  marked: ReadonlySet<string>;
  /** Chooses rows; null where this person may change none. */
  onMark: ((marked: ReadonlySet<string>) => void) | null;
};
type Line = { key: string; title: string } | { key: string; row: AgendaRow };

/** The visits as a table of which only the rows in sight are drawn. */
export function AgendaTable({ rows, grouping, marked, onMark }: Props) {
  const styles = useSlotRecipe({ recipe: look })();
  const frame = useRef<HTMLDivElement>(null);
  const lines = useMemo(() => linesOf(rows, grouping), [rows, grouping]);
  const { items, height } = useInSight(lines.length, frame);
  const mark = (id: string, on: boolean) =>
    onMark?.(new Set(on ? [...marked, id] : [...marked].filter((other) => other !== id)));
  const all = rows.length > 0 && rows.every((row) => marked.has(row.id));
  return (
    <Box ref={frame} css={styles["frame"]} tabIndex={0} role="group" aria-label={t`Agenda`}>
      <Box role="table" aria-label={t`Visits`} aria-rowcount={lines.length + 1}>
        <Box role="rowgroup">
          <Box role="row" css={styles["line"]} data-head="">
            <Box role="columnheader" css={styles["cell"]} data-mark="">
              {onMark && (
                <Tick
                  type="checkbox"
                  aria-label={t`Choose all`}
                  checked={all}
                  onChange={() => onMark(all ? new Set() : new Set(rows.map((row) => row.id)))}
                />
              )}
            </Box>
            {[t`Time`, t`Client`, t`What`, t`With`, t`Where`, t`State`, t`Price`].map((head) => (
              <Box key={head} role="columnheader" css={styles["cell"]}>
                {head}
              </Box>
            ))}
          </Box>
        </Box>
        <Box role="rowgroup" css={styles["body"]} style={{ blockSize: height }}>
          {items.map(({ index, start }) => {
            const line = lines[index]!;
            const place = { transform: `translateY(${start}px)` };
            return "title" in line ? (
              <Box key={line.key} role="row" aria-rowindex={index + 2} css={styles["group"]} style={place}>
                <Box role="cell">{line.title}</Box>
              </Box>
            ) : (
              <AgendaLine
                key={line.key}
                index={index}
                row={line.row}
                place={place}
                isMarked={marked.has(line.row.id)}
                onMark={onMark && mark}
              />
            );
          })}
        </Box>
      </Box>
    </Box>
  );
}

type LineProps = {
  index: number;
  row: AgendaRow;
  place: { transform: string };
  isMarked: boolean;
  onMark: ((id: string, on: boolean) => void) | null;
};

function AgendaLine({ index, row, place, isMarked, onMark }: LineProps) {
  const styles = useSlotRecipe({ recipe: look })();
  const name = `${row.client.givenName} ${row.client.familyName}`;
  const { mark, word } = marks[row.state];
  const on = (yes: boolean) => (yes ? "" : undefined);
  return (
    <Box
      role="row"
      aria-rowindex={index + 2}
      css={styles["line"]}
      data-placed=""
      data-marked={on(isMarked)}
      data-off={on(row.state === "cancelled" || row.state === "noShow")}
      style={place}
    >
      <Box role="cell" css={styles["cell"]} data-mark="">
        {onMark && (
          <Tick
            type="checkbox"
            aria-label={t`Choose ${name}`}
            checked={isMarked}
            onChange={(event) => onMark(row.id, event.target.checked)}
          />
        )}
      </Box>
      <Box role="cell" css={styles["cell"]} fontWeight="600">
        {clockRange(row.start, row.end, row.zone)}
      </Box>
      <Box role="cell" css={styles["cell"]} data-who="">
        <Link to={`/day/${row.locationId}/${row.date}?visit=${row.id}`}>{name}</Link>
        {row.isFirst && ` · ${t`new`}`}
        {row.client.alert && (
          <Box as="span" css={styles["alert"]}>
            {" "}
            ! {row.client.alert}
          </Box>
        )}
      </Box>
      <Box role="cell" css={styles["cell"]} data-what="" title={row.note || undefined}>
        {row.services.join(" + ")}
        {row.note && ` · ${row.note}`}
      </Box>
      <Box role="cell" css={styles["cell"]} data-extra="">
        {row.practitioners.map((who) => who.name).join(", ")}
      </Box>
      <Box role="cell" css={styles["cell"]} data-where="">
        {row.rooms.join(", ")}
      </Box>
      <Box role="cell" css={styles["cell"]} data-state="">
        {mark} {row.cancelReason ? `${word}: ${row.cancelReason}` : word}
      </Box>
      <Box role="cell" css={styles["cell"]} data-price="">
        {money(row.price)}
      </Box>
    </Box>
  );
}

/** Rows with a line above each group; one day of one house needs none. */
function linesOf(rows: readonly AgendaRow[], grouping: Grouping): Line[] {
  const groups = groupsOf(rows, grouping);
  return groups.flatMap((group) => [
    ...(groups.length > 1 || grouping === "practitioner"
      ? [{ key: group.key, title: grouping === "time" ? longDate(group.key) : group.key }]
      : []),
    ...group.rows.map((row) => ({ key: row.id, row })),
  ]);
}

/** Which lines are in sight. */
function useInSight(count: number, frame: React.RefObject<HTMLDivElement | null>) {
  "use no memo"; // What is in sight changes with the scrolling, which no memo sees.
  const isNarrow = window.matchMedia(narrow.slice("@media ".length)).matches;
  // eslint-disable-next-line react-hooks/incompatible-library -- said above
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => frame.current,
    estimateSize: () => (isNarrow ? 72 : 40),
    overscan: 10,
  });
  return { items: virtual.getVirtualItems(), height: virtual.getTotalSize() };
}
