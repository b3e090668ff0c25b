import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import type { Equipment, Service } from "../../api/setup";
import { Box, Span } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import { serviceRibbons } from "../../theme/recipes/service";
import { lanesOf, type LanePiece } from "./lanes";
import { minutesOf } from "./words";

const Edge = chakra("div");
const grain = 5;

type Props = {
  service: Service;
  pools: Equipment[];
  /** What chosen extras add, and to which phase. */
  extra: { minutes: number; phase: number };
  chosen: number;
  onChoose: (phase: number) => void;
  onChange: (phases: NonNullable<Service["phases"]>) => void;
};

/**
 * A service as it lies in the book. The edge between two phases is dragged, or moved with the arrow keys; while nobody has to be
 * there, whoever does it is free.
 */
export function InTheBook({ service, pools, extra, chosen, onChoose, onChange }: Props) {
  const styles = useSlotRecipe({ recipe: serviceRibbons })();
  const lanes = lanesOf(service, pools, extra);
  const total = Math.max(15, Math.ceil(Math.max(...lanes.map((lane) => lane.until)) / 15) * 15);
  const ticks = Math.max(15, Math.ceil(total / 8 / 15) * 15);
  const phases = service.phases ?? [];
  const setLength = (phase: number, minutes: number) =>
    onChange(phases.map((other, i) => (i === phase ? { ...other, minutes: Math.max(grain, minutes) } : other)));
  return (
    <Box css={styles["rows"]} role="group" aria-label={t`As it lies in the book`}>
      {lanes.map((lane, at) => (
        <Box key={`${lane.kind} ${lane.name}`} display="contents">
          <Box css={styles["name"]}>{lane.name}</Box>
          <Box css={styles["strip"]} role="group" aria-label={lane.name}>
            {lane.pieces.map((piece) => (
              <Piece
                key={`${piece.look} ${piece.from}`}
                piece={piece}
                total={total}
                isChosen={piece.phase === chosen}
                onChoose={piece.phase === null ? undefined : () => onChoose(piece.phase!)}
              />
            ))}
            {at === 0 &&
              phases.map((phase, i) => (
                <PhaseEdge
                  key={i}
                  index={i}
                  minutes={phase.minutes}
                  at={lane.edges[i]!}
                  total={total}
                  onLength={(minutes) => {
                    onChoose(i);
                    setLength(i, minutes);
                  }}
                />
              ))}
          </Box>
        </Box>
      ))}
      <Box css={styles["axis"]} aria-hidden>
        {Array.from({ length: Math.floor(total / ticks) + 1 }, (_, i) => (
          <Box key={i} css={styles["tick"]} style={{ left: `${((i * ticks) / total) * 100}%` }}>
            {i * ticks}
          </Box>
        ))}
      </Box>
      <Span srOnly>
        <Trans>{minutesOf(service)} minutes in all</Trans>
      </Span>
    </Box>
  );
}

type PieceProps = { piece: LanePiece; total: number; isChosen: boolean; onChoose: (() => void) | undefined };

function Piece({ piece, total, isChosen, onChoose }: PieceProps) {
  const styles = useSlotRecipe({ recipe: serviceRibbons })();
  const place = { left: `${(piece.from / total) * 100}%`, right: `${100 - (piece.until / total) * 100}%` };
  const css = styles[piece.look === "away" ? "pause" : "piece"];
  // What is too short for its words says its minutes.
  const isShort = (piece.until - piece.from) / total < 0.1;
  const words = (
    <span>
      <b>{piece.until - piece.from}</b> {isShort ? <Span srOnly>{piece.words}</Span> : piece.words}
    </span>
  );
  return onChoose ? (
    <Plain css={css} style={place} data-look={piece.look} aria-pressed={isChosen} onClick={onChoose}>
      <Span srOnly>
        <Trans>Phase {piece.phase! + 1}: </Trans>
      </Span>
      {words}
    </Plain>
  ) : (
    <Box css={css} style={place} data-look={piece.look}>
      {words}
    </Box>
  );
}

type EdgeProps = { index: number; minutes: number; at: number; total: number; onLength: (minutes: number) => void };

function PhaseEdge({ index, minutes, at, total, onLength }: EdgeProps) {
  const styles = useSlotRecipe({ recipe: serviceRibbons })();
  const grip = useRef<{ x: number; minutes: number; perPixel: number } | null>(null);
  const press = (event: KeyboardEvent) => {
    const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!way) return;
    event.preventDefault();
    onLength(minutes + way * grain);
  };
  return (
    <Edge
      css={styles["edge"]}
      style={{ left: `${(at / total) * 100}%` }}
      role="slider"
      tabIndex={0}
      aria-label={t`Length of phase ${index + 1}`}
      aria-valuenow={minutes}
      aria-valuemin={grain}
      aria-valuemax={1440}
      aria-valuetext={t`${minutes} minutes`}
      onPointerDown={(event: PointerEvent<HTMLDivElement>) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        grip.current = { x: event.clientX, minutes, perPixel: total / event.currentTarget.parentElement!.clientWidth };
      }}
      onPointerMove={(event: PointerEvent<HTMLDivElement>) => {
        const held = grip.current;
        if (!held) return;
        const wanted = Math.round((held.minutes + (event.clientX - held.x) * held.perPixel) / grain) * grain;
        if (wanted !== minutes) onLength(wanted);
      }}
      onPointerUp={() => (grip.current = null)}
      onPointerCancel={() => (grip.current = null)}
      onKeyDown={press}
    />
  );
}
