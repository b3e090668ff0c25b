import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Practitioner, type Rota } from "../../../api/setup";

import { addDays, longDate, mondayOf } from "../../../shared/format";
import { Box, Panel } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { ChoicePart, Sentence } from "../../../shared/sentence/Sentence";
import { usePlaces, useToday } from "../../../shared/today";
import type { Person } from "../../calendar/CalendarTab";
import { RotaEditor } from "./RotaEditor";

const fresh = "new";

/** The rotas of somebody: which holds, and what comes after it. */
export function RotaTab({ practitioner, people }: { practitioner: Person; people: Practitioner[] }) {
  const work = useQuery(asks.work(practitioner.id!));
  const locations = usePlaces();
  const today = useToday();
  const [from, setFrom] = useState<string | null>(null);
  const [draft, setDraft] = useState<Rota | null>(null);
  const [said, setSaid] = useState("");
  if (!work.data) return null;
  if (!locations[0])
    return (
      <Panel>
        <Trans>Say where clients come first: a shift is at a location.</Trans>
      </Panel>
    );
  const rotas = work.data.rotas;
  const now = [...rotas].reverse().find((rota) => rota.from <= today) ?? rotas[0];
  const kept = draft ?? rotas.find((rota) => rota.from === from) ?? now;
  const start = (copy: Rota | undefined) => {
    setSaid("");
    setDraft({
      from: copy ? addDays(mondayOf(today), 7) : today,
      weeks: copy?.weeks ?? 1,
      shifts: copy?.shifts ?? [],
      version: 0,
    });
  };
  if (!kept)
    return (
      <Panel>
        <Box mb="2.5">
          <Trans>{practitioner.name} has no shifts yet, so nobody can book with them.</Trans>
        </Box>
        <Press look="primary" onClick={() => start(undefined)}>
          <Trans>Start the rota</Trans>
        </Press>
      </Panel>
    );
  const name = (rota: Rota) =>
    rota === now ? t`from ${longDate(rota.from)}, which holds now` : t`from ${longDate(rota.from)}`;
  return (
    <Box pb="7">
      {(rotas.length > 1 || draft) && (
        <Box mb="1.5">
          <Sentence size="text">
            <Trans>
              You see the rota{" "}
              <ChoicePart
                label={t`Rota`}
                value={draft ? fresh : kept.from}
                options={[
                  ...rotas.map((rota) => ({ value: rota.from, label: name(rota) })),
                  ...(draft ? [{ value: fresh, label: t`that is new` }] : []),
                ]}
                onChange={(chosen) => {
                  if (chosen === fresh) return;
                  setDraft(null);
                  setFrom(chosen);
                }}
              />
              .
            </Trans>
          </Sentence>
        </Box>
      )}
      <Box aria-live="polite" color="reed">
        {said && `✓ ${said}`}
      </Box>
      <RotaEditor
        key={draft ? fresh : `${kept.from} ${kept.version}`}
        rota={kept}
        isNew={draft !== null}
        practitioner={practitioner}
        people={people}
        onDone={(at) => {
          setDraft(null);
          setFrom(at);
          setSaid(at ? t`Saved. It holds from ${longDate(at)} on.` : t`Taken out.`);
        }}
        onLeave={() => setDraft(null)}
      />
      {!draft && (
        <Press size="small" look="quiet" onClick={() => start(kept)}>
          <Trans>Change it from a date on</Trans>
        </Press>
      )}
    </Box>
  );
}
