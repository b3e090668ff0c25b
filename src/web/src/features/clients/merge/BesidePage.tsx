import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { components } from "../../../api/generated/schema";
import { asks } from "../../../api/queries";
import { staff, type DeskSetup } from "../../../api/staff";
import { andWords } from "../../../shared/format";
import { Box, Page, Panel, Row, Stack, Table } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { say } from "../../../shared/toasts";
import { Refusal } from "../../booking/Sheet";
import { likeness } from "../likes";
import { useWriting } from "../record/useWriting";
import { fieldNames, saysOf } from "./fields";

const Anchor = chakra(Link, { base: { textDecoration: "underline" } });
const Label = chakra("label", {
  base: { display: "flex", gap: "2", alignItems: "center", minH: "6", cursor: "pointer" },
});
const Radio = chakra("input");
type Schemas = components["schemas"];
type Field = Schemas["ClientField"];

/** Two records side by side, to be made one: of each field somebody chooses which of the two holds. */
export function BesidePage({ setup }: { setup: DeskSetup }) {
  const { id = "", other = "" } = useParams();
  const pair = useQuery(asks.beside(id, other));
  return (
    <Page title={t`Two records`}>
      {pair.data ? (
        <Beside key={`${id} ${other}`} pair={pair.data} setup={setup} />
      ) : (
        <Box role={pair.error ? "alert" : undefined}>{pair.error?.message ?? t`Opening …`}</Box>
      )}
    </Page>
  );
}

function Beside({ pair, setup }: { pair: Schemas["LikenessAnswer"]; setup: DeskSetup }) {
  const { kept, gone } = pair;
  const navigate = useNavigate();
  const [fromGone, setFromGone] = useState<Field[]>([...pair.proposed]);
  const nameOf = (client: Schemas["ClientDocument"]) => `${client.givenName} ${client.familyName}`;
  const merge = useWriting(
    () =>
      answerOf(
        staff.POST("/api/v1/clients/{id}/merge", {
          params: { path: { id: kept.id! }, header: { "If-Match": String(kept.version) } },
          body: { goneId: gone.id!, goneVersion: gone.version ?? 0, fromGone },
        }),
      ),
    () => {
      say(t`Both are one record now. “Take apart” on it undoes that.`);
      void navigate(`/clients/${kept.id}`, { replace: true });
    },
  );
  const choose = (field: Field, takeOver: boolean) =>
    setFromGone((before) => [...before.filter((one) => one !== field), ...(takeOver ? [field] : [])]);
  return (
    <Stack maxW="245" pb="7">
      <Box>
        {pair.reasons.length > 0
          ? t`What speaks for one person: ${andWords(pair.reasons.map((reason) => likeness[reason]))}.`
          : t`Nothing in their names says that these are one person. Look twice.`}
      </Box>
      <Panel>
        <Table>
          <thead>
            <tr>
              <th>
                <Box as="span" srOnly>
                  <Trans>Field</Trans>
                </Box>
              </th>
              <th>
                <Anchor to={`/clients/${kept.id}`}>{nameOf(kept)}</Anchor>
                <Box fontWeight="400" color="quiet">
                  <Trans>is kept · {kept.visits ?? 0} visits</Trans>
                </Box>
              </th>
              <th>
                <Anchor to={`/clients/${gone.id}`}>{nameOf(gone)}</Anchor>
                <Box fontWeight="400" color="quiet">
                  <Trans>is put aside · {gone.visits ?? 0} visits go over</Trans>
                </Box>
              </th>
            </tr>
          </thead>
          <tbody>
            {(Object.keys(fieldNames) as Field[]).map((field) => (
              <tr key={field}>
                <th scope="row">{fieldNames[field]}</th>
                {pair.differing.includes(field) ? (
                  [kept, gone].map((client, i) => (
                    <td key={client.id}>
                      <Label>
                        <Radio
                          type="radio"
                          name={field}
                          checked={fromGone.includes(field) === (i === 1)}
                          onChange={() => choose(field, i === 1)}
                        />
                        {saysOf(client, field, setup) || t`nothing`}
                      </Label>
                    </td>
                  ))
                ) : (
                  <td colSpan={2}>{saysOf(kept, field, setup) || t`nothing`}</td>
                )}
              </tr>
            ))}
          </tbody>
        </Table>
      </Panel>
      <Box color="quiet">
        <Trans>
          Visits, notes, consents and links of both come together, tags too. It can be taken apart again, with
          everything as it was.
        </Trans>
      </Box>
      {merge.error && <Refusal>{merge.error.message}</Refusal>}
      <Row>
        <Press look="primary" disabled={merge.isPending} onClick={() => merge.mutate(undefined)}>
          <Trans>Make them one</Trans>
        </Press>
        <Press onClick={() => void navigate(`/clients/${gone.id}/beside/${kept.id}`, { replace: true })}>
          <Trans>Keep the other record</Trans>
        </Press>
      </Row>
    </Stack>
  );
}
