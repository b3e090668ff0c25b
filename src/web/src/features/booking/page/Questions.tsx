import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { visitors, type Business } from "../../../api/public";
import { AreaField, SelectField, TextField } from "../../../shared/Field";
import { CheckField } from "../../../shared/fields/CheckField";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { isDate } from "./address";

const Box = chakra("div");
export type Question = Business["questions"][number];

type FileProps = {
  label: string;
  hint: string | undefined;
  error: string | undefined;
  token: string;
  name: string;
  mostBytes: number;
  onFile: (token: string, name?: string) => void;
};

// Where the name of a file is kept beside its token, so that both are forgotten together.
const nameOf = (id: string) => `${id} name`;
// Stands for a file until it has arrived, so that nobody books without it meanwhile.
const sending = "sending";

/** A file: sent at once, named with the booking. Checked and made smaller by the server. */
function FileField({ label, hint, error, token, name, mostBytes, onFile }: FileProps) {
  const send = useMutation({
    mutationFn: (file: File) => {
      // One that is much too large would not even be answered.
      if (file.size > mostBytes) throw new Error(t`The file is too large: ${mostBytes / 2 ** 20} MB at the most.`);
      const body = new FormData();
      body.append("file", file);
      return answerOf(visitors.POST("/api/public/v1/files", { body: body as never }));
    },
    onMutate: () => onFile(sending),
    onSuccess: (sent) => onFile(sent.token, sent.name),
    onError: () => onFile(""),
  });
  return (
    <Box>
      <TextField
        type="file"
        accept="application/pdf,image/jpeg,image/png,image/webp"
        label={label}
        hint={hint}
        error={send.error?.message ?? error}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) send.mutate(file);
        }}
      />
      <Box role="status" fontSize="small" mt="0.5">
        {send.isPending && t`Sending …`}
        {!send.isPending && token && (
          <>
            {token !== sending && <Trans>{name} is sent with the booking.</Trans>}{" "}
            <Press look="quiet" onClick={() => onFile("")}>
              <Trans>Leave it out</Trans>
            </Press>
          </>
        )}
      </Box>
    </Box>
  );
}

// Fetched only where a date is asked for.
const DateEntry = lazy(async () => ({ default: (await import("../../../shared/fields/DateEntry")).DateEntry }));

type Props = {
  today: string;
  questions: Question[];
  mostFileBytes: number;
  answers: Record<string, string>;
  errors: Record<string, string>;
  onAnswers: (answers: Record<string, string>) => void;
};

const yesNo = [
  ["Yes", t`Yes`],
  ["No", t`No`],
] as const;

/** What the business asks before the visit. */
export function Questions({ today, questions, mostFileBytes, answers, errors, onAnswers }: Props) {
  const onAnswer = (id: string, answer: string) => onAnswers({ [id]: answer });
  return questions.map((question) => {
    const same = {
      label: question.required ? question.text : t`${question.text} (if you like)`,
      value: answers[question.id] ?? "",
      hint: question.hint || undefined,
      error: errors[`answers.${question.id}`],
      onChange: (event: { target: { value: string } }) => onAnswer(question.id, event.target.value),
    };
    if (question.kind === "line") return <TextField key={question.id} {...same} />;
    if (question.kind === "text") return <AreaField key={question.id} rows={3} {...same} />;
    if (question.kind === "number") return <TextField key={question.id} inputMode="decimal" {...same} />;
    if (question.kind === "date")
      return (
        <Suspense key={question.id} fallback={<TextField label={same.label} disabled />}>
          <DateEntry
            label={same.label}
            hint={same.hint}
            error={same.error}
            today={today}
            value={isDate(same.value) ? same.value : null}
            onChange={(date) => onAnswer(question.id, date ?? "")}
            onUnread={(text) => onAnswer(question.id, text)}
          />
        </Suspense>
      );
    if (question.kind === "file")
      return (
        <FileField
          key={question.id}
          label={same.label}
          hint={same.hint}
          error={same.error}
          token={same.value}
          name={answers[nameOf(question.id)] ?? ""}
          mostBytes={mostFileBytes}
          onFile={(token, name = "") => onAnswers({ [question.id]: token, [nameOf(question.id)]: name })}
        />
      );
    if (question.kind === "tick")
      return (
        <CheckField
          big
          key={question.id}
          label={question.text}
          hint={same.hint}
          error={same.error}
          checked={same.value === "Yes"}
          onChange={(on) => onAnswer(question.id, on ? "Yes" : "")}
        />
      );
    // What is sent is the same in every language.
    const choices = question.kind === "yesNo" ? yesNo : question.choices.map((choice) => [choice, choice] as const);
    return (
      <SelectField key={question.id} {...same}>
        <option value="">
          <Trans>Please choose</Trans>
        </option>
        {choices.map(([choice, words]) => (
          <option key={choice} value={choice}>
            {words}
          </option>
        ))}
      </SelectField>
    );
  });
}

/** The terms, and that they are accepted. */
export function Terms({
  html,
  accepted,
  error,
  onAccept,
}: {
  html: string;
  accepted: boolean;
  error: string | undefined;
  onAccept: (on: boolean) => void;
}) {
  return (
    <Box>
      <Box as="details" mb="2">
        <Box as="summary" cursor="pointer" fontWeight="600" minH="7">
          <Trans>Terms</Trans>
        </Box>
        {/* The server has made it safe: formatting and links only. */}
        <Box
          tabIndex={0}
          role="region"
          aria-label={t`Terms`}
          maxH="65"
          overflowY="auto"
          borderWidth="line"
          borderColor="line"
          borderRadius="card"
          py="2.5"
          px="3.5"
          css={{
            "& p": { marginBottom: "2" },
            "& ul": { paddingLeft: "5", listStyle: "disc" },
            "& a": { textDecoration: "underline" },
          }}
          dangerouslySetInnerHTML={{ __html: html }}
        />
      </Box>
      <CheckField
        big
        label={t`I have read the terms and accept them`}
        checked={accepted}
        error={error}
        onChange={onAccept}
      />
    </Box>
  );
}

export type Agreed = { agreesToTexts: boolean; agreesToNews: boolean };

/** What one may agree to, each by itself; nothing hangs on it. */
export function Agree({ agreed, onAgree }: { agreed: Agreed; onAgree: (agreed: Agreed) => void }) {
  const box = (name: keyof Agreed, words: string) => (
    <CheckField big label={words} checked={agreed[name]} onChange={(on) => onAgree({ ...agreed, [name]: on })} />
  );
  return (
    <Box role="group" aria-label={t`If you like`}>
      {box("agreesToTexts", t`Text messages about my bookings`)}
      {box("agreesToNews", t`News by e-mail or text`)}
    </Box>
  );
}
