import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type Client, type DeskSetup, type Visit } from "../../api/staff";
import { Floating } from "../../shared/Floating";
import { addDays, longDate, mondayOf, shortDate, weekday } from "../../shared/format";
import { Month } from "../../shared/fields/Month";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { wide } from "../../theme/media";
import { sentence } from "../../theme/recipes/sentence";
import { ViewSelect } from "./views/ViewSelect";
import { ClientSearch, type Found } from "../clients/ClientSearch";

const Box = chakra("div");
const Select = chakra("select");

type Props = {
  setup: DeskSetup;
  location: DeskSetup["locations"][number];
  date: string;
  mayKeep: boolean;
  onDay: (date: string, locationId?: string) => void;
  onNew: () => void;
  onClient: (client: Client) => void;
  onUsual: (client: Client, usual: Visit) => void;
  /** What else the search field finds. */
  find: (typed: string) => Found[];
};

/** Location, date, the week at a glance, search, and the one button that starts a visit. */
export function TopLine({ setup, location, date, mayKeep, onDay, onNew, onClient, onUsual, find }: Props) {
  const styles = useSlotRecipe({ recipe: sentence })();
  return (
    <Box
      as="header"
      display="flex"
      alignItems="center"
      gap="2"
      // On a narrow screen, or enlarged, it takes a second line rather than be cut off.
      flexWrap="wrap"
      minH="14"
      py="1.5"
      px="3"
      borderBottomWidth="line"
      borderColor="line"
      bg="sheet"
      flexShrink={0}
    >
      <ViewSelect view="day" locationId={location.id} date={date} />
      <Select
        aria-label={t`Location`}
        value={location.id}
        onChange={(e) => onDay(date, e.target.value)}
        h="9"
        px="2"
        borderWidth="line"
        borderColor="edge"
        borderRadius="card"
        bg="sheet"
      >
        {setup.locations.map((other) => (
          <option key={other.id} value={other.id}>
            {other.name}
          </option>
        ))}
      </Select>
      <Press aria-label={t`Day before`} onClick={() => onDay(addDays(date, -1))} px="2.5">
        ‹
      </Press>
      <Box
        as="h1"
        css={{ minW: "0", [wide]: { minW: "55" } }}
        textAlign="center"
        fontSize="title"
        whiteSpace="nowrap"
        aria-live="polite"
      >
        <Floating
          label={t`Choose a date`}
          trigger={
            <Plain css={styles["part"]}>
              <Box as="span" srOnly>
                <Trans>Choose a date</Trans>:{" "}
              </Box>
              {longDate(date)}
            </Plain>
          }
        >
          {(close) => (
            <Month
              value={date}
              onChange={(chosen) => {
                close();
                onDay(chosen);
              }}
            />
          )}
        </Floating>
      </Box>
      <Press aria-label={t`Day after`} onClick={() => onDay(addDays(date, 1))} px="2.5">
        ›
      </Press>
      {date !== location.today && (
        <Press look="quiet" onClick={() => onDay(location.today)} px="2">
          <Trans>Today</Trans>
        </Press>
      )}
      <Week locationId={location.id} date={date} onDay={onDay} />
      <Box flex="1" minW="30">
        {mayKeep && (
          <ClientSearch
            id="find"
            label={t`Find`}
            slash
            onChoose={onClient}
            more={find}
            usual={{ locationId: location.id, onTake: onUsual }}
          />
        )}
      </Box>
      {mayKeep && (
        <Press look="primary" onClick={() => onNew()} aria-keyshortcuts="n">
          <Trans>
            New visit{" "}
            <Box as="kbd" fontSize="small" opacity={0.9} aria-hidden>
              n
            </Box>
          </Trans>
        </Press>
      )}
    </Box>
  );
}

/** Seven days with how full each is. */
function Week({ locationId, date, onDay }: { locationId: string; date: string; onDay: (date: string) => void }) {
  const monday = mondayOf(date);
  const week = useQuery({
    ...asks.fullness(locationId, monday, 7),
    placeholderData: (before) => before,
  });
  return (
    <Box css={{ display: "none", [wide]: { display: "flex" } }} gap="0.5" role="group" aria-label={t`This week`}>
      {Array.from({ length: 7 }, (_, i) => addDays(monday, i)).map((day) => {
        const fullness = week.data?.find((item) => item.date === day)?.fullness;
        const says = fullness === undefined ? null : fullness === null ? t`nobody works` : t`${fullness} % full`;
        return (
          <Plain
            key={day}
            onClick={() => onDay(day)}
            aria-current={day === date ? "date" : undefined}
            aria-label={[shortDate(day), says].filter(Boolean).join(", ")}
            title={[longDate(day), says].filter(Boolean).join(", ")}
            w="9"
            py="0.5"
            cursor="pointer"
            borderRadius="mark"
            fontSize="small"
            fontWeight={day === date ? "700" : "400"}
            outlineStyle={day === date ? "solid" : undefined}
            outlineWidth={day === date ? "mark" : undefined}
            outlineColor="kingcup"
          >
            <Box
              h="2"
              mx="0.5"
              bg={fullness === null ? "transparent" : "woven"}
              borderWidth="line"
              borderColor="line"
              borderRadius="mark"
              overflow="hidden"
            >
              <Box h="100%" bg="full" style={{ width: `${fullness ?? 0}%` }} />
            </Box>
            {weekday(day)}
          </Plain>
        );
      })}
    </Box>
  );
}
