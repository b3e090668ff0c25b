import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Link } from "react-router";
import { keepers } from "../../api/keepers";
import type { Service } from "../../api/setup";
import { staff } from "../../api/staff";
import { Outcome, useChange } from "../../shared/change";
import { useKept } from "../../shared/kept";
import { Box, Panel, Row, Stack } from "../../shared/layout";
import { PartTabs } from "../../shared/PartTabs";
import { Press } from "../../shared/Press";
import { answerOf } from "../../shared/problem";
import { Changes } from "../business/history/Changes";
import { useEquipment } from "../rooms/rooms";
import { useReadiness } from "../team/team";
import { InTheBook } from "./InTheBook";
import { OnlinePart, RulesPart, WordsPart } from "./OnlinePart";
import { PhaseForm } from "./PhaseForm";
import { PricePart } from "./PricePart";
import { ServiceSentence } from "./ServiceSentence";
import { TryStrip } from "./TryStrip";
import { useTried } from "./useTried";
import { WherePart } from "./WherePart";
import { WhoPart } from "./WhoPart";
import { partNames, type PartName } from "./words";

type Props = { service: Service; isNew: boolean; onMade: (id: string) => void };

/** Everything about one service: the sentence, its ribbons, its parts, and its real starts while it is being changed. */
export function ServiceEditor({ service, isNew, onMade }: Props) {
  const { draft, dirty, set, undo, save } = useKept(service, keepers.service, onMade);
  const [phase, setPhase] = useState(0);
  const [part, setPart] = useState<PartName>(isNew ? "words" : "who");
  const pools = useEquipment();
  const readiness = useReadiness();
  const tried = useTried(draft);
  const copy = useChange(
    (_: null, headers) =>
      answerOf(staff.POST("/api/v1/setup/services/{id}/copy", { params: { path: { id: service.id! } }, headers })),
    (made) => onMade(made.id!),
  );
  const { errors } = save;
  const issues = isNew ? [] : (readiness.data?.issues.filter((issue) => issue.serviceId === service.id) ?? []);
  const common = { draft, set, errors };
  const answer = tried.answer.data;
  return (
    <Box minW="0">
      <Stack gap="3.5" pb="3">
        <Row justifyContent="space-between">
          <Box as="h2" fontSize="page">
            {draft.name || t`A new service`}
          </Box>
          <Row gap="1.5">
            {!isNew && (
              <>
                <Link to={`/why-not?service=${service.id}`}>
                  <Box as="span" textDecoration="underline">
                    <Trans>Why not?</Trans>
                  </Box>
                </Link>
                <Press size="small" onClick={() => copy.run(null)}>
                  <Trans>Make another like it</Trans>
                </Press>
                <Press size="small" onClick={() => save.run({ ...draft, isArchived: !draft.isArchived })}>
                  {draft.isArchived ? t`Do it again` : t`Archive`}
                </Press>
              </>
            )}
          </Row>
        </Row>
        {issues.map((issue) => (
          <Box key={issue.text} bg="glow" borderRadius="card" py="2" px="2.5">
            <b>{issue.stops ? t`Cannot be booked.` : t`Soon not bookable.`}</b> {issue.text}
          </Box>
        ))}
        <ServiceSentence {...common} locationId={tried.locationId} onPart={setPart} />
        <Panel aria-label={t`As it lies in the book`}>
          <Box as="h3" fontSize="text" mb="2">
            <Trans>As it lies in the book</Trans>
          </Box>
          <InTheBook
            service={draft}
            pools={pools.data ?? []}
            extra={{ minutes: answer?.extraMinutes ?? 0, phase: answer?.stretchedPhase ?? 0 }}
            chosen={phase}
            onChoose={setPhase}
            onChange={(phases) => set({ phases })}
          />
          <PhaseForm
            service={draft}
            pools={pools.data ?? []}
            errors={errors}
            chosen={phase}
            onChoose={setPhase}
            onChange={(phases) => set({ phases })}
          />
        </Panel>
        <PartTabs
          label={t`Parts of the service`}
          names={isNew ? partNames.filter(([name]) => name !== "history") : partNames}
          chosen={part}
          onChoose={setPart}
        >
          {part === "who" && <WhoPart {...common} isNew={isNew} />}
          {part === "where" && <WherePart {...common} />}
          {part === "price" && <PricePart {...common} tried={tried} isNew={isNew} />}
          {part === "online" && <OnlinePart {...common} isNew={isNew} />}
          {part === "words" && <WordsPart {...common} isNew={isNew} />}
          {part === "rules" && <RulesPart {...common} isNew={isNew} />}
          {part === "history" && !isNew && <Changes subjectId={service.id!} />}
        </PartTabs>
      </Stack>
      <Box
        position="sticky"
        bottom="-4"
        bg="paper"
        pt="1.5"
        pb="5"
        mb="-4"
        borderTopWidth="mark"
        borderColor="line"
        zIndex={5}
      >
        <TryStrip tried={tried}>
          <Press look="primary" disabled={save.pending || (!dirty && !isNew)} onClick={() => save.run(draft)}>
            {isNew ? t`Add the service` : t`Save`}
          </Press>
          {dirty && !isNew && (
            <Press onClick={undo}>
              <Trans>Undo my changes</Trans>
            </Press>
          )}
          <Outcome
            change={save}
            fields={["name", "categoryId", "seats", "price", "taxRateId", "bufferBeforeMinutes", "bufferAfterMinutes"]}
          />
          <Outcome change={copy} saved="" />
        </TryStrip>
      </Box>
    </Box>
  );
}
