import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Plain } from "../../shared/Plain";
import { chakra } from "@chakra-ui/react";
import { useEffect, useMemo, useState, type MouseEvent } from "react";
import type { Day, Lane, Visit } from "../../api/staff";
import { clock, clockRange, longDate, timeWords } from "../../shared/format";
import { blocksOf, type Block } from "./blocks";
import { BlockMark } from "./BlockMark";
import type { Fit } from "./fits";
import { hatched, headWidth, woven } from "../../theme/book";
import { makeScale, type Scale } from "./scale";

const Box = chakra("div");

type Props = {
  day: Day;
  chosen: string | null;
  fits: Fit[] | null;
  onVisit: (id: string) => void;
  onFree: ((practitionerId: string | null, at: string) => void) | undefined;
};

/** Time from left to right, a lane for everyone and everything. */
export function Lanes({ day, chosen, fits, onVisit, onFree }: Props) {
  const scale = useMemo(() => makeScale(day.from, day.until), [day.from, day.until]);
  const blocks = useMemo(() => blocksOf(day), [day]);
  const visit = day.visits.find((other) => other.id === chosen);
  const all: [string, Lane["kind"]][] = [
    [t`Practitioners`, "practitioner"],
    [t`Rooms`, "room"],
    [t`Equipment`, "equipment"],
  ];
  const groups = all.filter(([, kind]) => day.lanes.some((lane) => lane.kind === kind));
  return (
    <Box h="100%" overflow="auto" position="relative" tabIndex={0} role="region" aria-label={t`Lanes`}>
      <Box minW="200" position="relative" pb="2.5">
        <Hours day={day} scale={scale} />
        {day.closed && (
          <Box role="status" bg="glow" px="3.5" py="2" fontWeight="600">
            <Trans>
              Closed on {longDate(day.date)}: {day.closed}.
            </Trans>
          </Box>
        )}
        {groups.map(([title, kind]) => (
          <Box as="section" key={kind} aria-label={title}>
            {kind !== "practitioner" && (
              <Box
                bg="woven"
                borderBottomWidth="line"
                borderColor="line"
                px="3"
                fontSize="small"
                color="quiet"
                h="5"
                lineHeight="shorter"
              >
                {title}
              </Box>
            )}
            {day.lanes
              .filter((lane) => lane.kind === kind)
              .map((lane) => (
                <LaneRow
                  key={lane.id}
                  lane={lane}
                  day={day}
                  scale={scale}
                  blocks={blocks.get(lane.id) ?? []}
                  chosen={chosen}
                  fits={
                    fits?.filter((fit) =>
                      kind === "practitioner"
                        ? fit.start.practitionerId === lane.id
                        : fit.start.rooms.includes(lane.name) && kind === "room",
                    ) ?? null
                  }
                  onVisit={onVisit}
                  onFree={onFree}
                />
              ))}
          </Box>
        ))}
        <Overlay day={day} scale={scale} visit={visit} />
      </Box>
    </Box>
  );
}

