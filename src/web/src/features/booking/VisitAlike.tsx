import { useQuery } from "@tanstack/react-query";
import { asks } from "../../api/queries";
import type { Visit } from "../../api/staff";
import { Box } from "../../shared/layout";
import { Likely } from "../clients/Likely";

/** Of somebody who has booked online, that they are likely entered already: to be looked at side by side. */
export function VisitAlike({ visit }: { visit: Visit }) {
  const { id } = visit.client;
  const { data } = useQuery({ ...asks.clientAlike(id), enabled: visit.source === "Online" });
  if (!data || data.length === 0) return null;
  return (
    <Box bg="glow" borderRadius="card" px="3" py="2" mt="3">
      {data.map((pair) => (
        <Box key={`${pair.kept.id} ${pair.gone.id}`}>
          <Likely pair={pair} id={id} />
        </Box>
      ))}
    </Box>
  );
}
