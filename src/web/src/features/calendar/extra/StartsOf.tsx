import { t } from "@lingui/core/macro";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { asks } from "../../../api/queries";
import { Box } from "../../../shared/layout";
import { useDeskSetup } from "../../../shared/today";
import { gridWords } from "../../services/words";

/** More than these are not told one by one. */
const mostTold = 4;

/** How the starts follow each other of what a shift is kept for, with the way to where that is set. */
export function StartsOf({ serviceIds, locationId }: { serviceIds: readonly string[]; locationId: string }) {
  if (serviceIds.length === 0 || serviceIds.length > mostTold) return null;
  return (
    <Box as="ul" listStyleType="none" color="quiet">
      {serviceIds.map((id) => (
        <StartsOfOne key={id} serviceId={id} locationId={locationId} />
      ))}
    </Box>
  );
}

function StartsOfOne({ serviceId, locationId }: { serviceId: string; locationId: string }) {
  const setup = useDeskSetup();
  const rules = useQuery(asks.rules({ serviceId, locationId }));
  const name = setup.services.find((service) => service.id === serviceId)?.name;
  if (!rules.data || !name) return null;
  const starts = gridWords(rules.data.values);
  return (
    <li>
      {t`${name} can be booked online ${starts}.`}{" "}
      <Link to={`/services/${serviceId}`}>
        <Box as="span" textDecoration="underline">
          {t`Change how often`}
        </Box>
      </Link>
    </li>
  );
}
