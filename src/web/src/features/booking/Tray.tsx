import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import type { VisitState } from "../../api/staff";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";

import { clock, dateIn, shortDate } from "../../shared/format";
import { Box, Row } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { dropDraft } from "./dropDraft";
import { marks } from "./BlockMark";
import { clientOf, isBegun, useVisitDrafts } from "./visitDrafts";

type Props = {
  open: string | null;
  onDraft: (id: string) => void;
  /** The location and the date that are looked at. */
  here: string;
  /** Opens where those of this day could go; null where this person may not place them. */
  onCover: (() => void) | null;
};

/** At the foot of the book: what still needs a place, and what waits for approval. */
export function Tray({ open: opened, onDraft, here, onCover }: Props) {
  return (
    <>
      <HalfWritten open={opened} onDraft={onDraft} />
      <Waiting here={here} onCover={onCover} />
    </>
  );
}

/** Visits that were begun and put aside. */
function HalfWritten({ open, onDraft }: { open: string | null; onDraft: (id: string) => void }) {
  const drafts = useVisitDrafts().filter((draft) => draft.id !== open && isBegun(draft));
  if (drafts.length === 0) return null;
  return (
    <Row
      as="section"
      aria-label={t`Half written`}
      borderTopWidth="line"
      borderColor="line"
      bg="sheet"
      px="3.5"
      py="1"
      gap="2"
    >
      <Box fontWeight="700">
        <Trans>Half written:</Trans>
      </Box>
      {drafts.map((draft) => (
        <Row key={draft.id} gap="0">
          <Press size="small" onClick={() => onDraft(draft.id)}>
            {clientOf(draft) ?? t`a visit without a client yet`}
          </Press>
          <Press
            size="small"
            look="quiet"
            aria-label={t`Drop the half-written visit of ${clientOf(draft) ?? t`nobody yet`}`}
            onClick={() => dropDraft(draft)}
          >
            ✕
          </Press>
        </Row>
      ))}
    </Row>
  );
}

function Waiting({ here, onCover }: Pick<Props, "here" | "onCover">) {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const waiting = useQuery(asks.needsPlace());
  if (!waiting.data || waiting.data.length === 0) return null;
  const hasLost = waiting.data.some((item) => `${item.locationId} ${item.date}` === here && item.reasons.length > 0);
  return (
    <Box
      as="section"
      aria-label={t`Needs a place`}
      position="relative"
      borderTopWidth="mark"
      borderColor="kingcup"
      bg="sheet"
      flexShrink={0}
    >
      <Plain
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        w="100%"
        textAlign="left"
        px="3.5"
        minH="8"
        cursor="pointer"
        fontWeight="700"
      >
        <Trans>
          {open ? "▾" : "▸"} {waiting.data.length} {waiting.data.length === 1 ? t`visit needs` : t`visits need`} a place
          or an answer
        </Trans>
      </Plain>
      {hasLost && onCover && (
        <Press size="small" position="absolute" top="0.5" insetInlineEnd="3.5" onClick={onCover}>
          <Trans>Find places for this day</Trans>
        </Press>
      )}
      {open && (
        <Box maxH="48" overflowY="auto" pb="1.5" tabIndex={0} role="group" aria-label={t`Visits`}>
          {waiting.data.map((item) => (
            <Plain
              key={item.visitId}
              display="block"
              w="100%"
              textAlign="left"
              px="3.5"
              py="1"
              minH="7"
              cursor="pointer"
              borderTopWidth="line"
              borderColor="line"
              onClick={() => void navigate(`/day/${item.locationId}/${item.date}?visit=${item.visitId}`)}
            >
              <Row gap="3" flexWrap="nowrap">
                <Box w="33" flexShrink={0} fontWeight="600">
                  {shortDate(item.date)}, {clock(item.start, item.zone)}
                </Box>
                <Box w="41" flexShrink={0} overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
                  {item.client}
                </Box>
                <Box w="41" flexShrink={0} overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
                  {item.service}
                </Box>
                <Box minW="0">
                  {item.lapsesAt && <Asked state={item.state} until={item.lapsesAt} zone={item.zone} />}
                  {item.reasons.map((reason) => reason.text).join(" ")}
                </Box>
              </Row>
            </Plain>
          ))}
        </Box>
      )}
    </Box>
  );
}

/** Whose turn it is with something that was asked for, and until when. */
function Asked({ state, until, zone }: { state: VisitState; until: string; zone: string }) {
  const when = `${shortDate(dateIn(until, zone))}, ${clock(until, zone)}`;
  return (
    <>
      {marks[state].mark}{" "}
      {state === "answered"
        ? t`The client chooses among other times until ${when}.`
        : t`Waits for an answer until ${when}.`}{" "}
    </>
  );
}
