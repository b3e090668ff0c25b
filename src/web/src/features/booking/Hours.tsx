import { chakra } from "@chakra-ui/react";
import type { Day } from "../../api/staff";
import { clock } from "../../shared/format";
import { headWidth } from "../../theme/book";
import type { Scale } from "./scale";
import { useNow } from "./useNow";

const Box = chakra("div");

/** The hours above the lanes, and what the clock shows now. */
export function Hours({ day, scale }: { day: Day; scale: Scale }) {
  const now = useNow(day);
  return (
    <Box
      position="sticky"
      top="0"
      zIndex={12}
      h="6"
      bg="paper"
      borderBottomWidth="line"
      borderColor="line"
      display="flex"
      aria-hidden
    >
      <Box w={headWidth} flexShrink={0} bg="paper" position="sticky" left="0" zIndex={1} />
      <Box flexShrink={0} position="relative" style={{ width: "var(--track)" }}>
        {day.hours.map((hour) => (
          <Box
            key={hour.at}
            position="absolute"
            top="1"
            fontSize="small"
            color="quiet"
            style={{ left: `${scale.at(hour.at)}%` }}
            pl="0.5"
          >
            {hour.label}
          </Box>
        ))}
        {now && (
          <Box
            position="absolute"
            top="0.5"
            px="1"
            transform="translateX(-50%)"
            whiteSpace="nowrap"
            borderRadius="mark"
            bg="kingcup"
            color="onKingcup"
            fontWeight="700"
            fontSize="small"
            lineHeight="shorter"
            style={{ left: `${scale.at(now)}%` }}
          >
            {clock(now, day.zone)}
          </Box>
        )}
      </Box>
    </Box>
  );
}
