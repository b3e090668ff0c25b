import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useLocation } from "react-router";
import { staff, type Client, type ClientFile, type DeskSetup } from "../../api/staff";
import { zClientDocument } from "../../api/shapes";
import { useDraft } from "../../shared/draft";
import { SelectField, TextField } from "../../shared/Field";
import { languageName, languages } from "../../shared/languages";
import { CheckField } from "../../shared/fields/CheckField";
import { NumberField } from "../../shared/inputs";
import { Press } from "../../shared/Press";
import { answerOf, Problem } from "../../shared/problem";
import { useUnsaved } from "../../shared/unsaved";
import { refreshClient } from "../../api/refresh";
import { Fact, Refusal, Sheet } from "../booking/Sheet";
import { GivesFields } from "./GivesFields";
import { KnownFields } from "./KnownFields";

const Box = chakra("div");
const Form = chakra("form");
const Anchor = chakra(Link, { base: { textDecoration: "underline", display: "inline-block", mb: "2" } });
type Props = { id: string; setup: DeskSetup; onVisit: (client: Client) => void; onClose: () => void };

/** A client: how to reach them, what the desk has to know, and the rules of online booking set for them. */
export function ClientSheet({ id, setup, onVisit, onClose }: Props) {
  const client = useQuery(asks.client(id));
  return client.data ? (
    <ClientForm client={client.data} setup={setup} onVisit={onVisit} onClose={onClose} />
  ) : (
    <Sheet title={t`Client`} onClose={onClose}>
      {client.error?.message ?? t`Opening …`}
    </Sheet>
  );
}

function ClientForm({ client, setup, onVisit, onClose }: { client: ClientFile } & Omit<Props, "id">) {
  const queries = useQueryClient();
  const { pathname } = useLocation();
  const { draft, base, dirty, errors, set, keep, whenWithin, refuse } = useDraft(client, zClientDocument);
  const settled = useUnsaved(dirty);
  const save = useMutation({
    mutationFn: () =>
      answerOf(
        staff.PUT("/api/v1/clients/{id}", {
          params: { path: { id: client.id! }, header: { "If-Match": String(base.version) } },
          body: draft,
        }),
      ),
    onSuccess: (saved) => {
      keep(saved);
      queries.setQueryData(asks.client(client.id!).queryKey, saved);
      settled();
      refreshClient(queries);
    },
    onError: (error) => error instanceof Problem && refuse(error),
  });
  const problem = save.error instanceof Problem ? save.error : null;
  const rule = (key: "leadMinutes" | "horizonDays" | "moveNoticeHours" | "cancelNoticeHours", label: string) => (
    <NumberField
      label={label}
      value={draft[key]}
      placeholder={t`as everyone`}
      error={errors[key]}
      onChange={(value) => set({ [key]: value })}
    />
  );
  const text = (key: "givenName" | "familyName" | "phone" | "email" | "alert", label: string, type = "text") => (
    <TextField
      label={label}
      type={type}
      value={draft[key] ?? ""}
      error={errors[key]}
      onChange={(e) => set({ [key]: e.target.value })}
    />
  );
  return (
    <Sheet title={`${client.givenName} ${client.familyName}`} onClose={onClose}>
      {pathname.startsWith("/day") && (
        <Anchor to={`/clients/${client.id}`}>
          <Trans>The whole record</Trans>
        </Anchor>
      )}
      <Fact label={t`Visits`}>{client.visits || t`none yet`}</Fact>
      {client.noShows > 0 && (
        <Fact label={t`Did not come`}>{plural(client.noShows, { one: "# time", other: "# times" })}</Fact>
      )}
      {client.lateCancellations > 0 && (
        <Fact label={t`Cancelled too late`}>
          {plural(client.lateCancellations, { one: "# time", other: "# times" })}
        </Fact>
      )}
      <Form
        noValidate
        display="grid"
        gap="2.5"
        mt="2.5"
        onSubmit={(event) => {
          event.preventDefault();
          whenWithin(save.mutate);
        }}
      >
        <Box display="grid" gridTemplateColumns="1fr 1fr" gap="2">
          {text("givenName", t`Given name`)}
          {text("familyName", t`Family name`)}
        </Box>
        {text("phone", t`Mobile`, "tel")}
        {text("email", t`E-mail`, "email")}
        <SelectField
          label={t`Written to in`}
          value={draft.language ?? ""}
          error={errors["language"]}
          onChange={(e) => set({ language: e.target.value || null })}
        >
          <option value="">{t`the language of the business`}</option>
          {languages.map((language) => (
            <option key={language} value={language}>
              {languageName(language)}
            </option>
          ))}
        </SelectField>
        {text("alert", t`What the desk has to know`)}
        <KnownFields draft={draft} errors={errors} setup={setup} set={set} />
        <Box as="h3" fontSize="text" mt="1.5">
          <Trans>Online booking</Trans>
        </Box>
        <CheckField
          label={t`May book online`}
          checked={draft.mayBookOnline}
          onChange={(mayBookOnline) => set({ mayBookOnline })}
        />
        <Box display="grid" gridTemplateColumns="1fr 1fr" gap="2" alignItems="end">
          {rule("leadMinutes", t`Lead time (min)`)}
          {rule("horizonDays", t`Days ahead`)}
          {rule("moveNoticeHours", t`Moving up to (hours)`)}
          {rule("cancelNoticeHours", t`Cancelling up to (hours)`)}
        </Box>
        <GivesFields draft={draft} errors={errors} set={set} />
        <Box fontSize="small" color="quiet">
          <Trans>What is empty follows the service, its category and the location.</Trans>
        </Box>
        {problem && Object.keys(problem.errors).length === 0 && <Refusal>{problem.message}</Refusal>}
        <Box display="flex" gap="2" alignItems="center">
          <Press type="submit" look="primary" disabled={save.isPending}>
            <Trans>Save</Trans>
          </Press>
          <Press onClick={() => onVisit({ ...client, id: client.id! } as Client)}>
            <Trans>New visit</Trans>
          </Press>
          <Box aria-live="polite" color="reed" fontSize="small">
            {save.isSuccess && t`✓ Saved.`}
          </Box>
        </Box>
      </Form>
    </Sheet>
  );
}
