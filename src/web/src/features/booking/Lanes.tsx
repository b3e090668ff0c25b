import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useRef, type MouseEvent } from "react";
import { asks } from "../../api/queries";
import type { Day, Lane, Visit } from "../../api/staff";
import { longDate } from "../../shared/format";
import { headWidth, idlePixels } from "../../theme/book";
import { blocksOf } from "./blocks";
import { lightsAsked, type Carried } from "./carry/carried";
import { lightsByLane } from "./carry/lights";
import { useCarrying, putDown, spotAt } from "./carry/useCarrying";
import { useDragging } from "./carry/useDragging";
import { useDrawing, type Drawn } from "./carry/useDrawing";
import { usePutting } from "./carry/usePutting";
import { useStretchKeys } from "./carry/useStretchKeys";
import { Hours } from "./Hours";
import { LaneRow } from "./LaneRow";
import { asWide } from "./NarrowPart";
import { LightMarks } from "./LightMarks";
import { Overlay } from "./Overlay";
import { makeScale } from "./scale";
import type { Opening } from "./useOpening";
import { useBookView } from "./view/useBookView";
import { useFit } from "./view/useFit";
import { useNear } from "./view/useNear";
import { usePressed } from "./view/usePressed";
import { useRoving } from "./view/useRoving";
import { useSettled } from "./view/useSettled";
import { WholeDay } from "./view/WholeDay";

const Box = chakra("div");
/** Height of the hours above the lanes. */
const hoursHeight = 24;

/** What is asked while nothing is carried: nothing, for it is not asked. */
const nothing = { locationId: "", lines: [], visitId: null, present: null, narrow: asWide };

type Props = {
  day: Day;
  chosen: string | null;
  /** The instant that was pointed at, which has to stay in sight. */
  at: string | null;
  /** Pixels at the right that a sheet lies over. */
  covered: number;
  carried: Carried | null;
  onVisit: (id: string) => void;
  onFree: ((practitionerId: string | null, at: string) => void) | undefined;
  /** Opens what holds in a lane; missing where this person may not change it. */
  onLane?: ((laneId: string) => void) | undefined;
  /** Picks up a visit that is dragged; null where this person may not. */
  pickUp: ((visit: Visit) => void) | null;
  letGo: () => void;
  /** Takes an edge of working time that was pulled; missing where this person may not. */
  onEdge?: Opening["edge"] | undefined;
  /** Takes the new length of a line; missing where this person may not. */
  onStretch: ((visit: Visit, lineId: string, minutes: number) => void) | undefined;
  /** Makes a line longer by so many minutes, or shorter. */
  onStretchBy: ((visit: Visit, lineId: string, minutes: number) => void) | undefined;
  /** Takes a stretch that was drawn over free time; missing where this person may not. */
  onDraw: ((drawn: Drawn) => void) | undefined;
};