function Hours({ day, scale }: { day: Day; scale: Scale }) {
  return (
    <Box
      position="sticky"
      top="0"
      zIndex={12}
      h="6"
      bg="paper"
      borderBottomWidth="line"
      borderColor="line"
      display="flex"
    >
      <Box w={headWidth} flexShrink={0} />
      <Box flex="1" position="relative">
        {day.hours.map((hour) => (
          <Box
            key={hour.at}
            position="absolute"
            top="1"
            fontSize="small"
            color="quiet"
            style={{ left: `${scale.at(hour.at)}%` }}
            pl="0.5"
          >
            {hour.label}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

type RowProps = Omit<Props, "fits"> & { lane: Lane; scale: Scale; blocks: Block[]; fits: Fit[] | null };

function LaneRow({ lane, day, scale, blocks, chosen, fits, onVisit, onFree }: RowProps) {
  const isPractitioner = lane.kind === "practitioner";
  const idle = isPractitioner && lane.open.length === 0 && blocks.length === 0;
  const height = isPractitioner ? (idle ? 20 : 38) : lane.kind === "room" ? 25 : 23;
  const press = (event: MouseEvent<HTMLElement>) => {
    if (!onFree) return;
    const box = event.currentTarget.getBoundingClientRect();
    onFree(isPractitioner ? lane.id : null, scale.instantAt((event.clientX - box.left) / box.width));
  };
  return (
    <Box display="flex" borderBottomWidth="line" borderColor="line" style={{ height }} data-lane={lane.name}>
      <LaneHead lane={lane} idle={idle} />
      <Box flex="1" position="relative" css={woven} data-track onClick={press} cursor={onFree ? "copy" : undefined}>
        {lane.open.map((open) => (
          <Box
            key={open.from}
            position="absolute"
            top="0"
            bottom="0"
            bg="sheet"
            style={scale.span(open.from, open.until)}
          />
        ))}
        {day.hours.map((hour) => (
          <Box
            key={hour.at}
            position="absolute"
            top="0"
            bottom="0"
            borderLeftWidth="line"
            borderColor="line"
            opacity={0.6}
            style={{ left: `${scale.at(hour.at)}%` }}
          />
        ))}
        {lane.blocked.map((block) => (
          <Box
            key={block.from}
            position="absolute"
            top="0"
            bottom="0"
            css={hatched}
            overflow="hidden"
            fontSize="small"
            color="quiet"
            px="1"
            whiteSpace="nowrap"
            title={`${block.reason}, ${clockRange(block.from, block.until, day.zone)}`}
            style={{ ...scale.span(block.from, block.until), lineHeight: `${height - 2}px` }}
          >
            {block.reason}
          </Box>
        ))}
        {blocks.map((block) => (
          <BlockMark
            key={block.key}
            block={block}
            zone={day.zone}
            scale={scale}
            tall={isPractitioner}
            chosen={block.visit.id === chosen}
            dim={fits !== null && block.visit.id !== chosen}
            onOpen={() => onVisit(block.visit.id)}
          />
        ))}
        {fits?.map((fit) => (
          <FitLight key={fit.start.start} fit={fit} scale={scale} pressable={isPractitioner} />
        ))}
      </Box>
    </Box>
  );
}

function LaneHead({ lane, idle }: { lane: Lane; idle: boolean }) {
  const units = lane.units > 1 ? ` ×${lane.units}` : lane.kind === "equipment" ? " ×1" : "";
  return (
    <Box
      w={headWidth}
      flexShrink={0}
      borderRightWidth="line"
      borderColor="line"
      bg="sheet"
      px="2.5"
      position="sticky"
      left="0"
      zIndex={8}
      display="flex"
      flexDirection="column"
      justifyContent="center"
      overflow="hidden"
    >
      {lane.kind === "practitioner" && !idle ? (
        <>
          <Box fontWeight="700" lineHeight="1.2" whiteSpace="nowrap">
            {lane.name}
          </Box>
          <Box fontSize="small" color="quiet" lineHeight="1.2" whiteSpace="nowrap">
            {lane.detail}
            {lane.fullness !== null && ` · ${lane.fullness} %`}
          </Box>
          {lane.fullness !== null && (
            <Box
              position="absolute"
              right="0"
              bottom="0"
              w="1"
              bg="full"
              aria-hidden
              style={{ height: `${lane.fullness}%` }}
            />
          )}
        </>
      ) : (
        <Box whiteSpace="nowrap" fontSize="small" overflow="hidden" textOverflow="ellipsis" title={lane.detail}>
          <Box as="span" fontWeight={idle ? "400" : "700"} color={idle ? "quiet" : "ink"}>
            {lane.name}
            {units}
          </Box>{" "}
          <Box as="span" color="quiet">
            {lane.detail}
          </Box>
        </Box>
      )}
    </Box>
  );
}

function FitLight({ fit, scale, pressable }: { fit: Fit; scale: Scale; pressable: boolean }) {
  const look = {
    position: "absolute",
    top: "1",
    bottom: "1",
    w: "1.5",
    borderRadius: "mark",
    bg: "kingcup",
    boxShadow: fit.chosen ? "fitChosen" : "fit",
    zIndex: 6,
  } as const;
  const style = { left: `${scale.at(fit.start.start)}%` };
  // The list in the sheet is the way for the keyboard; the lights repeat it for the pointer.
  return pressable ? (
    <Plain
      tabIndex={-1}
      aria-hidden
      title={`${timeWords(fit.start.clock)} ${fit.start.practitioner}`}
      cursor="pointer"
      css={look}
      style={style}
      onClick={(event) => {
        event.stopPropagation();
        fit.choose();
      }}
    />
  ) : (
    <Box aria-hidden css={look} style={style} />
  );
}

/** The thread through the lanes of the chosen visit, and the line that says now. */
function Overlay({ day, scale, visit }: { day: Day; scale: Scale; visit: Visit | undefined }) {
  const now = useNow(day.now);
  const inView = now >= Date.parse(day.from) && now <= Date.parse(day.until);
  const at = new Date(now).toISOString();
  return (
    <Box
      position="absolute"
      top="0"
      bottom="0"
      right="0"
      pointerEvents="none"
      style={{ left: headWidth }}
      zIndex={13}
      aria-hidden
    >
      {visit && (
        <Box
          position="absolute"
          top="6"
          bottom="0"
          borderLeftWidth="mark"
          borderColor="kingcup"
          style={{ left: `${scale.at(visit.start)}%` }}
        />
      )}
      {inView && (
        <Box
          position="absolute"
          top="0"
          bottom="0"
          borderLeftWidth="mark"
          borderColor="kingcup"
          style={{ left: `${scale.at(at)}%` }}
        >
          <Box
            position="sticky"
            top="0.5"
            w="max-content"
            px="1"
            transform="translateX(-50%)"
            whiteSpace="nowrap"
            borderRadius="mark"
            bg="kingcup"
            color="onKingcup"
            fontWeight="700"
            fontSize="small"
            lineHeight="shorter"
          >
            {clock(at, day.zone)}
          </Box>
        </Box>
      )}
    </Box>
  );
}

/** The present by the server's clock, to the half minute. */
function useNow(server: string) {
  const [now, setNow] = useState(() => Date.parse(server));
  useEffect(() => {
    const seen = { server: Date.parse(server), here: performance.now() };
    const tick = () => setNow(seen.server + performance.now() - seen.here);
    const timer = setInterval(tick, 20_000);
    const first = setTimeout(tick, 0);
    return () => {
      clearInterval(timer);
      clearTimeout(first);
    };
  }, [server]);
  return now;
}
