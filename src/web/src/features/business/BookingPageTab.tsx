import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { WordsField } from "../../shared/fields/WordsField";
import { keepers } from "../../api/keepers";
import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { type BookingPage, type Question } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { AreaField, SelectField, TextField } from "../../shared/Field";
import { CheckField } from "../../shared/fields/CheckField";
import { ChoiceField, NumberField } from "../../shared/inputs";
import { Box, Columns, Row, Section, Stack, asForm } from "../../shared/layout";
import { adding, useOpened } from "../../shared/opened";
import { useKept } from "../../shared/kept";
import { Entry } from "../../shared/Entry";
import { Press } from "../../shared/Press";
import { Sortable } from "../../shared/Sortable";
import { useServices } from "../team/ServicesTab";
import { OwnSite } from "./OwnSite";
import { UnmetPart } from "./UnmetPart";

const kinds: Record<Question["kind"], string> = {
  line: t`in a line`,
  text: t`in a longer text`,
  yesNo: t`with yes or no`,
  oneOf: t`with one of several choices`,
  tick: t`with a tick`,
  number: t`with a number`,
  date: t`with a date`,
  file: t`with a file (PDF or picture)`,
};

/** What a client is asked and accepts when they book online, and where they are led then. */
export function BookingPageTab() {
  const page = useQuery(asks.bookingPage());
  return (
    <Stack maxW="225" pb="7">
      {page.data && <PageForm page={page.data} />}
      <Questions />
      <UnmetPart />
    </Stack>
  );
}

function Questions() {
  const questions = useQuery(asks.questions());
  const opened = useOpened("question");
  const chosen = opened.id;
  const order = useChange((ids: string[], headers) =>
    answerOf(staff.PUT("/api/v1/setup/questions/order", { headers, body: { ids } })),
  );
  const fresh: Question = {
    id: null,
    text: "",
    hint: "",
    kind: "line",
    choices: [],
    required: false,
    serviceIds: [],
    isArchived: false,
    version: 0,
  };
  const entry = chosen === "new" ? fresh : questions.data?.find((other) => other.id === chosen);
  return (
    <Section
      title={t`Questions to the client`}
      hint={t`Asked after they have chosen a time. Their answers stand in the visit.`}
      actions={
        <Press size="small" onClick={() => opened.open(adding)}>
          <Trans>Add a question</Trans>
        </Press>
      }
    >
      {questions.data?.length === 0 && chosen !== "new" && (
        <Box color="quiet">
          <Trans>
            None yet. Ask only what you have to know before the visit, such as allergies or the floor a wheelchair
            needs.
          </Trans>
        </Box>
      )}
      <Sortable
        items={questions.data ?? []}
        idOf={(item) => item.id!}
        nameOf={(item) => item.text ?? ""}
        onOrder={(ids) => order.run(ids)}
      >
        {(item) => (
          <Entry name={item.text} isOpen={item.id === chosen} onOpen={() => opened.open(item.id)}>
            {[
              t`answered ${kinds[item.kind]}`,
              item.required && t`has to be answered`,
              (item.serviceIds ?? []).length > 0 &&
                plural(item.serviceIds!.length, { one: "for # service", other: "for # services" }),
              item.isArchived && t`no longer asked`,
            ]
              .filter(Boolean)
              .join(" · ")}
          </Entry>
        )}
      </Sortable>
      <Outcome change={order} saved={t`Order saved.`} />
      {entry && <QuestionForm key={chosen} question={entry} onMade={opened.replace} />}
    </Section>
  );
}

function QuestionForm({ question, onMade }: { question: Question; onMade: (id: string) => void }) {
  const { draft, set, save, submit } = useKept(question, keepers.question, onMade);
  const services = useServices();
  return (
    <Stack {...asForm} borderTopWidth="line" borderColor="line" mt="2.5" pt="3" onSubmit={submit}>
      <Columns least={300}>
        <TextField
          label={t`Question`}
          value={draft.text ?? ""}
          autoFocus={!question.id}
          error={save.errors["text"]}
          onChange={(e) => set({ text: e.target.value })}
        />
        <TextField
          label={t`What helps to answer it`}
          value={draft.hint ?? ""}
          error={save.errors["hint"]}
          onChange={(e) => set({ hint: e.target.value })}
        />
        <SelectField
          label={t`Answered`}
          value={draft.kind}
          onChange={(e) => set({ kind: e.target.value as Question["kind"] })}
        >
          {Object.entries(kinds).map(([kind, words]) => (
            <option key={kind} value={kind}>
              {words}
            </option>
          ))}
        </SelectField>
        {draft.kind === "oneOf" && (
          <WordsField
            label={t`Choices`}
            words={draft.choices ?? []}
            error={save.errors["choices"]}
            onChange={(choices) => set({ choices })}
          />
        )}
      </Columns>
      <ChoiceField
        label={t`Only for these services (none chosen: for all)`}
        options={(services.data ?? [])
          .filter((other) => !other.isArchived)
          .map((other) => [other.id!, other.name ?? ""] as const)}
        chosen={draft.serviceIds ?? []}
        error={Object.entries(save.errors).find(([field]) => field.startsWith("serviceIds"))?.[1]}
        onChange={(serviceIds) => set({ serviceIds })}
      />
      <CheckField
        label={draft.kind === "tick" ? t`Nobody books without ticking it` : t`Nobody books without an answer`}
        checked={draft.required}
        onChange={(required) => set({ required })}
      />
      {question.id && (
        <CheckField
          label={t`No longer asked`}
          checked={draft.isArchived}
          onChange={(isArchived) => set({ isArchived })}
        />
      )}
      <Row>
        <Press type="submit" look="primary" disabled={save.pending}>
          {question.id ? t`Save the question` : t`Add it`}
        </Press>
        <Outcome change={save} fields={["text", "hint", "choices"]} />
      </Row>
    </Stack>
  );
}

