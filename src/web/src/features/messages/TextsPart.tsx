import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useRef, useState } from "react";
import { asks } from "../../api/queries";
import type { MessageRule } from "../../api/setup";
import { AreaField, SelectField, TextField } from "../../shared/Field";
import { CheckField } from "../../shared/fields/CheckField";
import { languageName, languages } from "../../shared/languages";
import { Box, Columns, Row, Span, Stack } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { Problem } from "../../shared/problem";

type Text = NonNullable<MessageRule["texts"]>[number];
type Props = {
  draft: MessageRule;
  set: (patch: Partial<MessageRule>) => void;
  errors: Record<string, string | undefined>;
};

/** What a message says, by language, and how that reads. */
export function TextsPart({ draft, set, errors }: Props) {
  const texts = draft.texts ?? [];
  const [at, setAt] = useState(0);
  const place = Math.min(at, texts.length - 1);
  const text = texts[place];
  if (!text) return null;
  const change = (patch: Partial<Text>) =>
    set({ texts: texts.map((other, i) => (i === place ? { ...other, ...patch } : other)) });
  return (
    <Stack>
      <Row alignItems="end">
        <Box w="45">
          <SelectField label={t`In which language`} value={place} onChange={(e) => setAt(Number(e.target.value))}>
            {texts.map((other, i) => (
              <option key={other.language} value={i}>
                {languageName(other.language ?? "")}
              </option>
            ))}
          </SelectField>
        </Box>
        <Box w="45">
          <SelectField
            label={t`Add a language`}
            value=""
            onChange={(e) => {
              set({ texts: [...texts, { language: e.target.value, subject: text.subject, body: text.body }] });
              setAt(texts.length);
            }}
          >
            <option value="">{t`Choose`}</option>
            {languages
              .filter((language) => !texts.some((other) => other.language === language))
              .map((language) => (
                <option key={language} value={language}>
                  {languageName(language)}
                </option>
              ))}
          </SelectField>
        </Box>
        {texts.length > 1 && (
          <Press look="quiet" onClick={() => set({ texts: texts.filter((_, i) => i !== place) })}>
            <Trans>Take this language out</Trans>
          </Press>
        )}
      </Row>
      <Columns least={320}>
        <WordsPart
          text={text}
          change={change}
          isEmail={draft.channel === "email"}
          subjectError={errors[`texts[${place}].subject`]}
          bodyError={errors[`texts[${place}].body`]}
        />
        <Preview text={text} isEmail={draft.channel === "email"} />
      </Columns>
    </Stack>
  );
}

type WordsProps = {
  text: Text;
  change: (patch: Partial<Text>) => void;
  isEmail: boolean;
  subjectError: string | undefined;
  bodyError: string | undefined;
};

function WordsPart({ text, change, isEmail, subjectError, bodyError }: WordsProps) {
  const variables = useQuery(asks.messageVariables());
  const area = useRef<HTMLTextAreaElement>(null);
  const insert = (name: string) => {
    const body = text.body ?? "";
    const from = area.current?.selectionStart ?? body.length;
    change({ body: `${body.slice(0, from)}{{ ${name} }}${body.slice(area.current?.selectionEnd ?? from)}` });
    area.current?.focus();
  };
  return (
    <Stack>
      {isEmail && (
        <TextField
          label={t`Subject`}
          value={text.subject ?? ""}
          error={subjectError}
          onChange={(e) => change({ subject: e.target.value })}
        />
      )}
      <AreaField
        label={t`What it says`}
        ref={area}
        rows={14}
        value={text.body ?? ""}
        error={bodyError}
        hint={t`What stands between {% sentence %} and {% endsentence %} is left out where a variable in it is empty.`}
        onChange={(e) => change({ body: e.target.value })}
      />
      <Box role="group" aria-label={t`Put a variable in`}>
        <Box fontSize="small" fontWeight="600">
          <Trans>Put a variable in</Trans>
        </Box>
        <Row gap="1" mt="1">
          {variables.data?.map(({ name, means }) => (
            <Plain
              key={name}
              title={means}
              px="2"
              py="0.5"
              minH="6"
              borderWidth="line"
              borderColor="edge"
              borderRadius="mark"
              fontSize="small"
              cursor="pointer"
              aria-label={`${name}: ${means}`}
              onClick={() => insert(name)}
            >
              {name}
            </Plain>
          ))}
        </Row>
      </Box>
    </Stack>
  );
}

// What is said of these depends on the visit; without them one sees what goes with them.
const sometimes = ["others", "deposit", "rest", "fee", "kept", "charged", "owed", "refund", "address", "phone"];

/** How it reads, with a made-up visit. */
function Preview({ text, isEmail }: { text: Text; isEmail: boolean }) {
  const [full, setFull] = useState(false);
  const said = useDeferredValue(text);
  const tried = useQuery({
    ...asks.messageTried({
      subject: isEmail ? (said.subject ?? "") : "",
      body: said.body ?? "",
      without: full ? [] : sometimes,
    }),
    placeholderData: keepPreviousData,
    enabled: Boolean(said.body),
  });
  return (
    <Box as="section" aria-label={t`How it reads`}>
      <Row justifyContent="space-between">
        <Box fontSize="small" fontWeight="600">
          <Trans>How it reads</Trans>
        </Box>
        <CheckField label={t`with everything in it`} checked={full} onChange={setFull} />
      </Row>
      {tried.error instanceof Problem ? (
        <Box role="alert" color="clay">
          {Object.values(tried.error.errors)[0] ?? tried.error.message}
        </Box>
      ) : (
        <Box py="3" px="4" bg="paper" borderRadius="card" whiteSpace="pre-wrap" overflowWrap="anywhere">
          {isEmail && (
            <Box fontWeight="700" mb="2">
              {tried.data?.subject}
            </Box>
          )}
          {tried.data?.body}
          {!isEmail && tried.data && (
            <Span display="block" mt="2" fontSize="small" color="quiet">
              {plural(tried.data.texts, { one: "One text message", other: "# text messages" })}
            </Span>
          )}
        </Box>
      )}
    </Box>
  );
}
