import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { chakra } from "@chakra-ui/react";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { SelectField } from "../../shared/Field";
import { FileField } from "../../shared/fields/FileField";
import { moment } from "../../shared/format";
import { Box, Columns, Empty, Row, Section, Stack, Table, asForm } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { Problem } from "../../shared/problem";
import { ImportOne } from "./ImportOne";
import { countedRows, manyOf, states, type Kind } from "./imports";

const Out = chakra("a", { base: { textDecoration: "underline", fontWeight: "600" } });
const mostBytes = 64 * 1024 * 1024;

/** Files on their way in, and what can be taken out. */
export function ImportTab() {
  const [search] = useSearchParams();
  const chosen = search.get("import");
  return chosen ? <ImportOne key={chosen} id={chosen} /> : <Overview />;
}

function Overview() {
  const imports = useQuery(asks.imports());
  return (
    <Stack maxW="245" pb="7">
      <Upload />
      <Section
        title={t`Take out`}
        hint={t`The same columns as an import reads. Who took what out stands in the history.`}
      >
        <Row gap="5">
          <Out href="/api/v1/export/clients.csv" download>
            <Trans>Clients as CSV</Trans>
          </Out>
          <Out href="/api/v1/export/clients.vcf" download>
            <Trans>Clients as vCard</Trans>
          </Out>
          <Out href="/api/v1/export/services.csv" download>
            <Trans>Services as CSV</Trans>
          </Out>
          <Out href="/api/v1/export/practitioners.csv" download>
            <Trans>Practitioners as CSV</Trans>
          </Out>
        </Row>
      </Section>
      <Section title={t`Earlier imports`}>
        {imports.data?.length === 0 && (
          <Box color="quiet">
            <Trans>Nothing was brought in yet.</Trans>
          </Box>
        )}
        {imports.data && imports.data.length > 0 && (
          <Table>
            <thead>
              <tr>
                <th>
                  <Trans>When</Trans>
                </th>
                <th>
                  <Trans>File</Trans>
                </th>
                <th>
                  <Trans>Rows</Trans>
                </th>
                <th>
                  <Trans>How far</Trans>
                </th>
                <th>
                  <Trans>Who</Trans>
                </th>
              </tr>
            </thead>
            <tbody>
              {imports.data.map((other) => (
                <tr key={other.id}>
                  <td style={{ whiteSpace: "nowrap" }}>
                    {moment(other.at, Intl.DateTimeFormat().resolvedOptions().timeZone)}
                  </td>
                  <td style={{ overflowWrap: "anywhere" }}>
                    <Link to={`/setup/import?import=${other.id}`}>
                      <Box as="span" textDecoration="underline" fontWeight="600">
                        {other.fileName}
                      </Box>
                    </Link>
                  </td>
                  <td>{countedRows(other.rows, other.kind)}</td>
                  <td>{states[other.state]}</td>
                  <td>{other.by}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        )}
      </Section>
    </Stack>
  );
}

function Upload() {
  const [, setSearch] = useSearchParams();
  const queries = useQueryClient();
  const [kind, setKind] = useState<Kind>("clients");
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const [file, setFile] = useState<File>();
  const upload = async () => {
    if (!file) return setProblem(t`Choose a file first.`);
    if (file.size > mostBytes)
      return setProblem(t`The file is too large: 64 MB at the most. Part it into several files.`);
    setBusy(true);
    setProblem(undefined);
    const form = new FormData();
    form.append("file", file);
    try {
      const made = await answerOf(staff.POST("/api/v1/imports", { params: { query: { kind } }, body: form as never }));
      queries.setQueryData(["import", made.id], made);
      setSearch({ import: made.id });
    } catch (error) {
      setProblem(error instanceof Problem ? error.message : t`The file could not be sent. Try again.`);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Section
      title={t`Bring in`}
      hint={[
        t`A CSV file with a row of heads and a row for each entry.`,
        t`First you say which column is what and see what would come of it; nothing is kept until you say so.`,
      ].join(" ")}
    >
      <Stack
        {...asForm}
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          void upload();
        }}
      >
        <Columns least={260}>
          <SelectField label={t`Rows are`} value={kind} onChange={(e) => setKind(e.target.value as Kind)}>
            {Object.entries(manyOf).map(([name, many]) => (
              <option key={name} value={name}>
                {many}
              </option>
            ))}
          </SelectField>
          <FileField
            label={t`File`}
            choose={file ? t`Another file` : t`Choose a file`}
            accept=".csv,.tsv,.txt,text/csv"
            disabled={busy}
            error={problem}
            chosen={file?.name}
            onFile={(chosen) => {
              setFile(chosen);
              setProblem(undefined);
            }}
          />
        </Columns>
        <Row>
          <Press type="submit" look="primary" disabled={busy}>
            {busy ? t`Sending …` : t`Look at it`}
          </Press>
        </Row>
        {kind !== "clients" && (
          <Empty>
            {kind === "services"
              ? t`Set up your team and rooms first: services name who does them and what the room has to have.`
              : t`What practitioners hold comes along; their shifts are set on screen afterwards.`}
          </Empty>
        )}
      </Stack>
    </Section>
  );
}
