import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { staff } from "../../api/staff";
import { useFirstFault } from "../../shared/firstFault";
import { answerOf } from "../../shared/problem";

import { TextField } from "../../shared/Field";
import { Box, Panel, Stack, asForm } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { Problem } from "../../shared/problem";

/** Where a sign-in link leads: a password is chosen, once. */
export function Welcome() {
  const { token } = useParams();
  const [password, setPassword] = useState("");
  const choose = useMutation({
    mutationFn: () => answerOf(staff.POST("/api/v1/session/password", { body: { token: token ?? null, password } })),
  });
  useFirstFault(choose.error);
  const problem = choose.error instanceof Problem ? choose.error : null;
  return (
    <Box as="main" minH="100%" display="grid" placeItems="center" p="5">
      <Panel w="100%" maxW="100">
        <Stack
          {...asForm}
          onSubmit={(event: React.FormEvent) => {
            event.preventDefault();
            choose.mutate();
          }}
        >
          <Box as="h1" fontSize="page">
            <Trans>Welcome to Kingcup</Trans>
          </Box>
          {choose.isSuccess ? (
            <>
              <Box role="status">
                <Trans>Your password is set.</Trans>
              </Box>
              <a href="/">
                <Box as="span" textDecoration="underline" fontWeight="700">
                  <Trans>Sign in</Trans>
                </Box>
              </a>
            </>
          ) : (
            <>
              <Box>
                <Trans>Choose a password; with it and your e-mail address you sign in from now on.</Trans>
              </Box>
              <TextField
                label={t`Password`}
                type="password"
                autoComplete="new-password"
                autoFocus
                value={password}
                hint={t`10 characters or more`}
                error={problem?.errors["password"]}
                onChange={(e) => setPassword(e.target.value)}
              />
              {problem && !problem.errors["password"] && (
                <Box role="alert" color="clay">
                  {problem.message}
                </Box>
              )}
              <Press type="submit" look="primary" disabled={choose.isPending}>
                <Trans>Set it</Trans>
              </Press>
            </>
          )}
        </Stack>
      </Panel>
    </Box>
  );
}
