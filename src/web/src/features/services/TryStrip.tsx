import { asks } from "../../api/queries";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { type Service } from "../../api/setup";

import { SelectField } from "../../shared/Field";
import { shortDate } from "../../shared/format";
import { Box, Row } from "../../shared/layout";
import { Problem } from "../../shared/problem";
import { useLocations } from "../team/team";

/** The real starts of the next days as the service stands on this page, before it is saved. */
export function TryStrip({ service }: { service: Service }) {
  const locations = useLocations();
  const places = (locations.data ?? []).filter(
    (location) => (service.locationIds ?? []).length === 0 || service.locationIds!.includes(location.id!),
  );
  const [place, setPlace] = useState("");
  const locationId = places.find((other) => other.id === place)?.id ?? places[0]?.id;
  const [settled, setSettled] = useState(service);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(service), 250);
    return () => clearTimeout(timer);
  }, [service]);
  const named = { ...settled, name: settled.name || "…" };
  const days = useQuery({
    ...asks.tried({ service: named, locationId: locationId!, days: 6 }),
    enabled: Boolean(locationId),
    placeholderData: keepPreviousData,
    retry: false,
  });
  if (!locationId) return null;
  const problem = days.error instanceof Problem ? days.error : null;
  return (
    <Box aria-label="Try it" role="region">
      <Row flexWrap="nowrap" alignItems="stretch" gap="6px">
        <Box flexShrink={0} w="104px">
          <Box as="h2" fontSize="15px">
            Try it
          </Box>
          <Box fontSize="14px" color="quiet" lineHeight="1.2">
            starts if saved so
          </Box>
          {places.length > 1 && (
            <SelectField
              label=""
              aria-label="Location to try"
              value={locationId}
              onChange={(e) => setPlace(e.target.value)}
            >
              {places.map((other) => (
                <option key={other.id} value={other.id!}>
                  {other.name}
                </option>
              ))}
            </SelectField>
          )}
        </Box>
        {problem ? (
          <Box role="alert" color="clay" fontSize="14px">
            {Object.values(problem.errors)[0] ?? problem.message}
          </Box>
        ) : (
          <Box
            display="grid"
            gridTemplateColumns="repeat(6, minmax(0, 1fr))"
            gap="6px"
            flex="1"
            opacity={days.isFetching ? 0.6 : 1}
            aria-live="polite"
          >
            {days.data?.map((day) => (
              <Box
                key={day.date}
                bg="sheet"
                borderWidth="1px"
                borderColor="line"
                borderRadius="card"
                p="4px 8px"
                fontSize="14px"
                h="92px"
                overflow="hidden"
                role="group"
                aria-label={shortDate(day.date)}
                title={day.reasons.map((reason) => reason.text).join(" ")}
              >
                <Box fontWeight="700">
                  {shortDate(day.date).slice(0, 6)}{" "}
                  {day.starts.length > 0 && (
                    <Box as="span" fontWeight="400">
                      · {day.starts.length}
                    </Box>
                  )}
                </Box>
                {day.starts.length > 0 ? (
                  <Box lineHeight="1.25">
                    {day.starts.slice(0, 8).join(" ")}
                    {day.starts.length > 8 && " …"}
                  </Box>
                ) : (
                  <Box color="quiet" lineHeight="1.2">
                    {day.reasons[0]?.text ?? "none"}
                  </Box>
                )}
              </Box>
            ))}
          </Box>
        )}
      </Row>
    </Box>
  );
}
