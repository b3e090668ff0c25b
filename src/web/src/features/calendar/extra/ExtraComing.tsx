import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { asks } from "../../../api/queries";
import type { ExtraShifts, Shift } from "../../../api/setup";
import { shortDate } from "../../../shared/format";
import { Box, Stack } from "../../../shared/layout";
import { Problem } from "../../../shared/problem";
import { Piece, type Look } from "../../../shared/ribbon/Piece";
import { RibbonRow, Ribbons } from "../../../shared/ribbon/Ribbons";
import { stretchWords } from "../../../shared/ribbon/scale";
import { Strip } from "../../../shared/ribbon/Strip";
import { scaleToDraw } from "../../../shared/ribbon/stretch";
import { useDeskSetup } from "../../../shared/today";
import { stretchOf } from "../../../shared/week/stretchOf";
import { keptWords } from "../../team/rota/KeptFor";

/** More than these are counted, not drawn. */
const mostDrawn = 15;

// The server says what is new; a piece is found again by when and for what it is.
const isSame = (one: Shift, other: Shift) =>
  one.from === other.from && one.until === other.until && keptIds(one) === keptIds(other);
const keptIds = (shift: Shift) => [...(shift.serviceIds ?? []), ...(shift.categoryIds ?? [])].join();

/** What would come of extra shifts: each day of somebody as they would work it, what is new of it standing out. */
export function ExtraComing({ extra }: { extra: ExtraShifts }) {
  const setup = useDeskSetup();
  const tried = useQuery({ ...asks.extraTried(extra), placeholderData: (before) => before });
  if (tried.error)
    return (
      <Box role="alert" color="clay">
        {tried.error instanceof Problem
          ? (Object.values(tried.error.errors)[0] ?? tried.error.message)
          : tried.error.message}
      </Box>
    );
  if (!tried.data) return <Box aria-busy="true">{t`Looking what would come of it …`}</Box>;
  const { days } = tried.data;
  const unchanged = Number(tried.data.unchanged);
  const name = (id: string) => setup.practitioners.find((person) => person.id === id)?.name ?? "";
  const drawn = days.slice(0, mostDrawn);
  const scale = scaleToDraw(drawn.flatMap((day) => day.after.map(stretchOf)));
  return (
    <Stack gap="2" opacity={tried.isFetching ? 0.6 : 1} aria-live="polite">
      <Box as="h2" fontSize="text">
        {days.length === 0
          ? t`Nothing would change`
          : plural(days.length, { one: "# day would change", other: "# days would change" })}
      </Box>
      {drawn.length > 0 && (
        <Ribbons label={t`What would come of it`} scale={scale}>
          {drawn.map((day) => (
            <RibbonRow key={day.date + day.practitionerId} name={name(day.practitionerId)} note={shortDate(day.date)}>
              <Strip label={t`${name(day.practitionerId)}, ${shortDate(day.date)}`}>
                {day.after.map((shift) => {
                  const isNew = day.added.some((other) => isSame(shift, other));
                  const look: Look = isNew ? "changed" : "shift";
                  const kept = keptIds(shift) ? keptWords(shift, setup) : "";
                  return (
                    <Piece
                      key={shift.from}
                      stretch={stretchOf(shift)}
                      look={look}
                      label={[isNew ? t`new` : t`as now`, kept].filter(Boolean).join(", ")}
                      text={[stretchWords(stretchOf(shift)), kept].filter(Boolean).join(" · ")}
                    />
                  );
                })}
              </Strip>
            </RibbonRow>
          ))}
        </Ribbons>
      )}
      <Box color="quiet" fontSize="small">
        {days.length > mostDrawn && plural(days.length - mostDrawn, { one: "And # more.", other: "And # more." }) + " "}
        {unchanged > 0 &&
          plural(unchanged, {
            one: "# day stays as it is: the location is closed then, or they work all of that time already.",
            other: "# days stay as they are: the location is closed then, or they work all of that time already.",
          })}
      </Box>
      {days.length > 0 && (
        <Box color="quiet" fontSize="small">
          <Trans>What is new is blue. Nothing that is booked is moved.</Trans>
        </Box>
      )}
    </Stack>
  );
}
