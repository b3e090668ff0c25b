import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Floating } from "../../../shared/Floating";
import { CheckField } from "../../../shared/fields/CheckField";
import { Stack } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { allColumns, columnChoice, columnsOf, withColumn, type Column } from "./columns";

/** What each column is called. */
export const columnNames: Record<Column, string> = {
  phone: t`Mobile`,
  email: t`E-mail`,
  known: t`Known`,
  born: t`Birthday`,
  source: t`Source`,
  visits: t`Visits`,
  noShows: t`No-shows`,
  lastVisit: t`Last`,
  nextVisit: t`Next`,
};

/** Which columns the list shows, chosen one by one. */
export function ColumnsPart() {
  const kept = columnChoice.useValue();
  const shown = columnsOf(kept);
  return (
    <Floating
      label={t`Columns`}
      trigger={
        <Press>
          <Trans>Columns</Trans>
        </Press>
      }
    >
      {() => (
        <Stack gap="1">
          {allColumns.map((column) => (
            <CheckField
              key={column}
              label={columnNames[column]}
              checked={shown.includes(column)}
              onChange={(on) => columnChoice.set(withColumn(kept, column, on))}
            />
          ))}
        </Stack>
      )}
    </Floating>
  );
}
