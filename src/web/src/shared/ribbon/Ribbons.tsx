import { chakra, useSlotRecipe } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { ribbon } from "../../theme/recipes/ribbon";
import { hoursOf, type Stretch } from "./stretch";
import { minuteWords, percent, ScaleContext, useScale } from "./scale";

const Box = chakra("div");

type Props = {
  label: string;
  scale: Stretch;
  /** A time that goes through all of them. */
  mark?: number | null | undefined;
  children: ReactNode;
};

/** Ribbons one below the other on one scale, with the hours over them. */
export function Ribbons({ label, scale, mark, children }: Props) {
  const styles = useSlotRecipe({ recipe: ribbon })();
  return (
    <ScaleContext.Provider value={scale}>
      <Box css={styles["rows"]} role="group" aria-label={label}>
        <Hours mark={mark} />
        {children}
      </Box>
    </ScaleContext.Provider>
  );
}

/** The hours written over a scale, in the second column of whatever grid they stand in. */
export function Hours({ mark }: { mark: number | null | undefined }) {
  const styles = useSlotRecipe({ recipe: ribbon })();
  const scale = useScale();
  const isNear = (minute: number) => mark != null && Math.abs(minute - mark) * 18 < scale.until - scale.from;
  return (
    <Box css={styles["axis"]} aria-hidden>
      {hoursOf(scale).map((minute) => (
        <Box
          key={minute}
          css={styles["hour"]}
          style={{ left: percent(minute, scale), opacity: isNear(minute) ? 0 : 1 }}
        >
          {minuteWords(minute)}
        </Box>
      ))}
      {mark != null && (
        <Box css={styles["flag"]} style={{ left: percent(mark, scale) }}>
          {minuteWords(mark)}
        </Box>
      )}
    </Box>
  );
}

/** One ribbon with its name before it and what it adds up to after it. */
export function RibbonRow({
  name,
  note,
  tail,
  children,
}: {
  name: ReactNode;
  note?: ReactNode;
  tail?: ReactNode;
  children: ReactNode;
}) {
  const styles = useSlotRecipe({ recipe: ribbon })();
  return (
    <>
      <Box css={styles["head"]}>
        <Box css={styles["name"]}>{name}</Box>
        {note && <Box css={styles["note"]}>{note}</Box>}
      </Box>
      {children}
      <Box css={styles["tail"]}>{tail}</Box>
    </>
  );
}
