import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { SelectField } from "../../shared/Field";
import { TimeField } from "../../shared/fields/TimeField";
import { weekdays } from "../../shared/inputs";
import { Box, Row, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { usePractitioners } from "../team/team";
import type { Part } from "./words";

/** Wall times at which a service may begin, weekday by weekday. */
export function SetTimes({ draft, set, errors }: Part) {
  const people = usePractitioners();
  const times = draft.setTimes ?? [];
  return (
    <Stack gap="2">
      {times.map((time, i) => (
        <Row key={i} alignItems="end">
          <Box w="33">
            <SelectField
              label={t`Day`}
              value={time.weekday}
              onChange={(e) =>
                set({
                  setTimes: times.map((other, j) =>
                    j === i ? { ...other, weekday: e.target.value as typeof time.weekday } : other,
                  ),
                })
              }
            >
              {weekdays.map(([day, name]) => (
                <option key={day} value={day}>
                  {name}
                </option>
              ))}
            </SelectField>
          </Box>
          <Box w="33">
            <TimeField
              label={t`At`}
              value={time.at}
              error={errors[`setTimes[${i}].at`]}
              onChange={(at) => set({ setTimes: times.map((other, j) => (j === i ? { ...other, at } : other)) })}
            />
          </Box>
          <Box w="48">
            <SelectField
              label={t`With`}
              value={time.practitionerId ?? ""}
              onChange={(e) =>
                set({
                  setTimes: times.map((other, j) =>
                    j === i ? { ...other, practitionerId: e.target.value || null } : other,
                  ),
                })
              }
            >
              <option value="">
                <Trans>everyone</Trans>
              </option>
              {people.data?.map((person) => (
                <option key={person.id} value={person.id!}>
                  {person.name}
                </option>
              ))}
            </SelectField>
          </Box>
          <Press size="small" look="quiet" mb="1" onClick={() => set({ setTimes: times.filter((_, j) => j !== i) })}>
            <Trans>Remove</Trans>
          </Press>
        </Row>
      ))}
      <Row>
        <Press
          size="small"
          onClick={() => set({ setTimes: [...times, { practitionerId: null, weekday: "monday", at: "10:00:00" }] })}
        >
          <Trans>Add a set time</Trans>
        </Press>
      </Row>
    </Stack>
  );
}
