import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useId } from "react";
import type { Business } from "../../../api/public";
import { AreaField, SelectField, TextField } from "../../../shared/Field";

const Box = chakra("div");
const Check = chakra("input");
const Label = chakra("label");
export type Question = Business["questions"][number];

type Props = {
  questions: Question[];
  answers: Record<string, string>;
  errors: Record<string, string>;
  onAnswer: (id: string, answer: string) => void;
};

const yesNo = [
  ["Yes", t`Yes`],
  ["No", t`No`],
] as const;

/** What the business asks before the visit. */
export function Questions({ questions, answers, errors, onAnswer }: Props) {
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
  const id = useId();
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
      <Box display="flex" gap="2.5" alignItems="center">
        <Check
          id={id}
          type="checkbox"
          checked={accepted}
          aria-invalid={error !== undefined}
          aria-describedby={error ? `${id}-note` : undefined}
          onChange={(event) => onAccept(event.target.checked)}
          w="5"
          h="5"
          flexShrink={0}
          accentColor="water"
        />
        <Label htmlFor={id}>
          <Trans>I have read the terms and accept them</Trans>
        </Label>
      </Box>
      {error && (
        <Box id={`${id}-note`} role="alert" color="clay" fontSize="small" mt="0.5">
          {error}
        </Box>
      )}
    </Box>
  );
}

export type Agreed = { agreesToTexts: boolean; agreesToNews: boolean };

/** What one may agree to, each by itself; nothing hangs on it. */
export function Agree({ agreed, onAgree }: { agreed: Agreed; onAgree: (agreed: Agreed) => void }) {
  const id = useId();
  const box = (name: keyof Agreed, words: string) => (
    <Box display="flex" gap="2.5" alignItems="center" minH="7">
      <Check
        id={`${id}-${name}`}
        type="checkbox"
        checked={agreed[name]}
        onChange={(event) => onAgree({ ...agreed, [name]: event.target.checked })}
        w="5"
        h="5"
        flexShrink={0}
        accentColor="water"
      />
      <label htmlFor={`${id}-${name}`}>{words}</label>
    </Box>
  );
  return (
    <Box role="group" aria-label={t`If you like`}>
      {box("agreesToTexts", t`Text messages about my bookings`)}
      {box("agreesToNews", t`News by e-mail or text`)}
    </Box>
  );
}
