import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { visitors, type Own } from "../../../api/public";
import { visitorsAsk } from "../../../api/visitorQueries";
import { askAnew } from "../../../shared/askAnew";
import { TextField } from "../../../shared/Field";
import { Press } from "../../../shared/Press";
import { answerOf, Problem } from "../../../shared/problem";

const Box = chakra("div");
const Form = chakra("form", { base: { display: "grid", gap: "3" } });
type Contact = Own["details"][number];

/** How each of those who are reached here is called and reached. */
export function OwnContacts({ mine }: { mine: Own }) {
  return (
    <details>
      <Box as="summary" cursor="pointer" fontWeight="600" minH="11">
        <Trans>Your details</Trans>
      </Box>
      {mine.details.map((contact) => (
        <ContactForm key={contact.id} contact={contact} />
      ))}
    </details>
  );
}

function ContactForm({ contact }: { contact: Contact }) {
  const queries = useQueryClient();
  const [draft, setDraft] = useState(contact);
  const save = useMutation({
    mutationFn: () =>
      answerOf(
        visitors.PUT("/api/public/v1/mine/details/{id}", {
          params: { path: { id: contact.id! } },
          body: { ...draft, version: contact.version },
        }),
      ),
    onSuccess: setDraft,
    // Also where somebody else has changed them meanwhile: saved again, they are as they stand here.
    onSettled: () => askAnew(queries, { queryKey: visitorsAsk.mine().queryKey }),
  });
  const errors = save.error instanceof Problem ? save.error.errors : {};
  const field = (name: "givenName" | "familyName" | "email" | "phone") => ({
    value: draft[name] ?? "",
    error: errors[name],
    readOnly: contact.shown === name,
    hint: contact.shown === name ? t`You have shown that this is yours; it stays.` : undefined,
    onChange: (event: { target: { value: string } }) => {
      save.reset();
      setDraft({ ...draft, [name]: event.target.value });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!save.isPending) save.mutate();
  };
  return (
    <Form
      mt="2"
      onSubmit={submit}
      noValidate
      aria-label={`${contact.givenName ?? ""} ${contact.familyName ?? ""}`.trim()}
    >
      <TextField label={t`Given name`} autoComplete="given-name" {...field("givenName")} />
      <TextField label={t`Family name`} autoComplete="family-name" {...field("familyName")} />
      <TextField label={t`E-mail`} type="email" autoComplete="email" {...field("email")} />
      <TextField label={t`Mobile`} type="tel" autoComplete="tel" {...field("phone")} />
      <Box display="flex" flexWrap="wrap" gap="3" alignItems="center">
        <Press type="submit" disabled={save.isPending}>
          <Trans>Save your details</Trans>
        </Press>
        {save.isSuccess && <Box role="status">{t`✓ Saved.`}</Box>}
        {save.error && Object.keys(errors).length === 0 && <Box role="alert">{save.error.message}</Box>}
      </Box>
    </Form>
  );
}
