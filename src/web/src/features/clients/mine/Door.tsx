import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { visitors } from "../../../api/public";
import { TextField } from "../../../shared/Field";
import { Press } from "../../../shared/Press";
import { answerOf, Problem } from "../../../shared/problem";
import { shownHere } from "../../../shared/shownHere";
import { StepTitle } from "../../booking/page/StepTitle";

const Box = chakra("div", { base: { display: "grid", gap: "3", justifyItems: "start" } });
const Form = chakra("form", { base: { display: "grid", gap: "3", justifyItems: "start", w: "100%", maxW: "95" } });
const Wide = chakra("div", { base: { w: "100%" } });

const faultOf = (error: Error | null, field: string) =>
  error instanceof Problem ? (error.errors[field] ?? undefined) : undefined;

/** Shows who one is: an address, and the code that is sent there. */
export function Door({
  says,
  title,
  level = "h1",
  toBook = false,
  onIn,
}: {
  says?: string | undefined;
  /** What it opens. */
  title: string;
  level?: "h1" | "h2";
  /** Whether somebody is about to book, who may be new. */
  toBook?: boolean;
  onIn: () => void | Promise<void>;
}) {
  const [address, setAddress] = useState("");
  const [password, setPassword] = useState<string | null>(null);
  const [sentTo, setSentTo] = useState<string | null>(null);
  const send = useMutation({
    mutationFn: async () => {
      if (password === null) return answerOf(visitors.POST("/api/public/v1/mine/code", { body: { address, toBook } }));
      await answerOf(visitors.POST("/api/public/v1/mine/sign-in", { body: { address, password } }));
      shownHere.set(true);
    },
    onSuccess: () => (password === null ? setSentTo(address) : onIn()),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!send.isPending) send.mutate();
  };
  if (sentTo !== null)
    return <Code address={sentTo} level={level} toBook={toBook} onIn={onIn} onBack={() => setSentTo(null)} />;
  return (
    <Box>
      <StepTitle as={level}>{title}</StepTitle>
      {says && <Wide role="alert">{says}</Wide>}
      <Wide>
        {password === null
          ? t`Enter the e-mail address or the telephone number you book with. We send you a code.`
          : t`Enter the e-mail address or the telephone number you book with, and your password.`}
      </Wide>
      <Form noValidate onSubmit={submit}>
        <Wide>
          <TextField
            label={t`E-mail address or telephone number`}
            value={address}
            autoComplete="email"
            error={faultOf(send.error, "address")}
            onChange={(e) => setAddress(e.target.value)}
          />
        </Wide>
        {password !== null && (
          <Wide>
            <TextField
              label={t`Password`}
              type="password"
              value={password}
              autoFocus
              autoComplete="current-password"
              error={faultOf(send.error, "password")}
              onChange={(e) => setPassword(e.target.value)}
            />
          </Wide>
        )}
        <Press type="submit" look="primary" size="big" disabled={send.isPending}>
          {password === null ? t`Send me a code` : goesOn(level)}
        </Press>
        {send.error && !faultOf(send.error, "address") && !faultOf(send.error, "password") && (
          <Wide role="alert">{send.error.message}</Wide>
        )}
        <Press
          look="quiet"
          onClick={() => {
            setPassword(password === null ? "" : null);
            send.reset();
          }}
        >
          {password === null ? t`I have a password` : t`Have a code sent instead`}
        </Press>
      </Form>
    </Box>
  );
}

const goesOn = (level: "h1" | "h2") => (level === "h1" ? t`Show my bookings` : t`Go on`);

type CodeProps = {
  address: string;
  level: "h1" | "h2";
  toBook: boolean;
  onIn: () => void | Promise<void>;
  onBack: () => void;
};

function Code({ address, level, toBook, onIn, onBack }: CodeProps) {
  const [code, setCode] = useState("");
  const enter = useMutation({
    mutationFn: () => answerOf(visitors.POST("/api/public/v1/mine/enter", { body: { address, code } })),
    onSuccess: async () => {
      shownHere.set(true);
      await onIn();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    enter.mutate();
  };
  return (
    <Box>
      <StepTitle as={level}>
        <Trans>Your code</Trans>
      </StepTitle>
      <Wide role="status">
        {toBook
          ? t`If you can book here with ${address}, a code of six digits is on its way. It is good for ten minutes.`
          : t`If somebody has booked here with ${address}, a code of six digits is on its way. It is good for ten minutes.`}
      </Wide>
      <Form noValidate onSubmit={submit}>
        <Wide>
          <TextField
            label={t`Code`}
            value={code}
            inputMode="numeric"
            autoComplete="one-time-code"
            error={faultOf(enter.error, "code")}
            onChange={(e) => setCode(e.target.value)}
          />
        </Wide>
        <Press type="submit" look="primary" size="big" disabled={enter.isPending}>
          {goesOn(level)}
        </Press>
        {enter.error && !faultOf(enter.error, "code") && <Wide role="alert">{enter.error.message}</Wide>}
        <Press look="quiet" onClick={onBack}>
          <Trans>Another address, or another code</Trans>
        </Press>
      </Form>
    </Box>
  );
}
