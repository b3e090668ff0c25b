import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { staff } from "../../api/staff";
import { TextField } from "../../shared/Field";
import { Press } from "../../shared/Press";
import { askAnew } from "../../shared/askAnew";
import { useFirstFault } from "../../shared/firstFault";
import { answerOf, Problem } from "../../shared/problem";
import { Door } from "./Door";

const Box = chakra("div");

/** The first account of a business: its owner makes it themselves, once. */
export function FirstOwner() {
  const queries = useQueryClient();
  const [you, setYou] = useState({ name: "", email: "", password: "" });
  const make = useMutation({
    mutationFn: () => answerOf(staff.POST("/api/v1/session/first", { body: you })),
    // Whether it was made or somebody else was first, the door is another one now.
    onSettled: (_, error) => {
      if (!(error instanceof Problem) || error.code === "not-first") {
        void askAnew(queries, { queryKey: asks.session().queryKey });
      }
    },
  });
  useFirstFault(make.error);
  const errors = make.error instanceof Problem ? make.error.errors : {};
  const field = (name: keyof typeof you) => ({
    value: you[name],
    onChange: (event: { target: { value: string } }) => setYou({ ...you, [name]: event.target.value }),
    error: errors[name],
  });
  return (
    <Door title={t`Welcome to Kingcup`} onSubmit={() => !make.isPending && make.mutate()}>
      <Box>
        <Trans>Nobody has an account here yet. The first one is the owner&rsquo;s.</Trans>
      </Box>
      <TextField label={t`Name`} autoComplete="name" autoFocus {...field("name")} />
      <TextField label={t`E-mail address`} type="email" autoComplete="username" {...field("email")} />
      <TextField
        label={t`Password`}
        type="password"
        autoComplete="new-password"
        hint={t`10 characters or more`}
        {...field("password")}
      />
      {make.error && Object.keys(errors).length === 0 && (
        <Box role="alert" color="clay" fontSize="small">
          {make.error.message}
        </Box>
      )}
      <Press type="submit" look="primary" disabled={make.isPending}>
        <Trans>Begin</Trans>
      </Press>
    </Door>
  );
}
