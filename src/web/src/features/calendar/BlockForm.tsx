import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState, type FormEvent } from "react";
import { SelectField, TextField } from "../../shared/Field";
import { shortDate } from "../../shared/format";
import { DateField } from "../../shared/fields/DateField";
import { TimeField } from "../../shared/fields/TimeField";
import { CheckField } from "../../shared/fields/CheckField";
import { ChoiceField, weekdays } from "../../shared/inputs";
import { asForm, Box, Row, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { type Day, type Draft } from "./blocks";

export function BlockForm({
  draft,
  isDrawn,
  errors,
  onChange,
  onSave,
  onLeave,
}: {
  draft: Draft;
  /** Whether its times were drawn, and only what it is for is left to say. */
  isDrawn: boolean;
  errors: Record<string, string>;
  onChange: (draft: Draft) => void;
  onSave: () => void;
  onLeave: () => void;
}) {
  const set = (change: Partial<Draft>) => onChange({ ...draft, ...change });
  const [date, setDate] = useState<string | null>(null);
  const decide = (times: { from: string | null; until: string | null }) => {
    set({ changed: [...draft.changed.filter((item) => item.date !== date), { date: date!, ...times }] });
    setDate(null);
  };
  return (
    <Stack
      {...asForm}
      gap="2.5"
      mb="3"
      bg="paper"
      p="3"
      borderRadius="card"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        onSave();
      }}
    >
      <Row alignItems="start">
        <Box w="41">
          <SelectField
            label={t`How often`}
            autoFocus={!isDrawn}
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
          <Press disabled={!date} onClick={() => decide({ from: null, until: null })}>
            <Trans>Leave it out</Trans>
          </Press>
          <Press disabled={!date} onClick={() => decide({ from: draft.from, until: draft.until })}>
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
      {draft.kind === "once" && (
        <CheckField
          label={t`Only online booking stops; the desk goes on`}
          checked={draft.isOnlineOnly}
          onChange={(isOnlineOnly) => set({ isOnlineOnly })}
        />
      )}
      <TextField
        label={t`What for`}
        autoFocus={isDrawn}
        value={draft.reason}
        error={errors["reason"]}
        onChange={(e) => set({ reason: e.target.value })}
      />
      <Row>
        <Press look="primary" type="submit">
          <Trans>Save</Trans>
        </Press>
        <Press onClick={onLeave}>
          <Trans>Leave it</Trans>
        </Press>
      </Row>
    </Stack>
  );
}
