import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { asks } from "../../../api/queries";
import type { DeskSetup } from "../../../api/staff";
import { shortDateWithYear } from "../../../shared/format";
import { Box, Stack } from "../../../shared/layout";
import { Plain } from "../../../shared/Plain";
import { linesOf, type LineDraft } from "./lineDrafts";

/** How many earlier visits are offered, and among how many they are looked for. */
const most = 3,
  among = 12;

type Props = { clientId: string; setup: DeskSetup; locationId: string; onTake: (lines: LineDraft[]) => void };

/** The client's last visits, each to be had again with all its lines. */
export function SameAgain({ clientId, setup, locationId, onTake }: Props) {
  const visits = useQuery(asks.clientVisits(clientId, among));
  const isDone = (serviceId: string) =>
    setup.services.some((service) => service.id === serviceId && service.locationIds.includes(locationId));
  const kinds = new Set<string>();
  const again = (visits.data ?? []).filter((visit) => {
    const kind = JSON.stringify(visit.lines.map((line) => [line.serviceId, line.practitioners[0]?.id]));
    if (visit.state === "cancelled" || kinds.has(kind) || (visit.people ?? []).length > 0) return false;
    if (!visit.lines.every((line) => isDone(line.serviceId))) return false;
    kinds.add(kind);
    return true;
  });
  if (again.length === 0) return null;
  return (
    <Stack as="section" gap="1" aria-labelledby="same-again">
      <Box id="same-again" fontWeight="600" fontSize="small">
        <Trans>Same again</Trans>
      </Box>
      {again.slice(0, most).map((visit) => (
        <Plain
          key={visit.id}
          textAlign="left"
          cursor="pointer"
          px="2.5"
          py="1"
          minH="8"
          borderWidth="line"
          borderColor="line"
          borderRadius="card"
          onClick={() => onTake(linesOf(visit, true))}
        >
          {visit.lines.map((line) => [line.service, ...line.addOns.map((addOn) => addOn.name)].join(" · ")).join(" + ")}
          <Box as="span" fontSize="small" color="quiet">
            {" "}
            {visit.lines[0]?.practitioners[0]?.name}, {shortDateWithYear(visit.date)}
          </Box>
        </Plain>
      ))}
    </Stack>
  );
}
