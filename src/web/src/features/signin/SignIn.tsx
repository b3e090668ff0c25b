import { chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { rememberToken, staff } from "../../api/staff";
import { TextField } from "../../shared/Field";
import { Press } from "../../shared/Press";
import { answerOf, Problem } from "../../shared/problem";

const Box = chakra("div");
const Form = chakra("form");

/** The door of the desk. */
export function SignIn() {
  const queries = useQueryClient();
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useMutation({
    mutationFn: () => answerOf(staff.POST("/api/v1/session", { body: { email, password } })),
    onSuccess: (session) => {
      rememberToken(session.token);
      queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
      queries.setQueryData(["session"], session);
    },
  });
  const errors = signIn.error instanceof Problem ? signIn.error.errors : {};
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate();
  };
  return (
    <Box as="main" minH="100%" display="grid" placeItems="center" p="20px">
      <Form
        onSubmit={submit}
        noValidate
        w="100%"
        maxW="360px"
        bg="sheet"
        borderWidth="1px"
        borderColor="line"
        borderRadius="card"
        p="26px"
        display="grid"
        gap="16px"
      >
        <Box display="flex" alignItems="center" gap="10px">
          <img src="/kingcup.svg" alt="" width="34" height="34" />
          <Box as="h1" fontSize="24px">
            Kingcup
          </Box>
        </Box>
        <TextField
          label="E-mail address"
          type="email"
          autoComplete="username"
          autoFocus
          value={email}
          onChange={(e) => setEmail(e.target.value)}
          error={errors["email"]}
        />
        <TextField
          label="Password"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          error={errors["password"]}
        />
        {signIn.error && Object.keys(errors).length === 0 && (
          <Box role="alert" color="clay" fontSize="14px">
            {signIn.error.message}
          </Box>
        )}
        <Press type="submit" look="primary" disabled={signIn.isPending}>
          Sign in
        </Press>
      </Form>
    </Box>
  );
}
