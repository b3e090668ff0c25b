import { Plain } from "../../../shared/Plain";
import { chakra } from "@chakra-ui/react";
import { useInfiniteQuery } from "@tanstack/react-query";
import { visitors, type Day } from "../../../api/public";
import { longDate, shortDate } from "../../../shared/format";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import type { Wish } from "./BookingPage";
import { linesOf } from "./lines";
import { useStaff, whyNotPath } from "./OwnersView";

const Box = chakra("div");
const Span = chakra("span");
const parts: [string, number, number][] = [
  ["Morning", 0, 12],
  ["Afternoon", 12, 17],
  ["Evening", 17, 25],
];
const minutes = (text: string) => Number(text.slice(0, 2)) * 60 + Number(text.slice(3, 5));

/** Days as rows: how much is left in words, a ribbon of where, the times by part of day. */
export function Days({
  wish,
  phone,
  onChoose,
  onReturning,
}: {
  wish: Wish;
  phone: string | null;
  onChoose: (start: string) => void;
  onReturning: () => void;
}) {
  const found = useInfiniteQuery({
    queryKey: [
      "starts",
      wish.locationId,
      wish.service.id,
      wish.practitionerId,
      wish.addOnIds,
      wish.returning,
      wish.after,
    ],
    initialPageParam: null as string | null,
    queryFn: ({ pageParam }) =>
      answerOf(
        visitors.POST("/api/public/v1/starts", {
          body: {
            locationId: wish.locationId,
            lines: linesOf(wish),
            from: pageParam,
            days: 14,
            returning: wish.returning,
            after: wish.after,
            link: wish.link,
          },
        }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
    staleTime: 0,
  });
  const staff = useStaff();
  if (found.isPending) return <Box role="status">Looking for free times …</Box>;
  if (found.error) return <Box role="alert">{found.error.message}</Box>;
  const pages = found.data.pages;
  const days = pages.flatMap((page) => page.days);
  const free = days.some((day) => day.starts.length > 0);
  return (
    <Box display="grid" gap="10px">
      <Box as="h2" fontSize="20px">
        {free ? "Next free times" : "No free time in these days"}
      </Box>
      {pages.every((page) => page.onlyReturning) && (
        <Box
          bg="sheet"
          borderWidth="1px"
          borderColor="line"
          borderRadius="card"
          p="14px"
          display="grid"
          gap="8px"
          justifyItems="start"
        >
          This is for clients who have been here before.
          <Press look="primary" onClick={onReturning}>
            I have been here before
          </Press>
        </Box>
      )}
      {!free && !pages.every((page) => page.onlyReturning) && (
        <Box>
          Look further ahead, choose whoever is free, or call us
          {phone && (
            <>
              {" "}
              on <a href={`tel:${phone.replaceAll(" ", "")}`}>{phone}</a>
            </>
          )}
          .
        </Box>
      )}
      {inRuns(days).map((run) =>
        run.length === 1 ? (
          <DayRow
            key={run[0]!.date}
            day={run[0]!}
            onChoose={onChoose}
            why={staff ? whyNotPath(wish, run[0]!.date) : null}
          />
        ) : (
          <Box
            key={run[0]!.date}
            bg="woven"
            borderWidth="1px"
            borderColor="line"
            borderRadius="card"
            px="14px"
            py="9px"
            color="quiet"
          >
            {shortDate(run[0]!.date)} to {shortDate(run.at(-1)!.date)}: nothing free
            {staff && <WhyNot href={whyNotPath(wish, run[0]!.date)} day={longDate(run[0]!.date)} />}
          </Box>
        ),
      )}
      {found.hasNextPage && (
        <Press size="big" disabled={found.isFetchingNextPage} onClick={() => void found.fetchNextPage()}>
          Later days
        </Press>
      )}
    </Box>
  );
}

/** Days without a time that follow each other become one row, so that the first free times are seen at once. */
function inRuns(days: Day[]): Day[][] {
  const runs: Day[][] = [];
  for (const day of days) {
    const before = runs.at(-1);
    if (day.starts.length === 0 && before?.at(-1)?.starts.length === 0) before.push(day);
    else runs.push([day]);
  }
  return runs;
}

/** For whoever is signed in: the same question with all its reasons. */
const WhyNot = ({ href, day }: { href: string; day: string }) => (
  <Box as="a" {...{ href, target: "_blank" }} ml="12px" textDecoration="underline" color="water">
    Why not?<Span srOnly> {day}</Span>
  </Box>
);

function DayRow({ day, onChoose, why }: { day: Day; onChoose: (start: string) => void; why: string | null }) {
  const words =
    {
      closed: day.closed ? `closed: ${day.closed}` : "closed",
      full: "nothing free",
      few: `${day.starts.length} left`,
      plenty: "plenty",
    }[day.left] ?? day.left;
  const none = day.starts.length === 0;
  return (
    <Box
      as="section"
      aria-label={`${longDate(day.date)}, ${words}`}
      bg={none ? "woven" : "sheet"}
      borderWidth="1px"
      borderColor="line"
      borderRadius="card"
      px="14px"
      py={none ? "9px" : "12px"}
    >
      <Box display="flex" justifyContent="space-between" gap="12px">
        <Box as="h3" fontSize="17px" color={none ? "quiet" : "ink"}>
          {longDate(day.date)}
        </Box>
        <Box color="quiet" fontSize="16px">
          {words}
          {why && <WhyNot href={why} day={longDate(day.date)} />}
        </Box>
      </Box>
      {!none && <Ribbon day={day} />}
      {parts.map(([name, from, until]) => {
        // Times the house would rather keep come after the others.
        const starts = day.starts
          .filter((start) => minutes(start.clock) >= from * 60 && minutes(start.clock) < until * 60)
          .sort((a, b) => Number(a.last) - Number(b.last));
        return (
          starts.length > 0 && (
            <Box key={name} display="flex" gap="10px" mt="9px" alignItems="start">
              <Box w="84px" flexShrink={0} color="quiet" fontSize="16px" pt="9px">
                {name}
              </Box>
              <Box display="flex" flexWrap="wrap" gap="7px">
                {starts.map((start) => (
                  <Plain
                    key={start.start}
                    aria-label={`${longDate(day.date)}, ${start.clock}`}
                    onClick={() => onChoose(start.start)}
                    minH="42px"
                    px="12px"
                    fontWeight="700"
                    color="water"
                    bg="sheet"
                    borderWidth="1.5px"
                    borderColor="water"
                    borderRadius="card"
                    cursor="pointer"
                    _hover={{ bg: "glow" }}
                  >
                    {start.clock}
                  </Plain>
                ))}
              </Box>
            </Box>
          )
        );
      })}
    </Box>
  );
}

/** Where in the opening hours the free times lie. */
function Ribbon({ day }: { day: Day }) {
  const opens = minutes(day.opens ?? "00:00");
  const length = Math.max(1, minutes(day.closes ?? "24:00") - opens);
  return (
    <Box aria-hidden position="relative" h="6px" bg="woven" borderRadius="3px" mt="8px" overflow="hidden">
      {day.starts.map((start) => (
        <Box
          key={start.start}
          position="absolute"
          top="0"
          bottom="0"
          bg="full"
          style={{ left: `${((minutes(start.clock) - opens) / length) * 100}%`, width: `${(15 / length) * 100}%` }}
        />
      ))}
    </Box>
  );
}
