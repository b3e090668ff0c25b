import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Client } from "../../api/staff";
import { TextField } from "../../shared/Field";
import { Box, Row, Span, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { ClientSearch } from "../clients/ClientSearch";
import type { NewClient, VisitDraft } from "./visitDrafts";

type Props = {
  draft: VisitDraft;
  errors: Record<string, string>;
  onChange: (change: Partial<VisitDraft>) => void;
  onDetails: (clientId: string) => void;
};

/** Whom a visit is for: somebody known, or somebody who is entered here. */
export function ClientPart({ draft, errors, onChange, onDetails }: Props) {
  if (draft.client)
    return <Known client={draft.client} onChange={() => onChange({ client: null })} onDetails={onDetails} />;
  if (draft.fresh) return <Fresh fresh={draft.fresh} errors={errors} onChange={(fresh) => onChange({ fresh })} />;
  return (
    <Box>
      <Box fontWeight="600" fontSize="small" mb="0.5">
        <Trans>Client</Trans>
      </Box>
      <Row flexWrap="nowrap" gap="2">
        <Box flex="1">
          <ClientSearch
            label={t`Client`}
            autoFocus
            onChoose={(client) => onChange({ client })}
            onNone={(typed) => onChange({ fresh: named(typed) })}
          />
        </Box>
        <Press onClick={() => onChange({ fresh: named("") })}>
          <Trans>New</Trans>
        </Press>
      </Row>
    </Box>
  );
}

type KnownProps = { client: Client; onChange: () => void; onDetails: (id: string) => void };

function Known({ client, onChange, onDetails }: KnownProps) {
  return (
    <Row justifyContent="space-between" flexWrap="nowrap" bg="paper" borderRadius="card" px="2.5" py="1.5">
      <Box>
        <Box fontWeight="700">
          {client.givenName} {client.familyName}
        </Box>
        <Box fontSize="small" color="quiet">
          {client.visits === 0 ? t`new client` : plural(client.visits, { one: "# visit", other: "# visits" })}
          {client.noShows > 0 && ` · ${plural(client.noShows, { one: "# no-show", other: "# no-shows" })}`}
        </Box>
        {client.alert && (
          <Box color="clay" fontWeight="600">
            ! {client.alert}
          </Box>
        )}
      </Box>
      <Stack gap="0">
        <Press size="small" look="quiet" onClick={() => onDetails(client.id)}>
          <Trans>Details</Trans>
        </Press>
        <Press size="small" look="quiet" onClick={onChange}>
          <Trans>
            Change<Span srOnly> the client</Span>
          </Trans>
        </Press>
      </Stack>
    </Row>
  );
}

type FreshProps = {
  fresh: NewClient;
  errors: Record<string, string>;
  onChange: (fresh: NewClient | null) => void;
};

function Fresh({ fresh, errors, onChange }: FreshProps) {
  const field = (name: keyof NewClient) => ({
    value: fresh[name],
    error: errors[`newClient.${name}`],
    onChange: (event: { target: { value: string } }) => onChange({ ...fresh, [name]: event.target.value }),
  });
  return (
    <Stack gap="2" role="group" aria-label={t`New client`}>
      <Box display="grid" gridTemplateColumns="1fr 1fr" gap="2">
        <TextField label={t`Given name`} autoFocus {...field("givenName")} />
        <TextField label={t`Family name`} {...field("familyName")} />
      </Box>
      <TextField label={t`Mobile`} type="tel" {...field("phone")} />
      <TextField label={t`E-mail`} type="email" {...field("email")} />
      <Press size="small" look="quiet" onClick={() => onChange(null)} justifySelf="start">
        <Trans>Find a known client instead</Trans>
      </Press>
    </Stack>
  );
}

/** What was typed into the search, put where it belongs. */
export function named(typed: string): NewClient {
  const words = typed.split(/\s+/).filter(Boolean);
  const isNumber = /^[+\d\s()-]+$/.test(typed);
  const isAddress = typed.includes("@");
  return {
    givenName: isNumber || isAddress ? "" : (words[0] ?? ""),
    familyName: isNumber || isAddress ? "" : words.slice(1).join(" "),
    email: isAddress ? typed : "",
    phone: isNumber ? typed : "",
  };
}
