import { t } from "@lingui/core/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Held } from "../../api/setup";
import { longDate, shortDate } from "../../shared/format";
import { held as recipe } from "../../theme/recipes/held";
import { dateAt, inYear, type Standing } from "./year";

const Button = chakra("button");
const Box = chakra("div");
const Span = chakra("span");
const shaking = 5;

type Props = {
  id: string;
  label: string;
  held: Held[];
  standing: Standing;
  today: string;
  isChosen: boolean;
  isStop: boolean;
  onFocus: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
  onPress: () => void;
  /** Called with what was drawn, or where an end was dragged to. */
  onDraw: (from: string, until: string | null) => void;
};

const words = ({ kind, date }: Standing) =>
  ({
    open: t`no end`,
    ends: t`to ${shortDate(date ?? "2000-01-01").slice(4)}`,
    soon: t`to ${shortDate(date ?? "2000-01-01").slice(4)}`,
    coming: t`from ${shortDate(date ?? "2000-01-01").slice(4)}`,
    ranOut: t`ran out`,
    none: "",
  })[kind];

const spoken = ({ kind, date }: Standing) =>
  ({
    open: t`holds it`,
    ends: t`holds it until ${(date && longDate(date)) ?? ""}`,
    soon: t`holds it until ${(date && longDate(date)) ?? ""}, runs out soon`,
    coming: t`holds it from ${(date && longDate(date)) ?? ""}`,
    ranOut: t`held it before`,
    none: t`does not hold it`,
  })[kind];

/** One person and one qualification, as a ribbon of the next twelve months: drawn on, or its end dragged. */
export function HeldCell({
  id,
  label,
  held,
  standing,
  today,
  isChosen,
  isStop,
  onFocus,
  onKeyDown,
  onPress,
  onDraw,
}: Props) {
  const styles = useSlotRecipe({ recipe })();
  const grip = useRef<{ x: number; share: number; moved: boolean } | null>(null);
  const [ghost, setGhost] = useState<{ from: number; until: number } | null>(null);
  const pieces = held.flatMap((stretch) => {
    const place = inYear(stretch, today);
    return place ? [{ ...place, stretch }] : [];
  });
  const shareAt = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return Math.min(1, Math.max(0, (event.clientX - box.left) / Math.max(1, box.width)));
  };
  // What is held already keeps its beginning; its end follows the pointer.
  const current = pieces.at(-1);
  const move = (event: PointerEvent<HTMLElement>) => {
    const begun = grip.current;
    if (!begun || (!begun.moved && Math.abs(event.clientX - begun.x) < shaking)) return;
    begun.moved = true;
    const at = shareAt(event);
    setGhost(
      current
        ? { from: current.from, until: Math.max(current.from + 0.01, at) }
        : { from: Math.min(begun.share, at), until: Math.max(begun.share, at) },
    );
  };
  const up = () => {
    if (grip.current?.moved && ghost) {
      const until = ghost.until >= 0.995 ? null : dateAt(ghost.until, today);
      onDraw(current ? current.stretch.from : dateAt(ghost.from, today), until);
    }
    setGhost(null);
  };
  return (
    <Button
      id={id}
      type="button"
      css={styles["cell"]}
      data-kind={standing.kind}
      aria-label={[`${label}: ${words(standing)}`, spoken(standing)].filter(Boolean).join(words(standing) ? ", " : "")}
      aria-pressed={isChosen}
      tabIndex={isStop ? 0 : -1}
      onFocus={onFocus}
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        grip.current = { x: event.clientX, share: shareAt(event), moved: false };
      }}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={() => setGhost(null)}
      onClick={() => {
        const wasDrawn = grip.current?.moved;
        grip.current = null;
        if (!wasDrawn) onPress();
      }}
    >
      {pieces.map(({ from, until, stretch }) => (
        <Box
          key={stretch.from}
          css={styles["piece"]}
          data-ends={Boolean(stretch.until)}
          data-soon={standing.kind === "soon"}
          style={{ left: `${from * 100}%`, width: `${(until - from) * 100}%` }}
        />
      ))}
      {ghost && (
        <Box
          css={styles["piece"]}
          data-ghost
          style={{ left: `${ghost.from * 100}%`, width: `${(ghost.until - ghost.from) * 100}%` }}
        />
      )}
      <Span css={styles["words"]} data-kind={standing.kind}>
        {ghost
          ? ghost.until >= 0.995
            ? t`no end`
            : t`to ${shortDate(dateAt(ghost.until, today)).slice(4)}`
          : words(standing)}
      </Span>
    </Button>
  );
}
