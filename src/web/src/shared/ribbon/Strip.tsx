import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useRef, useState, type PointerEvent, type ReactNode } from "react";
import { ribbon } from "../../theme/recipes/ribbon";
import { minuteUnder, percent, useScale } from "./scale";
import { drawn, type Stretch } from "./stretch";

const Box = chakra("div");

/** So many pixels are a press that shook. */
const shaking = 5;

type Props = {
  label: string;
  /** Called with what was drawn on the empty strip; a press without drawing gives where it was. */
  onDraw?: ((stretch: Stretch | null, at: number) => void) | undefined;
  /** A time marked on it. */
  mark?: number | null | undefined;
  /** As in a calendar, where a day has little room. */
  isSmall?: boolean;
  children?: ReactNode;
};

/** A strip of time; what lies on it are its children. */
export function Strip({ label, onDraw, mark, isSmall = false, children }: Props) {
  const styles = useSlotRecipe({ recipe: ribbon })({ look: "shift", isSmall });
  const scale = useScale();
  const begun = useRef<{ x: number; minute: number } | null>(null);
  const [ghost, setGhost] = useState<Stretch | null>(null);
  const down = (event: PointerEvent<HTMLDivElement>) => {
    if (!onDraw || event.target !== event.currentTarget || event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    begun.current = { x: event.clientX, minute: minuteUnder(event.clientX, event.currentTarget, scale) };
  };
  const move = (event: PointerEvent<HTMLDivElement>) => {
    if (!begun.current || (!ghost && Math.abs(event.clientX - begun.current.x) < shaking)) return;
    setGhost(drawn(begun.current.minute, minuteUnder(event.clientX, event.currentTarget, scale), scale));
  };
  const up = () => {
    if (begun.current) onDraw?.(ghost, begun.current.minute);
    begun.current = null;
    setGhost(null);
  };
  return (
    <Box
      css={styles["strip"]}
      role={label ? "group" : undefined}
      aria-label={label || undefined}
      data-drawable={onDraw ? "" : undefined}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={() => {
        begun.current = null;
        setGhost(null);
      }}
    >
      {children}
      {ghost && (
        <Box
          css={styles["stretch"]}
          pointerEvents="none"
          style={{ left: percent(ghost.from, scale), right: `calc(100% - ${percent(ghost.until, scale)})` }}
        />
      )}
      {mark != null && <Box css={styles["mark"]} aria-hidden style={{ left: percent(mark, scale) }} />}
    </Box>
  );
}
