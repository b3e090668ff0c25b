import type { Service } from "../../api/setup";
import { AreaField, SelectField, TextField } from "../../shared/Field";
import { ChoiceField, NumberField, weekdays } from "../../shared/inputs";
import { Box, Columns, Row, Section, Stack } from "../../shared/layout";
import { PictureField } from "../../shared/pictures";
import { RulesForm } from "../business/RulesForm";
import { useLocations } from "../team/team";
import { useServices } from "../team/ServicesTab";
import { SetTimes } from "./SetTimes";
import { clientKinds, visibilities, type Part } from "./words";

/** What clients see of a service, and when they may book it. */
export function Online({ draft, set, errors, isNew }: Part & { isNew: boolean }) {
  const services = useServices();
  const locations = useLocations();
  const before = draft.prerequisite;
  const link = `${window.location.origin}/book?with=${draft.link}`;
  return (
    <Section title="Online">
      <Stack>
        <Columns>
          <SelectField
            label="Who sees it"
            value={draft.visibility}
            onChange={(e) => set({ visibility: e.target.value as Service["visibility"] })}
          >
            {Object.entries(visibilities).map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </SelectField>
          <SelectField
            label="Who may book it"
            value={draft.for}
            onChange={(e) => set({ for: e.target.value as Service["for"] })}
          >
            {Object.entries(clientKinds).map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </SelectField>
          <TextField
            label="Name clients read"
            placeholder={draft.name ?? ""}
            value={draft.onlineName ?? ""}
            error={errors["onlineName"]}
            onChange={(e) => set({ onlineName: e.target.value || null })}
          />
          <NumberField
            label="Minutes clients read"
            placeholder="as it is"
            value={draft.onlineMinutes}
            error={errors["onlineMinutes"]}
            onChange={(onlineMinutes) => set({ onlineMinutes })}
          />
          <NumberField
            label="Come back after (days)"
            placeholder="no advice"
            value={draft.returnDays}
            error={errors["returnDays"]}
            onChange={(returnDays) => set({ returnDays })}
          />
          <PictureField label="Picture" id={draft.pictureId} onChange={(pictureId) => set({ pictureId })} />
        </Columns>
        {!isNew && draft.visibility !== "hidden" && (
          <Box fontSize="14px">
            Direct link:{" "}
            <a
              href={link}
              target="_blank"
              rel="noreferrer"
              style={{ textDecoration: "underline", overflowWrap: "anywhere" }}
            >
              {link}
            </a>
          </Box>
        )}
        <AreaField
          label="Text for clients (Markdown)"
          rows={3}
          value={draft.description ?? ""}
          error={errors["description"]}
          onChange={(e) => set({ description: e.target.value })}
        />
        <ChoiceField
          label="Weekdays (none chosen: every day)"
          options={weekdays}
          chosen={draft.weekdays ?? []}
          onChange={(chosen) => set({ weekdays: chosen })}
        />
        <Row alignItems="end">
          <Box w="180px">
            <TextField
              label="Season from (MM-DD)"
              placeholder="all year"
              value={draft.season?.from ?? ""}
              error={errors["season.from"]}
              onChange={(e) =>
                set({
                  season:
                    e.target.value || draft.season?.until
                      ? { from: e.target.value, until: draft.season?.until ?? "" }
                      : null,
                })
              }
            />
          </Box>
          <Box w="180px">
            <TextField
              label="until (MM-DD)"
              value={draft.season?.until ?? ""}
              onChange={(e) =>
                set({
                  season:
                    e.target.value || draft.season?.from
                      ? { from: draft.season?.from ?? "", until: e.target.value }
                      : null,
                })
              }
            />
          </Box>
        </Row>
        <Row alignItems="end">
          <Box w="260px">
            <SelectField
              label="What has to come before"
              value={before?.serviceId ?? ""}
              error={errors["prerequisite.serviceId"]}
              onChange={(e) =>
                set({
                  prerequisite: e.target.value
                    ? {
                        serviceId: e.target.value,
                        atLeastHours: before?.atLeastHours ?? 48,
                        atMostDays: before?.atMostDays ?? 180,
                      }
                    : null,
                })
              }
            >
              <option value="">nothing</option>
              {services.data
                ?.filter((service) => service.id !== draft.id && !service.isArchived)
                .map((service) => (
                  <option key={service.id} value={service.id!}>
                    {service.name}
                  </option>
                ))}
            </SelectField>
          </Box>
          {before && (
            <>
              <Box w="150px">
                <NumberField
                  label="At least hours"
                  value={before.atLeastHours}
                  error={errors["prerequisite.atLeastHours"]}
                  onChange={(hours) => set({ prerequisite: { ...before, atLeastHours: hours ?? 0 } })}
                />
              </Box>
              <Box w="150px">
                <NumberField
                  label="At most days"
                  value={before.atMostDays}
                  error={errors["prerequisite.atMostDays"]}
                  onChange={(days) => set({ prerequisite: { ...before, atMostDays: days ?? 0 } })}
                />
              </Box>
            </>
          )}
        </Row>
        <Box as="h3" fontSize="15px">
          Rules of online booking
        </Box>
        <RulesForm
          place="service"
          rules={draft.online ?? {}}
          locations={(locations.data ?? []).filter(
            (location) => (draft.locationIds ?? []).length === 0 || draft.locationIds!.includes(location.id!),
          )}
          categoryId={draft.categoryId}
          serviceId={isNew ? null : draft.id!}
          errors={errors}
          onChange={(online) => set({ online })}
        />
        {draft.online?.grid === "setTimes" && <SetTimes draft={draft} set={set} errors={errors} />}
      </Stack>
    </Section>
  );
}
