import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { DeskSetup, Visit } from "../../api/staff";
import { clockRange, shortDate, timeWords } from "../../shared/format";
import { Link } from "react-router";
import { Box, Row, Span, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import type { Carried } from "./carry/carried";
import { factsWritten } from "./facts";
import type { Chosen } from "./fits";
import { linesOf, requestOf, type LineDraft, type LineRequest } from "./lines/lineDrafts";
import { LinesPart } from "./lines/LinesPart";
import { PractitionerField } from "./PractitionerField";
import { ReachField, RowMove, type Reach } from "./repeat/RowMove";
import { seenBefore } from "./seenBefore";
import { StartList } from "./StartList";
import { Meanwhile } from "./Versions";

function layWords(start: Chosen | null, stays: boolean) {
  if (!start) return t`Move`;
  if (stays) return start.accept ? t`Save it all the same` : t`Save the change`;
  const at = timeWords(start.clock);
  return start.accept ? t`Move to ${at} all the same` : t`Move to ${at}`;
}

type Props = {
  visit: Visit;
  setup: DeskSetup;
  zone: string;
  date: string;
  /** Whether its lines are changed too, or only where it lies. */
  withLines: boolean;
  /** A time and a lane that were pointed at. */
  at: string | null;
  by: string | null;
  /** A line and how long it was pulled, in minutes. */
  length: string | null;
  busy: boolean;
  errors: Record<string, string>;
  onCarry: (carried: Carried | null) => void;
  onPoint: (practitionerId: string | null, start: string) => void;
  onDay: (date: string) => void;
  /** Hears where the visit went with others of its row. */
  onMoved: (visit: Visit) => void;
  onLay: (start: Chosen, lines: LineRequest[]) => void;
  onStop: () => void;
};

const withLength = (line: LineDraft, length: string | null) => {
  const [id, minutes] = length?.split(" ") ?? [];
  return line.id === id && Number(minutes) > 0 ? { ...line, minutes: Number(minutes) } : line;
};

/** Where a visit may go and what it may become: its lines, its starts, or one over something once that was read. */
export function LayForm(props: Props) {
  const {
    visit,
    setup,
    zone,
    date,
    withLines,
    at,
    by,
    length,
    busy,
    errors,
    onCarry,
    onPoint,
    onDay,
    onMoved,
    onLay,
    onStop,
  } = props;
  // What is written goes on from what was seen: what somebody else saves meanwhile is never written over unread.
  const [seen, setSeen] = useState(() => seenBefore.of(visit));
  const [lines, setLines] = useState(() => linesOf(seen).map((line) => withLength(line, length)));
  useEffect(() => () => seenBefore.forget(visit.id), [visit.id]);
  const isStale = seen.version < visit.version;
  const goOn = (from: Visit | null) => {
    seenBefore.forget(visit.id);
    setSeen(visit);
    if (from) setLines(linesOf(from));
  };
  const [pointed, setPointed] = useState<string | null>(null);
  // Whoever's lane was pointed at takes the first line, until somebody else is chosen.
  const shown = useMemo(
    () =>
      by && by !== pointed
        ? lines.map((line, i) => (i === 0 ? { ...line, practitionerId: by, asked: false } : line))
        : lines,
    [by, lines, pointed],
  );
  const change = (next: typeof lines) => {
    setPointed(by);
    setLines(next);
  };
  const [reach, setReach] = useState<Reach>("one");
  const inWeek = new URLSearchParams({
    of: shown[0]?.practitionerId ?? "",
    visit: visit.id,
    do: "move",
  }).toString();
  const asked = JSON.stringify(requestOf(shown));
  const here = `${at} ${asked}`;
  const [picked, setPicked] = useState<{ here: string; start: Chosen | null }>({ here, start: null });
  const start = picked.here === here ? picked.start : null;
  const setStart = useCallback((next: Chosen | null) => setPicked({ here, start: next }), [here]);
  const question = useMemo(
    () => ({
      locationId: visit.locationId,
      lines: JSON.parse(asked) as LineRequest[],
      visitId: visit.id,
      ...(!withLines && { present: visit.start }),
    }),
    [visit, asked, withLines],
  );
  // What was cut is put down in one go; what is only carried chooses its place, and the sheet says what that means.
  const lay = useRef(onLay);
  useEffect(() => {
    lay.current = onLay;
  }, [onLay]);
  const carry = useCallback(
    (carried: Carried | null) =>
      onCarry(
        carried && !withLines && reach === "one"
          ? { ...carried, put: (place) => lay.current(place, carried.lines) }
          : carried,
      ),
    [onCarry, withLines, reach],
  );
  return (
    <Stack gap="3">
      {isStale && (
        <Meanwhile
          seen={seen}
          now={visit}
          mine={factsWritten(question.lines, start?.start ?? at, setup, zone)}
          onMine={() => goOn(null)}
          onTheirs={() => goOn(visit)}
        />
      )}
      <Box>
        <Trans>
          {visit.lines.map((line) => line.service).join(", ")}, now {shortDate(visit.date)},{" "}
          {clockRange(visit.start, visit.end, zone)}
        </Trans>
      </Box>
      {!withLines && (
        <Link to={`/week/${visit.locationId}/${date}?${inWeek}`}>
          <Span textDecoration="underline" fontSize="small">
            <Trans>Look for a place in the week</Trans>
          </Span>
        </Link>
      )}
      {withLines ? (
        <LinesPart
          setup={setup}
          locationId={visit.locationId}
          date={date}
          by={null}
          lines={shown}
          people={(visit.people ?? []).map((person) => person.name ?? "")}
          client={`${visit.client.givenName} ${visit.client.familyName}`}
          chosen={start}
          visitId={visit.id}
          errors={errors}
          onLines={change}
        />
      ) : (
        <PractitionerField
          setup={setup}
          serviceId={shown[0]?.serviceId}
          value={shown[0]?.practitionerId ?? ""}
          onChange={(practitionerId) =>
            change(shown.map((line, i) => (i === 0 ? { ...line, practitionerId, asked: true } : line)))
          }
        />
      )}
      {question.lines.length > 0 && (
        <StartList
          question={question}
          date={date}
          zone={zone}
          near={at ?? (withLines ? visit.start : null)}
          chosen={start}
          onChoose={setStart}
          onCarry={carry}
          onPoint={onPoint}
          onDay={onDay}
        />
      )}
      {!withLines && visit.seriesId && <ReachField value={reach} onChange={setReach} />}
      {reach !== "one" && start && !isStale && (
        <RowMove visit={visit} zone={zone} reach={reach} start={start} onMoved={onMoved} />
      )}
      <Row gap="2">
        {reach === "one" && (
          <Press look="primary" disabled={!start || busy || isStale} onClick={() => onLay(start!, question.lines)}>
            {layWords(start, start?.start === visit.start)}
          </Press>
        )}
        <Press onClick={onStop}>
          <Trans>Leave it</Trans>
        </Press>
      </Row>
    </Stack>
  );
}
