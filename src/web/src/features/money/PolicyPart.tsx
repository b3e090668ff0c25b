import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { policyKeeper } from "../../api/keepers";
import type { GuaranteeTried, Policy } from "../../api/setup";
import { Outcome } from "../../shared/change";
import { NumberField } from "../../shared/inputs";
import { Box, Panel, Row, Stack, asForm } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { Part, Sentence } from "../../shared/sentence/Sentence";
import { SmallForm } from "../../shared/sentence/SmallForm";
import type { useKept } from "../../shared/kept";
import { whole } from "../../shared/whole";
import { CostLine } from "./CostLine";
import { hourWords, percentWords } from "./ruleWords";

/** How a policy is kept. */
export const keeperOf = (locationId: string) => policyKeeper(locationId);

type Props = { place: string; kept: ReturnType<typeof useKept<Policy>>; tried: GuaranteeTried | undefined };
type Tier = NonNullable<Policy["tiers"]>[number];

/** The policy of a location as a sentence, with what it costs over time and as clients read it. */
export function PolicyPart({ place, kept, tried }: Props) {
  const { draft, set, save, errors, submit, dirty, undo } = kept;
  return (
    <Panel>
      <Stack {...asForm} gap="3" onSubmit={submit}>
        <Box as="h2" fontSize="title">
          <Trans>Cancelling at {place}</Trans>
        </Box>
        <PolicySentence draft={draft} set={set} errors={errors} />
        {tried && <CostLine tried={tried} />}
        {tried && (
          <Box ps="3" borderInlineStartWidth="mark" borderColor="kingcup">
            <Trans>Clients read:</Trans> “{tried.clients.join(" ")}”
          </Box>
        )}
        <Row>
          <Press type="submit" look="primary" disabled={save.pending || !dirty}>
            <Trans>Save the policy</Trans>
          </Press>
          {dirty && (
            <Press look="quiet" onClick={undo}>
              <Trans>Leave it as it was</Trans>
            </Press>
          )}
          <Outcome
            change={save}
            saved={t`Saved. It holds for what is booked from now on; visits booked before keep what was agreed.`}
          />
        </Row>
      </Stack>
    </Panel>
  );
}

function PolicySentence({ draft, set, errors }: Pick<Props["kept"], "draft" | "set" | "errors">) {
  const tiers = [...(draft.tiers ?? [])].sort((a, b) => b.hours - a.hours);
  const setTiers = (changed: Tier[]) => set({ tiers: [...changed].sort((a, b) => b.hours - a.hours) });
  return (
    <Sentence size="text">
      <Trans>Cancelling costs</Trans>{" "}
      {tiers.map((tier, i) => (
        <span key={i}>
          <StepPart
            tier={tier}
            onChange={(patch) => setTiers(tiers.map((step, j) => (j === i ? { ...step, ...patch } : step)))}
            onRemove={() => setTiers(tiers.filter((_, j) => j !== i))}
          />{" "}
          <Trans>before the start, then</Trans>{" "}
        </span>
      ))}
      <PercentPart
        label={t`Later`}
        value={draft.belowPercent}
        error={errors["belowPercent"]}
        onChange={(belowPercent) => set({ belowPercent })}
      />
      .{" "}
      <Press
        size="small"
        onClick={() => {
          const least = tiers.at(-1)?.hours ?? 48;
          setTiers([
            ...tiers,
            { hours: tiers.length === 0 ? 24 : Math.max(1, Math.floor(least / 2)), percent: 0, losesCredit: false },
          ]);
        }}
      >
        <Trans>Add a step</Trans>
      </Press>{" "}
      <Trans>
        Whoever does not come pays{" "}
        {whole(
          <PercentPart
            label={t`Not coming`}
            value={draft.noShowPercent}
            error={errors["noShowPercent"]}
            onChange={(noShowPercent) => set({ noShowPercent })}
          />,
        )}
        . A visit can be moved{" "}
        {whole(
          <Part label={t`How often`} words={movesWords(draft.freeMoves ?? null)}>
            {(close) => (
              <SmallForm onDone={close}>
                <NumberField
                  label={t`How often`}
                  value={draft.freeMoves}
                  hint={t`Empty for any number.`}
                  error={errors["freeMoves"]}
                  onChange={(freeMoves) => set({ freeMoves })}
                />
              </SmallForm>
            )}
          </Part>,
        )}{" "}
        until{" "}
        {whole(
          <Part label={t`Notice of moving`} words={hourWords(draft.moveNoticeHours ?? 0)}>
            {(close) => (
              <SmallForm onDone={close}>
                <NumberField
                  label={t`Hours before the start`}
                  value={draft.moveNoticeHours}
                  error={errors["moveNoticeHours"]}
                  onChange={(hours) => set({ moveNoticeHours: hours ?? 0 })}
                />
              </SmallForm>
            )}
          </Part>,
        )}{" "}
        before; otherwise that counts as cancelling.
      </Trans>
    </Sentence>
  );
}

const movesWords = (times: number | null) =>
  times === null ? t`as often as they like` : times === 0 ? t`never` : plural(times, { one: "once", other: "# times" });

/** "nothing until 48 hours", opened to change or take it out. */
function StepPart({
  tier,
  onChange,
  onRemove,
}: {
  tier: Tier;
  onChange: (patch: Partial<Tier>) => void;
  onRemove: () => void;
}) {
  const costs = percentWords(tier.percent);
  const until = hourWords(tier.hours);
  return (
    <Part label={t`Step`} words={t`${costs} until ${until}`}>
      {(close) => (
        <SmallForm onDone={close}>
          <NumberField
            label={t`Percent of the price`}
            value={tier.percent}
            onChange={(percent) => onChange({ percent: percent ?? 0 })}
          />
          <NumberField
            label={t`Until so many hours before`}
            min={1}
            value={tier.hours}
            onChange={(hours) => onChange({ hours: hours ?? 1 })}
          />
          <Box>
            <Press size="small" look="danger" onClick={onRemove}>
              <Trans>Take this step out</Trans>
            </Press>
          </Box>
        </SmallForm>
      )}
    </Part>
  );
}

function PercentPart({
  label,
  value,
  error,
  onChange,
}: {
  label: string;
  value: number;
  error: string | undefined;
  onChange: (percent: number) => void;
}) {
  return (
    <Part label={label} words={percentWords(value)}>
      {(close) => (
        <SmallForm onDone={close}>
          <NumberField
            label={t`Percent of the price`}
            value={value}
            error={error}
            onChange={(percent) => onChange(percent ?? 0)}
          />
        </SmallForm>
      )}
    </Part>
  );
}
