import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { WordsField } from "../../shared/fields/WordsField";
import { keepers } from "../../api/keepers";
import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { type Practitioner } from "../../api/setup";

import { Outcome } from "../../shared/change";
import { AreaField, SelectField, TextField } from "../../shared/Field";
import { DateField } from "../../shared/fields/DateField";
import { CheckField } from "../../shared/fields/CheckField";
import { NumberField } from "../../shared/inputs";
import { Box, Columns, Page, Row, Section, Stack, Tabs, asForm } from "../../shared/layout";
import { Face, PictureField } from "../../shared/pictures";
import { useKept } from "../../shared/kept";
import { Press } from "../../shared/Press";
import { Plain } from "../../shared/Plain";
import { CalendarTab } from "../calendar/CalendarTab";
import { RotaTab } from "./rota/RotaTab";
import { ServicesTab } from "./ServicesTab";
import { usePractitioners } from "./team";

/** One practitioner: who they are, when they work, what they do. */
export function PractitionerPage() {
  const { id = "", tab } = useParams();
  const people = usePractitioners();
  const item = people.data?.find((other) => other.id === id);
  if (!people.data) return null;
  if (!item)
    return (
      <Page title={t`Team`}>
        <Trans>
          There is nobody of that kind. <Link to="/team">Back to the team</Link>
        </Trans>
      </Page>
    );
  return (
    <Page
      title={item.name ?? ""}
      actions={
        <Link to="/team">
          <Box as="span" textDecoration="underline">
            <Trans>Back to the team</Trans>
          </Box>
        </Link>
      }
    >
      <Tabs
        label={item.name ?? ""}
        items={[
          [`/team/${id}`, t`About`],
          [`/team/${id}/rota`, t`Rota`],
          [`/team/${id}/calendar`, t`Calendar`],
          [`/team/${id}/services`, t`Services`],
        ]}
      />
      {tab === "rota" ? (
        <RotaTab key={id} practitioner={item} people={people.data} />
      ) : tab === "calendar" ? (
        <CalendarTab key={id} practitioner={item} />
      ) : tab === "services" ? (
        <ServicesTab key={id} practitioner={item} />
      ) : (
        <AboutTab key={id} person={item} />
      )}
    </Page>
  );
}

