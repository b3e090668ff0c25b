import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ifMatch, type Block } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { SelectField, TextField } from "../../shared/Field";
import { longDate, shortDate, timeWords } from "../../shared/format";
import { DateField } from "../../shared/fields/DateField";
import { TimeField } from "../../shared/fields/TimeField";
import { ChoiceField, weekdays } from "../../shared/inputs";
import { Box, Row, Section, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { useUnsaved } from "../../shared/unsaved";
import { useToday } from "../../shared/today";

const ruleDay = {
  monday: t`MO`,
  tuesday: t`TU`,
  wednesday: t`WE`,
  thursday: t`TH`,
  friday: t`FR`,
  saturday: t`SA`,
  sunday: t`SU`,
} as const;
type Day = keyof typeof ruleDay;
const daysOf = (rule: string) =>
  (/BYDAY=([A-Z,]+)/.exec(rule)?.[1] ?? "")
    .split(",")
    .flatMap((code) => (Object.keys(ruleDay) as Day[]).filter((day) => ruleDay[day] === code));

/** How a block reads in a list. */
export function blockWords(block: Block) {
  if (block.repeat) {
    const { rule, first, from, until } = block.repeat;
    const interval = Number(/INTERVAL=(\d+)/.exec(rule ?? "")?.[1] ?? 1);
    const ends = /UNTIL=(\d{4})(\d{2})(\d{2})/.exec(rule ?? "");
    const days = daysOf(rule ?? "").map((day) => day[0]!.toUpperCase() + day.slice(1, 3));
    const often = rule?.startsWith("FREQ=DAILY")
      ? t`every day`
      : interval > 1
        ? t`every ${interval} weeks`
        : t`every week`;
    const when = `${timeWords(from)}–${timeWords(until)}`;
    const on = days.length > 0 ? t`${often} on ${days.join(", ")}` : often;
    return ends
      ? t`${when} ${on} from ${shortDate(first)} to ${shortDate(`${ends[1]}-${ends[2]}-${ends[3]}`)}`
      : t`${when} ${on} from ${shortDate(first)}`;
  }
  const [fromDay, fromTime] = (block.start ?? "").split("T"),
    [untilDay, untilTime] = (block.end ?? "").split("T");
  if (!fromDay || !fromTime || !untilDay || !untilTime) return "";
  if (fromDay === untilDay) return `${longDate(fromDay)} ${timeWords(fromTime)}–${timeWords(untilTime)}`;
  const begins = fromTime.startsWith("00:00") ? longDate(fromDay) : `${longDate(fromDay)} ${timeWords(fromTime)}`;
  return t`${begins} to ${longDate(untilDay)} ${timeWords(untilTime)}`;
}

type Draft = {
  id: string | null;
  version?: number | string;
  kind: "once" | "weekly" | "daily";
  date: string;
  from: string;
  until: string;
  days: Day[];
  interval: number;
  ends: string;
  reason: string;
  changed: NonNullable<NonNullable<Block["repeat"]>["changed"]>;
};

/** Blocked time of somebody or something: once, or again and again with single dates taken out or moved. */
export function BlockList({
  resourceId,
  name,
  isPerson,
  mayChange = true,
}: {
  resourceId: string;
  name: string;
  isPerson?: boolean;
  mayChange?: boolean;
}) {
  const today = useToday();
  const [draft, setDraft] = useState<Draft | null>(null);
  const blocks = useQuery(asks.blocks(resourceId));
  const save = useChange(
    (wanted: Draft, headers) => {
      const body: Block = {
        id: wanted.id ?? null,
        version: Number(wanted.version ?? 0),
        locationId: null,
        resourceId,
        kind: "block",
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
  const edit = (block: Block) =>
    setDraft({
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
    });
  return (
    <Section
      title={t`Blocked time`}
      hint={t`Clients never book over it. ${isPerson ? t`Meetings, training, calls.` : t`Repairs, deep cleaning.`}`}
      actions={
        mayChange &&
        !draft && (
          <Press
            size="small"
            onClick={() =>
              setDraft({
                id: null,
                kind: "once",
                date: today,
                from: "09:00:00",
                until: "10:00:00",
                days: ["monday"],
                interval: 1,
                ends: "",
                reason: "",
                changed: [],
              })
            }
          >
            <Trans>Block time</Trans>
          </Press>
        )
      }
    >
      {draft && (
        <BlockForm
          draft={draft}
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
              {block.kind === "block" && !/^FREQ=(MONTHLY|YEARLY)/.test(block.repeat?.rule ?? "") && (
                <Press
                  size="small"
                  look="quiet"
                  aria-label={t`Change ${block.reason ?? ""}`}
                  onClick={() => edit(block)}
                >
                  <Trans>Change</Trans>
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

function BlockForm({
  draft,
  errors,
  onChange,
  onSave,
  onLeave,
}: {
  draft: Draft;
  errors: Record<string, string>;
  onChange: (draft: Draft) => void;
  onSave: () => void;
  onLeave: () => void;
}) {
  const set = (change: Partial<Draft>) => onChange({ ...draft, ...change });
  const [date, setDate] = useState<string | null>(null);
  return (
    <Stack gap="2.5" mb="3" bg="paper" p="3" borderRadius="card">
      <Row alignItems="start">
        <Box w="41">
          <SelectField
            label={t`How often`}
            value={draft.kind}
            onChange={(e) => set({ kind: e.target.value as Draft["kind"] })}
          >
            <option value="once">
              <Trans>once</Trans>
            </option>
            <option value="weekly">
              <Trans>every week</Trans>
            </option>
            <option value="daily">
              <Trans>every day</Trans>
            </option>
          </SelectField>
        </Box>
        <Box w="41">
          <DateField
            label={draft.kind === "once" ? t`On` : t`From`}
            value={draft.date}
            error={errors["start"] ?? errors["repeat.first"]}
            onChange={(value) => value && set({ date: value })}
          />
        </Box>
        <Box w="33">
          <TimeField label={t`From`} value={draft.from} onChange={(from) => set({ from })} />
        </Box>
        <Box w="33">
          <TimeField
            label={t`Until`}
            value={draft.until}
            error={errors["end"] ?? errors["repeat.until"]}
            onChange={(until) => set({ until })}
          />
        </Box>
      </Row>
      {draft.kind === "weekly" && (
        <Row alignItems="end">
          <ChoiceField
            label={t`On`}
            options={weekdays.map(([day, name]) => [day as Day, name] as const)}
            chosen={draft.days}
            error={errors["repeat.rule"]}
            onChange={(days) => set({ days })}
          />
          <Box w="33">
            <SelectField
              label={t`Every`}
              value={draft.interval}
              onChange={(e) => set({ interval: Number(e.target.value) })}
            >
              {[1, 2, 3, 4].map((weeks) => (
                <option key={weeks} value={weeks}>
                  {weeks === 1 ? t`week` : t`${weeks} weeks`}
                </option>
              ))}
            </SelectField>
          </Box>
        </Row>
      )}
      {draft.kind !== "once" && (
        <Row alignItems="end">
          <Box w="41">
            <DateField label={t`Until (or open)`} value={draft.ends} onChange={(ends) => set({ ends: ends ?? "" })} />
          </Box>
          <Box w="41">
            <DateField
              label={t`A single date`}
              value={date}
              error={Object.entries(errors).find(([field]) => field.startsWith("repeat.changed"))?.[1]}
              onChange={setDate}
            />
          </Box>
          <Press
            disabled={!date}
            onClick={() => {
              set({
                changed: [
                  ...draft.changed.filter((item) => item.date !== date),
                  { date: date!, from: null, until: null },
                ],
              });
              setDate(null);
            }}
          >
            <Trans>Leave it out</Trans>
          </Press>
          <Press
            disabled={!date}
            onClick={() => {
              set({
                changed: [
                  ...draft.changed.filter((item) => item.date !== date),
                  { date: date!, from: draft.from, until: draft.until },
                ],
              });
              setDate(null);
            }}
          >
            <Trans>Move it</Trans>
          </Press>
        </Row>
      )}
      {draft.changed.map((item, i) => (
        <Row key={item.date} alignItems="end">
          <Box w="30" pb="2">
            {shortDate(item.date)}
          </Box>
          {item.from ? (
            <>
              <Box w="33">
                <TimeField
                  label={t`From`}
                  value={item.from}
                  onChange={(from) =>
                    set({ changed: draft.changed.map((other, j) => (j === i ? { ...other, from } : other)) })
                  }
                />
              </Box>
              <Box w="33">
                <TimeField
                  label={t`Until`}
                  value={item.until ?? ""}
                  onChange={(until) =>
                    set({ changed: draft.changed.map((other, j) => (j === i ? { ...other, until } : other)) })
                  }
                />
              </Box>
            </>
          ) : (
            <Box pb="2">
              <Trans>left out</Trans>
            </Box>
          )}
          <Press
            size="small"
            look="quiet"
            mb="1"
            onClick={() => set({ changed: draft.changed.filter((_, j) => j !== i) })}
          >
            <Trans>As the rule says</Trans>
          </Press>
        </Row>
      ))}
      <TextField
        label={t`What for`}
        value={draft.reason}
        error={errors["reason"]}
        onChange={(e) => set({ reason: e.target.value })}
      />
      <Row>
        <Press look="primary" onClick={onSave}>
          <Trans>Save</Trans>
        </Press>
        <Press onClick={onLeave}>
          <Trans>Leave it</Trans>
        </Press>
      </Row>
    </Stack>
  );
}
