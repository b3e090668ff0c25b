import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link as Leads } from "react-router";
import type { components } from "../../../api/generated/schema";
import { asks } from "../../../api/queries";
import { staff, type Client } from "../../../api/staff";
import { TextField } from "../../../shared/Field";
import { andWords, plainDate } from "../../../shared/format";
import { CheckField } from "../../../shared/fields/CheckField";
import { Box, Row, Section } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { Fact } from "../../booking/Sheet";
import { ClientSearch } from "../ClientSearch";
import { useWriting } from "./useWriting";

const Anchor = chakra(Leads, { base: { textDecoration: "underline" } });
type Schemas = components["schemas"];
type Link = Schemas["LinkAnswer"];

/** How to reach a client, and who belongs to them. */
export function ReachPart({ file }: { file: Schemas["ClientRecordAnswer"] }) {
  const { client } = file;
  const id = client.id!;
  const links = useQuery(asks.clientLinks(id));
  const [added, setAdded] = useState<Client | null>(null);
  const [changed, setChanged] = useState<Link | null>(null);
  const may = (link: Link) =>
    andWords(
      [link.mayBook && t`books`, link.mayPay && t`pays`, link.maySee && t`sees visits`].filter(
        (word): word is string => word !== false && word !== undefined,
      ),
    );
  return (
    <Section title={t`Reach`}>
      <Fact label={t`Mobile`}>{client.phone ?? t`none`}</Fact>
      <Fact label={t`E-mail`}>{client.email ?? t`none`}</Fact>
      {client.born && <Fact label={t`Born`}>{plainDate(client.born)}</Fact>}
      {client.source && <Fact label={t`Came by`}>{client.source}</Fact>}
      <Fact label={t`Books online`}>{client.mayBookOnline ? t`yes` : t`no`}</Fact>
      {links.data?.map((link) => {
        const isFrom = link.from.id === id;
        const other = isFrom ? link.to : link.from;
        return (
          <Fact key={`${link.from.id} ${link.to.id}`} label={t`Linked with`}>
            <Anchor to={`/clients/${other.id}`}>{other.name}</Anchor>
            {isFrom && `, ${link.relation}`}
            {may(link) && (
              <Box fontSize="small" fontWeight="400">
                {isFrom ? t`${may(link)} for them` : t`${may(link)} for this client`}
              </Box>
            )}
            {changed?.from.id === link.from.id && changed.to.id === link.to.id ? (
              <LinkForm link={changed} onDone={() => setChanged(null)} />
            ) : (
              !client.mergedInto && (
                <Press
                  look="quiet"
                  size="small"
                  aria-label={
                    isFrom ? t`Change what they may do for ${other.name}` : t`Change what ${other.name} may do for them`
                  }
                  onClick={() => setChanged(link)}
                >
                  <Trans>Change</Trans>
                </Press>
              )
            )}
          </Fact>
        );
      })}
      {!client.mergedInto && (
        <Box mt="2">
          {added ? (
            <LinkForm
              link={{
                from: { id, name: `${client.givenName} ${client.familyName}` },
                to: { id: added.id, name: `${added.givenName} ${added.familyName}` },
                relation: "",
                mayBook: true,
                mayPay: false,
                maySee: true,
                version: 0,
              }}
              onDone={() => setAdded(null)}
            />
          ) : (
            <>
              <Box fontWeight="600" fontSize="small" mb="0.5">
                <Trans>Somebody who belongs to them</Trans>
              </Box>
              <ClientSearch label={t`Somebody who belongs to them`} onChoose={setAdded} />
            </>
          )}
        </Box>
      )}
    </Section>
  );
}

/** What one client may do for another, new or as it stands. */
function LinkForm({ link: before, onDone }: { link: Link; onDone: () => void }) {
  const [link, setLink] = useState(before);
  const { from, to, version } = before;
  const isNew = Number(version) === 0;
  const params = {
    path: { id: from.id, to: to.id },
    header: { "If-Match": String(version) },
  };
  const save = useWriting(() => answerOf(staff.PUT("/api/v1/clients/{id}/links/{to}", { params, body: link })), onDone);
  const remove = useWriting(() => answerOf(staff.DELETE("/api/v1/clients/{id}/links/{to}", { params })), onDone);
  const isBusy = save.isPending || remove.isPending;
  return (
    <Box display="grid" gap="2" textAlign="start" fontWeight="400">
      <TextField
        label={t`What is ${to.name} to ${from.name}?`}
        placeholder={t`child, mother, same household`}
        value={link.relation}
        autoFocus
        error={(save.error ?? remove.error)?.message}
        onChange={(event) => setLink({ ...link, relation: event.target.value })}
      />
      <Row>
        <CheckField
          label={t`books for them`}
          checked={link.mayBook}
          onChange={(mayBook) => setLink({ ...link, mayBook })}
        />
        <CheckField
          label={t`pays for them`}
          checked={link.mayPay}
          onChange={(mayPay) => setLink({ ...link, mayPay })}
        />
        <CheckField
          label={t`sees their visits`}
          checked={link.maySee}
          onChange={(maySee) => setLink({ ...link, maySee })}
        />
      </Row>
      <Row>
        <Press size="small" look="primary" disabled={isBusy} onClick={() => save.mutate(undefined)}>
          {isNew ? t`Link them` : t`Save`}
        </Press>
        {!isNew && (
          <Press size="small" disabled={isBusy} onClick={() => remove.mutate(undefined)}>
            <Trans>Take the link back</Trans>
          </Press>
        )}
        <Press size="small" onClick={onDone}>
          <Trans>Leave it</Trans>
        </Press>
      </Row>
    </Box>
  );
}
