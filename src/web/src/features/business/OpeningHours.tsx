import type { Location } from "../../api/setup";
import { TimeField, weekdays } from "../../shared/inputs";
import { Box, Row, Section } from "../../shared/layout";
import { Press } from "../../shared/Press";

type Hours = NonNullable<Location["opening"]>;

/** When clients may be at a location, weekday by weekday. */
export function OpeningHours({
  hours,
  errors,
  onChange,
}: {
  hours: Hours;
  errors: Record<string, string>;
  onChange: (hours: Hours) => void;
}) {
  return (
    <Section
      title="Opening hours"
      hint="When clients may be there. They bound what clients book, never when people work."
    >
      {weekdays.map(([weekday, name]) => {
        const own = hours.map((hour, index) => ({ ...hour, index })).filter((item) => item.weekday === weekday);
        const change = (index: number, value: object) =>
          onChange(hours.map((hour, i) => (i === index ? { ...hour, ...value } : hour)));
        return (
          <Row
            key={weekday}
            alignItems="end"
            borderTopWidth="1px"
            borderColor="line"
            py="6px"
            role="group"
            aria-label={name}
          >
            <Box w="48px" fontWeight="700" pb="8px">
              {name}
            </Box>
            {own.map((item) => (
              <Row key={item.index} alignItems="end" gap="6px">
                <Box w="132px">
                  <TimeField
                    label="Opens"
                    value={item.from}
                    error={errors[`opening[${item.index}].from`]}
                    onChange={(from) => change(item.index, { from })}
                  />
                </Box>
                <Box w="132px">
                  <TimeField
                    label="Closes"
                    value={item.until}
                    error={errors[`opening[${item.index}].until`]}
                    onChange={(until) => change(item.index, { until })}
                  />
                </Box>
                <Press
                  size="small"
                  look="quiet"
                  mb="5px"
                  aria-label={`Take out ${name} ${item.from.slice(0, 5)}`}
                  onClick={() => onChange(hours.filter((_, i) => i !== item.index))}
                >
                  ✕
                </Press>
              </Row>
            ))}
            {own.length === 0 && (
              <Box color="quiet" pb="8px">
                closed
              </Box>
            )}
            <Press
              size="small"
              look="quiet"
              mb="5px"
              aria-label={`More hours on ${name}`}
              onClick={() =>
                onChange([
                  ...hours,
                  own.length === 0
                    ? { weekday, from: "09:00:00", until: "17:00:00" }
                    : { weekday, from: "18:00:00", until: "20:00:00" },
                ])
              }
            >
              + Hours
            </Press>
          </Row>
        );
      })}
    </Section>
  );
}
