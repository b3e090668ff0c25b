import { t } from "@lingui/core/macro";
import { chakra, useSlotRecipe, type RecipeVariantProps } from "@chakra-ui/react";
import { useRef, type KeyboardEvent, type PointerEvent, type ReactNode } from "react";
import { ribbon } from "../../theme/recipes/ribbon";
import { minuteUnder, minuteWords, percent, stretchWords, useScale } from "./scale";
import { movedBy, quarter, snap, withEdge, type Stretch } from "./stretch";

const Box = chakra("div");
const Button = chakra("button");
const shaking = 5;
/** How far an arrow key goes with Shift. */
const fine = 5;

export type Look = NonNullable<NonNullable<RecipeVariantProps<typeof ribbon>>["look"]>;

type Props = {
  id?: string;
  stretch: Stretch;
  look: Look;
  /** What it is called; the times are added. */
  label: string;
  text?: ReactNode;
  /** How full it is, in per cent, drawn along its foot. */
  fullness?: number | null;
  isChosen?: boolean;
  /** Called when it is pressed, with the minute under the pointer; without one when the keyboard did. */
  onPress?: ((at?: number) => void) | undefined;
  /** Lies under everything else and lets presses through. */
  isBehind?: boolean;
  /** Called while it is dragged or moved by the arrow keys; without it, it stays where it is. */
  onChange?: ((stretch: Stretch) => void) | undefined;
  onRemove?: (() => void) | undefined;
};

/** Something on a strip of time: dragged as a whole or by its edges, moved by the arrow keys, with Shift in small steps. */
export function Piece({
  id,
  stretch,
  look,
  label,
  text,
  fullness = null,
  isChosen = false,
  isBehind = false,
  onPress,
  onChange,
  onRemove,
}: Props) {
  const isPressable = Boolean(onPress ?? onChange);
  const styles = useSlotRecipe({ recipe: ribbon })({ look, isPressable, isChosen, isBehind });
  const scale = useScale();
  const grip = useRef<{ x: number; minute: number; before: Stretch; moved: boolean } | null>(null);
  const [from, until] = [Math.max(stretch.from, scale.from), Math.min(stretch.until, scale.until)];
  if (until <= from) return null;
  const place = { left: percent(from, scale), right: `calc(100% - ${percent(until, scale)})` };
  const times = stretchWords(stretch);
  const words = (
    <>
      <Box css={styles["text"]}>{text}</Box>
      {fullness !== null && <Box css={styles["fullness"]} style={{ width: `${Math.min(100, fullness)}%` }} />}
    </>
  );
  if (!isPressable)
    return (
      <Box
        css={styles["stretch"]}
        style={place}
        role={label ? "img" : undefined}
        aria-label={label ? `${label}, ${times}` : undefined}
        aria-hidden={label ? undefined : true}
      >
        {words}
      </Box>
    );
  const stripOf = (element: HTMLElement) => element.parentElement!;
  const down = (event: PointerEvent<HTMLButtonElement>) => {
    if (event.button !== 0) return;
    const minute = minuteUnder(event.clientX, stripOf(event.currentTarget), scale);
    grip.current = { x: event.clientX, minute, before: stretch, moved: false };
    if (onChange) event.currentTarget.setPointerCapture(event.pointerId);
  };
  const move = (event: PointerEvent<HTMLButtonElement>) => {
    const held = grip.current;
    if (!held || !onChange || (!held.moved && Math.abs(event.clientX - held.x) < shaking)) return;
    held.moved = true;
    const by = snap(minuteUnder(event.clientX, stripOf(event.currentTarget), scale) - held.minute);
    onChange(movedBy(held.before, by, scale));
  };
  const press = (event: KeyboardEvent) => {
    const way = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (onChange && way !== 0) {
      event.preventDefault();
      onChange(movedBy(stretch, way * (event.shiftKey ? fine : quarter), scale));
    } else if (onRemove && (event.key === "Delete" || event.key === "Backspace")) {
      event.preventDefault();
      onRemove();
    }
  };
  return (
    <>
      <Button
        id={id}
        type="button"
        css={styles["stretch"]}
        style={place}
        aria-pressed={onPress ? isChosen : undefined}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={() => {
          // A press that dragged it is not one that opens it.
          if (grip.current?.moved) requestAnimationFrame(() => (grip.current = null));
          else grip.current = null;
        }}
        onClick={(event) => {
          if (grip.current?.moved) return;
          // A press of a key has no place.
          onPress?.(event.detail === 0 ? undefined : minuteUnder(event.clientX, stripOf(event.currentTarget), scale));
        }}
        onKeyDown={press}
      >
        <Box as="span" srOnly>
          {label},{" "}
        </Box>
        {words}
        {!(typeof text === "string" && text.includes(times)) && (
          <Box as="span" srOnly>
            {times}
          </Box>
        )}
      </Button>
      {onChange &&
        (["from", "until"] as const).map((edge) => (
          <Edge key={edge} edge={edge} label={label} stretch={stretch} isReached={isChosen} onChange={onChange} />
        ))}
    </>
  );
}

function Edge({
  edge,
  label,
  stretch,
  isReached,
  onChange,
}: {
  edge: keyof Stretch;
  label: string;
  stretch: Stretch;
  isReached: boolean;
  onChange: (stretch: Stretch) => void;
}) {
  const styles = useSlotRecipe({ recipe: ribbon })();
  const scale = useScale();
  const held = useRef(false);
  const at = stretch[edge];
  return (
    <Box
      css={styles["edge"]}
      style={{ left: percent(at, scale) }}
      data-edge={edge}
      role="slider"
      // Only what is chosen has its edges among the stops of the keyboard: a week would have too many.
      tabIndex={isReached ? 0 : -1}
      aria-label={`${label}: ${edge === "from" ? t`begins` : t`ends`}`}
      aria-valuemin={scale.from}
      aria-valuemax={scale.until}
      aria-valuenow={at}
      aria-valuetext={minuteWords(at)}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        held.current = true;
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (!held.current) return;
        const minute = snap(minuteUnder(event.clientX, event.currentTarget.parentElement!, scale));
        onChange(withEdge(stretch, edge, minute, scale));
      }}
      onPointerUp={() => (held.current = false)}
      onPointerCancel={() => (held.current = false)}
      onKeyDown={(event) => {
        const way =
          event.key === "ArrowRight" || event.key === "ArrowUp"
            ? 1
            : event.key === "ArrowLeft" || event.key === "ArrowDown"
              ? -1
              : 0;
        if (way === 0) return;
        event.preventDefault();
        const step = event.shiftKey ? fine : quarter;
        onChange(withEdge(stretch, edge, at + way * step, scale, fine));
      }}
    />
  );
}
