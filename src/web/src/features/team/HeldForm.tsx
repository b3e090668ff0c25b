import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { useState } from "react";
import { ifMatch, type HeldChange, type Practitioner, type Qualification } from "../../api/setup";
import { staff } from "../../api/staff";
import { Outcome, useChange } from "../../shared/change";
import { DateField } from "../../shared/fields/DateField";
import { FileField } from "../../shared/fields/FileField";
import { NumberField } from "../../shared/inputs";
import { Box, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { answerOf, Problem } from "../../shared/problem";
import { useToday } from "../../shared/today";
import { useUnsaved } from "../../shared/unsaved";
import { held as recipe } from "../../theme/recipes/held";

export type Cell = `${string}|${string}`;
/** What was drawn on a cell. */
export type Drawn = { from: string; until: string | null };

type Props = {
  cells: Cell[];
  drawn: Drawn | null;
  people: Practitioner[];
  kinds: Qualification[];
  onLeave: () => void;
};

/** What is chosen in figures: from when, until when, and the evidence. */
export function HeldForm({ cells, drawn, people, kinds, onLeave }: Props) {
  const styles = useSlotRecipe({ recipe })();
  const today = useToday();
  const only = cells.length === 1 ? cells[0]!.split("|") : null;
  const person = only && people.find((other) => other.id === only[0]);
  const kind = only ? kinds.find((other) => other.id === only[1]) : undefined;
  const before = person?.qualifications?.filter((other) => other.qualificationId === only![1]).at(-1);
  const [from, setFrom] = useState<string | null>(drawn?.from ?? before?.from ?? today);
  const [until, setUntil] = useState<string | null>(drawn ? drawn.until : (before?.until ?? null));
  const [evidenceId, setEvidence] = useState<string | null>(before?.evidenceId ?? null);
  const [fault, setFault] = useState<string>();
  const isChanged =
    from !== (before?.from ?? today) ||
    until !== (before?.until ?? null) ||
    evidenceId !== (before?.evidenceId ?? null);
  const settled = useUnsaved(isChanged);
  const save = useChange(
    (held: HeldChange["held"], headers) =>
      answerOf(
        staff.PUT("/api/v1/setup/held-qualifications", {
          headers,
          body: cells.map((cell) => {
            const [practitionerId, qualificationId] = cell.split("|") as [string, string];
            return { practitionerId, qualificationId, held };
          }),
        }),
      ),
    () => {
      settled();
      onLeave();
    },
  );
  const warn = useChange((wanted: Qualification, headers) =>
    answerOf(
      staff.PUT("/api/v1/setup/qualifications/{id}", {
        params: { path: { id: wanted.id! } },
        headers: { ...headers, ...ifMatch(wanted.version) },
        body: wanted,
      }),
    ),
  );
  const upload = async (file: File | undefined) => {
    if (!file) return;
    setFault(undefined);
    const form = new FormData();
    form.append("file", file);
    try {
      setEvidence((await answerOf(staff.POST("/api/v1/setup/evidence", { body: form as never }))).id);
    } catch (error) {
      setFault(error instanceof Problem ? error.message : t`The file could not be sent.`);
    }
  };
  const errorAt = (end: string) => Object.entries(save.errors).find(([field]) => field.endsWith(end))?.[1];
  return (
    <Box css={styles["form"]} role="group" aria-label={t`What is chosen`}>
      <Box fontWeight="700" mb="2">
        {only
          ? `${person?.name}: ${kind?.name}`
          : t`${plural(cells.length, { one: "# cell", other: "# cells" })} chosen`}
      </Box>
      <Row alignItems="end">
        <Box w="41">
          <DateField label={t`Counts from`} value={from} error={errorAt(".from")} onChange={setFrom} />
        </Box>
        <Box w="41">
          <DateField label={t`Until (or open)`} value={until} error={errorAt(".until")} onChange={setUntil} />
        </Box>
        <Press
          look="primary"
          disabled={!from || save.pending}
          onClick={() => save.run([{ from: from!, until, evidenceId }])}
        >
          {only ? t`Save` : t`Give to all ${cells.length}`}
        </Press>
        <Press look="danger" disabled={save.pending} onClick={() => save.run([])}>
          <Trans>Take away</Trans>
        </Press>
        <Press
          onClick={() => {
            settled();
            onLeave();
          }}
        >
          <Trans>Leave it</Trans>
        </Press>
      </Row>
      {only && (
        <Row mt="2.5" alignItems="end">
          <FileField
            label={t`Evidence (PDF or picture)`}
            choose={evidenceId ? t`Another file` : t`Choose a file`}
            accept="application/pdf,image/png,image/jpeg"
            error={fault}
            onFile={(file) => void upload(file)}
          />
          {evidenceId && (
            <a href={`/api/v1/setup/evidence/${evidenceId}`} download>
              <Trans>What is on file</Trans>
            </a>
          )}
          {kind && (
            <Box w="48">
              <NumberField
                label={t`Warn days before it ends`}
                value={kind.warnDays}
                error={warn.errors["warnDays"]}
                onChange={(warnDays) => warn.run({ ...kind, warnDays: warnDays ?? 0 })}
              />
            </Box>
          )}
        </Row>
      )}
      <Outcome change={save} />
      <Outcome change={warn} fields={["warnDays"]} />
    </Box>
  );
}