function PageForm({ page }: { page: BookingPage }) {
  const { draft, set, save, errors, submit } = useKept(page, keepers.bookingPage);
  return (
    <Stack {...asForm} onSubmit={submit}>
      <Section title={t`Online booking`}>
        <CheckField
          label={t`Clients can book online`}
          checked={draft.bookableOnline}
          hint={t`Taken out, the booking page says so and gives the telephone number; nothing else of the setup changes.`}
          onChange={(bookableOnline) => set({ bookableOnline })}
        />
        <Columns least={240}>
          <SelectField
            label={t`Your telephone number on the page`}
            value={draft.phoneShown}
            onChange={(e) => set({ phoneShown: e.target.value as BookingPage["phoneShown"] })}
          >
            <option value="always">{t`always`}</option>
            <option value="whenFull">{t`only where nothing is left to book`}</option>
            <option value="never">{t`never`}</option>
          </SelectField>
          <NumberField
            label={t`Visits one client may have booked ahead`}
            min={1}
            value={draft.mostOpenOnline}
            error={errors["mostOpenOnline"]}
            hint={t`Counted over what they booked online; the desk books as many as it likes.`}
            onChange={(mostOpenOnline) => set({ mostOpenOnline: mostOpenOnline ?? 0 })}
          />
          <NumberField
            label={t`People who may come to one visit`}
            min={1}
            value={draft.mostPeopleOnline}
            error={errors["mostPeopleOnline"]}
            hint={t`Whoever books counts: with 2 a client may bring a friend, each with services of their own, at the same time.`}
            onChange={(mostPeopleOnline) => set({ mostPeopleOnline: mostPeopleOnline ?? 0 })}
          />
        </Columns>
      </Section>
      <Section
        title={t`Who books online`}
        hint={t`Whoever shows who they are books by their record: what they may book, what they pay before, who has to ask.`}
      >
        <CheckField
          label={t`Anybody, by a name and an address`}
          checked={draft.booksGuests}
          error={errors["booksGuests"]}
          onChange={(booksGuests) => set({ booksGuests })}
        />
        <CheckField
          label={t`Clients who have shown who they are`}
          checked={draft.booksKnown}
          hint={t`By the link in a message, a code or their own password.`}
          onChange={(booksKnown) => set({ booksKnown })}
        />
        <CheckField
          label={t`New people who have shown that an address is theirs`}
          checked={draft.booksNew}
          error={errors["booksNew"]}
          hint={t`A code is sent to it. It matters where the first is taken out.`}
          onChange={(booksNew) => set({ booksNew })}
        />
      </Section>
      <Section
        title={t`Requests`}
        hint={t`Their time is kept meanwhile. What nobody answers or chooses in time lapses, and the client is told.`}
      >
        <Columns least={300}>
          <NumberField
            label={t`Hours the desk has to answer`}
            min={1}
            value={draft.answerHours}
            error={errors["answerHours"]}
            onChange={(answerHours) => set({ answerHours: answerHours ?? 0 })}
          />
          <NumberField
            label={t`Hours a client has to choose another time`}
            min={1}
            value={draft.chooseHours}
            error={errors["chooseHours"]}
            onChange={(chooseHours) => set({ chooseHours: chooseHours ?? 0 })}
          />
        </Columns>
      </Section>
      <Section
        title={t`Terms`}
        hint={t`Markdown. Where there are any, a client accepts them with each booking; which ones they accepted is kept.`}
      >
        <AreaField
          label={t`What a client accepts`}
          rows={8}
          value={draft.terms ?? ""}
          error={errors["terms"]}
          onChange={(e) => set({ terms: e.target.value })}
        />
      </Section>
      <OwnSite sites={draft.frameSites ?? []} errors={errors} onSites={(frameSites) => set({ frameSites })} />
      <Section
        title={t`After the booking`}
        hint={t`The client always sees what they booked and its reference, unless they are led on at once.`}
      >
        <Columns least={300}>
          <TextField
            label={t`Address to lead them to`}
            type="url"
            placeholder={t`https://`}
            value={draft.afterAddress ?? ""}
            error={errors["afterAddress"]}
            onChange={(e) => set({ afterAddress: e.target.value })}
          />
          <TextField
            label={t`What the button says`}
            placeholder={t`Go on`}
            value={draft.afterWords ?? ""}
            error={errors["afterWords"]}
            onChange={(e) => set({ afterWords: e.target.value })}
          />
        </Columns>
        <Box mt="2.5">
          <CheckField
            label={t`Lead them there at once`}
            checked={draft.afterAtOnce}
            onChange={(afterAtOnce) => set({ afterAtOnce })}
          />
          {errors["afterAtOnce"] && (
            <Box role="alert" color="clay" fontSize="small">
              {errors["afterAtOnce"]}
            </Box>
          )}
        </Box>
      </Section>
      <Row>
        <Press type="submit" look="primary" disabled={save.pending}>
          <Trans>Save</Trans>
        </Press>
        <Outcome
          change={save}
          fields={[
            "mostOpenOnline",
            "mostPeopleOnline",
            "answerHours",
            "chooseHours",
            "terms",
            "afterAddress",
            "afterWords",
            "afterAtOnce",
          ]}
        />
      </Row>
    </Stack>
  );
}
