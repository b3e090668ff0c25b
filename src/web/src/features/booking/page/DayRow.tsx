import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useId } from "react";
import type { Day } from "../../../api/public";
import { longDate, timeWords } from "../../../shared/format";
import { Plain } from "../../../shared/Plain";
import { visit as recipe } from "../../../theme/recipes/visit";
import { byPart, freeStretches } from "./dayParts";

const Box = chakra("div");
const Span = chakra("span");
const Out = chakra("a");

type Props = {
  day: Day;
  words: string;
  isOpen: boolean;
  onOpen: (on: boolean) => void;
  onChoose: (start: string) => void;
  whyNot: string | null;
};

/** A day: how much of it is left, where it lies, and its times while it is open. */
export function DayRow({ day, words, isOpen, onOpen, onChoose, whyNot }: Props) {
  const styles = useSlotRecipe({ recipe })();
  const id = useId();
  const none = day.starts.length === 0;
  return (
    <Box as="section" aria-label={`${longDate(day.date)}, ${words}`} css={styles["day"]}>
      <Plain
        css={styles["dayHead"]}
        disabled={none}
        aria-expanded={none ? undefined : isOpen}
        aria-controls={none ? undefined : id}
        onClick={() => onOpen(!isOpen)}
      >
        <span>{longDate(day.date)}</span>
        <span>{words}</span>
      </Plain>
      {whyNot && <WhyNot href={whyNot} day={longDate(day.date)} />}
      {!none && (
        <Box css={styles["ribbon"]} aria-hidden>
          {freeStretches(day).map(({ from, length }) => (
            <Box key={from} css={styles["free"]} style={{ left: `${from * 100}%`, width: `${length * 100}%` }} />
          ))}
        </Box>
      )}
      <Box id={id}>
        {isOpen &&
          byPart(day).map(({ name, starts }) => (
            <Box key={name} css={styles["part"]}>
              <Box as="h3" css={styles["partName"]}>
                {name}
              </Box>
              <Box css={styles["times"]}>
                {starts.map((start) => (
                  <Plain
                    key={start.start}
                    aria-label={`${longDate(day.date)}, ${timeWords(start.clock)}`}
                    css={styles["time"]}
                    onClick={() => onChoose(start.start)}
                  >
                    {timeWords(start.clock)}
                  </Plain>
                ))}
              </Box>
            </Box>
          ))}
      </Box>
    </Box>
  );
}

/** For whoever is signed in: the same question with all its reasons. */
export const WhyNot = ({ href, day }: { href: string; day: string }) => (
  <Out href={href} target="_blank" ms="3" textDecoration="underline" color="water">
    <Trans>
      Why not?<Span srOnly> {day}</Span>
    </Trans>
  </Out>
);
