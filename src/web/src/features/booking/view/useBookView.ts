import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Day } from "../../../api/staff";
import { clockRange } from "../../../shared/format";
import { headPixels } from "../../../theme/book";
import { hoursKept } from "./hoursKept";
import { heightsOf, scrollKeeping, scrollShowing, trackWidth, zoomed, type Heights } from "./measure";
import { usePinch } from "./usePinch";
import { useZoomKeys } from "./useZoomKeys";

/** A stretch of the day, as instants. */
export type Stretch = { from: string; until: string };

type Wanted = {
  day: Day;
  /** How many lanes there are of each kind, those that are nearly nothing left out. */
  counts: Heights;
  /** Height of what is no lane. */
  besides: number;
  /** Pixels at the right that a sheet lies over. */
  covered: number;
  /** What has to be in sight. */
  show: Stretch | null;
};

/**
 * The view of the book: how many minutes a pixel is, what of the day is in sight, how tall the lanes are. It writes measures into
 * the styles of the picture, so that scrolling and zooming draw nothing anew. The lanes are drawn once it has measured the room
 * there is: their styles are worked out once.
 */
export function useBookView({ day, counts, besides, covered, show }: Wanted) {
  const root = useRef<HTMLDivElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const slider = useRef<HTMLDivElement>(null);
  const hours = useRef(hoursKept.read());
  // The room there is, measured where it changes and not whenever something is laid out.
  const space = useRef<{ width: number; height: number } | null>(null);
  const [isMeasured, setMeasured] = useState(false);
  const first = Date.parse(day.from);
  const minutes = (Date.parse(day.until) - first) / 60_000;
  const { practitioner, room, equipment } = counts;

  /** Says in the strip of the whole day what is in sight. */
  const tell = useCallback(() => {
    const [box, at] = [scroller.current, slider.current];
    if (!box || !at) return;
    const width = trackOf(root.current);
    const seen = { from: box.scrollLeft / width, until: Math.min(1, (box.scrollLeft + roomOf(box)) / width) };
    at.style.left = `${seen.from * 100}%`;
    at.style.width = `${(seen.until - seen.from) * 100}%`;
    const instant = (share: number) => new Date(first + Math.round((share * minutes) / 5) * 5 * 60_000).toISOString();
    at.setAttribute("aria-valuenow", String(Math.round(seen.from * minutes)));
    at.setAttribute("aria-valuetext", clockRange(instant(seen.from), instant(seen.until), day.zone));
  }, [day.zone, first, minutes]);

  const lay = useCallback(() => {
    const [box, at] = [scroller.current, root.current];
    if (!box || !at) return;
    space.current ??= { width: roomOf(box), height: box.clientHeight };
    at.style.setProperty("--track", `${trackWidth(space.current.width, minutes, hours.current)}px`);
    const heights = heightsOf({ practitioner, room, equipment }, space.current.height - besides);
    for (const [kind, height] of Object.entries(heights)) at.style.setProperty(`--${kind}`, `${height}px`);
    tell();
  }, [besides, equipment, minutes, practitioner, room, tell]);

  /** Zooms by a factor; the minute under a place of the room stays there. */
  const zoom = useCallback(
    (factor: number, place?: number) => {
      const box = scroller.current;
      if (!box) return;
      const at = place ?? roomOf(box) / 2;
      const minute = ((box.scrollLeft + at) / trackOf(root.current)) * minutes;
      hours.current = zoomed(hours.current, factor, minutes);
      hoursKept.write(hours.current);
      lay();
      box.scrollLeft = scrollKeeping(minute, at, trackOf(root.current), minutes);
    },
    [lay, minutes],
  );

  /** Brings a minute of the day to the left edge. */
  const scrollTo = useCallback(
    (minute: number) => {
      if (scroller.current) scroller.current.scrollLeft = (minute / minutes) * trackOf(root.current);
    },
    [minutes],
  );

  useLayoutEffect(() => {
    lay();
    // Measured first, drawn after, before anything is painted: otherwise all styles would be worked out twice.
    // eslint-disable-next-line react-hooks/set-state-in-effect
    setMeasured(true);
    const box = scroller.current!;
    const seen = new ResizeObserver(() => {
      space.current = null;
      lay();
    });
    seen.observe(box);
    box.addEventListener("scroll", tell, { passive: true });
    return () => {
      seen.disconnect();
      box.removeEventListener("scroll", tell);
    };
  }, [lay, tell]);

  // A day that comes begins around now, or where its work begins.
  const begin = useMemo(() => beginOf(day), [day]);
  const opening = useMemo(() => openingOf(begin, hoursKept.read()), [begin]);
  useLayoutEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const minute = (Date.parse(begin.at) - first) / 60_000;
    box.scrollLeft = scrollKeeping(minute, roomOf(box) * begin.share, trackOf(root.current), minutes);
    // Only a day that comes moves the book; news of the same day do not.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [day.locationId, day.date]);

  useEffect(() => {
    const box = scroller.current;
    if (!box || !show) return;
    const pixels = (instant: string) => ((Date.parse(instant) - first) / 60_000 / minutes) * trackOf(root.current);
    const free = roomOf(box) - covered;
    box.scrollLeft = scrollShowing(
      pixels(show.from),
      pixels(show.until),
      box.scrollLeft,
      free > 90 ? free : roomOf(box),
    );
  }, [covered, first, minutes, show]);

  useZoomKeys(zoom);
  usePinch(scroller, zoom);
  return useMemo(
    () => ({ root, scroller, slider, minutes, isMeasured, opening, zoom, scrollTo }),
    [minutes, isMeasured, opening, scrollTo, zoom],
  );
}

export type BookView = ReturnType<typeof useBookView>;

const roomOf = (box: HTMLElement) => Math.max(1, box.clientWidth - headPixels);
const trackOf = (root: HTMLElement | null) => Math.max(1, parseFloat(root?.style.getPropertyValue("--track") ?? "1"));

/** What of a day is in sight when it comes, with something to spare. */
function openingOf({ at, share }: { at: string; share: number }, hours: number): Stretch {
  const instant = (shares: number) => new Date(Date.parse(at) + shares * hours * 3_600_000).toISOString();
  return { from: instant(-share - 0.2), until: instant(1.2 - share) };
}

/** Where a day begins to be looked at: now a quarter into the room, otherwise the first shift at its edge. */
function beginOf(day: Day): { at: string; share: number } {
  if (day.now >= day.from && day.now <= day.until) return { at: day.now, share: 0.25 };
  const opens = day.lanes
    .filter((lane) => lane.kind === "practitioner")
    .flatMap((lane) => lane.open.map((open) => open.from));
  return { at: opens.reduce((a, b) => (a < b ? a : b), day.until), share: 0.03 };
}
