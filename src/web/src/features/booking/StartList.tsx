import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { Plain } from "../../shared/Plain";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import type { Start } from "../../api/staff";
import { addDays, clock, dateIn, longDate, money, shortDate, timeWords, wallTime } from "../../shared/format";
import { Press } from "../../shared/Press";
import { TimeField } from "../../shared/fields/TimeField";
import { Anyway } from "./Anyway";
import type { Carried } from "./carry/carried";
import { instantOf, type Chosen } from "./fits";
import type { LineRequest } from "./lines/lineDrafts";
import { asWide, NarrowPart } from "./NarrowPart";
import { useFirstFit } from "./useFirstFit";

const Box = chakra("div");
const days = 7;

export type StartQuestion = {
  locationId: string;
  lines: LineRequest[];
  visitId?: string;
  /** Where the visit lies now: that is no place to move it to. */
  present?: string;
};

type Props = {
  question: StartQuestion;
  date: string;
  zone: string;
  /** A time somebody pointed at: the starts around it are shown, and why it does not fit if it does not. */
  near: string | null;
  chosen: Chosen | null;
  onChoose: (start: Chosen | null) => void;
  onCarry: (carried: Carried | null) => void;
  /** Somebody has pointed at a lane and a time in it. */
  onPoint: (practitionerId: string | null, start: string) => void;
  onDay: (date: string) => void;
};

/** The real starts of a day, with who and where; the same ones glow in the lanes. */
export function StartList({ question, date, zone, near: pointedAt, chosen, onChoose, onCarry, onPoint, onDay }: Props) {
  const [asked, setAsked] = useState<{ date: string; time: string } | null>(null);
  const isAsked = asked !== null && asked.date === date && /^\d\d:\d[05]$/.test(asked.time);
  // A time pointed at belongs to its own day; on another one nobody asked for it.
  const isPointed = pointedAt !== null && dateIn(pointedAt, zone) === date;
  const near = isAsked ? instantOf(date, asked.time, zone) : isPointed ? pointedAt : null;
  const { locationId, lines, visitId, present } = question;
  const practitionerId = lines[0]?.practitionerId ?? null;
  const [narrow, setNarrow] = useState(asWide);
  const found = useQuery(asks.starts({ locationId, lines, from: date, days, visitId: visitId ?? null, narrow }));
  const today = found.data?.find((day) => day.date === date);
  const pointed = near
    ? today?.starts.find((start) => start.start === near || Date.parse(start.start) === Date.parse(near))
    : undefined;
  const shown = useMemo(
    () => (today?.starts ?? []).filter((start) => start.onGrid || start === pointed || start.start === chosen?.start),
    [today, pointed, chosen],
  );
  const misses = near !== null && today !== undefined && !pointed;
  const whyNot = useQuery({
    ...asks.whyNot({ locationId, lines, start: near!, visitId: visitId ?? null, asClient: false }),
    enabled: misses,
  });

  // Whatever stands around it is said anew while the same is carried.
  const point = useRef(onPoint);
  useEffect(() => {
    point.current = onPoint;
  }, [onPoint]);
  useEffect(() => {
    onCarry({
      locationId,
      lines,
      visitId: visitId ?? null,
      chosen,
      present: present ?? null,
      narrow,
      // In another's lane they would take it over, and what fits is said for them.
      take: (place) =>
        present && !place.room && place.practitionerId !== practitionerId
          ? point.current(place.practitionerId, place.start)
          : onChoose(place),
      ask: (laneId, start) => point.current(laneId, start),
    });
  }, [locationId, lines, practitionerId, visitId, present, chosen, narrow, onChoose, onCarry]);
  useEffect(() => () => onCarry(null), [onCarry]);
  const first = useFirstFit({ question, narrow, date, zone, chosen, onChoose, onDay });
  useEffect(() => {
    if (pointed && !chosen) onChoose(pointed);
  }, [pointed, chosen, onChoose]);
  // A start that somebody else has taken meanwhile is not offered any longer; one that goes over something stands on its own day.
  useEffect(() => {
    if (!chosen || !today) return;
    const stands = chosen.accept
      ? dateIn(chosen.start, zone) === date
      : today.starts.some((start) => start.start === chosen.start);
    if (!stands) onChoose(null);
  }, [chosen, today, date, zone, onChoose]);

  const address = new URLSearchParams([
    ...lines.map((line) => ["service", line.serviceId]),
    ["location", locationId],
    ["date", date],
    ["as", "desk"],
    ...(practitionerId ? [["by", practitionerId]] : []),
    ...(near ? [["at", wallTime(near, zone)]] : []),
  ]).toString();
  const why = (
    <Link to={`/why-not?${address}`}>
      <Box as="span" textDecoration="underline" fontWeight="600">
        <Trans>Why not?</Trans>
      </Box>
    </Link>
  );
  const next = found.data?.find((day) => day.date > date && day.starts.length > 0);
  return (
    <Box>
      <Box display="flex" alignItems="center" justifyContent="space-between" mb="1.5">
        <Box as="h3" fontSize="text">
          <Trans>Fits on {longDate(date)}</Trans>
        </Box>
        <Box display="flex">
          <Press size="small" onClick={first.next} disabled={first.isLooking} aria-keyshortcuts="f">
            {chosen ? t`Next that fits` : t`First that fits`}
          </Press>
          <Press
            size="small"
            look="quiet"
            aria-label={t`Starts of the day before`}
            onClick={() => onDay(addDays(date, -1))}
          >
            ‹
          </Press>
          <Press
            size="small"
            look="quiet"
            aria-label={t`Starts of the day after`}
            onClick={() => onDay(addDays(date, 1))}
          >
            ›
          </Press>
        </Box>
      </Box>
      <NarrowPart locationId={locationId} narrow={narrow} onChange={setNarrow} />
      {found.isPending && (
        <Box aria-busy="true">
          <Trans>Looking what fits …</Trans>
        </Box>
      )}
      {found.error && <Box role="alert">{found.error.message}</Box>}
      {found.data && (
        <>
          {first.found === "nothing" && (
            <Box role="status" mb="2">
              <Trans>Nothing fits in the next two weeks. Try somebody else, or another length.</Trans>
            </Box>
          )}
          {misses && (
            <Box bg="glow" borderRadius="card" px="2.5" py="1.5" mb="2" fontSize="small">
              <b>
                {whyNot.data?.fits ? (
                  <Trans>{clock(near!, zone)} fits, but not as it is narrowed down.</Trans>
                ) : (
                  <Trans>{clock(near!, zone)} does not fit.</Trans>
                )}
              </b>{" "}
              {whyNot.data?.reasons
                .slice(0, 3)
                .map((reason) => reason.text)
                .join(" ")}{" "}
              {why}
              {whyNot.data?.anyway && (
                <Anyway
                  anyway={whyNot.data.anyway}
                  start={near!}
                  zone={zone}
                  chosen={chosen?.accept === whyNot.data.anyway.accept}
                  onChoose={onChoose}
                />
              )}
            </Box>
          )}
          {shown.length === 0 && (
            <Box mb="2">
              <Trans>
                Nothing fits on this day. {!misses && why}
                {next && (
                  <Press mt="1.5" size="small" onClick={() => onDay(next.date)}>
                    <Trans>
                      Next that fits: {shortDate(next.date)}, {timeWords(next.starts[0]!.clock)}
                    </Trans>
                  </Press>
                )}
              </Trans>
            </Box>
          )}
          <Box role="group" aria-label={t`Starts that fit`} display="grid" gap="1" maxH="60" overflowY="auto" p="0.5">
            {shown.map((start) => (
              <StartChoice
                key={start.start}
                start={start}
                zone={zone}
                on={start.start === chosen?.start}
                onChoose={() => onChoose(start)}
              />
            ))}
          </Box>
          <Box mt="2" maxW="37">
            <TimeField
              label={t`Another time`}
              value={asked?.date === date ? asked.time : ""}
              hint={asked?.date === date && !isAsked ? t`whole 5 minutes` : undefined}
              onChange={(time) => {
                setAsked({ date, time: time.slice(0, 5) });
                onChoose(null);
              }}
            />
          </Box>
        </>
      )}
    </Box>
  );
}

