import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ifMatch, type Block } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";
import { Outcome, useChange } from "../../shared/change";
import { useFocusBack } from "../../shared/focusBack";
import { shortDate, timeWords } from "../../shared/format";
import { Box, Row, Section } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { useUnsaved } from "../../shared/unsaved";
import { useToday } from "../../shared/today";
import { BlockForm } from "./BlockForm";
import { blockWords, daysOf, type Draft, ruleDay } from "./blocks";

/** Blocked time of somebody or something: once, or again and again with single dates taken out or moved. */
export function BlockList({
  resourceId,
  name,
  isPerson,
  mayChange = true,
  date,
  onDate = [],
  drawn,
  worked,
}: {
  resourceId: string;
  name: string;
  isPerson?: boolean;
  mayChange?: boolean;
  /** The day that is looked at: a new block begins on it. */
  date?: string;
  /** What is blocked on it, by identity: what of that repeats can be left out on it. */
  onDate?: readonly string[];
  /** A stretch that was drawn on it and is to be blocked. */
  drawn?: { from: string; until: string } | null;
  /** From when until when there is something to book on it: what online booking is stopped for, where nothing else is said. */
  worked?: { from: string; until: string } | undefined;
}) {
  const today = useToday();
  const fresh: Draft = {
    id: null,
    kind: "once",
    date: date ?? today,
    from: "09:00:00",
    until: "10:00:00",
    days: ["monday"],
    interval: 1,
    ends: "",
    reason: "",
    changed: [],
    isOnlineOnly: false,
  };
  const [draft, setDraft] = useState<Draft | null>(drawn ? { ...fresh, ...drawn } : null);
  const blocks = useQuery(asks.blocks(resourceId));
  const opener = useFocusBack(draft !== null);
  const save = useChange(
    (wanted: Draft, headers) => {
      const body: Block = {
        id: wanted.id ?? null,
        version: Number(wanted.version ?? 0),
        locationId: null,
        resourceId,
        kind: wanted.isOnlineOnly && wanted.kind === "once" ? "online" : "block",
        reason: wanted.reason,
        ...(wanted.kind === "once"
          ? { start: `${wanted.date}T${wanted.from}`, end: `${wanted.date}T${wanted.until}` }
          : {
              repeat: {
                first: wanted.date,
                rule:
                  (wanted.kind === "daily"
                    ? "FREQ=DAILY"
                    : `FREQ=WEEKLY;INTERVAL=${wanted.interval};BYDAY=${wanted.days.map((day) => ruleDay[day]).join(",")}`) +
                  (wanted.ends ? `;UNTIL=${wanted.ends.replaceAll("-", "")}` : ""),
                from: wanted.from,
                until: wanted.until,
                changed: wanted.changed,
              },
            }),
      };
      return wanted.id
        ? answerOf(
            staff.PUT("/api/v1/setup/blocks/{id}", {
              params: { path: { id: wanted.id! } },
              headers: { ...headers, ...ifMatch(wanted.version) },
              body,
            }),
          )
        : answerOf(staff.POST("/api/v1/setup/blocks", { headers, body }));
    },
    () => setDraft(null),
  );
  const remove = useChange((block: Block, headers) =>
    answerOf(
      staff.DELETE("/api/v1/setup/blocks/{id}", {
        params: { path: { id: block.id! } },
        headers: { ...headers, ...ifMatch(block.version) },
      }),
    ),
  );
  useUnsaved(draft !== null && (draft.reason !== "" || draft.id !== null));
  const draftOf = (block: Block): Draft => ({
    id: block.id!,
    version: block.version,
    kind: block.repeat ? (block.repeat.rule?.startsWith("FREQ=DAILY") ? "daily" : "weekly") : "once",
    date: block.repeat?.first ?? block.start?.slice(0, 10) ?? today,
    from: block.repeat?.from ?? block.start?.slice(11) ?? "09:00:00",
    until: block.repeat?.until ?? block.end?.slice(11) ?? "10:00:00",
    days: daysOf(block.repeat?.rule ?? ""),
    interval: Number(/INTERVAL=(\d+)/.exec(block.repeat?.rule ?? "")?.[1] ?? 1),
    ends: (/UNTIL=(\d{8})/.exec(block.repeat?.rule ?? "")?.[1] ?? "").replace(/(\d{4})(\d{2})(\d{2})/, "$1-$2-$3"),
    reason: block.reason ?? "",
    changed: block.repeat?.changed ?? [],
    isOnlineOnly: block.kind === "online",
  });
  const edit = (block: Block) => setDraft(draftOf(block));
  // A date of what repeats is taken out, and the rest goes on.
  const leaveOut = (block: Block, on: string) => {
    const whole = draftOf(block);
    const others = whole.changed.filter((item) => item.date !== on);
    save.run({ ...whole, changed: [...others, { date: on, from: null, until: null }] });
  };
  return (
    <Section
      title={t`Blocked time`}
      hint={t`Clients never book over it. ${isPerson ? t`Meetings, training, calls.` : t`Repairs, deep cleaning.`}`}
      actions={
        mayChange &&
        !draft && (
          <Row gap="1">
            <Press size="small" ref={opener} onClick={() => setDraft(fresh)}>
              <Trans>Block time</Trans>
            </Press>
            {date && (
              <Press
                size="small"
                look="quiet"
                onClick={() => setDraft({ ...fresh, ...worked, isOnlineOnly: true, reason: t`No online booking` })}
              >
                <Trans>Stop online booking</Trans>
              </Press>
            )}
          </Row>
        )
      }
    >
      {draft && (
        <BlockForm
          draft={draft}
          isDrawn={drawn !== undefined && drawn !== null}
          errors={save.errors}
          onChange={setDraft}
          onSave={() => save.run(draft)}
          onLeave={() => setDraft(null)}
        />
      )}
      <Outcome change={save} fields={["reason", "start", "end", "repeat.rule", "repeat.until"]} />
      <Outcome change={remove} saved={t`The time is free again.`} />
      {blocks.data?.map((block) => (
        <Row
          key={block.id}
          borderTopWidth="line"
          borderColor="line"
          py="1.5"
          justifyContent="space-between"
          flexWrap="nowrap"
        >
          <Box minW="0">
            <Box fontWeight="600">{block.reason}</Box>
            <Box fontSize="small" color="quiet">
              {block.kind === "online" && `${t`online only`} · `}
              {blockWords(block)}
              {block.repeat?.changed?.map((item) => (
                <Box key={item.date}>
                  {shortDate(item.date)}:{" "}
                  {item.from
                    ? t`${timeWords(item.from)}–${item.until ? timeWords(item.until) : ""} instead`
                    : t`left out`}
                </Box>
              ))}
            </Box>
          </Box>
          {mayChange && (
            <Row gap="0.5" flexShrink={0}>
              {/* What repeats by the month or year was described by a program; here it can only be given back. */}
              {block.kind !== "timeOff" && !/^FREQ=(MONTHLY|YEARLY)/.test(block.repeat?.rule ?? "") && (
                <Press
                  size="small"
                  look="quiet"
                  aria-label={t`Change ${block.reason ?? ""}`}
                  onClick={() => edit(block)}
                >
                  <Trans>Change</Trans>
                </Press>
              )}
              {date && block.repeat && onDate.includes(block.id!) && (
                <Press size="small" look="quiet" disabled={save.pending} onClick={() => leaveOut(block, date)}>
                  <Trans>Not on this day</Trans>
                </Press>
              )}
              <Press
                size="small"
                look="quiet"
                aria-label={t`Give back ${block.reason ?? ""}`}
                onClick={() => remove.run(block)}
              >
                <Trans>Give back</Trans>
              </Press>
            </Row>
          )}
        </Row>
      ))}
      {blocks.data?.length === 0 && !draft && (
        <Box color="quiet">
          <Trans>Nothing of {name} is blocked.</Trans>
        </Box>
      )}
    </Section>
  );
}
