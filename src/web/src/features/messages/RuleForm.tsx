import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { keepers } from "../../api/keepers";
import { asks } from "../../api/queries";
import { ifMatch, type MessageRule } from "../../api/setup";
import { staff } from "../../api/staff";
import { Outcome, useChange } from "../../shared/change";
import { SelectField } from "../../shared/Field";
import { CheckField } from "../../shared/fields/CheckField";
import { ChoiceField, NumberField } from "../../shared/inputs";
import { Box, Columns, Row, Section, Stack, asForm } from "../../shared/layout";
import { useKept } from "../../shared/kept";
import { Press } from "../../shared/Press";
import { answerOf } from "../../shared/problem";
import { useDeskSetup } from "../../shared/today";
import { triggers, whenWords } from "./messageWords";
import { TextsPart } from "./TextsPart";

type Props = { rule: MessageRule; onMade: (id: string) => void; onGone: () => void };

const isTimed = (trigger: MessageRule["trigger"]) => trigger === "beforeStart" || trigger === "afterEnd";

/** One message: when it goes to whom, and what it says. */
export function RuleForm({ rule, onMade, onGone }: Props) {
  const { draft, set, save, submit } = useKept(rule, keepers.message, onMade);
  const remove = useChange(
    (_: void, headers) =>
      answerOf(
        staff.DELETE("/api/v1/setup/messages/{id}", {
          params: { path: { id: rule.id! } },
          headers: { ...headers, ...ifMatch(rule.version) },
        }),
      ),
    onGone,
  );
  const part = { draft, set, errors: save.errors };
  return (
    <Section title={rule.id ? whenWords(rule) : t`A new message`}>
      <Stack {...asForm} onSubmit={submit}>
        <WhenPart {...part} />
        <AboutPart {...part} />
        <TextsPart {...part} />
        <CheckField label={t`It is sent`} checked={draft.isOn} onChange={(isOn) => set({ isOn })} />
        <Row>
          <Press type="submit" look="primary">
            {rule.id ? t`Save` : t`Add it`}
          </Press>
          {rule.id && (
            <Press look="quiet" disabled={remove.pending} onClick={() => remove.run()}>
              <Trans>Take out</Trans>
            </Press>
          )}
          <Outcome change={save} fields={["offsetMinutes", "channel", "staffIds"]} />
          <Outcome change={remove} />
        </Row>
      </Stack>
    </Section>
  );
}

type PartProps = {
  draft: MessageRule;
  set: (patch: Partial<MessageRule>) => void;
  errors: Record<string, string | undefined>;
};

function WhenPart({ draft, set, errors }: PartProps) {
  const timed = isTimed(draft.trigger);
  return (
    <Columns least={180}>
      <SelectField
        label={t`When`}
        value={draft.trigger}
        onChange={(e) => {
          const trigger = e.target.value as MessageRule["trigger"];
          set({ trigger, offsetMinutes: isTimed(trigger) ? draft.offsetMinutes || 1440 : 0 });
        }}
      >
        {Object.entries(triggers())
          .filter(([trigger]) => trigger !== "code")
          .map(([trigger, words]) => (
            <option key={trigger} value={trigger}>
              {words}
            </option>
          ))}
      </SelectField>
      {timed && (
        <NumberField
          label={draft.trigger === "beforeStart" ? t`Hours before it begins` : t`Hours after it ends`}
          min={1}
          value={Math.round(Number(draft.offsetMinutes) / 60) || null}
          error={errors["offsetMinutes"]}
          onChange={(hours) => set({ offsetMinutes: (hours ?? 0) * 60 })}
        />
      )}
      {timed && (
        <NumberField
          label={t`Still makes sense, hours late`}
          value={Math.round(Number(draft.lateMinutes) / 60)}
          error={errors["lateMinutes"]}
          onChange={(hours) => set({ lateMinutes: (hours ?? 0) * 60 })}
        />
      )}
      <SelectField
        label={t`How`}
        value={draft.channel}
        error={errors["channel"]}
        onChange={(e) => set({ channel: e.target.value as MessageRule["channel"] })}
      >
        <option value="email">{t`By e-mail`}</option>
        <option value="text">{t`As a text message`}</option>
      </SelectField>
      <SelectField
        label={t`To whom`}
        value={draft.recipient}
        onChange={(e) => set({ recipient: e.target.value as MessageRule["recipient"] })}
      >
        <option value="client">{t`The client`}</option>
        <option value="payer">{t`Whoever pays for the visit`}</option>
        <option value="practitioner">{t`The practitioner`}</option>
        <option value="staff">{t`People of the team`}</option>
      </SelectField>
    </Columns>
  );
}

function AboutPart({ draft, set, errors }: PartProps) {
  const { locations } = useDeskSetup();
  const services = useQuery(asks.services());
  const accounts = useQuery({ ...asks.accounts(), enabled: draft.recipient === "staff" });
  return (
    <>
      {draft.recipient === "staff" && (
        <ChoiceField
          label={t`Who is told`}
          options={(accounts.data ?? []).map((account) => [account.id!, account.name ?? ""] as const)}
          chosen={draft.staffIds ?? []}
          error={errors["staffIds"]}
          onChange={(staffIds) => set({ staffIds })}
        />
      )}
      <Columns least={180}>
        <SelectField
          label={t`Where`}
          value={draft.locationId ?? ""}
          onChange={(e) => set({ locationId: e.target.value || null })}
        >
          <option value="">{t`At all locations`}</option>
          {locations.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
        <SelectField
          label={t`Whose visits`}
          value={draft.clients ?? "all"}
          onChange={(e) => set({ clients: e.target.value as NonNullable<MessageRule["clients"]> })}
        >
          <option value="all">{t`Everybody's`}</option>
          <option value="new">{t`New clients'`}</option>
          <option value="returning">{t`Returning clients'`}</option>
        </SelectField>
        <SelectField
          label={t`Done by`}
          value={draft.origin ?? "all"}
          onChange={(e) => set({ origin: e.target.value as NonNullable<MessageRule["origin"]> })}
        >
          <option value="all">{t`Whoever`}</option>
          <option value="online">{t`The client, online`}</option>
          <option value="desk">{t`The desk`}</option>
        </SelectField>
      </Columns>
      {draft.trigger === "afterEnd" && (
        <CheckField
          label={t`Only who has nothing of the kind since, neither been nor booked`}
          checked={draft.onlyIfNotBack ?? false}
          onChange={(onlyIfNotBack) => set({ onlyIfNotBack })}
        />
      )}
      <details>
        <Box as="summary" cursor="pointer" fontSize="small">
          {(draft.serviceIds ?? []).length === 0 ? t`For all services` : t`For some services only`}
        </Box>
        <ChoiceField
          label={t`Only with these services (none: all)`}
          options={(services.data ?? [])
            .filter((service) => !service.isArchived)
            .map((service) => [service.id!, service.name ?? ""] as const)}
          chosen={draft.serviceIds ?? []}
          onChange={(serviceIds) => set({ serviceIds })}
        />
      </details>
    </>
  );
}