function AboutTab({ person }: { person: Practitioner }) {
  const { draft, set, save, errors, submit } = useKept(person, keepers.practitioner);
  return (
    <Box {...asForm} onSubmit={submit} display="grid" gap="3.5" maxW="220" pb="7">
      <Section title={t`Who they are`}>
        <Columns least={260}>
          <TextField
            label={t`Name`}
            value={draft.name ?? ""}
            error={errors["name"]}
            onChange={(e) => set({ name: e.target.value })}
          />
          <PictureField label={t`Photo`} round id={draft.photoId} onChange={(photoId) => set({ photoId })} />
          <TextField
            label={t`Telephone`}
            value={draft.phone ?? ""}
            error={errors["phone"]}
            onChange={(e) => set({ phone: e.target.value })}
          />
          <TextField
            label={t`E-mail address`}
            type="email"
            value={draft.email ?? ""}
            error={errors["email"]}
            onChange={(e) => set({ email: e.target.value })}
          />
          <Box>
            <Box fontWeight="600" fontSize="small" mb="0.5" id="tint-label">
              <Trans>Tint</Trans>
            </Box>
            <Row gap="1" role="group" aria-labelledby="tint-label">
              {Array.from({ length: 7 }, (_, tint) => (
                <Plain
                  key={tint}
                  aria-label={t`Tint ${tint + 1}`}
                  aria-pressed={draft.tint % 7 === tint}
                  onClick={() => set({ tint })}
                  w="8"
                  h="8"
                  borderRadius="50%"
                  bg={`tint${tint}`}
                  cursor="pointer"
                  borderWidth={draft.tint % 7 === tint ? "mark" : "line"}
                  borderColor={draft.tint % 7 === tint ? "ink" : "edge"}
                />
              ))}
              <Face name={draft.name ?? ""} photoId={draft.photoId} tint={draft.tint} />
            </Row>
          </Box>
          <WordsField
            label={t`Languages`}
            words={draft.languages ?? []}
            error={errors["languages"]}
            onChange={(languages) => set({ languages })}
          />
        </Columns>
        <Box mt="3">
          <AreaField
            label={t`A few words for clients`}
            value={draft.bio ?? ""}
            error={errors["bio"]}
            maxLength={2000}
            onChange={(e) => set({ bio: e.target.value })}
          />
        </Box>
      </Section>
      <Section title={t`Booked online`}>
        <Stack gap="1">
          <CheckField
            label={t`Clients may book them online`}
            checked={draft.bookableOnline}
            onChange={(bookableOnline) => set({ bookableOnline })}
          />
          <CheckField
            label={t`New clients too`}
            checked={draft.acceptsNewClients}
            disabled={!draft.bookableOnline}
            onChange={(acceptsNewClients) => set({ acceptsNewClients })}
          />
          <CheckField
            label={t`The desk looks at each booking first`}
            checked={draft.needsApproval ?? false}
            disabled={!draft.bookableOnline}
            onChange={(needsApproval) => set({ needsApproval })}
          />
        </Stack>
      </Section>
      <Section
        title={t`At once`}
        hint={t`In services that can be looked after beside others; every other takes the whole person.`}
      >
        <Columns>
          <NumberField
            label={t`Clients at once`}
            value={draft.attention}
            min={1}
            error={errors["attention"]}
            onChange={(clients) => set({ attention: clients ?? 1 })}
          />
        </Columns>
      </Section>
      <Section title={t`Most in a day`} hint={t`What clients can book of their day. The desk may go beyond.`}>
        <Columns>
          <NumberField
            label={t`Appointments`}
            value={draft.mostAppointments}
            placeholder={t`no limit`}
            error={errors["mostAppointments"]}
            onChange={(mostAppointments) => set({ mostAppointments })}
          />
          <NumberField
            label={t`Minutes, buffers included`}
            step={5}
            value={draft.mostMinutes}
            placeholder={t`no limit`}
            error={errors["mostMinutes"]}
            onChange={(mostMinutes) => set({ mostMinutes })}
          />
        </Columns>
        <CategoryLimits draft={draft} set={set} errors={errors} />
      </Section>
      <Section title={t`Signing in`}>
        <Trans>
          They see the book and their own shifts with an account of their own;{" "}
          <Link to="/setup/accounts">
            <Box as="span" textDecoration="underline" fontWeight="600">
              make one, or a sign-in link
            </Box>
          </Link>
          .
        </Trans>
      </Section>
      <Section title={t`Leaving`} hint={t`From that day on they are not booked any more. Everything up to then stays.`}>
        <Box maxW="55">
          <DateField
            label={t`First day no longer here`}
            value={draft.retired}
            error={errors["retired"]}
            onChange={(retired) => set({ retired })}
          />
        </Box>
      </Section>
      <Row position="sticky" bottom="-4" bg="paper" pt="2.5" pb="6" mb="-4">
        <Press type="submit" look="primary" disabled={save.pending}>
          <Trans>Save</Trans>
        </Press>
        <Outcome
          change={save}
          fields={["name", "phone", "email", "bio", "languages", "mostAppointments", "mostMinutes", "retired"]}
        />
      </Row>
    </Box>
  );
}

type LimitsProps = {
  draft: Practitioner;
  set: (change: Partial<Practitioner>) => void;
  errors: Record<string, string>;
};

/** At most so many of a category in a day. */
function CategoryLimits({ draft, set, errors }: LimitsProps) {
  const categories = useQuery(asks.categories());
  const limits = draft.mostPerCategory ?? [];
  return (
    <>
      {limits.map((limit, i) => (
        <Row key={i} alignItems="end" mt="2">
          <Box w="55">
            <SelectField
              label={t`Category`}
              value={limit.categoryId}
              error={errors[`mostPerCategory[${i}].categoryId`]}
              onChange={(e) =>
                set({
                  mostPerCategory: limits.map((other, j) =>
                    j === i ? { ...other, categoryId: e.target.value } : other,
                  ),
                })
              }
            >
              {categories.data?.map((category) => (
                <option key={category.id} value={category.id!}>
                  {category.name}
                </option>
              ))}
            </SelectField>
          </Box>
          <Box w="30">
            <NumberField
              label={t`At most`}
              value={limit.most}
              error={errors[`mostPerCategory[${i}].most`]}
              onChange={(most) =>
                set({ mostPerCategory: limits.map((other, j) => (j === i ? { ...other, most: most ?? 0 } : other)) })
              }
            />
          </Box>
          <Press look="quiet" onClick={() => set({ mostPerCategory: limits.filter((_, j) => j !== i) })}>
            <Trans>Take out</Trans>
          </Press>
        </Row>
      ))}
      {(categories.data?.length ?? 0) > limits.length && (
        <Press
          size="small"
          mt="2.5"
          onClick={() =>
            set({
              mostPerCategory: [
                ...limits,
                {
                  categoryId: categories.data!.find((category) =>
                    limits.every((limit) => limit.categoryId !== category.id),
                  )!.id!,
                  most: 3,
                },
              ],
            })
          }
        >
          <Trans>Limit a category</Trans>
        </Press>
      )}
    </>
  );
}
