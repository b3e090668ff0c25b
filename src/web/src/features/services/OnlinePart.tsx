import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Service } from "../../api/setup";
import { AreaField, SelectField, TextField } from "../../shared/Field";
import { ChoiceField, NumberField, weekdays } from "../../shared/inputs";
import { Box, Columns, Row, Stack } from "../../shared/layout";
import { PictureField } from "../../shared/pictures";
import { RulesForm } from "../business/RulesForm";
import { useLocations } from "../team/team";
import { useServices } from "../team/ServicesTab";
import { SetTimes } from "./SetTimes";
import { DayOfYearField } from "../../shared/fields/DayOfYearField";
import { useCategories } from "./categories";
import { clientKinds, visibilities, type Part } from "./words";

/** Who sees it, who may book it, and on which days. */
export function OnlinePart({ draft, set, errors, isNew }: Part & { isNew: boolean }) {
  const services = useServices();
  const before = draft.prerequisite;
  const link = `${window.location.origin}/book?with=${draft.link}`;
  const season = (change: { from?: string; until?: string }) => {
    const next = { from: draft.season?.from ?? "", until: draft.season?.until ?? "", ...change };
    set({ season: next.from || next.until ? next : null });
  };
  return (
    <Stack>
      <Columns>
        <SelectField
          label={t`Who sees it`}
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
          label={t`Who may book it`}
          value={draft.for}
          onChange={(e) => set({ for: e.target.value as Service["for"] })}
        >
          {Object.entries(clientKinds).map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </SelectField>
      </Columns>
      {!isNew && draft.visibility !== "hidden" && (
        <Box fontSize="small">
          <Trans>
            Direct link:{" "}
            <a
              href={link}
              target="_blank"
              rel="noreferrer"
              style={{ textDecoration: "underline", overflowWrap: "anywhere" }}
            >
              {link}
            </a>
          </Trans>
        </Box>
      )}
      <ChoiceField
        label={t`Weekdays (none chosen: every day)`}
        options={weekdays}
        chosen={draft.weekdays ?? []}
        onChange={(chosen) => set({ weekdays: chosen })}
      />
      <Row alignItems="start">
        <Box w="45">
          <DayOfYearField
            label={t`Season from`}
            value={draft.season?.from ?? null}
            hint={t`empty: all year`}
            error={errors["season.from"]}
            onChange={(from) => season({ from: from ?? "" })}
          />
        </Box>
        <Box w="45">
          <DayOfYearField
            label={t`until`}
            value={draft.season?.until ?? null}
            error={errors["season.until"]}
            onChange={(until) => season({ until: until ?? "" })}
          />
        </Box>
      </Row>
      <Row alignItems="end">
        <Box w="65">
          <SelectField
            label={t`What has to come before`}
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
            <option value="">
              <Trans>nothing</Trans>
            </option>
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
            <Box w="37">
              <NumberField
                label={t`At least hours`}
                value={before.atLeastHours}
                error={errors["prerequisite.atLeastHours"]}
                onChange={(hours) => set({ prerequisite: { ...before, atLeastHours: hours ?? 0 } })}
              />
            </Box>
            <Box w="37">
              <NumberField
                label={t`At most days`}
                value={before.atMostDays}
                error={errors["prerequisite.atMostDays"]}
                onChange={(days) => set({ prerequisite: { ...before, atMostDays: days ?? 0 } })}
              />
            </Box>
          </>
        )}
      </Row>
    </Stack>
  );
}

/** What it is called, and what clients read about it. */
export function WordsPart({ draft, set, errors, isNew }: Part & { isNew: boolean }) {
  const categories = useCategories();
  return (
    <Stack>
      <Columns>
        <TextField
          label={t`Name`}
          value={draft.name ?? ""}
          autoFocus={isNew}
          error={errors["name"]}
          onChange={(e) => set({ name: e.target.value })}
        />
        <SelectField
          label={t`Category`}
          value={draft.categoryId}
          error={errors["categoryId"]}
          onChange={(e) => set({ categoryId: e.target.value })}
        >
          {categories.data?.map((category) => (
            <option key={category.id} value={category.id!}>
              {category.name}
            </option>
          ))}
        </SelectField>
        <TextField
          label={t`Name clients read`}
          placeholder={draft.name ?? ""}
          value={draft.onlineName ?? ""}
          error={errors["onlineName"]}
          onChange={(e) => set({ onlineName: e.target.value || null })}
        />
        <NumberField
          label={t`Minutes clients read`}
          placeholder={t`as it is`}
          value={draft.onlineMinutes}
          error={errors["onlineMinutes"]}
          onChange={(onlineMinutes) => set({ onlineMinutes })}
        />
        <NumberField
          label={t`Come back after (days)`}
          placeholder={t`no advice`}
          value={draft.returnDays}
          error={errors["returnDays"]}
          onChange={(returnDays) => set({ returnDays })}
        />
        <PictureField label={t`Picture`} id={draft.pictureId} onChange={(pictureId) => set({ pictureId })} />
      </Columns>
      <AreaField
        label={t`Text for clients (Markdown)`}
        rows={3}
        value={draft.description ?? ""}
        error={errors["description"]}
        onChange={(e) => set({ description: e.target.value })}
      />
    </Stack>
  );
}

/** The rules of online booking as they hold for it. */
export function RulesPart({ draft, set, errors, isNew }: Part & { isNew: boolean }) {
  const locations = useLocations();
  return (
    <Stack>
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
  );
}
