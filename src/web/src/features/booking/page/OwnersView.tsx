import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { staffHere } from "../../../shared/staffHere";

const Box = chakra("div");

/** Whether somebody of the staff is signed in on this device; clients' devices are never asked. */
export const useStaff = () =>
  useQuery({
    queryKey: ["staff"],
    queryFn: async () => {
      const answer = await fetch("/api/v1/session");
      if (answer.status === 401) staffHere.forget();
      if (!answer.ok) return null;
      const session = (await answer.json()) as { name: string; rights: string[] };
      return session.rights.includes("keep-book") ? session : null;
    },
    enabled: staffHere.is(),
    staleTime: Infinity,
    retry: false,
  }).data;

/** What only somebody signed in sees above the page: that it is the clients' page, and how to ask about it. */
export function OwnersView() {
  const staff = useStaff();
  if (!staff) return null;
  return (
    <Box as="aside" aria-label={t`For the staff`} bg="ink" color="paper" px="3.5" py="2" fontSize="text">
      <Trans>
        You see this page as clients do, {staff.name}. Only you see this line and “Why not?” beside each day.
      </Trans>
    </Box>
  );
}

/** The address that says why a day has no more starts. */
export const whyNotPath = (
  wish: {
    lines: readonly { service: { id: string }; practitionerId: string | null }[];
    locationId: string;
    returning: boolean;
  },
  date?: string,
) =>
  `/why-not?${new URLSearchParams({
    service: wish.lines[0]!.service.id,
    location: wish.locationId,
    as: wish.returning ? "returning" : "new",
    ...(wish.lines[0]!.practitionerId ? { by: wish.lines[0]!.practitionerId } : {}),
    ...(date ? { date } : {}),
  }).toString()}`;
