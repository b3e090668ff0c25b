import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";

import { TextField } from "../../shared/Field";
import { CheckField, ChoiceField, NumberField, WordsField } from "../../shared/inputs";
import { Box, Row, Section, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { useFeatures } from "../rooms/rooms";
import { usePractitioners } from "../team/team";
import type { Part } from "./words";

/** Who may take each role of a service, and the room it needs. */
export function WhoAndWhere({ draft, set, errors }: Part) {
  const qualifications = useQuery(asks.qualifications());
  const people = usePractitioners();
  const features = useFeatures();
  const roles = draft.roles ?? [];
  const setRole = (i: number, change: Partial<(typeof roles)[number]>) =>
    set({ roles: roles.map((role, j) => (j === i ? { ...role, ...change } : role)) });
  const names = (people.data ?? [])
    .filter((person) => !person.retired)
    .map((person) => [person.id!, person.name ?? ""] as const);
  return (
    <Section title="Who and where">
      <Stack>
        {roles.map((role, i) => (
          <Stack key={i} gap="8px" borderLeftWidth="3px" borderColor="line" pl="12px">
            {roles.length > 1 && (
              <Row alignItems="end">
                <Box w="220px">
                  <TextField
                    label={`Role ${i + 1}`}
                    value={role.name ?? ""}
                    error={errors[`roles[${i}].name`]}
                    onChange={(e) => setRole(i, { name: e.target.value })}
                  />
                </Box>
                <Press
                  size="small"
                  look="quiet"
                  onClick={() =>
                    set({
                      roles: roles.filter((_, j) => j !== i),
                      phases: (draft.phases ?? []).map((phase) => ({
                        ...phase,
                        attendedBy: (phase.attendedBy ?? [])
                          .filter((other) => other !== i)
                          .map((other) => (other > i ? other - 1 : other)),
                      })),
                    })
                  }
                >
                  Remove this role
                </Press>
              </Row>
            )}
            <ChoiceField
              label="Whoever holds all of"
              options={(qualifications.data ?? []).map(
                (qualification) => [qualification.id!, qualification.name ?? ""] as const,
              )}
              chosen={role.qualifications ?? []}
              error={errors[`roles[${i}].qualifications`]}
              onChange={(chosen) => setRole(i, { qualifications: chosen })}
            />
            <ChoiceField
              label="Added by hand"
              options={names}
              chosen={role.added ?? []}
              error={errors[`roles[${i}].added`]}
              onChange={(added) =>
                setRole(i, { added, excluded: (role.excluded ?? []).filter((id) => !added.includes(id)) })
              }
            />
            {(role.qualifications ?? []).length > 0 && (
              <ChoiceField
                label="Excluded by hand"
                options={names}
                chosen={role.excluded ?? []}
                onChange={(excluded) =>
                  setRole(i, { excluded, added: (role.added ?? []).filter((id) => !excluded.includes(id)) })
                }
              />
            )}
          </Stack>
        ))}
        <Row>
          {roles.length < 4 && (
            <Press
              size="small"
              onClick={() =>
                set({
                  roles: [
                    ...roles.map((role, i) =>
                      roles.length === 1 && i === 0 && role.name === "Practitioner" ? { ...role, name: "First" } : role,
                    ),
                    { name: "Second", qualifications: [], added: [], excluded: [] },
                  ],
                  phases: (draft.phases ?? []).map((phase) =>
                    (phase.attendedBy ?? []).length > 0
                      ? { ...phase, attendedBy: [...phase.attendedBy!, roles.length] }
                      : phase,
                  ),
                })
              }
            >
              It takes another person
            </Press>
          )}
        </Row>
        <CheckField
          label="It needs a room"
          checked={draft.room !== null && draft.room !== undefined}
          onChange={(on) => set({ room: on ? { features: [], units: 1 } : null })}
          hint="A video or home visit needs none."
        />
        {draft.room && (
          <Row alignItems="start">
            <Box flex="1" minW="260px">
              <WordsField
                label="A room with all of"
                words={draft.room.features ?? []}
                offered={features.data ?? []}
                error={errors["room.features"]}
                onChange={(words) => set({ room: { ...draft.room!, features: words } })}
              />
            </Box>
            <Box w="170px">
              <NumberField
                label="Units of the room"
                min={1}
                value={draft.room.units}
                error={errors["room.units"]}
                hint="2 for a duo suite"
                onChange={(units) => set({ room: { ...draft.room!, units: units ?? 1 } })}
              />
            </Box>
          </Row>
        )}
      </Stack>
    </Section>
  );
}
