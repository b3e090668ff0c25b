import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Import, type ImportColumn } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";
import { Outcome, useChange } from "../../shared/change";
import { SelectField, TextField } from "../../shared/Field";
import { Box, Panel, Row, Section, Stack, Table, asForm } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { encodings, kinds } from "./imports";

export function Mapping({ upload, onChecked }: { upload: Import; onChecked: () => void }) {
  const queries = useQueryClient();
  const fields = upload.fields ?? [];
  const sample = upload.sample ?? [];
  const [columns, setColumns] = useState<ImportColumn[]>(upload.mapping?.columns ?? []);
  const check = useChange(
    (wanted: ImportColumn[]) =>
      answerOf(
        staff.POST("/api/v1/imports/{id}/check", {
          params: { path: { id: upload.id! } },
          body: {
            columns: wanted.filter((column) => column.column != null || column.always),
          },
        }),
      ),
    (made) => {
      queries.setQueryData(["import", upload.id], { ...upload, ...made });
      onChecked();
    },
  );
  const encode = useChange(
    (encoding: string) =>
      answerOf(
        staff.PUT("/api/v1/imports/{id}/encoding", { params: { path: { id: upload.id! } }, body: { encoding } }),
      ),
    (made) => {
      queries.setQueryData(["import", upload.id], made);
      setColumns(made.mapping?.columns ?? []);
    },
  );
  const of = (name: string) => columns.find((column) => column.field === name) ?? { field: name };
  const set = (name: string, change: Partial<ImportColumn>) =>
    setColumns([...columns.filter((column) => column.field !== name), { ...of(name), ...change }]);
  const errorOf = (name: string) =>
    check.errors[name] ??
    Object.entries(check.errors).find(([path]) => {
      const at = /^columns\[(\d+)\]/.exec(path)?.[1];
      return at !== undefined && columns.filter((c) => c.column != null || c.always)[Number(at)]?.field === name;
    })?.[1];
  if (!upload.hasFile)
    return (
      <Panel>
        <Trans>The file is no longer kept. Bring it in again from the list of imports.</Trans>
      </Panel>
    );
  return (
    <Section
      title={t`Which column is what?`}
      hint={
        t`Say it for what a ${kinds[upload.kind]} needs; leave out the rest. ` +
        t`What stands under “otherwise” counts for every row whose cell is empty.`
      }
    >
      <Stack
        {...asForm}
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          check.run(columns);
        }}
      >
        <Table css={{ "& td": { pt: "2" } }}>
          <thead>
            <tr>
              <th style={{ width: "34%" }}>
                <Trans>Kingcup</Trans>
              </th>
              <th style={{ width: "24%" }}>
                <Trans>Column of the file</Trans>
              </th>
              <th style={{ width: "20%" }}>
                <Trans>Otherwise</Trans>
              </th>
              <th>
                <Trans>First rows say</Trans>
              </th>
            </tr>
          </thead>
          <tbody>
            {fields.map((field) => {
              const column = of(field.name);
              const at = column.column == null ? null : Number(column.column);
              return (
                <tr key={field.name}>
                  <td>
                    <b>{field.label}</b>
                    {field.isNeeded && ` (${t`needed`})`}
                    <Box color="quiet" fontSize="small">
                      {field.about}
                    </Box>
                  </td>
                  <td>
                    <SelectField
                      label=""
                      aria-label={t`Column of ${field.label}`}
                      value={at ?? ""}
                      error={errorOf(field.name)}
                      onChange={(e) =>
                        set(field.name, { column: e.target.value === "" ? null : Number(e.target.value) })
                      }
                    >
                      <option value="">
                        <Trans>none</Trans>
                      </option>
                      {upload.heads.map((head, i) => (
                        <option key={i} value={i}>
                          {head}
                        </option>
                      ))}
                    </SelectField>
                  </td>
                  <td>
                    <TextField
                      label=""
                      aria-label={t`${field.label} otherwise`}
                      value={column.always ?? ""}
                      onChange={(e) => set(field.name, { always: e.target.value || null })}
                    />
                  </td>
                  <td style={{ overflowWrap: "anywhere" }}>
                    {at === null ? (
                      <Box color="quiet">{column.always || "–"}</Box>
                    ) : (
                      sample.slice(0, 3).map((row, i) => <Box key={i}>{row[at] || column.always || "–"}</Box>)
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Table>
        <Row alignItems="end" gap="4">
          <Box w="70">
            <SelectField
              label={t`Letters are read as`}
              hint={t`Choose another where letters above look wrong.`}
              value={encodings.some(([name]) => name === upload.encoding) ? upload.encoding : ""}
              error={encode.errors["encoding"]}
              onChange={(e) => encode.run(e.target.value)}
            >
              {!encodings.some(([name]) => name === upload.encoding) && <option value="">{upload.encoding}</option>}
              {encodings.map(([name, words]) => (
                <option key={name} value={name}>
                  {words}
                </option>
              ))}
            </SelectField>
          </Box>
        </Row>
        <Row>
          <Press type="submit" look="primary" disabled={check.pending}>
            <Trans>Check the rows</Trans>
          </Press>
          <Outcome change={check} saved="" fields={fields.map((field) => field.name)} />
          <Outcome change={encode} saved="" fields={["encoding"]} />
        </Row>
      </Stack>
    </Section>
  );
}
