import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { visitors, type Own } from "../../../api/public";
import { visitorsAsk } from "../../../api/visitorQueries";
import { TextField } from "../../../shared/Field";
import { asForm } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf, Problem } from "../../../shared/problem";

const Box = chakra("div");
const Stack = chakra("div", { base: { display: "grid", gap: "2", justifyItems: "start" } });
type Person = Own["people"][number];

/** A password for whoever wants no code each time. */
export function OwnPasswords({ mine }: { mine: Own }) {
  return (
    <Stack as="section" aria-label={t`Password`}>
      <Box as="h2" fontSize="text" fontWeight="700">
        <Trans>Password</Trans>
      </Box>
      {mine.people.map((person) => (
        <OwnPassword key={person.id} mine={mine} person={person} />
      ))}
    </Stack>
  );
}

function OwnPassword({ mine, person }: { mine: Own; person: Person }) {
  const queries = useQueryClient();
  const [typed, setTyped] = useState<string | null>(null);
  const save = useMutation({
    mutationFn: (password: string | null) =>
      answerOf(visitors.PUT("/api/public/v1/mine/password", { body: { personId: person.id, password } })),
    onSuccess: (_, password) => {
      setTyped(null);
      const people = mine.people.map((one) =>
        one.id === person.id ? { ...one, hasPassword: password !== null } : one,
      );
      queries.setQueryData(visitorsAsk.mine().queryKey, { ...mine, people });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!save.isPending) save.mutate(typed);
  };
  const fault = save.error instanceof Problem ? save.error.errors["password"] : undefined;
  const { address } = mine;
  const whose = mine.people.length > 1 ? `${person.name}: ` : "";
  return (
    <Stack>
      <Box role="status">
        {whose}
        {person.hasPassword
          ? t`You can come in with ${address} and your password.`
          : t`You come in by a link or a code. With a password you need neither.`}
      </Box>
      {typed !== null ? (
        <Stack {...asForm} onSubmit={submit} w="100%" maxW="90">
          <Box w="100%">
            <TextField
              label={t`New password`}
              type="password"
              value={typed}
              autoFocus
              autoComplete="new-password"
              error={fault}
              onChange={(e) => setTyped(e.target.value)}
            />
          </Box>
          <Box display="flex" flexWrap="wrap" gap="2">
            <Press type="submit" look="primary" disabled={save.isPending}>
              <Trans>Save the password</Trans>
            </Press>
            <Press
              look="quiet"
              onClick={() => {
                setTyped(null);
                save.reset();
              }}
            >
              <Trans>Leave it</Trans>
            </Press>
          </Box>
        </Stack>
      ) : (
        <Box display="flex" flexWrap="wrap" gap="2">
          <Press
            onClick={() => setTyped("")}
            aria-label={person.hasPassword ? t`${whose}Change the password` : t`${whose}Set a password`}
          >
            {person.hasPassword ? t`Change the password` : t`Set a password`}
          </Press>
          {person.hasPassword && (
            <Press look="quiet" disabled={save.isPending} onClick={() => save.mutate(null)}>
              <Trans>Do without</Trans>
            </Press>
          )}
        </Box>
      )}
      {save.error && !fault && <Box role="alert">{save.error.message}</Box>}
    </Stack>
  );
}
