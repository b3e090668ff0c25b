import { chakra } from "@chakra-ui/react";
import type { Business, Service } from "../../api/public";
import { money } from "../../shared/format";
import { Choice } from "./BookingPage";

const Box = chakra("div");

/** Services by category; those that cannot be booked here say what to do instead. */
export function ServiceChoice({
  business,
  locationId,
  chosen,
  onChoose,
}: {
  business: Business;
  locationId: string;
  chosen: Service | null;
  onChoose: (service: Service) => void;
}) {
  return (
    <Box display="grid" gap="18px">
      {business.categories.map((category) => (
        <Box as="section" key={category.id} aria-label={category.name} display="grid" gap="6px">
          <Box as="h2" fontSize="20px">
            {category.name}
          </Box>
          {category.services.map((service) => {
            const elsewhere = !service.locationIds.includes(locationId);
            const where = business.locations.find((one) => one.id === service.locationIds[0])?.name;
            return (
              <Choice
                key={service.id}
                on={service.id === chosen?.id}
                disabled={!service.bookableOnline}
                onClick={() => onChoose(service)}
              >
                <Box as="span" display="flex" justifyContent="space-between" gap="12px" fontWeight="700">
                  <span>{service.name}</span>
                  <Box as="span" whiteSpace="nowrap">
                    {service.priceVaries && "from "}
                    {money(service.price)}
                  </Box>
                </Box>
                <Box as="span" color="quiet" fontSize="16px">
                  {[
                    `${service.minutes} min`,
                    service.description,
                    elsewhere && where ? `at ${where}` : "",
                    service.needs ? `needs ${service.needs} first` : "",
                    service.bookableOnline ? "" : `by phone only${business.phone ? `: ${business.phone}` : ""}`,
                  ]
                    .filter(Boolean)
                    .join(" · ")}
                </Box>
              </Choice>
            );
          })}
        </Box>
      ))}
    </Box>
  );
}

/** No preference first, then everyone who does the service. */
export function PractitionerChoice({
  service,
  chosen,
  onChoose,
}: {
  service: Service;
  chosen: string | null;
  onChoose: (id: string | null) => void;
}) {
  return (
    <Box display="grid" gap="8px">
      <Box as="h2" fontSize="20px">
        By whom?
      </Box>
      <Choice on={chosen === null} onClick={() => onChoose(null)}>
        <b>Whoever is free</b>
        <Box as="span" color="quiet">
          The most times to choose from
        </Box>
      </Choice>
      {service.practitioners.map((one) => (
        <Choice key={one.id} on={one.id === chosen} onClick={() => onChoose(one.id)}>
          <b>{one.name}</b>
          <Box as="span" color="quiet">
            {one.minutes} min · {money(one.price)}
          </Box>
        </Choice>
      ))}
    </Box>
  );
}
