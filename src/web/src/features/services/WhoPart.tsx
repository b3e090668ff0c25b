import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { asks } from "../../api/queries";
import { TextField } from "../../shared/Field";
import { andWords, money, shortDateWithYear } from "../../shared/format";
import { Box, Row, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { ManyPart } from "../../shared/sentence/ManyPart";
import { Sentence } from "../../shared/sentence/Sentence";
import { useDeskSetup, useToday } from "../../shared/today";
import { serviceRibbons } from "../../theme/recipes/service";
import { usePractitioners } from "../team/team";
import { minutesOf, type Part } from "./words";

/** Who may take each role, as it follows from what people hold; only what was decided by hand is said besides. */
export function WhoPart({ draft, set, errors, isNew }: Part & { isNew: boolean }) {
  const roles = draft.roles ?? [];
  const remove = (gone: number) =>
    set({
      roles: roles.filter((_, i) => i !== gone),
      phases: (draft.phases ?? []).map((phase) => ({
        ...phase,
        attendedBy: (phase.attendedBy ?? [])
          .filter((role) => role !== gone)
          .map((role) => (role > gone ? role - 1 : role)),
      })),
    });
  const another = () =>
    set({
      roles: [
        ...roles.map((role) =>
          roles.length === 1 && role.name === t`Practitioner` ? { ...role, name: t`First` } : role,
        ),
        { name: t`Second`, qualifications: [], added: [], excluded: [] },
      ],
      phases: (draft.phases ?? []).map((phase) =>
        (phase.attendedBy ?? []).length > 0 ? { ...phase, attendedBy: [...phase.attendedBy!, roles.length] } : phase,
      ),
    });
  return (
    <Stack>
      {roles.map((_, i) => (
        <Role key={i} index={i} draft={draft} set={set} errors={errors} isNew={isNew} onRemove={() => remove(i)} />
      ))}
      <Row>
        {roles.length < 4 && (
          <Press size="small" onClick={another}>
            <Trans>It takes another person</Trans>
          </Press>
        )}
      </Row>
    </Stack>
  );
}

function Role({
  index,
  draft,
  set,
  errors,
  isNew,
  onRemove,
}: Part & { index: number; isNew: boolean; onRemove: () => void }) {
  const qualifications = useQuery(asks.qualifications());
  const people = usePractitioners();
  const roles = draft.roles ?? [];
  const role = roles[index]!;
  const change = (next: Partial<typeof role>) =>
    set({ roles: roles.map((other, i) => (i === index ? { ...other, ...next } : other)) });
  const known = (qualifications.data ?? []).map((item) => ({ value: item.id!, label: item.name ?? "" }));
  const somebody = (people.data ?? [])
    .filter((person) => !person.retired)
    .map((person) => ({ value: person.id!, label: person.name ?? "" }));
  const named = (options: { value: string; label: string }[], ids: readonly string[] | null | undefined) =>
    andWords((ids ?? []).map((id) => options.find((option) => option.value === id)?.label ?? ""));
  const held = role.qualifications ?? [];
  return (
    <Box>
      {roles.length > 1 && (
        <Row alignItems="end" mb="1.5">
          <Box w="55">
            <TextField
              label={t`Role ${index + 1}`}
              value={role.name ?? ""}
              error={errors[`roles[${index}].name`]}
              onChange={(e) => change({ name: e.target.value })}
            />
          </Box>
          <Press size="small" look="quiet" onClick={onRemove}>
            <Trans>Remove this role</Trans>
          </Press>
        </Row>
      )}
      <Sentence size="text">
        <Trans>
          It is done by everybody who holds{" "}
          <ManyPart
            label={t`Qualifications`}
            words={named(known, held) || t`what?`}
            options={known}
            values={[...held]}
            onChange={(chosen) => change({ qualifications: chosen })}
          />
          , and by{" "}
          <ManyPart
            label={t`Added by hand`}
            words={named(somebody, role.added) || t`nobody else`}
            options={somebody}
            values={[...(role.added ?? [])]}
            onChange={(added) => change({ added, excluded: (role.excluded ?? []).filter((id) => !added.includes(id)) })}
          />
          {held.length > 0 && (
            <>
              <Trans>
                , without{" "}
                <ManyPart
                  label={t`Excluded by hand`}
                  words={named(somebody, role.excluded) || t`anybody left out`}
                  options={somebody}
                  values={[...(role.excluded ?? [])]}
                  onChange={(excluded) =>
                    change({ excluded, added: (role.added ?? []).filter((id) => !excluded.includes(id)) })
                  }
                />
              </Trans>
            </>
          )}
          .
        </Trans>
      </Sentence>
      {Object.entries(errors)
        .filter(([field]) => field.startsWith(`roles[${index}]`) && !field.endsWith(".name"))
        .map(([field, text]) => (
          <Box key={field} role="alert" color="clay" fontSize="small">
            {text}
          </Box>
        ))}
      {!isNew && <Rows index={index} draft={draft} />}
    </Box>
  );
}

/** As it is saved now: who does it today, why, and what they have of their own. */
function Rows({ index, draft }: Pick<Part, "draft"> & { index: number }) {
  const styles = useSlotRecipe({ recipe: serviceRibbons })();
  const setup = useDeskSetup();
  const who = useQuery(asks.whoDoesWhat(useToday()));
  const people = usePractitioners();
  const cells = (who.data?.cells ?? []).filter(
    (cell) => cell.serviceId === draft.id && cell.role === index && cell.may,
  );
  return (
    <Box mt="1.5" role="list" aria-label={t`Who does it`}>
      {cells.map((cell) => {
        const person = people.data?.find((other) => other.id === cell.practitionerId);
        const own = draft.terms?.find((term) => term.practitionerId === cell.practitionerId);
        return (
          <Box key={cell.practitionerId} css={styles["row"]} role="listitem">
            <Box css={styles["rowName"]}>{person?.name}</Box>
            <Box css={styles["rowWhy"]}>
              {cell.text}
              {cell.until && t`, until ${shortDateWithYear(cell.until)}`}
            </Box>
            <Box css={styles["rowTerms"]} data-own={Boolean(own)}>
              <Trans>
                {own?.minutes ?? minutesOf(draft)} min,{" "}
                {money({ amount: own?.price ?? draft.price, currency: setup.currency })}{" "}
                <Link to={`/team/${cell.practitionerId}/services`}>
                  <Box as="span" textDecoration="underline">
                    {own ? t`own` : t`change`}
                  </Box>
                </Link>
              </Trans>
            </Box>
          </Box>
        );
      })}
      {who.data && cells.length === 0 && (
        <Box color="quiet">
          <Trans>Nobody does it yet.</Trans>
        </Box>
      )}
    </Box>
  );
}
