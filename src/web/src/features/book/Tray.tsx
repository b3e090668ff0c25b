import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { read, type NeedsPlace } from "../../api/setup";
import { clock, shortDate } from "../../shared/format";
import { Box, Row } from "../../shared/layout";
import { Plain } from "../../shared/Plain";

/** At the foot of the book: what still needs a place, and what waits for approval. */
export function Tray() {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const waiting = useQuery({ queryKey: ["needs-place"], queryFn: () => read<NeedsPlace[]>("/needs-place") });
  if (!waiting.data || waiting.data.length === 0) return null;
  return (
    <Box as="section" aria-label="Needs a place" borderTopWidth="2px" borderColor="kingcup" bg="sheet" flexShrink={0}>
      <Plain
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        w="100%"
        textAlign="left"
        px="14px"
        minH="34px"
        cursor="pointer"
        fontWeight="700"
      >
        {open ? "▾" : "▸"} {waiting.data.length} {waiting.data.length === 1 ? "visit needs" : "visits need"} a place or
        an answer
      </Plain>
      {open && (
        <Box maxH="190px" overflowY="auto" pb="6px" tabIndex={0} role="group" aria-label="Visits">
          {waiting.data.map((one) => (
            <Plain
              key={one.visitId}
              display="block"
              w="100%"
              textAlign="left"
              px="14px"
              py="4px"
              minH="28px"
              cursor="pointer"
              borderTopWidth="1px"
              borderColor="line"
              onClick={() => void navigate(`/day/${one.locationId}/${one.date}?visit=${one.visitId}`)}
            >
              <Row gap="12px" flexWrap="nowrap">
                <Box w="130px" flexShrink={0} fontWeight="600">
                  {shortDate(one.date)}, {clock(one.start, one.zone)}
                </Box>
                <Box w="160px" flexShrink={0} overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
                  {one.client}
                </Box>
                <Box w="170px" flexShrink={0} overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
                  {one.service}
                </Box>
                <Box minW="0">
                  {one.reasons.length > 0
                    ? one.reasons.map((reason) => reason.text).join(" ")
                    : "◇ Waits for approval."}
                </Box>
              </Row>
            </Plain>
          ))}
        </Box>
      )}
    </Box>
  );
}