/** Time from left to right, a lane for everyone and everything. */
export function Lanes(props: Props) {
  const { day, at, covered, carried, onFree, onLane, pickUp, letGo, onStretch, onStretchBy, onDraw, onEdge } = props;
  const [chosen, onVisit] = usePressed(props.chosen, props.onVisit);
  const scale = useMemo(() => makeScale(day.from, day.until), [day.from, day.until]);
  const blocks = useMemo(() => blocksOf(day), [day]);
  const picture = useRef<HTMLDivElement>(null);
  const layer = useRef<HTMLDivElement>(null);
  const visit = day.visits.find((other) => other.id === chosen);
  const all: [string, Lane["kind"]][] = [
    [t`Practitioners`, "practitioner"],
    [t`Rooms`, "room"],
    [t`Equipment`, "equipment"],
  ];
  const groups = all.filter(([, kind]) => day.lanes.some((lane) => lane.kind === kind));
  const isIdle = (lane: Lane) => lane.kind === "practitioner" && lane.open.length === 0 && !blocks.has(lane.id);
  const count = (kind: Lane["kind"]) => day.lanes.filter((lane) => lane.kind === kind && !isIdle(lane)).length;
  const start = carried?.chosen?.start ?? visit?.start ?? at;
  const end =
    carried?.chosen?.end ??
    visit?.claims.reduce((last, claim) => (claim.coreUntil > last ? claim.coreUntil : last), visit.start);
  const show = useMemo(() => (start ? { from: start, until: end ?? start } : null), [start, end]);
  const { root, scroller, slider, minutes, isMeasured, opening, zoom, scrollTo } = useBookView({
    day,
    counts: { practitioner: count("practitioner"), room: count("room"), equipment: count("equipment") },
    besides: hoursHeight + (groups.length - 1) * 16 + day.lanes.filter(isIdle).length * idlePixels,
    covered,
    show,
  });
  const ids = useMemo(() => (isMeasured ? day.lanes.map((lane) => lane.id) : []), [day.lanes, isMeasured]);
  const isSettled = useSettled(`${day.locationId} ${day.date}`);
  const isNear = useNear(scroller, picture, ids);
  useFit(
    picture,
    minutes,
    useMemo(() => ({ blocks, isNear, isSettled }), [blocks, isNear, isSettled]),
  );
  const asked = useQuery({
    ...asks.lights(lightsAsked(carried ?? nothing, day.date)),
    enabled: carried !== null && carried.lines.length > 0,
  });
  const glow = carried ? asked.data?.days[0] : undefined;
  const lights = useMemo(() => (glow ? lightsByLane(glow) : null), [glow]);
  useCarrying({ picture, layer, day, scale, carried, lights });
  useDragging({ picture, day, scale, carried, lights, pickUp, letGo });
  useDrawing({ picture, layer, day, scale, onDraw, onStretch, onEdge });
  useStretchKeys({ day, onStretchBy });
  usePutting({ date: day.date, zone: day.zone, carried, lights });
  const keys = useRoving(picture);
  const place = (event: MouseEvent) => {
    // A visit that is pressed is opened, whatever is carried over it.
    // Nor does the press that ends a drag put down what a sheet carries.
    const dropped = Number(picture.current?.dataset["dropped"] ?? -Infinity);
    if (performance.now() - dropped < 100) return;
    if (!carried || !lights || (event.target as HTMLElement).closest("[data-visit]")) return;
    const spot = spotAt(event.clientX, event.clientY, scale);
    if (!spot || spot.kind === "equipment") return;
    event.stopPropagation();
    putDown(carried, lights, spot, day.zone);
  };
  return (
    <Box ref={root} h="100%" display="flex" flexDirection="column">
      <WholeDay {...{ day, blocks, lights, slider, minutes, zoom, scrollTo }} />
      <Box
        ref={scroller}
        flex="1"
        minH="0"
        overflow="auto"
        scrollbarGutter="stable"
        position="relative"
        tabIndex={0}
        role="region"
        aria-label={t`Lanes`}
        style={{ scrollPaddingInline: `${headWidth} ${covered}px`, scrollPaddingTop: hoursHeight }}
      >
        <Box
          ref={picture}
          position="relative"
          role="grid"
          aria-label={t`Visits by lane`}
          data-carrying={carried ? "" : undefined}
          onClickCapture={place}
          onKeyDown={keys}
          style={{ width: `calc(${headWidth} + var(--track))` }}
        >
          <Hours day={day} scale={scale} />
          {day.closed && (
            <Box role="status" bg="glow" px="3.5" py="2" fontWeight="600">
              <Trans>
                Closed on {longDate(day.date)}: {day.closed}.
              </Trans>
            </Box>
          )}
          {(isMeasured ? groups : []).map(([title, kind]) => (
            <Box role="rowgroup" key={kind} aria-label={title}>
              {kind !== "practitioner" && (
                <Box bg="woven" fontSize="small" color="quiet" h="4" lineHeight="1" aria-hidden>
                  <Box position="sticky" left="0" zIndex={8} w={headWidth} h="100%" px="2.5" bg="woven">
                    {title}
                  </Box>
                </Box>
              )}
              {day.lanes
                .filter((lane) => lane.kind === kind)
                .map((lane) => (
                  <LaneRow
                    key={lane.id}
                    lane={lane}
                    idle={isIdle(lane)}
                    zone={day.zone}
                    scale={scale}
                    isNear={isNear(lane.id)}
                    only={isSettled ? null : opening}
                    blocks={blocks.get(lane.id)}
                    chosen={blocks.get(lane.id)?.some((block) => block.visit.id === chosen) ? chosen : null}
                    onVisit={onVisit}
                    onFree={onFree}
                    onLane={onLane}
                  />
                ))}
            </Box>
          ))}
          {isMeasured && <Overlay day={day} scale={scale} visit={visit} picture={picture} />}
          <Box
            position="absolute"
            inset="0"
            pointerEvents="none"
            zIndex={7}
            aria-hidden
            style={{ left: headWidth, right: 0 }}
          >
            {lights && <LightMarks picture={picture} lights={lights} chosen={carried?.chosen ?? null} scale={scale} />}
            <Box ref={layer} className="kc-ghosts" />
          </Box>
        </Box>
        {/* What a sheet lies over can be scrolled into sight; the lanes are not laid out anew for it. */}
        <Box
          aria-hidden
          position="absolute"
          top="0"
          h="px"
          style={{ left: `calc(${headWidth} + var(--track))`, width: covered }}
        />
      </Box>
    </Box>
  );
}
