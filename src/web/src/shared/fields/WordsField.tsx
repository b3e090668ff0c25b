import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState, type KeyboardEvent } from "react";
import { TextField } from "../Field";
import { Box, Row } from "../layout";
import { Plain } from "../Plain";
import { Press } from "../Press";
import { withTyped } from "./typedWord";

let isPressing = false;
if (typeof window !== "undefined") {
  window.addEventListener("pointerdown", () => (isPressing = true), true);
  for (const end of ["pointerup", "pointercancel"]) window.addEventListener(end, () => (isPressing = false), true);
}

type Props = {
  label: string;
  words: readonly string[];
  offered?: readonly string[];
  onChange: (words: string[]) => void;
  error?: string | undefined;
  hint?: string;
  /** Each word is kept by the server as it is added, so that half a word must never be. */
  isKeptAtOnce?: boolean;
};

/**
 * Words in a list that grows. What is being typed counts already: whoever presses Save without Add has said it. Only its place
 * in the list waits until the press is over, so that nothing moves under the pointer.
 */
export function WordsField({ label, words, offered = [], onChange, error, hint, isKeptAtOnce = false }: Props) {
  const [text, setText] = useState("");
  const typed = text.trim();
  const shown = isKeptAtOnce ? words : words.filter((word) => word !== typed);
  const type = (next: string) => {
    setText(next);
    if (!isKeptAtOnce) onChange(withTyped(shown, next));
  };
  const add = (word: string) => {
    const next = withTyped(shown, word);
    if (next.length !== words.length || isKeptAtOnce) onChange(next);
    setText("");
  };
  const leave = () => {
    if (!typed) return;
    if (isKeptAtOnce) add(text);
    else if (isPressing) window.addEventListener("pointerup", () => setTimeout(() => setText("")), { once: true });
    else setText("");
  };
  const rest = offered.filter((word) => !words.includes(word));
  return (
    <Box>
      <Row alignItems="end" flexWrap="nowrap">
        <Box flex="1">
          <TextField
            label={label}
            value={text}
            error={error}
            hint={hint}
            onChange={(event) => type(event.target.value)}
            onBlur={leave}
            onKeyDown={(event: KeyboardEvent) => {
              if (event.key !== "Enter") return;
              event.preventDefault();
              add(text);
            }}
          />
        </Box>
        <Press onClick={() => add(text)} disabled={!typed} mb={hint || error ? "6" : 0}>
          <Trans>Add</Trans>
        </Press>
      </Row>
      {shown.length > 0 && (
        <Row gap="1.5" mt="1.5">
          {shown.map((word) => (
            <Row key={word} gap="0.5" bg="glow" borderRadius="card" pl="2">
              {word}
              <Plain
                aria-label={t`Take out ${word}`}
                cursor="pointer"
                w="6"
                h="6"
                onClick={() => onChange(words.filter((other) => other !== word))}
              >
                ✕
              </Plain>
            </Row>
          ))}
        </Row>
      )}
      {rest.length > 0 && (
        <Row gap="1.5" mt="1.5" fontSize="small">
          {rest.slice(0, 12).map((word) => (
            <Press key={word} size="small" look="quiet" onClick={() => onChange([...words, word])}>
              + {word}
            </Press>
          ))}
        </Row>
      )}
    </Box>
  );
}
