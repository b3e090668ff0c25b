import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keepers } from "../../api/keepers";
import { type Category } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { TextField } from "../../shared/Field";
import { useKept } from "../../shared/kept";
import { Box, Row, Section, Stack, asForm } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { RulesForm } from "../business/RulesForm";
import { useLocations } from "../team/team";

type Props = { category: Category; isEmpty: boolean; onGone: () => void };

/** A category: its name and the rules of online booking it sets for its services. */
export function CategoryForm({ category, isEmpty, onGone }: Props) {
  const locations = useLocations();
  const { draft, set, save, submit } = useKept(category, keepers.category);
  const remove = useChange(
    (_: null, headers) =>
      answerOf(staff.DELETE("/api/v1/setup/categories/{id}", { params: { path: { id: category.id! } }, headers })),
    onGone,
  );
  return (
    <Section
      title={t`Rules of ${category.name ?? ""}`}
      hint={t`Rules set here hold for every service of the category, unless the service itself says otherwise.`}
    >
      <Stack {...asForm} onSubmit={submit}>
        <Box maxW="75">
          <TextField
            label={t`Name of the category`}
            value={draft.name ?? ""}
            error={save.errors["name"]}
            onChange={(e) => set({ name: e.target.value })}
          />
        </Box>
        <RulesForm
          place="category"
          rules={draft.online ?? {}}
          locations={locations.data ?? []}
          categoryId={category.id!}
          errors={save.errors}
          onChange={(online) => set({ online })}
        />
        <Row>
          <Press type="submit" look="primary" disabled={save.pending}>
            <Trans>Save</Trans>
          </Press>
          {isEmpty && (
            <Press look="danger" onClick={() => remove.run(null)}>
              <Trans>Remove the category</Trans>
            </Press>
          )}
        </Row>
        <Outcome change={save} fields={["name"]} />
        <Outcome change={remove} />
      </Stack>
    </Section>
  );
}
