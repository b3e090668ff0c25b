import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { rememberToken, staff } from "../../api/staff";
import { TextField } from "../../shared/Field";
import { Press } from "../../shared/Press";
import { useFirstFault } from "../../shared/firstFault";
import { answerOf, Problem } from "../../shared/problem";
import { Door } from "./Door";
import { FirstOwner } from "./FirstOwner";

const Box = chakra("div");

/** The door of the desk; a business without an account asks for its first owner instead. */
export function SignIn() {
  const first = useQuery({
    ...asks.firstOwner(),
    staleTime: Infinity,
    retry: false,
  });
  if (first.isPending) return null;
  return first.data?.isOpen ? <FirstOwner /> : <WithPassword />;
}

function WithPassword() {
  const queries = useQueryClient();
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const [asksCode, setAsksCode] = useState(false);
  const signIn = useMutation({
    mutationFn: () =>
      answerOf(staff.POST("/api/v1/session", { body: { email, password, code: asksCode ? code : null } })),
    onSuccess: (session) => {
      rememberToken(session.token);
      queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
      queries.setQueryData(asks.session().queryKey, session);
    },
    onError: (error) => {
      if (error instanceof Problem && error.code === "code-needed") setAsksCode(true);
    },
  });
  useFirstFault(signIn.error);
  const problem = signIn.error instanceof Problem ? signIn.error : null;
  // That a code is asked for is no fault of anybody's; the field says it itself.
  const errors = problem?.code === "code-needed" ? {} : (problem?.errors ?? {});
  const isSaid = problem?.code === "code-needed" || Object.keys(errors).length > 0;
  return (
    <Door title={t`Kingcup`} onSubmit={() => !signIn.isPending && signIn.mutate()}>
      <TextField
        label={t`E-mail address`}
        type="email"
        autoComplete="username"
        autoFocus
        value={email}
        onChange={(e) => {
          setEmail(e.target.value);
          setAsksCode(false);
        }}
        error={errors["email"]}
      />
      <TextField
        label={t`Password`}
        type="password"
        autoComplete="current-password"
        value={password}
        onChange={(e) => setPassword(e.target.value)}
        error={errors["password"]}
      />
      {asksCode && (
        <TextField
          label={t`Code`}
          inputMode="numeric"
          autoComplete="one-time-code"
          autoFocus
          hint={t`The six digits your application for codes shows`}
          value={code}
          onChange={(e) => setCode(e.target.value)}
          error={errors["code"]}
        />
      )}
      {signIn.error && !isSaid && (
        <Box role="alert" color="clay" fontSize="small">
          {signIn.error.message}
        </Box>
      )}
      <Press type="submit" look="primary" disabled={signIn.isPending}>
        <Trans>Sign in</Trans>
      </Press>
    </Door>
  );
}
