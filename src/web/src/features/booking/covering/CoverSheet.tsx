import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../../api/queries";
import { refreshBook } from "../../../api/refresh";
import type { components } from "../../../api/generated/schema";
import { staff } from "../../../api/staff";
import { clock, longDate } from "../../../shared/format";
import { Box, Row, Stack } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { say } from "../../../shared/toasts";
import { Refusal, Sheet } from "../Sheet";

const Tick = chakra("input");
type Cover = components["schemas"]["CoverAnswer"];
type Props = {
  locationId: string;
  date: string;
  onMove: (visitId: string) => void;
  onClose: () => void;
};

/** Everybody who has lost their place on a day, with a place for as many as can have one: seen first, then done at one press. */
export function CoverSheet({ locationId, date, onMove, onClose }: Props) {
  const queries = useQueryClient();
  const covers = useQuery(asks.covering(locationId, date));
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [refused, setRefused] = useState<Readonly<Record<string, string>>>({});
  const all = covers.data ?? [];
  const chosen = all.filter((cover) => cover.start && !left.has(cover.visit.visitId));
  const place = useMutation({
    mutationFn: () =>
      answerOf(
        staff.POST("/api/v1/locations/{locationId}/covering/{date}", {
          params: { path: { locationId, date } },
          body: {
            visits: chosen.map((cover) => ({
              visitId: cover.visit.visitId,
              version: cover.version,
              start: cover.start!,
              lines: cover.lines,
            })),
          },
        }),
      ),
    onSuccess: (answers) => {
      const done = answers.filter((answer) => answer.isDone).length;
      say(plural(done, { 0: "None was placed.", one: "# visit placed.", other: "# visits placed." }));
      setRefused(
        Object.fromEntries(answers.filter((answer) => !answer.isDone).map((answer) => [answer.id, answer.why ?? ""])),
      );
    },
    onSettled: () => refreshBook(queries),
  });
  const leave = (id: string, isLeft: boolean) =>
    setLeft(new Set(isLeft ? [...left, id] : [...left].filter((other) => other !== id)));
  return (
    <Sheet
      title={t`Who needs a place`}
      onClose={onClose}
      foot={
        chosen.length > 0 && (
          <Press look="primary" disabled={place.isPending} onClick={() => place.mutate()}>
            {place.isPending
              ? t`Placing …`
              : plural(chosen.length, { one: "Place this one", other: "Place these # visits" })}
          </Press>
        )
      }
    >
      <Box fontWeight="600" mb="2">
        {longDate(date)}
      </Box>
      {(covers.error ?? place.error) && <Refusal>{(covers.error ?? place.error)?.message}</Refusal>}
      {covers.isPending && t`Looking for places …`}
      {covers.data?.length === 0 && (
        <Box color="quiet">
          <Trans>Everybody has their place on this day.</Trans>
        </Box>
      )}
      <Stack as="ol" gap="0" listStyleType="none">
        {all.map((cover) => (
          <Item
            key={cover.visit.visitId}
            cover={cover}
            isLeft={left.has(cover.visit.visitId)}
            refused={refused[cover.visit.visitId]}
            onLeave={leave}
            onMove={onMove}
          />
        ))}
      </Stack>
    </Sheet>
  );
}

type ItemProps = {
  cover: Cover;
  isLeft: boolean;
  refused: string | undefined;
  onLeave: (id: string, isLeft: boolean) => void;
  onMove: (visitId: string) => void;
};

function Item({ cover, isLeft, refused, onLeave, onMove }: ItemProps) {
  const { visit } = cover;
  const to =
    cover.start &&
    [clock(cover.start, visit.zone), cover.newWith.join(", "), cover.newRooms.join(", ")].filter(Boolean).join(" · ");
  return (
    <Box as="li" borderTopWidth="line" borderColor="line" py="2">
      <Row flexWrap="nowrap" alignItems="start">
        {to && (
          <Tick
            type="checkbox"
            mt="1"
            aria-label={t`Place ${visit.client}`}
            checked={!isLeft}
            onChange={(event) => onLeave(visit.visitId, !event.target.checked)}
          />
        )}
        <Box minW="0" flex="1">
          <Box fontWeight="600">{visit.client}</Box>
          <Box fontSize="small">
            {visit.service}, {clock(visit.start, visit.zone)} · {cover.with.join(", ")}
          </Box>
          {to ? <Box fontWeight="600">→ {to}</Box> : <Box color="clay">{t`No place is left on this day.`}</Box>}
          {cover.asked && (
            <Box fontSize="small">
              ◇ <Trans>asked for {cover.with[0]}</Trans>
              {cover.phone && ` · ${cover.phone}`}
            </Box>
          )}
          {refused && (
            <Box role="alert" color="clay" fontSize="small">
              {refused}
            </Box>
          )}
        </Box>
        <Press size="small" aria-label={t`Choose a place for ${visit.client}`} onClick={() => onMove(visit.visitId)}>
          <Trans>Choose</Trans>
        </Press>
      </Row>
    </Box>
  );
}
