import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../../api/queries";
import type { ExtraShifts, KeptExtraShifts } from "../../../api/setup";
import { staff } from "../../../api/staff";
import { Outcome, useChange } from "../../../shared/change";
import { Box, Page, Panel, Row, Stack, Tabs } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { say } from "../../../shared/toasts";
import { useDeskSetup, useToday } from "../../../shared/today";
import { useUnsaved } from "../../../shared/unsaved";
import { keptWords } from "../../team/rota/KeptFor";
import { teamTabs } from "../../team/team";
import { extraWords, freshExtra, peopleWords } from "./extra";
import { ExtraComing } from "./ExtraComing";
import { ExtraSentence } from "./ExtraSentence";

/** Shifts over a range of dates for several people: added in one go, and taken back in one go. */
export function ExtraShiftsPage() {
  const kept = useQuery(asks.extraShifts());
  if (!kept.data) return null;
  return (
    <Page title={t`Team`}>
      <Tabs label={t`Team`} items={teamTabs} />
      <Stack pb="7">
        <AddExtra />
        {kept.data.length > 0 && (
          <Box as="section" aria-label={t`Added before`}>
            <Box as="h2" fontSize="text" mb="2">
              <Trans>Added before</Trans>
            </Box>
            <Stack gap="2">
              {kept.data.map((extra) => (
                <Added key={extra.id} extra={extra} />
              ))}
            </Stack>
          </Box>
        )}
      </Stack>
    </Page>
  );
}

function AddExtra() {
  const setup = useDeskSetup();
  const fresh = freshExtra(useToday(), setup.locations[0]?.id ?? "");
  const [draft, setDraft] = useState(fresh);
  // One key for one adding: pressing twice, or a repeat after a lost connection, adds once.
  const [key, setKey] = useState(() => crypto.randomUUID());
  const isWritten = draft.practitionerIds.length > 0;
  const settled = useUnsaved(isWritten);
  const add = useChange(
    (wanted: ExtraShifts, headers) =>
      answerOf(
        staff.POST("/api/v1/setup/extra-shifts", { headers: { ...headers, "Idempotency-Key": key }, body: wanted }),
      ),
    () => {
      settled();
      setDraft(fresh);
      setKey(crypto.randomUUID());
    },
  );
  return (
    <Panel as="section" aria-label={t`Add extra shifts`}>
      <Stack gap="3.5">
        <ExtraSentence
          draft={draft}
          errors={add.errors}
          onChange={(next) => {
            setDraft(next);
            setKey(crypto.randomUUID());
          }}
        />
        <Row>
          <Press look="primary" disabled={!isWritten || add.pending} onClick={() => add.run(draft)}>
            <Trans>Add these shifts</Trans>
          </Press>
          {isWritten && (
            <Press look="quiet" onClick={() => setDraft(fresh)}>
              <Trans>Leave it</Trans>
            </Press>
          )}
        </Row>
        <Outcome change={add} saved={t`Added.`} />
        {isWritten ? (
          <ExtraComing extra={draft} />
        ) : (
          <Box color="quiet">
            <Trans>Say who works then, and you see what would come of it before anything is kept.</Trans>
          </Box>
        )}
      </Stack>
    </Panel>
  );
}

function Added({ extra }: { extra: KeptExtraShifts }) {
  const setup = useDeskSetup();
  const { asked } = extra;
  const changed = Number(extra.changed);
  const takeBack = useChange(
    (id: string, headers) =>
      answerOf(staff.DELETE("/api/v1/setup/extra-shifts/{id}", { params: { path: { id } }, headers })),
    // What it is said of is no longer there.
    () => say(t`Taken back: every day is again what it was before.`),
  );
  const facts = [
    peopleWords(asked.practitionerIds ?? [], setup),
    asked.shift ? keptWords(asked.shift, setup) : "",
    asked.reason ?? "",
    plural(Number(extra.days), { one: "# day", other: "# days" }),
    changed > 0 ? plural(changed, { one: "# changed since, which stays", other: "# changed since, which stay" }) : "",
  ];
  return (
    <Panel as="section" aria-label={extraWords(asked)}>
      <Row justifyContent="space-between" flexWrap="nowrap" alignItems="start">
        <Box minW="0">
          <Box fontWeight="700">{extraWords(asked)}</Box>
          <Box color="quiet">{facts.filter(Boolean).join(" · ")}</Box>
        </Box>
        <Press disabled={takeBack.pending} onClick={() => takeBack.run(extra.id)}>
          <Trans>Take back</Trans>
        </Press>
      </Row>
      <Outcome change={takeBack} />
    </Panel>
  );
}