type ChoiceProps = { start: Start; zone: string; on: boolean; onChoose: () => void };

/** One start: when, by whom, where, until when, for how much. */
function StartChoice({ start, zone, on, onChoose }: ChoiceProps) {
  return (
    <Plain
      aria-pressed={on}
      ref={on ? (element: HTMLButtonElement | null) => element?.scrollIntoView({ block: "nearest" }) : undefined}
      onClick={onChoose}
      display="flex"
      alignItems="center"
      gap="3"
      textAlign="left"
      px="2.5"
      py="1"
      minH="11"
      cursor="pointer"
      borderWidth="line"
      borderColor={on ? "focus" : "line"}
      borderLeftWidth={on ? "band" : "line"}
      bg={on ? "glow" : "sheet"}
      borderRadius="card"
    >
      <Box as="span" fontWeight="700" fontSize="text">
        {timeWords(start.clock)}
      </Box>
      <Box as="span" flex="1" minW="0" fontSize="small" lineHeight="1.25">
        <Box as="span" display="block">
          {start.practitioner}
        </Box>
        <Box as="span" display="block" color="quiet">
          {[...start.rooms, t`until ${clock(start.end, zone)}`, start.outsideOpening ? t`outside opening hours` : ""]
            .filter(Boolean)
            .join(" · ")}
        </Box>
      </Box>
      <Box as="span" fontSize="small">
        {money(start.price)}
      </Box>
    </Plain>
  );
}
