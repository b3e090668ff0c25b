import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { asks } from "../../api/queries";
import type { MessageRule } from "../../api/setup";
import { Entry } from "../../shared/Entry";
import { Page, Panel, Split, Stack, Tabs } from "../../shared/layout";
import { adding, openedOf, useOpened } from "../../shared/opened";
import { Press } from "../../shared/Press";
import { useDeskSetup } from "../../shared/today";
import { messageTabs } from "./messageTabs";
import { filterWords, howWords, whenWords } from "./messageWords";
import { QuietHours } from "./QuietHours";
import { RuleForm } from "./RuleForm";

const fresh = (language: string): MessageRule => ({
  id: null,
  trigger: "beforeStart",
  channel: "email",
  recipient: "client",
  offsetMinutes: 1440,
  lateMinutes: 240,
  onlyIfNotBack: false,
  clients: "all",
  origin: "all",
  serviceIds: [],
  staffIds: [],
  isOn: true,
  texts: [{ language, subject: "", body: "" }],
  version: 0,
});

/** Who is told what and when, and in which words. */
export function RulesPage() {
  const rules = useQuery(asks.messageRules());
  const setup = useDeskSetup();
  const opened = useOpened();
  const language = setup.locale.split("-")[0]!.toLowerCase();
  const rule = rules.data && (openedOf(rules.data, opened.id) ?? fresh(language));
  const places = new Map(setup.locations.map(({ id, name }) => [id, name]));
  return (
    <Page
      title={t`Messages`}
      actions={
        <Press look="primary" onClick={() => opened.open(adding)}>
          <Trans>Add a message</Trans>
        </Press>
      }
    >
      <Tabs label={t`Messages`} items={messageTabs(true)} />
      <Split>
        <Stack>
          <Panel aria-label={t`What is said`}>
            {rules.data?.map((other) => (
              <Entry
                key={other.id}
                name={whenWords(other)}
                isOpen={other.id === rule?.id}
                onOpen={() => opened.open(other.id!)}
              >
                {[howWords(other), filterWords(other, places), other.isOn ? "" : t`off`].filter(Boolean).join(" · ")}
              </Entry>
            ))}
          </Panel>
          <QuietHours />
        </Stack>
        {rule && (
          <RuleForm key={rule.id ?? "new"} rule={rule} onMade={opened.replace} onGone={() => opened.open(null)} />
        )}
      </Split>
    </Page>
  );
}
