import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { keepers } from "../../api/keepers";
import { ifMatch, type Guarantee } from "../../api/setup";
import { staff } from "../../api/staff";
import { Outcome, useChange } from "../../shared/change";
import { SelectField } from "../../shared/Field";
import { CheckField } from "../../shared/fields/CheckField";
import { ChoiceField, MoneyField, NumberField, weekdays } from "../../shared/inputs";
import { TimeField } from "../../shared/fields/TimeField";
import { Box, Row, Span } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { answerOf } from "../../shared/problem";
import type { Option } from "../../shared/sentence/Choices";
import { ChoicePart, Part, Sentence } from "../../shared/sentence/Sentence";
import { SmallForm } from "../../shared/sentence/SmallForm";
import { useDeskSetup } from "../../shared/today";
import { whole } from "../../shared/whole";
import { demands, demandWords, visitWords, whomWords } from "./ruleWords";

/** A place as one value of a list: "service:3f…". */
export const placeOf = (rule: Pick<Guarantee, "place" | "placeId">) => `${rule.place}:${rule.placeId}`;

/** A rule as a sentence; whatever is changed in it is saved at once. */
export function RuleRow({ rule, places, decides }: { rule: Guarantee; places: Option[]; decides: boolean }) {
  const { currency } = useDeskSetup();
  const save = useChange((wanted: Guarantee, headers) =>
    keepers.guarantee.put(wanted, Number(rule.version ?? 0), headers),
  );
  const remove = useChange((_: void, headers) =>
    answerOf(
      staff.DELETE("/api/v1/setup/guarantees/{id}", {
        params: { path: { id: rule.id! } },
        headers: { ...headers, ...ifMatch(rule.version) },
      }),
    ),
  );
  const set = (patch: Partial<Guarantee>) => save.run({ ...rule, ...patch });
  const place = places.find((option) => option.value === placeOf(rule))?.label ?? "";
  const demand = demandWords(rule, currency);
  return (
    <Box as="li" py="2" borderBottomWidth="line" borderColor="line">
      <Row justifyContent="space-between" alignItems="start" gap="1.5">
        <Box flex="1" minW="55">
          <Sentence size="text">
            <Trans>
              {whole(
                <ChoicePart
                  label={t`Where`}
                  value={placeOf(rule)}
                  options={places}
                  onChange={(chosen) => {
                    const [at, placeId] = chosen.split(":");
                    set({ place: at as Guarantee["place"], placeId: placeId! });
                  }}
                />,
              )}{" "}
              we ask{" "}
              {whole(
                <Part label={t`Whom`} words={whomWords(rule)}>
                  {(close) => <WhomForm rule={rule} onDone={(patch) => (set(patch), close())} />}
                </Part>,
              )}{" "}
              for{" "}
              {whole(
                <Part label={t`What`} words={demand}>
                  {(close) => <DemandForm rule={rule} onDone={(patch) => (set(patch), close())} />}
                </Part>,
              )}{" "}
              before{" "}
              {whole(
                <Part label={t`Which visit`} differs={isSpecial(rule)} words={visitWords(rule, currency)}>
                  {(close) => <VisitForm rule={rule} onDone={(patch) => (set(patch), close())} />}
                </Part>,
              )}
              .
            </Trans>
          </Sentence>
          <Outcome change={save} />
          <Outcome change={remove} saved={t`Taken out.`} />
        </Box>
        {decides && (
          <Span
            fontSize="small"
            fontWeight="600"
            bg="glow"
            px="2"
            py="0.5"
            borderWidth="line"
            borderColor="edge"
            borderRadius="card"
            whiteSpace="nowrap"
          >
            <Trans>decides here</Trans>
          </Span>
        )}
        <Press
          look="quiet"
          size="small"
          aria-label={t`Take out: ${place}, ${whomWords(rule)}, ${demand}`}
          onClick={() => remove.run()}
        >
          <Trans>Take out</Trans>
        </Press>
      </Row>
    </Box>
  );
}

const isSpecial = (rule: Guarantee) =>
  Boolean(rule.fromPrice) || Boolean(rule.hours) || (rule.weekdays ?? []).length > 0;

type FormProps = { rule: Guarantee; onDone: (patch: Partial<Guarantee>) => void };

function WhomForm({ rule, onDone }: FormProps) {
  const [missed, setMissed] = useState<number | null>(rule.noShows ?? null);
  const [months, setMonths] = useState<number | null>(rule.months ?? 12);
  const [onlyNew, setNew] = useState(rule.onlyNew ?? false);
  return (
    <SmallForm onDone={() => onDone({ onlyNew, noShows: missed || null, months: months ?? 12 })}>
      <CheckField label={t`Only new clients`} checked={onlyNew} onChange={setNew} />
      <NumberField
        label={t`Only who missed so many visits`}
        min={0}
        value={missed}
        hint={t`Empty for whoever.`}
        onChange={setMissed}
      />
      {Boolean(missed) && <NumberField label={t`In how many months`} min={1} value={months} onChange={setMonths} />}
    </SmallForm>
  );
}

function DemandForm({ rule, onDone }: FormProps) {
  const { currency } = useDeskSetup();
  const [demand, setDemand] = useState(rule.demand);
  const [value, setValue] = useState<number | null>(Number(rule.value) || null);
  const isMoney = demand === "fixed" || demand === "percent";
  return (
    <SmallForm onDone={() => onDone({ demand, value: isMoney ? (value ?? 0) : 0 })}>
      <SelectField
        label={t`What they give`}
        value={demand}
        onChange={(e) => {
          setDemand(e.target.value as Guarantee["demand"]);
          setValue(null);
        }}
      >
        {demands.map(([kind, words]) => (
          <option key={kind} value={kind}>
            {words}
          </option>
        ))}
      </SelectField>
      {demand === "percent" && (
        <NumberField label={t`Percent of the price`} min={1} value={value} onChange={setValue} />
      )}
      {demand === "fixed" && (
        <MoneyField label={t`For each service`} currency={currency} value={value} onChange={setValue} />
      )}
    </SmallForm>
  );
}

function VisitForm({ rule, onDone }: FormProps) {
  const { currency } = useDeskSetup();
  const [fromPrice, setPrice] = useState<number | null>(rule.fromPrice == null ? null : Number(rule.fromPrice));
  const [days, setDays] = useState(rule.weekdays ?? []);
  const [from, setFrom] = useState<string | null>(rule.hours?.from ?? null);
  const [until, setUntil] = useState<string | null>(rule.hours?.until ?? null);
  return (
    <SmallForm onDone={() => onDone({ fromPrice, weekdays: days, hours: from && until ? { from, until } : null })}>
      <MoneyField label={t`Costing at least`} currency={currency} value={fromPrice} onChange={setPrice} />
      <ChoiceField label={t`On these days (none: any)`} options={weekdays} chosen={days} onChange={setDays} />
      <Row>
        <Box w="25">
          <TimeField label={t`Beginning from`} value={from ?? ""} onChange={setFrom} onEmpty={() => setFrom(null)} />
        </Box>
        <Box w="25">
          <TimeField label={t`until before`} value={until ?? ""} onChange={setUntil} onEmpty={() => setUntil(null)} />
        </Box>
      </Row>
    </SmallForm>
  );
}
