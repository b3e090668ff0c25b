import type { Client } from "../../api/staff";
import { TextField } from "../../shared/Field";
import { counted } from "../../shared/format";
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
      <Box fontWeight="600" fontSize="14px" mb="3px">
        Client
      </Box>
      <Row flexWrap="nowrap" gap="8px">
        <Box flex="1">
          <ClientSearch
            label="Client"
            autoFocus
            onChoose={(client) => onChange({ client })}
            onNone={(typed) => onChange({ fresh: named(typed) })}
          />
        </Box>
        <Press onClick={() => onChange({ fresh: named("") })}>New</Press>
      </Row>
    </Box>
  );
}

type KnownProps = { client: Client; onChange: () => void; onDetails: (id: string) => void };

function Known({ client, onChange, onDetails }: KnownProps) {
  return (
    <Row justifyContent="space-between" flexWrap="nowrap" bg="paper" borderRadius="card" px="10px" py="7px">
      <Box>
        <Box fontWeight="700">
          {client.givenName} {client.familyName}
        </Box>
        <Box fontSize="14px" color="quiet">
          {client.visits === 0 ? "new client" : counted(client.visits, "visit")}
          {client.noShows > 0 && ` · ${counted(client.noShows, "no-show")}`}
        </Box>
        {client.alert && (
          <Box color="clay" fontWeight="600">
            ! {client.alert}
          </Box>
        )}
      </Box>
      <Stack gap="0">
        <Press size="small" look="quiet" onClick={() => onDetails(client.id)}>
          Details
        </Press>
        <Press size="small" look="quiet" onClick={onChange}>
          Change<Span srOnly> the client</Span>
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
    <Stack gap="8px" role="group" aria-label="New client">
      <Box display="grid" gridTemplateColumns="1fr 1fr" gap="8px">
        <TextField label="Given name" autoFocus {...field("givenName")} />
        <TextField label="Family name" {...field("familyName")} />
      </Box>
      <TextField label="Mobile" type="tel" {...field("phone")} />
      <TextField label="E-mail" type="email" {...field("email")} />
      <Press size="small" look="quiet" onClick={() => onChange(null)} justifySelf="start">
        Find a known client instead
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
