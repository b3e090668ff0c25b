import { chakra } from "@chakra-ui/react";
import { useEffect, useRef, type RefObject } from "react";
import type { Day, Visit } from "../../api/staff";
import { headWidth } from "../../theme/book";
import type { Scale } from "./scale";
import { useNow } from "./useNow";

const Box = chakra("div");

type Props = { day: Day; scale: Scale; visit: Visit | undefined; picture: RefObject<HTMLElement | null> };

/** The hours as one ground, the thread through the lanes of the chosen visit, and the line that says now. */
export function Overlay({ day, scale, visit, picture }: Props) {
  const now = useNow(day);
  return (
    <Box
      position="absolute"
      top="0"
      bottom="0"
      pointerEvents="none"
      style={{ left: headWidth, width: "var(--track)" }}
      aria-hidden
    >
      {day.hours.map((hour) => (
        <Box
          key={hour.at}
          position="absolute"
          top="6"
          bottom="0"
          zIndex={1}
          borderLeftWidth="line"
          borderColor="line"
          opacity={0.6}
          style={{ left: `${scale.at(hour.at)}%` }}
        />
      ))}
      {visit && <Thread visit={visit} scale={scale} picture={picture} />}
      {now && (
        <Box
          position="absolute"
          top="6"
          bottom="0"
          zIndex={7}
          borderLeftWidth="mark"
          borderColor="kingcup"
          style={{ left: `${scale.at(now)}%` }}
        />
      )}
    </Box>
  );
}

/** Joins the lanes of the chosen visit, and ends with them. */
function Thread({ visit, scale, picture }: { visit: Visit; scale: Scale; picture: RefObject<HTMLElement | null> }) {
  const thread = useRef<HTMLDivElement>(null);
  // After the picture stands: what it is drawn in is known only then.
  useEffect(() => {
    const [root, line] = [picture.current, thread.current];
    if (!root || !line) return;
    const lay = () => {
      const top = root.getBoundingClientRect().top;
      const held = visit.claims.map((claim) => root.querySelector(`[data-lane-id="${claim.resourceId}"]`));
      const boxes = held.flatMap((lane) => (lane ? [lane.getBoundingClientRect()] : []));
      const [from, until] = [Math.min(...boxes.map((box) => box.top)), Math.max(...boxes.map((box) => box.bottom))];
      line.hidden = boxes.length < 2;
      line.style.top = `${from - top + 4}px`;
      line.style.height = `${until - from - 8}px`;
    };
    lay();
    const seen = new ResizeObserver(lay);
    seen.observe(root);
    return () => seen.disconnect();
  }, [picture, visit]);
  return (
    <Box
      ref={thread}
      position="absolute"
      zIndex={4}
      borderLeftWidth="mark"
      borderColor="kingcup"
      style={{ left: `${scale.at(visit.start)}%` }}
    />
  );
}
