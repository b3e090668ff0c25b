import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../api/queries";
import type { Rules } from "../../api/setup";
import { MinutesField } from "../../shared/fields/MinutesField";
import { NumberField } from "../../shared/inputs";
import { Box, Row, Stack } from "../../shared/layout";
import { daysWordsOf, hoursWordsOf, lengthWords } from "../../shared/lengthWords";
import { Press } from "../../shared/Press";
import { ChoicePart, Part, Sentence } from "../../shared/sentence/Sentence";

type Props = {
  place: "location" | "category" | "service";
  rules: Rules;
  /** The locations it is about: what holds where nothing is set is told for one of them. */
  locations: readonly { id: string | null; name: string | null }[];
  categoryId?: string | null;
  serviceId?: string | null;
  errors: Record<string, string>;
  onChange: (rules: Rules) => void;
};

const grids = { everyMinutes: t`by the clock`, backToBack: t`back to back`, setTimes: t`at set times` } as const;
const gaps = { off: t`offered like any other`, prefer: t`offered last`, strict: t`not offered` } as const;
const assignments = {
  houseOrder: t`the first in house order`,
  evenLoad: t`whoever has the least to do that week`,
  tightFit: t`whoever it leaves the fewest gaps with`,
} as const;
const choices = {
  clientMay: t`clients may choose, and need not`,
  clientMust: t`clients have to choose`,
  house: t`the house chooses`,
} as const;
const approvals = {
  nobody: t`Nobody waits`,
  newClients: t`New clients wait`,
  payLater: t`Whoever gives nothing before waits`,
  everyone: t`Everybody waits`,
} as const;

/**
 * Rules of online booking at one place, as they hold. What is set here is written boldly; what comes from elsewhere quietly, and
 * opened it says from where.
 */
export function RulesForm({ place, rules, locations, categoryId, serviceId, errors, onChange }: Props) {
  const [chosen, setChosen] = useState<string | null>(null);
  const here = locations.find((location) => location.id === chosen) ?? locations[0];
  const wider = useQuery(
    asks.rules({
      ...(place !== "location" && here?.id ? { locationId: here.id } : {}),
      ...(place === "service" && categoryId ? { categoryId } : {}),
    }),
  );
  const held = wider.data?.values ?? {};
  const set = (change: Partial<Rules>) => onChange({ ...rules, ...change });
  const isOwn = (rule: keyof Rules) => rules[rule] !== null && rules[rule] !== undefined;
  const from = (rule: keyof Rules) => {
    const source = wider.data?.sources[rule];
    return source && source.place !== "usual" ? t`as ${source.name} has it` : t`as usual`;
  };
  const value = (rule: keyof Rules) => (isOwn(rule) ? rules[rule] : held[rule]);
  const number = (
    rule: keyof Rules,
    label: string,
    words: (value: number) => string,
    none: string,
    minutes = false,
  ) => {
    const present = value(rule) as number | null | undefined;
    const Field = minutes ? MinutesField : NumberField;
    return (
      <Part label={label} differs={isOwn(rule)} words={present == null ? none : words(present)}>
        {(close) => (
          <Stack gap="2" p="1.5" w="60">
            <Field
              label={label}
              value={(rules[rule] as number | null | undefined) ?? null}
              placeholder={held[rule] == null ? "" : String(held[rule])}
              error={errors[`online.${rule}`]}
              hint={isOwn(rule) ? undefined : from(rule)}
              onChange={(next: number | null) => set({ [rule]: next })}
            />
            <Row>
              <Press size="small" look="primary" onClick={close}>
                <Trans>Done</Trans>
              </Press>
              {isOwn(rule) && (
                <Press size="small" look="quiet" onClick={() => set({ [rule]: null })}>
                  <Trans>Have it {from(rule)}</Trans>
                </Press>
              )}
            </Row>
          </Stack>
        )}
      </Part>
    );
  };
  const choice = (rule: keyof Rules, label: string, words: Record<string, string>) => (
    <ChoicePart
      label={label}
      differs={isOwn(rule)}
      words={words[value(rule) as string] ?? words[Object.keys(words)[0]!]}
      value={(rules[rule] as string | null) ?? ""}
      options={[
        ...Object.entries(words).map(([key, name]) => ({ value: key, label: name })),
        { value: "", label: `${words[held[rule] as string] ?? ""}`, hint: from(rule) },
      ]}
      onChange={(next) => set({ [rule]: next || null } as Partial<Rules>)}
    />
  );
  const same = t`the same`;
  return (
    <Stack key={serviceId} gap="1.5">
      {place !== "location" && locations.length > 1 && (
        <Box fontSize="small" color="quiet">
          <Trans>
            What is written quietly is told as it holds at{" "}
            <ChoicePart
              label={t`Location`}
              options={locations.map((location) => ({ value: location.id ?? "", label: location.name ?? "" }))}
              value={here?.id ?? ""}
              onChange={setChosen}
            />
            .
          </Trans>
        </Box>
      )}
      <Sentence size="text">
        <Trans>
          Clients book at least {number("leadMinutes", t`Lead time (min)`, lengthWords, t`no time`, true)} ahead, new
          ones {number("newLeadMinutes", t`Lead time of new clients (min)`, lengthWords, same, true)}; at most{" "}
          {number("horizonDays", t`Days ahead`, daysWordsOf, t`any time`)} from today, new ones{" "}
          {number("newHorizonDays", t`Days ahead of new clients`, daysWordsOf, same)}.
        </Trans>
      </Sentence>
      <Sentence size="text">
        <Trans>
          They may begin {choice("grid", t`Starts lie`, grids)}
          {value("grid") === "everyMinutes" && (
            <>
              <Trans>
                , every {number("everyMinutes", t`Minutes between starts`, lengthWords, t`15 minutes`, true)}
              </Trans>
            </>
          )}
          . A start that leaves a gap nobody can use is {choice("gap", t`Starts that leave a gap`, gaps)}
          {(value("gap") ?? "off") !== "off" && (
            <>
              <Trans>
                ; shorter than{" "}
                {number("shortestGapMinutes", t`Shortest useful gap (min)`, lengthWords, t`15 minutes`, true)} is such a
                gap
              </Trans>
            </>
          )}
          .
        </Trans>
      </Sentence>
      <Sentence size="text">
        <Trans>
          Of the practitioners, {choice("choice", t`Who chooses the practitioner`, choices)}; where nobody chose it is{" "}
          {choice("assignment", t`If nobody chose`, assignments)}. {choice("approval", t`The desk approves`, approvals)}{" "}
          until the desk has approved.
        </Trans>
      </Sentence>
      <Sentence size="text">
        <Trans>
          They may move a visit until {number("moveNoticeHours", t`Moving (hours before)`, hoursWordsOf, t`any time`)}{" "}
          before, new ones {number("newMoveNoticeHours", t`Moving, new clients (hours before)`, hoursWordsOf, same)},
          and cancel it until {number("cancelNoticeHours", t`Cancelling (hours before)`, hoursWordsOf, t`any time`)}{" "}
          before, new ones{" "}
          {number("newCancelNoticeHours", t`Cancelling, new clients (hours before)`, hoursWordsOf, same)}.
        </Trans>
      </Sentence>
      {Object.entries(errors)
        .filter(([field]) => field.startsWith("online."))
        .map(([field, text]) => (
          <Box key={field} role="alert" color="clay" fontSize="small">
            {text}
          </Box>
        ))}
    </Stack>
  );
}
