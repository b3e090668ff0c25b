import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../../api/queries";
import type { DeskSetup } from "../../../api/staff";
import { TextField } from "../../../shared/Field";
import { money } from "../../../shared/format";
import { Box, Row, Stack } from "../../../shared/layout";
import { lengthWords } from "../../../shared/lengthWords";
import { Plain } from "../../../shared/Plain";
import { Press } from "../../../shared/Press";
import { Sortable } from "../../../shared/Sortable";
import type { Chosen } from "../fits";
import { asWide } from "../NarrowPart";
import { blankLine, requestOf, type LineDraft } from "./lineDrafts";
import { LineForm } from "./LineForm";

/** Most lines and most people a visit has. */
const mostLines = 6,
  mostPeople = 6;

type Props = {
  setup: DeskSetup;
  locationId: string;
  date: string;
  /** Whose services only are shown first, where a lane was pointed at. */
  by: string | null;
  lines: LineDraft[];
  people: string[];
  /** The client's name, for whom a line is unless it says otherwise. */
  client: string;
  chosen: Chosen | null;
  visitId?: string;
  errors: Record<string, string>;
  onLines: (lines: LineDraft[]) => void;
  /** Without it, who comes stands. */
  onPeople?: (people: string[]) => void;
};

/** What a visit is made of: its lines in order, for whom each of them is, how long all of it takes and what it costs. */
export function LinesPart(props: Props) {
  const { setup, locationId, date, by, lines, people, client, chosen, visitId, errors, onLines, onPeople } = props;
  const [open, setOpen] = useState(lines[0]?.key ?? "");
  const shown = lines.some((line) => line.key === open) ? open : (lines[0]?.key ?? "");
  const change = (key: string, next: Partial<LineDraft>) =>
    onLines(lines.map((line) => (line.key === key ? { ...line, ...next } : line)));
  const add = (person = 0) => {
    const line = blankLine({ person });
    onLines([...lines, line]);
    setOpen(line.key);
  };
  const takeOut = (key: string) => onLines(lines.filter((line) => line.key !== key));
  const withPerson = () => {
    onPeople?.([...people, t`Friend ${people.length + 1}`]);
    add(people.length + 1);
  };
  const form = (line: LineDraft) => (
    <LineForm
      setup={setup}
      locationId={locationId}
      date={date}
      by={by}
      line={line}
      people={[client || t`the client`, ...people]}
      errors={errors}
      place={lines.filter((other) => other.serviceId !== "").indexOf(line)}
      onChange={(next) => change(line.key, next)}
    />
  );
  return (
    <Stack gap="2">
      {lines.length === 1 ? (
        form(lines[0]!)
      ) : (
        <Sortable
          items={lines}
          idOf={(line) => line.key}
          nameOf={(line) => nameOf(setup, line)}
          onOrder={(keys) => onLines(keys.map((key) => lines.find((line) => line.key === key)!))}
        >
          {(line) => (
            <Box borderWidth="line" borderColor={line.key === shown ? "edge" : "line"} borderRadius="card" p="1.5">
              <Row flexWrap="nowrap" gap="1">
                <Plain
                  flex="1"
                  minW="0"
                  minH="6"
                  textAlign="left"
                  cursor="pointer"
                  fontWeight="600"
                  aria-expanded={line.key === shown}
                  onClick={() => setOpen(line.key)}
                >
                  {nameOf(setup, line)}
                  {line.person > 0 && ` · ${people[line.person - 1] ?? ""}`}
                </Plain>
                <Press
                  size="small"
                  look="quiet"
                  aria-label={t`Take out ${nameOf(setup, line)}`}
                  onClick={() => takeOut(line.key)}
                >
                  ✕
                </Press>
              </Row>
              {line.key === shown && form(line)}
            </Box>
          )}
        </Sortable>
      )}
      {onPeople &&
        people.map((name, i) => (
          <TextField
            // People have no other identity than their place.
            key={i}
            label={t`Comes along`}
            value={name}
            maxLength={160}
            error={errors[`people[${i}].name`]}
            onChange={(event) => onPeople(people.map((other, j) => (i === j ? event.target.value : other)))}
          />
        ))}
      <Row gap="1.5">
        {lines.length < mostLines && lines.every((line) => line.serviceId !== "") && (
          <Press size="small" onClick={() => add()}>
            <Trans>Add a service</Trans>
          </Press>
        )}
        {onPeople && people.length + 1 < mostPeople && lines.length < mostLines && lines[0]!.serviceId !== "" && (
          <Press size="small" look="quiet" onClick={withPerson}>
            <Trans>Somebody comes along</Trans>
          </Press>
        )}
      </Row>
      <Total locationId={locationId} date={date} lines={lines} chosen={chosen} visitId={visitId} />
    </Stack>
  );
}

const nameOf = (setup: DeskSetup, line: LineDraft) =>
  setup.services.find((service) => service.id === line.serviceId)?.name ?? t`Choose a service`;

type TotalProps = {
  locationId: string;
  date: string;
  lines: LineDraft[];
  chosen: Chosen | null;
  visitId: string | undefined;
};

/** How long all of it takes and what it costs: as chosen, or as it usually does. */
function Total({ locationId, date, lines, chosen, visitId }: TotalProps) {
  const asked = requestOf(lines);
  const usual = useQuery({
    ...asks.lights({ locationId, lines: asked, from: date, days: 1, visitId: visitId ?? null, narrow: asWide }),
    enabled: asked.length > 0,
    placeholderData: (before) => before,
  });
  if (asked.length === 0 || (!usual.data && !chosen)) return null;
  const minutes = chosen ? (Date.parse(chosen.end) - Date.parse(chosen.start)) / 60_000 : usual.data!.minutes;
  const price = chosen ? money(chosen.price) : money(usual.data!.price);
  const isFrom = !chosen && usual.data!.isFrom;
  return (
    <Row justifyContent="space-between" role="status" fontWeight="700" data-total>
      <span>{asked.length > 1 ? plural(asked.length, { one: "# service", other: "# services" }) : t`Altogether`}</span>
      <span>
        {lengthWords(minutes)} · {isFrom ? t`from ${price}` : price}
      </span>
    </Row>
  );
}
